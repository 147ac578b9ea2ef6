import type { Lesson, Step } from '@viaticum/contract';
import { brushInWords, brushOf } from '../brush/index.js';
import { surfacePass, surfaces } from '../surface/index.js';
import { capital, listInWords } from '../units/index.js';

export type StepWords = Pick<Step, 'title' | 'say' | 'watch' | 'checkpoint' | 'finish'>;
type Technique = NonNullable<Step['technique']>;

const how: Record<Technique, { say: string; watch: string; checkpoint: string; finish: string }> = {
  wash: {
    say: 'Thin it until it runs a little and cover everything in long strokes, edges too.',
    watch: 'A wash that runs has too much water.',
    checkpoint: 'Tilt it to the light: is any white left?',
    finish: 'One even tone through which the weave still shows.',
  },
  'block-in': {
    say: 'One flat colour, a little past the edge. The outline first, then the middle.',
    watch: 'Painting round the shape with a line, and leaving it pale inside.',
    checkpoint: 'Half close your eyes: is it one shape?',
    finish: 'A flat shape, right in its value beside its neighbours.',
  },
  blend: {
    say: 'Both colours on the canvas, each from its own side, then strokes across until the seam is gone. Work briskly while it is wet.',
    watch: 'Going back into paint that has begun to drag.',
    checkpoint: 'Can you see where one colour ends?',
    finish: 'A passage without a seam.',
  },
  'dry-brush': {
    say: 'Wipe the brush nearly dry and drag it lightly, so that what is beneath shows through.',
    watch: 'Too much paint in the brush: it covers instead of breaking.',
    checkpoint: 'Can you still see the first colour in between?',
    finish: 'Broken colour over the first layer.',
  },
  scumble: {
    say: 'Hardly any paint, small circles, and stop while you still want more.',
    watch: 'Wet paint in the brush makes a cloud.',
    checkpoint: 'Does it fade without an edge?',
    finish: 'A veil that thins out to nothing.',
  },
  glaze: {
    say: 'Thin it with medium, not water, and lay it in one go over dry paint.',
    watch: 'Going over it twice while it sets.',
    checkpoint: 'Does the layer beneath still shine through?',
    finish: 'The same form, deeper in colour.',
  },
  loaded: {
    say: 'Load the brush, touch, pull and lift. Do not go back into it.',
    watch: 'Lights on both sides: there is only one light.',
    checkpoint: 'Where does your eye go first?',
    finish: 'A few clear lights, the lightest of the picture.',
  },
  gesso: {
    say: 'Even strokes one way, then across.',
    watch: 'Ridges that stay when it is dry.',
    checkpoint: 'Is it even against the light?',
    finish: 'An even white ground.',
  },
  impasto: {
    say: 'Lay it on thick with the knife and leave it.',
    watch: 'Scraping over it until it is flat.',
    checkpoint: 'Does it stand up from the canvas?',
    finish: 'Paint that stands in ridges.',
  },
  'under-film': {
    say: 'A thin film, just enough to glide on.',
    watch: 'Puddles.',
    checkpoint: 'Does it shine evenly?',
    finish: 'A wet sheen to paint into.',
  },
  spatter: {
    say: 'Thin the paint, cover what must stay clean, and flick from the wrist.',
    watch: 'Drops on your neighbours, and eyes.',
    checkpoint: 'Are the drops of different sizes?',
    finish: 'Fine drops where they are wanted.',
  },
};

/** Something small that is looked at first. */
const feature = {
  say: 'Its dark shape and its rim first, a little beyond the line. Then its own colours inside, each set down once. Last of all one light, pure, and left alone.',
  watch: 'Outlining it all round: some of its rim is always lost.',
  checkpoint: 'Hold the picture upside down beside it: is every shape where it should be?',
  finish: 'Few clear shapes, right in their place, and one light.',
};

const verbs: Partial<Record<Technique, string>> = {
  blend: 'blended',
  'dry-brush': 'broken colour',
  scumble: 'a veil of light',
  glaze: 'a glaze',
  loaded: 'the lights',
};

