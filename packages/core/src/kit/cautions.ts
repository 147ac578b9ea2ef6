import type { Lesson } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { pigmentOf } from '@viaticum/kernels/pigment';
import { marksOf, toolOf } from '../derived/index.js';
import { metalName, shortTubeName } from '../mix/index.js';
import { listInWords } from '../units/index.js';
import { CODE_DECIDES } from './room.js';

/** A caution: what it is about, the sentence, and the lists that it goes on. Each defers to whoever decides. */
export type Caution = { key: string; words: string; on: readonly ('shopping' | 'preparing' | 'class' | 'letter')[] };

const LABEL = () => say('The label and the maker’s safety sheet decide.');
const MAKER = () => say('Go by what its maker says.');
const CODE = () => say('Local rules decide.');

/**
 * The usual cautions of a lesson and its group, by its tubes, tools and ways. None says that something could do no harm; each ends with who
 * decides: label, maker, local code, licensed practice.
 */
export function cautionsFor(lesson: Lesson): Caution[] {
  const found: Caution[] = [];
  const add = (key: string, words: string, ...on: Caution['on'][number][]) => found.push({ key, words, on });
  const { steps, school, kit } = lesson;
  for (const tube of lesson.tubes) {
    const { metals } = pigmentOf(tube.pigment);
    const name = shortTubeName(tube);
    if (tube.own)
      add(`own ${tube.id}`, say`Nothing is known here about the tube “${name}”. Read its label. ${LABEL()}`, 'shopping', 'class');
    else if (metals.length > 0)
      add(
        `metal ${tube.id}`,
        say`${name.charAt(0).toUpperCase()}${name.slice(1)} contains ${listInWords(metals.map(metalName))}. Do not spray or sand it dry, do not paint with fingers, wash hands before eating. ${LABEL()}`,
        'shopping',
        'class',
        'letter',
      );
  }
  const marks = steps.flatMap((step) => marksOf(lesson, step));
  const isDusty = lesson.support.kind === 'board' && lesson.support.absorbency !== 'acrylic';
  if (isDusty)
    add(
      'sanding',
      say`Sanding makes dust: outdoors or wet, with a mask as its maker says, and never on paint with metals. ${LABEL()}`,
      'preparing',
    );
  if (school.transferMedium === 'charcoal' || school.transferMedium === 'chalk')
    add(
      'dust',
      say`${school.transferMedium === 'chalk' ? say('Chalk') : say('Charcoal')} makes dust: wipe it off damp, do not blow. ${LABEL()}`,
      'class',
    );
  if (marks.some((mark) => mark.kind === 'spatter' || toolOf(mark) === 'flick'))
    add('spatter', say`Spatter flies: mind eyes and neighbours, mask what lies around, wipe the floor. ${MAKER()}`, 'class');
  if (steps.some((step) => step.dryer) || (lesson.room.dryers?.count ?? 0) > 0)
    add(
      'dryers',
      say`Hair dryers: the nozzle is hot, keep them and their leads away from water. ${CODE_DECIDES()}`,
      'preparing',
      'class',
    );
  if (school.varnish === 'sprayed')
    add(
      'spray',
      say`Spray varnish burns easily and is breathed in: outdoors, away from dryers and flames, with a mask as its maker says. ${LABEL()}`,
      'preparing',
    );
  if (school.varnish === 'brushed')
    add('varnish', say`Varnish: in fresh air, gloves, nothing that glows nearby. ${LABEL()}`, 'preparing');
  if (marks.some((mark) => toolOf(mark) === 'knife') || lesson.drawing.constructions.length > 0)
    add(
      'blades',
      say`Knives, compasses and the corners of bags: cut away from fingers, close them when laid down. ${MAKER()}`,
      'preparing',
      'class',
    );
  if ((kit?.premix ?? []).some(({ how }) => how === 'batch') || school.mixing === 'all-premixed')
    add(
      'batches',
      say`Mixed and decanted paint carries a label with name and date, and “not food”. Its preservatives can make skin sensitive: gloves. ${LABEL()}`,
      'preparing',
    );
  add('kitchen', say`What held paint does not go back to the kitchen. ${LABEL()}`, 'preparing', 'letter');
  if (kit?.children) {
    const metal = lesson.tubes.filter((tube) => !tube.own && pigmentOf(tube.pigment).metals.length > 0).map(shortTubeName);
    add(
      'children',
      say`Children paint with materials labelled for their age, no spray and no knife, with an adult at hand.${metal.length > 0 ? say` Replace ${listInWords(metal)}.` : ''} ${LABEL()}`,
      'shopping',
      'preparing',
      'class',
      'letter',
    );
  }
  const longest = Math.max(0, ...steps.map((step) => step.doMin ?? 0));
  if (longest > 30)
    add(
      'posture',
      say`Fine work of more than half an hour: rest eyes and hand, stand up in between. A doctor’s advice counts for more.`,
      'class',
    );
  if (lesson.room.outdoors)
    add(
      'outdoors',
      say`Outdoors: sun, heat and traffic; water to drink stands apart from water pots. ${CODE()}`,
      'preparing',
      'class',
      'letter',
    );
  return found;
}
