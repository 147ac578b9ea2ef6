import { type Lesson, type Mark, type Passage, type Stage, type Step, say, stepPasses, worded } from '@viaticum/contract';
import { coatTitle } from '../document/index.js';
import { inItsLanguage, otherWords, paintingWords } from '../text/index.js';
import { capital, listInWords } from '../units/index.js';
import { type AreaCoats, brushOfCoat, type Coat, coatsOf, inPassages } from './coats.js';
import { type AreaFacts, areaFacts, brushFor } from './facts.js';
import { dried, fixable, fixed, rested, voiced } from './fixing.js';
import { isPlane, withHardPart } from './hard-part.js';
import { markStep, marksOn } from './marks.js';
import { passageOver, passagesOf } from './passages.js';
import { drawingRules, drawWhenRules } from './rules/drawing.js';
import { groundRules } from './rules/ground.js';
import { orderRules } from './rules/order.js';
import { usualStroke } from './rules/strokes.js';
import { valuesRules } from './rules/values.js';
import { fidelityRules, inItsWay, transferRules, varnishRules } from './rules/ways.js';
import { type Draft, type DraftedStep, empty } from './shape.js';

/** What is known of the picture beside the lesson: by area the share of it that each of its mixes takes, and the areas whose values pass into each other. */
export type DraftHints = {
  shares?: ReadonlyMap<string, readonly { mixId: string; share: number }[]>;
  gradual?: ReadonlySet<string>;
};

const MOST_STAGES = 56;

/**
 * A lesson drafted by its school from its areas and mixes: stages and steps with technique, brush, relation, mixes and words, each with
 * the school's reason. Every area that is seen is painted and every mix is used; minutes are left to be proposed. Steps that fail in
 * this room are fixed the way the checks would, and breaks stand where a stretch would be longer than an hour and a quarter. `ids` gives new
 * ids; the same lesson and ids give the same draft.
 */
export const draftLesson = (lesson: Lesson, ids: () => string, hints: DraftHints = {}): Draft =>
  inItsLanguage(lesson, () => drafted(lesson, ids, hints));