/** A first wording of a painting step from its data, in plain studio English. */
export function paintingWords(
  lesson: Lesson,
  step: Pick<Step, 'technique' | 'areaIds' | 'wholeCanvas' | 'mixIds' | 'brushId' | 'needs'> &
    Partial<Pick<Step, 'coverShare' | 'pass'>>,
): StepWords {
  const technique = step.technique ?? 'block-in';
  const surface = lesson.areas.find((area) => area.id === step.areaIds[0])?.surface;
  const pass = step.areaIds.length === 1 ? surfacePass(surface, step.pass) : null;
  const isBase = step.areaIds.length === 1 && technique === 'blend' && step.pass === undefined;
  const isFeature =
    step.areaIds.length === 1 &&
    technique === 'block-in' &&
    lesson.areas.some((area) => area.id === step.areaIds[0] && area.feature);
  const words = pass ?? (surface && isBase ? surfaces[surface].base : isFeature ? feature : how[technique]);
  const areas = step.areaIds.flatMap((id) => lesson.areas.find((area) => area.id === id)?.name ?? []);
  const mixes = step.mixIds.flatMap((id) => lesson.mixes.find((mix) => mix.id === id)?.name ?? []);
  const brush = brushOf(step.brushId);
  const name = step.wholeCanvas || areas.length === 0 ? 'The whole canvas' : capital(listInWords(areas));
  const own = lesson.method?.says?.find((one) => one.technique === technique)?.say;
  // A value on a part of its area is called by its colour, so that it is not called as the first coat is.
  const isPart = technique === 'block-in' && (step.coverShare ?? 1) < 1 && mixes.length > 0;
  const extra = pass
    ? pass.title
    : surface && isBase
      ? undefined
      : isPart
        ? listInWords(mixes.map((mix) => withoutName(mix, areas)))
        : verbs[technique];
  const title = technique === 'wash' && step.wholeCanvas ? 'Tone the whole canvas' : extra ? `${name}: ${extra}` : name;
  const into = step.needs === 'wet' ? 'Straight on, while it is wet. ' : '';
  const colours = mixes.length > 0 ? `${capital(listInWords(mixes))}${brush ? `, with the ${brushInWords(brush)}` : ''}. ` : '';
  return {
    title: title.slice(0, 120),
    say: `${into}${colours}${own ?? words.say}`,
    watch: words.watch,
    checkpoint: words.checkpoint,
    finish: words.finish,
  };
}

/** "middle" for the mix "pot, middle" on the pot. */
function withoutName(mix: string, areas: readonly string[]): string {
  const own = areas.find((area) => mix.toLowerCase().startsWith(area.toLowerCase()));
  const rest = own ? mix.slice(own.length).replace(/^[\s,:]+/, '') : mix;
  return rest || mix;
}

/** Words of the steps that lay no paint. */
export const otherWords: Record<'opening' | 'drawing' | 'break' | 'look', Omit<StepWords, 'title'>> = {
  opening: {
    say: 'This is the picture, these are its three large shapes, and this is what lies on your palette.',
    watch: '',
    checkpoint: 'Does everybody see the board and reach the water?',
    finish: '',
  },
  drawing: {
    say: 'The large shapes first, and only what the first layers need. Press lightly.',
    watch: 'Pressing so hard that the canvas dents.',
    checkpoint: 'Step back: does everything fit onto the canvas?',
    finish: 'A pale drawing that can just be seen.',
  },
  break: {
    say: 'Change the water, put the canvas by the wall and look at it from the door.',
    watch: 'Brushes left standing without water.',
    checkpoint: 'From the door: which is the darkest place?',
    finish: '',
  },
  look: {
    say: 'Turn it upside down and look once more. If nothing jumps out, it is finished. Sign low in a corner.',
    watch: 'One more stroke, and another.',
    checkpoint: 'Would you miss anything if you stopped now?',
    finish: '',
  },
};

/** Sentences that are added to a step's words where the plan asks for them. */
export const careWords = { rinse: 'Rinse the brush and lay it flat.', water: 'Change the water first.' };
const ANNOUNCED = /^Now comes the rough part: .*? Do not mend it yet\. ?/;
/** What is said in a step without the sentences that the plan added. */
export const plainSay = (say: string): string =>
  say.replace(ANNOUNCED, '').replaceAll(careWords.rinse, '').replaceAll(careWords.water, '').trim();

/** Minutes that words take to be read aloud, at 130 a minute (common practice, no published source). */
export const readingMinutes = (text: string): number => text.split(/\s+/).filter(Boolean).length / 130;