function drafted(lesson: Lesson, ids: () => string, { shares, gradual }: DraftHints): Draft {
  const { school } = lesson;
  const { areas, ground } = areaFacts(lesson);
  const order = orderRules[school.order];
  const drawing = drawingRules[school.drawing];
  const drawWhen = drawWhenRules[school.drawWhen];
  const stages: Stage[] = [];
  const steps: DraftedStep[] = [];
  const passages: Passage[] = [];
  const stage = (name: string): string => {
    const made = { id: ids(), name };
    stages.push(made);
    return made.id;
  };
  // What a school says of its ways is said with the first step that goes so.
  const told = new Set<string>();
  const add = (stageId: string, step: Omit<Step, 'id' | 'stageId' | 'markIds'> & { markIds?: string[] }, why: string[]) => {
    const own = inItsWay(lesson, { markIds: [], ...step }, told);
    const stroke = own.technique ? { stroke: usualStroke[own.technique] } : {};
    steps.push({ step: { id: ids(), stageId, ...own, ...stroke }, why });
  };

  /** What was painted first stands beside other neighbours now, and under glazes it cannot be corrected any more. */
  function setRight(): void {
    const names = capital(listInWords(features.map(({ area }) => area.name)));
    const step = {
      areaIds: features.map(({ area }) => area.id),
      mixIds: [...new Set(features.flatMap((one) => one.mixes.map(({ mix }) => mix.id)))].slice(0, MOST_SET_RIGHT),
      technique: 'block-in' as const,
      load: 'thin' as const,
      needs: 'auto' as const,
      coverShare: 0.3,
      brushId: 'round-4',
    };
    const words = {
      ...paintingWords(lesson, step),
      title: say`${names}: set right beside their neighbours`.slice(0, 120),
      say: say(
        'Half close your eyes. What was right on the bare canvas is too dark or too light now: correct value before colour, colour before edge.',
      ),
      checkpoint: say('Darker or lighter than what lies beside it: is it so in the picture?'),
    };
    add(steps.at(-1)?.step.stageId ?? first, { ...empty, ...step, ...words, kind: 'paint', mayBeLeftOut: true }, [
      say('What stood alone is judged anew beside its neighbours.'),
    ]);
  }
  /** All heaps mixed at once: beginners' at home, those of others when the class begins. */
  function premix(): void {
    const mixIds = lesson.mixes.map((mix) => mix.id).slice(0, MOST_PREMIXED);
    const work = { title: say('Mix all colours'), say: PREMIX(), kind: 'practise' as const, mixIds, needs: 'any' as const };
    const ahead = lesson.level === 'beginner' ? { ahead: true as const } : {};
    add(first, { ...empty, ...work, ...ahead }, [say('Mixed at once, nobody runs out of the right colour.')]);
  }

  const first = stage(say('Ground and drawing'));
  const tone = groundRules[school.ground];
  const isToned = tone.isToned && ground !== null && lesson.support.groundCoats.length === 0;
  /** The ground: one wash over all. */
  function toneAll(): void {
    if (!ground) return;
    const more =
      tone.colours === 'several'
        ? [...areas]
            .sort((a, b) => b.share - a.share)
            .flatMap((one) => one.mixes[0]?.mix.id ?? [])
            .slice(0, 2)
        : [];
    const mixIds = [...new Set([ground.id, ...more])];
    const coat = {
      technique: 'wash' as const,
      areaIds: [],
      wholeCanvas: true as const,
      mixIds,
      brushId: 'flat-2-in',
      needs: 'any' as const,
    };
    add(first, { ...empty, ...coat, kind: 'prepare', ...paintingWords(lesson, coat) }, [tone.reason]);
  }
  // Toned first, the ground dries while everybody looks at the picture.
  const isTonedFirst = isToned && drawWhen.after !== 'nothing';
  if (isTonedFirst) toneAll();
  if (areas.length > 0)
    add(
      first,
      { ...empty, ...otherWords.opening, kind: 'look', title: say('Opening: the picture and the palette'), doMin: OPENING_MIN },
      [say('Everybody sees where it goes before the first brush is wet.')],
    );
  const back = drawing.step?.kind === 'transfer' ? transferRules[school.transferMedium].ahead : null;
  if (back && areas.length > 0)
    steps.unshift({
      step: {
        ...empty,
        id: ids(),
        stageId: first,
        markIds: [],
        kind: 'practise',
        title: say('Prepare the back of the drawing'),
        say: back,
        doMin: 5,
        ahead: true,
      },
      why: [say('Done at home, it costs the class nothing.')],
    });
  if (school.mixing === 'all-premixed' && areas.length > 0) premix();
  let isDrawn = drawing.step === null;
  const draw = (stageId: string) => {
    if (isDrawn || !drawing.step) return;
    isDrawn = true;
    const { kind, title } = drawing.step;
    const bare = !steps.some(({ step }) => step.kind !== 'look' && !step.ahead);
    const by = kind === 'transfer' ? transferRules[school.transferMedium] : null;
    const say = by?.say ? `${otherWords.drawing.say} ${by.say}` : otherWords.drawing.say;
    add(stageId, { ...empty, wholeCanvas: true, ...otherWords.drawing, say, kind, title, needs: bare ? 'any' : 'auto' }, [
      drawing.reason,
      drawWhen.reason,
    ]);
  };
  if (drawWhen.after === 'nothing') draw(first);
  if (isToned && !isTonedFirst) toneAll();
  if (drawWhen.after === 'ground') draw(first);

  const coats = new Map(
    areas.map((facts) => [facts.area.id, coatsOf(lesson, facts, areas, shares?.get(facts.area.id), gradual?.has(facts.area.id))]),
  );
  // A passage leaves to later coats what it has no room for.
  const coatsFor = (facts: AreaFacts) => coats.get(facts.area.id) as AreaCoats;
  const all = order.stages(areas).filter((group) => group.areas.length > 0);
  const groups = joined(withHardPart(all, school.hardPart));
  const wetSession = school.layers === 'one-wet-session';
  const inPassage = new Map(passagesOf(lesson, areas).flatMap((group) => group.map((facts) => [facts.area.id, group] as const)));
  const begun = new Set<string>();
  const planes = new Set(areas.filter((facts) => isPlane(lesson, facts)).map(({ area }) => area.id));
  groups.forEach((group, k) => {
    const stageId = stage(group.name);
    const far = Math.ceil(groups.length / 3);
    const isTime = (drawWhen.after === 'far' && k >= far) || drawWhen.after === 'background';
    const sorted = inOrder(lesson, group.areas);
    const lay = ({ facts }: AreaCoats, coat: Coat, areaIds = [facts.area.id]) => {
      // Lines come directly before the first paint that is cut to them.
      if (isTime && !planes.has(facts.area.id)) draw(stageId);
      const { why, isLater, isAgain, ...rest } = coat;
      const step = { areaIds, brushId: brushOfCoat(facts, coat), ...rest };
      const first = isAgain && steps.find((one) => one.step.areaIds.join() === facts.area.id)?.step;
      const words = paintingWords(lesson, first ? { ...step, coatOf: first.id } : step);
      const before = first ? steps.filter((one) => one.step.coatOf === first.id).length : 0;
      add(
        stageId,
        {
          ...empty,
          ...step,
          kind: 'paint',
          ...words,
          ...(before > 0 ? onceMore : {}),
          ...(first ? { title: coatTitle(words.title, before + 2), coatOf: first.id } : {}),
          ...(isLater ? { mayBeLeftOut: true } : {}),
        },
        [order.reason, why],
      );
    };
    /** Passes over surfaces, darks before lights; those of one kind over several areas at once. */
    const layPasses = (among: readonly AreaCoats[]) => {
      for (const pass of stepPasses) {
        const alike = new Map<string, { one: AreaCoats; coat: Coat }[]>();
        for (const one of among)
          for (const coat of one.coats.slice(1)) {
            const { surface = '' } = one.facts.area;
            if (coat.pass === pass) alike.set(surface, [...(alike.get(surface) ?? []), { one, coat }]);
          }
        for (const list of alike.values()) {
          const [first] = list;
          if (!first) continue;
          const mixIds = [...new Set(list.flatMap(({ coat }) => coat.mixIds))].slice(0, MOST_OVER_SURFACES);
          lay(
            first.one,
            { ...first.coat, mixIds },
            list.map(({ one }) => one.facts.area.id),
          );
        }
      }
    };
    const layPassage = (group: readonly AreaFacts[]) => {
      for (const { area } of group) begun.add(area.id);
      if (isTime && group.some(({ area }) => !planes.has(area.id))) draw(stageId);
      const shared = inPassages(lesson, group, coats);
      const passage = passageOver(lesson, group, (facts) => shared.get(facts.area.id) ?? [], ids());
      const widest = Math.max(...group.map((facts) => facts.widthMm));
      const step = {
        areaIds: passage.areaIds,
        mixIds: [...new Set(passage.places.map((place) => place.mixId))],
        technique: 'blend' as const,
        load: 'generous' as const,
        laying: 'top-down' as const,
        needs: 'auto' as const,
        brushId: brushFor(widest, ['flat']).id,
        passageId: passage.id,
      };
      passages.push(passage);
      const words = { ...paintingWords(lesson, step), title: say`${passage.name}: one wet passage`.slice(0, 120) };
      add(stageId, { ...empty, ...step, kind: 'paint', ...words }, [
        order.reason,
        say('Its borders pass over some width: such colours are laid and joined while all of them are wet.'),
      ]);
    };
    const base = (one: AreaCoats) => {
      const { id } = one.facts.area;
      const passage = inPassage.get(id);
      if (begun.has(id)) return;
      if (passage) layPassage(passage);
      else if (one.coats[0]) lay(one, one.coats[0]);
    };
    if (order.finishesEach || wetSession)
      for (const facts of sorted) {
        base(coatsFor(facts));
        for (const coat of coatsFor(facts).coats.slice(1)) lay(coatsFor(facts), coat);
      }
    else {
      const isNow = ({ facts }: AreaCoats) => school.hardPart === 'first' && facts.area.feature === true;
      for (const facts of sorted) {
        base(coatsFor(facts));
        if (isNow(coatsFor(facts))) for (const coat of coatsFor(facts).coats.slice(1)) lay(coatsFor(facts), coat);
      }
      const later = sorted.map(coatsFor).filter((one) => !isNow(one));
      for (const one of later) for (const coat of one.coats.slice(1)) if (!coat.pass) lay(one, coat);
      layPasses(later);
    }
  });
  const features = areas.filter(({ area }) => area.feature);
  if (school.hardPart === 'first' && school.layers === 'glazes' && features.length > 0) setRight();
  const details = stage('Details');
  if (fidelityRules[school.fidelity].compares && areas.length > 0)
    add(
      details,
      { ...empty, ...otherWords.look, kind: 'look', title: say('Compare with the picture'), say: COMPARE(), doMin: 2 },
      [say('What is to be like its picture is compared with it while it can still be changed.')],
    );
  draw(details);
  function addMark(stageId: string, facts: AreaFacts, mark: Mark): void {
    const step = markStep(lesson, facts, mark);
    add(stageId, step, [say('Marks lie on the finished coats: the shorter first, the longest and lightest last.')]);
    const coatOf = steps.at(-1)?.step.id as string;
    for (let k = 2; k <= (mark.coats ?? 1); k++)
      add(stageId, { ...step, title: coatTitle(step.title, k), coatOf }, [say('One coat of it does not cover.')]);
  }
  // Marks follow all coats; where a mirror lies on their area they cross it at the very end.
  for (const facts of areas) for (const mark of marksOn(lesson, facts, areas, 'own')) addMark(details, facts, mark);
  const last = stage(say('Lights and a last look'));
  if (school.reference === 'away-for-last-stage' && areas.length > 0)
    add(last, { ...empty, kind: 'look', title: say('Put the picture away'), say: AWAY(), doMin: 1 }, [
      say('From here on the painting decides, not the picture.'),
    ]);

  for (const { facts, lights } of [...coats.values()].sort((a, b) => mirrored(a.facts) - mirrored(b.facts))) {
    if (!lights) continue;
    const { why, isLater: _, ...rest } = lights;
    const step = { areaIds: [facts.area.id], brushId: brushOfCoat(facts, lights), ...rest };
    add(last, { ...empty, ...step, kind: 'paint', ...paintingWords(lesson, step), mayBeLeftOut: true }, [why]);
  }
  for (const facts of areas) for (const mark of marksOn(lesson, facts, areas, 'crossing')) addMark(last, facts, mark);
  if (areas.length > 0)
    add(
      last,
      {
        ...empty,
        ...otherWords.look,
        say: [otherWords.look.say, fidelityRules[school.fidelity].look].filter(Boolean).join(' '),
        finish: varnishRules[school.varnish],
        kind: 'look',
        title: say('Last look, then sign'),
        doMin: LAST_LOOK_MIN,
        role: 'last',
      },
      [say('A last look costs little and saves a picture.')],
    );
  const used = new Set(steps.map(({ step }) => step.stageId));
  // What is done at home comes before all else.
  const inTurn = [...steps.filter(({ step }) => step.ahead), ...steps.filter(({ step }) => !step.ahead)];
  const draft = { stages: stages.filter((one) => used.has(one.id)), steps: inTurn, passages };
  const whole = { ...draft, stages: draft.stages.length > 0 ? draft.stages : stages.slice(0, 1) };
  const sound = fixed(lesson, whole, ids, fixable);
  return fixed(lesson, rested(lesson, dried(lesson, sound), ids), ids, voiced);
}

const PREMIX = () =>
  say('Mix every colour of the list, twice as much as you think, and put each into a bag or a jar with its name on it.');
const AWAY = () => say('Put the picture away now. Look only at your canvas: what does it want?');
const COMPARE = () =>
  say('Hold the picture beside the canvas and compare value by value: the darkest, the lightest, then the edges.');
/** A third coat is only laid where it is needed. */
const onceMore = worded(
  {
    say: 'Look first whether it is needed. If so, once more, thinner than before.',
    watch: '',
    checkpoint: '',
    finish: '',
  },
  ['say', 'watch', 'checkpoint', 'finish', 'title', 'reason', 'ahead', 'look', 'brushed', 'sprayed', 'name', 'words'],
);
const MOST_PREMIXED = 30;
/** So many colours at once lie beside a hand that goes over several surfaces. */
const MOST_OVER_SURFACES = 6;
const MOST_SET_RIGHT = 4;
const OPENING_MIN = 6;
const LAST_LOOK_MIN = 5;
const mirrored = ({ area }: AreaFacts): number => (area.twinOfId ? 1 : 0);

/**
 * Areas of one stage in painting order: from far to near, value by value, or mix by mix, so that each is picked up once. Features
 * that come first keep the place behind what carries them.
 */
function inOrder({ school }: Lesson, areas: readonly AreaFacts[]): AreaFacts[] {
  if (school.hardPart === 'first' && areas.some(({ area }) => area.feature)) return [...areas];
  const byDepth = [...areas].sort((a, b) => a.depth - b.depth);
  if (school.sweep === 'far-to-near' || school.order === 'part-by-part') return byDepth;
  if (school.sweep === 'by-mix') {
    const firstWith = (facts: AreaFacts) =>
      byDepth.findIndex((other) => other.mixes.some(({ mix }) => facts.mixes.some((own) => own.mix.id === mix.id)));
    return [...byDepth].sort((a, b) => firstWith(a) - firstWith(b) || a.depth - b.depth);
  }
  const toned = byDepth.map((facts) => ({ facts, lightness: facts.mixes[0]?.lightness ?? facts.area.targetLab?.[0] ?? 50 }));
  toned.sort((a, b) => a.lightness - b.lightness || a.facts.depth - b.facts.depth);
  return valuesRules[school.values].sequence(toned).map((one) => one.facts);
}

/** No more stages than a lesson can hold: what is over joins the last. */
function joined(groups: { name: string; areas: AreaFacts[] }[]): { name: string; areas: AreaFacts[] }[] {
  if (groups.length <= MOST_STAGES) return groups;
  const kept = groups.slice(0, MOST_STAGES - 1);
  return [...kept, { name: say('The rest'), areas: groups.slice(MOST_STAGES - 1).flatMap((group) => group.areas) }];
}
