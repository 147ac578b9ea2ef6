import { type Lesson, type Mark, noWords, type Passage, type School, type Stage, type Step } from '@viaticum/contract';
import { insideOutline, outlineBox } from '../area/index.js';
import { findings } from '../check/index.js';
import { bordersBetween, toolOf } from '../derived/index.js';
import { type CommandArgs, type CommandName, carryOut, startHistory } from '../document/index.js';
import { planLesson } from '../plan/index.js';
import { otherWords, paintingWords } from '../text/index.js';
import { capital } from '../units/index.js';
import { type AreaFacts, areaFacts, brushFor } from './facts.js';
import { passageOver, passagesOf } from './passages.js';
import { detailRules, plainBelow } from './rules/detail.js';
import { drawingRules, drawWhenRules } from './rules/drawing.js';
import { groundRules } from './rules/ground.js';
import { layersRules } from './rules/layers.js';
import { orderRules } from './rules/order.js';
import { usualStroke } from './rules/strokes.js';
import { valuesRules } from './rules/values.js';

/** A step as it is drafted, with the reasons of the school for it. */
export type DraftedStep = { step: Step; why: string[] };
export type Draft = { stages: Stage[]; steps: DraftedStep[]; passages: Passage[] };
/** What is known of the picture beside the lesson: by area the share of it that each of its mixes takes, and the areas whose values pass into each other. */
export type DraftHints = {
  shares?: ReadonlyMap<string, readonly { mixId: string; share: number }[]>;
  gradual?: ReadonlySet<string>;
};

const LONGEST_STRETCH_MIN = 75;
const BREAK_MIN = 10;
const MOST_STAGES = 56;
/** A passage of at least this share of the canvas is blended, where it has two values. */
const BLEND_SHARE = 0.1;
const LIGHT = 78;
/** What lies on more of an area than this is no light but its colour. */
const MOST_LIGHTS = 0.45;
const MOST_BLENDED = 3;
const SHAPE_SHARE = 0.12;

type Coat = Pick<Step, 'mixIds' | 'needs'> &
  Partial<Pick<Step, 'medium' | 'coverShare' | 'partByPart'>> & {
    technique: NonNullable<Step['technique']>;
    why: string;
    isLater: boolean;
  };
type AreaCoats = { facts: AreaFacts; coats: Coat[]; lights: Coat | null };

/**
 * A lesson drafted by its school from its areas and mixes: stages and steps with technique, brush, relation, mixes and words, each with
 * the school's reason. Every area that is seen is painted and every mix is used; minutes are left to be proposed. Steps that fail in
 * this room are fixed the way the checks would, and breaks stand where a stretch would be longer than an hour and a quarter. `ids` gives new
 * ids; the same lesson and ids give the same draft.
 */
export function draftLesson(lesson: Lesson, ids: () => string, { shares, gradual }: DraftHints = {}): Draft {
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
  const add = (stageId: string, step: Omit<Step, 'id' | 'stageId' | 'markIds'> & { markIds?: string[] }, why: string[]) => {
    const stroke = step.technique ? { stroke: usualStroke[step.technique] } : {};
    steps.push({ step: { id: ids(), stageId, markIds: [], ...step, ...stroke }, why });
  };

  const first = stage('Ground and drawing');
  if (areas.length > 0)
    add(
      first,
      { ...empty, ...otherWords.opening, kind: 'look', title: 'Opening: the picture and the palette', doMin: OPENING_MIN },
      ['Everybody sees where it goes before the first brush is wet.'],
    );
  let isDrawn = drawing.step === null;
  const draw = (stageId: string) => {
    if (isDrawn || !drawing.step) return;
    isDrawn = true;
    const { kind, title } = drawing.step;
    const bare = !steps.some(({ step }) => step.kind !== 'look');
    add(stageId, { ...empty, wholeCanvas: true, ...otherWords.drawing, kind, title, needs: bare ? 'any' : 'auto' }, [
      drawing.reason,
      drawWhen.reason,
    ]);
  };
  if (drawWhen.after === 'nothing') draw(first);
  const tone = groundRules[school.ground];
  if (tone.isToned && ground && lesson.support.groundCoats.length === 0) {
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
    const lay = ({ facts }: AreaCoats, coat: Coat) => {
      // Lines come directly before the first paint that is cut to them.
      if (isTime && !planes.has(facts.area.id)) draw(stageId);
      const { why, isLater, ...rest } = coat;
      const step = { areaIds: [facts.area.id], brushId: brushOfCoat(facts, coat), ...rest };
      add(
        stageId,
        { ...empty, ...step, kind: 'paint', ...paintingWords(lesson, step), ...(isLater ? { mayBeLeftOut: true } : {}) },
        [order.reason, why],
      );
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
      const words = { ...paintingWords(lesson, step), title: `${passage.name}: one wet passage`.slice(0, 120) };
      add(stageId, { ...empty, ...step, kind: 'paint', ...words }, [
        order.reason,
        'Its borders pass over some width: such colours are laid and joined while all of them are wet.',
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
      for (const one of sorted.map(coatsFor)) if (!isNow(one)) for (const coat of one.coats.slice(1)) lay(one, coat);
    }
  });
  const details = stage('Details');
  draw(details);
  function addMark(stageId: string, facts: AreaFacts, mark: Mark): void {
    const step = markStep(lesson, facts, mark);
    add(stageId, step, ['Marks lie on the finished coats: the shorter first, the longest and lightest last.']);
  }
  // Marks follow all coats; where a mirror lies on their area they cross it at the very end.
  for (const facts of areas) for (const mark of marksOn(lesson, facts, areas, 'own')) addMark(details, facts, mark);
  const last = stage('Lights and a last look');

  for (const { facts, lights } of [...coats.values()].sort((a, b) => mirrored(a.facts) - mirrored(b.facts))) {
    if (!lights) continue;
    const { why, isLater: _, ...rest } = lights;
    const step = { areaIds: [facts.area.id], brushId: brushOfCoat(facts, lights), ...rest };
    add(last, { ...empty, ...step, kind: 'paint', ...paintingWords(lesson, step), mayBeLeftOut: true }, [why]);
  }
  for (const facts of areas) for (const mark of marksOn(lesson, facts, areas, 'crossing')) addMark(last, facts, mark);
  if (areas.length > 0)
    add(last, { ...empty, ...otherWords.look, kind: 'look', title: 'Last look, then sign', doMin: LAST_LOOK_MIN, role: 'last' }, [
      'A last look costs little and saves a picture.',
    ]);
  const used = new Set(steps.map(({ step }) => step.stageId));
  const draft = { stages: stages.filter((one) => used.has(one.id)), steps, passages };
  const whole = { ...draft, stages: draft.stages.length > 0 ? draft.stages : stages.slice(0, 1) };
  return fixed(lesson, rested(lesson, fixed(lesson, whole, ids, fixable), ids), ids, voiced);
}

const OPENING_MIN = 6;
const LAST_LOOK_MIN = 5;
const mirrored = ({ area }: AreaFacts): number => (area.twinOfId ? 1 : 0);

/** A wet passage holds so many colours at once (common practice, no published source). */
const MOST_IN_PASSAGE = 5;
/**
 * Which mixes of its areas a passage takes: the mass of each, then further values as long as there is room; what has none is laid over
 * it as a later coat.
 */
function inPassages(lesson: Lesson, group: readonly AreaFacts[], coats: Map<string, AreaCoats>): Map<string, string[]> {
  const taken = new Map<string, string[]>();
  const bases = group.map(({ area }) => coats.get(area.id)?.coats[0]?.mixIds ?? []);
  let room = Math.max(MOST_IN_PASSAGE, group.length) - bases.filter((ids) => ids.length > 0).length;
  group.forEach((facts, k) => {
    const ids = bases[k] ?? [];
    const own = [...ids.slice(0, 1), ...ids.slice(1, 1 + Math.max(0, room))];
    room -= Math.max(0, own.length - 1);
    taken.set(facts.area.id, own);
    const known = coats.get(facts.area.id);
    const left = ids.slice(own.length);
    const [base, ...later] = known?.coats ?? [];
    if (!known || !base || left.length === 0) return;
    const cover = 0.6 / (left.length + 1);
    const over = left.map(
      (mixId): Coat => ({
        ...laterCoat(lesson.school, cover, true),
        mixIds: [mixId],
        coverShare: cover,
        why: 'It would be one colour too many in the wet: it is laid over it.',
        isLater: true,
      }),
    );
    coats.set(facts.area.id, { ...known, coats: [{ ...base, mixIds: own }, ...over, ...later] });
  });
  return taken;
}

/** Eyes, mouths and lit windows directly after what carries them, or after everything else. */
function withHardPart(groups: { name: string; areas: AreaFacts[] }[], hardPart: School['hardPart']): typeof groups {
  if (hardPart === 'as-they-come') return groups;
  const features = groups.flatMap((group) => group.areas.filter(({ area }) => area.feature));
  if (features.length === 0) return groups;
  const rest = groups.map((group) => ({ ...group, areas: group.areas.filter(({ area }) => !area.feature) }));
  if (hardPart === 'last') return [...rest, { name: 'Features', areas: features }].filter((group) => group.areas.length > 0);
  // Each directly after the area that it lies on: the nearest of those behind it.
  return rest.map((group) => ({
    ...group,
    areas: group.areas.flatMap((carrier) => [carrier, ...features.filter((one) => carrierOf(one, groups) === carrier)]),
  }));
}

const carrierOf = (feature: AreaFacts, groups: readonly { areas: AreaFacts[] }[]): AreaFacts | undefined =>
  groups
    .flatMap((group) => group.areas)
    .filter((one) => !one.area.feature && one.depth < feature.depth && overlaps(one, feature))
    .sort((a, b) => b.depth - a.depth)[0];

/** Whether the sheet of one area reaches under the middle of another. */
function overlaps(one: AreaFacts, feature: AreaFacts): boolean {
  const box = outlineBox(feature.area.outline.slice(0, 1));
  return box !== null && insideOutline(one.area.outline, box.x + box.width / 2, box.y + box.height / 2);
}

/** Areas that run from rim to rim, or lie behind all: nobody needs lines for them. */
function isPlane(lesson: Lesson, { area, depth }: AreaFacts): boolean {
  if (depth === 0) return true;
  const box = outlineBox(area.outline);
  return box !== null && box.x <= RIM_MM && box.x + box.width >= lesson.support.widthMm - RIM_MM;
}
const RIM_MM = 3;

/** The marks of an area that lie on it alone, or those that cross a mirror that lies on it. */
function marksOn(lesson: Lesson, { area }: AreaFacts, all: readonly AreaFacts[], which: 'own' | 'crossing'): Mark[] {
  const borders = bordersBetween(lesson).get(area.id);
  const carriesMirror = all.some((other) => other.area.twinOfId && (borders?.get(other.area.id) ?? 0) > 0);
  if (carriesMirror !== (which === 'crossing')) return [];
  return lesson.marks.filter((mark) => mark.areaId === area.id);
}

/** The step that lays a mark: in the lightest mix of its area, with what its tool asks for. */
function markStep(lesson: Lesson, facts: AreaFacts, mark: Mark): Omit<Step, 'id' | 'stageId'> {
  const mix = facts.mixes.at(-1)?.mix;
  const tool = toolOf(mark);
  const step = {
    ...empty,
    kind: 'paint' as const,
    technique: tool === 'flick' ? ('spatter' as const) : ('loaded' as const),
    markIds: [mark.id],
    mixIds: mix ? [mix.id] : [],
    needs: 'auto' as const,
    brushId: tool === 'rake' ? 'flat-1-in' : tool === 'liner' || mark.widthMm < 2 ? 'rigger-2' : 'round-4',
  };
  const words = paintingWords(lesson, { ...step, areaIds: [facts.area.id] });
  return { ...step, ...words, title: capital(mark.name).slice(0, 120), mayBeLeftOut: true };
}

const empty: Omit<Step, 'id' | 'stageId' | 'markIds' | 'title'> = {
  kind: 'paint',
  areaIds: [],
  mixIds: [],
  needs: 'any',
  ...noWords,
};

/** The coats of one area by the school's values and layers; its lightest lights kept for the end where the school says so. */
export function coatsOf(
  lesson: Lesson,
  facts: AreaFacts,
  all: readonly AreaFacts[],
  shares: readonly { mixId: string; share: number }[] = [],
  isGradual = facts.share >= BLEND_SHARE,
): AreaCoats {
  const { school, level } = lesson;
  const values = valuesRules[school.values];
  const { reason } = layersRules[school.layers];
  const detail = detailRules[school.detail];
  const shareOf = new Map(shares.map((one) => [one.mixId, one.share]));
  const cover = (mixIds: readonly string[], otherwise: number): number => {
    const known = mixIds.flatMap((id) => shareOf.get(id) ?? []);
    if (known.length === 0) return otherwise;
    const sum = known.reduce((total, share) => total + share, 0);
    return Math.min(0.95, Math.max(0.05, Math.round(sum * 105) / 100));
  };
  // What the ground is toned in already needs no coat.
  const grounds = lesson.support.groundCoats.map((coat) => coat.mixId);
  if (facts.mixes.length > 0 && facts.mixes.every(({ mix }) => grounds.includes(mix.id)))
    return { facts, coats: [], lights: null };
  const mixes = [...facts.mixes];
  const { method } = lesson;
  const isPlain = !facts.area.feature && facts.share < (method?.plainBelowShare ?? plainBelow[level]);
  const lightest = Math.max(...all.flatMap((one) => one.mixes.map((mix) => mix.lightness)));
  const top = mixes.at(-1);
  const hasLights =
    values.lightsLast &&
    mixes.length > 1 &&
    top !== undefined &&
    (shareOf.get(top.mix.id) ?? 0) < MOST_LIGHTS &&
    (top.lightness >= LIGHT || (facts.isSubject && top.lightness === lightest));
  if (hasLights) mixes.pop();
  const lights: Coat | null = hasLights
    ? {
        technique: 'loaded',
        mixIds: [top.mix.id],
        needs: 'auto',
        coverShare: cover([top.mix.id], 0.1),
        why: values.reason,
        isLater: true,
      }
    : null;
  const sequence = massFirst(
    values.sequence(mixes).map((one) => one.mix.id),
    shareOf,
  );
  if (isPlain || sequence.length < 2) {
    const only: Coat = { technique: 'block-in', mixIds: sequence, needs: 'auto', why: values.reason, isLater: false };
    return { facts, coats: [only], lights };
  }
  const isBlend = facts.isSoft || isGradual;
  if (school.layers === 'glazes' && !facts.area.feature) return { facts, coats: glazed(facts, sequence, isBlend), lights };
  // Where the picture was looked at, all values that pass into each other are blended at once.
  const taken = isBlend ? Math.min(shareOf.size > 0 ? MOST_BLENDED : 2, sequence.length) : 1;
  const base: Coat = {
    technique: isBlend ? 'blend' : 'block-in',
    mixIds: sequence.slice(0, taken),
    needs: 'auto',
    why: isBlend ? 'Soft passages must be made while both colours are wet.' : values.reason,
    isLater: false,
  };
  const rest = sequence.slice(taken);
  const coats = [base];
  // More mixes than coats: those that are left share the last one.
  const most = Math.max(1, (method?.coats ?? detail.coats) - 1);
  if (method?.coats === 1) {
    const one: Coat = { ...base, mixIds: sequence };
    return { facts, coats: [one], lights };
  }
  for (let k = 0; k < Math.min(most, rest.length); k++) {
    const ids = k === most - 1 ? rest.slice(k) : [rest[k] as string];
    const coverShare = cover(ids, method?.laterShare ?? detail.share);
    coats.push({
      ...laterCoat(school, coverShare, shareOf.size > 0),
      ...(method?.laterTechnique ? { technique: method.laterTechnique } : {}),
      mixIds: ids,
      coverShare,
      why: method?.laterTechnique ? OWN_METHOD : reason,
      isLater: true,
    });
  }
  if (layersRules[school.layers].later.needs === 'wet' && coats.length > 1) base.medium = 'retarder';
  return { facts, coats, lights };
}

const SUBJECT_GLAZES = 2;
/** One opaque coat in all values of an area, then glazes over it when it is dry: two on the subject, one elsewhere. */
function glazed({ isSubject }: AreaFacts, sequence: readonly string[], isBlend: boolean): Coat[] {
  const { reason, later } = layersRules.glazes;
  const opaque: Coat = {
    technique: isBlend ? 'blend' : 'block-in',
    mixIds: [...sequence],
    needs: 'auto',
    why: reason,
    isLater: false,
  };
  const count = Math.min(isSubject ? SUBJECT_GLAZES : 1, sequence.length);
  const films = sequence.slice(0, count).map(
    (mixId): Coat => ({
      technique: later.technique,
      mixIds: [mixId],
      needs: 'auto',
      ...(later.medium === 'glazing-medium' ? { medium: later.medium } : {}),
      why: reason,
      isLater: true,
    }),
  );
  return [opaque, ...films];
}

const OWN_METHOD = 'Your own method.';
const MASS_SHARE = 0.25;
/** The first value that takes a good part of the area covers it; slivers of other values are cut in over it. */
function massFirst(sequence: string[], shareOf: ReadonlyMap<string, number>): string[] {
  if (shareOf.size === 0) return sequence;
  const most = Math.max(...sequence.map((id) => shareOf.get(id) ?? 0));
  const mass = sequence.find((id) => (shareOf.get(id) ?? 0) >= Math.min(MASS_SHARE, most));
  return mass ? [mass, ...sequence.filter((id) => id !== mass)] : sequence;
}

/** How a later coat is laid: by the school's layers; a value on a large part of an area is a shape of its own, not a veil over it. */
function laterCoat(
  school: Lesson['school'],
  coverShare: number,
  isKnown: boolean,
): Pick<Coat, 'technique' | 'needs' | 'partByPart' | 'medium'> {
  const { later } = layersRules[school.layers];
  const isShape = isKnown && school.layers === 'dry-layers' && coverShare >= SHAPE_SHARE;
  if (isShape) return { technique: 'block-in', needs: 'auto' };
  return {
    technique: later.technique,
    needs: later.needs === 'wet' ? 'wet' : 'auto',
    ...(later.partByPart ? { partByPart: true } : {}),
    ...(later.medium === 'glazing-medium' ? { medium: later.medium } : {}),
  };
}

/** Brushes step down: wide for the first coat, half as wide for what follows, a rigger or small round for lights. */
export function brushOfCoat(facts: AreaFacts, coat: Coat): string {
  if (coat.technique === 'loaded') return brushFor(Math.max(1.6, facts.widthMm * 0.08), ['rigger', 'round']).id;
  if (coat.isLater) return brushFor(facts.widthMm * 0.35, ['filbert', 'round']).id;
  return brushFor(facts.widthMm * 0.7, facts.widthMm > 25 ? ['flat'] : ['flat', 'filbert', 'round']).id;
}

/** Areas of one stage in painting order: by depth, and where the whole surface goes together by their values. */
function inOrder(lesson: Lesson, areas: readonly AreaFacts[]): AreaFacts[] {
  if (lesson.school.hardPart === 'first' && areas.some(({ area }) => area.feature)) return [...areas];
  if (lesson.school.order !== 'whole-together') return [...areas].sort((a, b) => a.depth - b.depth);
  const toned = areas.map((facts) => ({ facts, lightness: facts.mixes[0]?.lightness ?? facts.area.targetLab?.[0] ?? 50 }));
  toned.sort((a, b) => a.lightness - b.lightness || a.facts.depth - b.facts.depth);
  return valuesRules[lesson.school.values].sequence(toned).map((one) => one.facts);
}

/** No more stages than a lesson can hold: what is over joins the last. */
function joined(groups: { name: string; areas: AreaFacts[] }[]): { name: string; areas: AreaFacts[] }[] {
  if (groups.length <= MOST_STAGES) return groups;
  const kept = groups.slice(0, MOST_STAGES - 1);
  return [...kept, { name: 'The rest', areas: groups.slice(MOST_STAGES - 1).flatMap((group) => group.areas) }];
}

/** The lesson with a draft in place of its steps. */
export const asDrafted = (lesson: Lesson, { stages, steps, passages }: Draft): Lesson => ({
  ...lesson,
  stages,
  passages,
  steps: steps.map((one) => one.step),
  planning: { ...lesson.planning, pins: [], cutsBefore: [] },
});

const fixable = new Set(['blend-outlasts', 'window-missed', 'contradiction', 'mist-runs']);
/** What is only to be said. */
const voiced = new Set(['brush-hardens', 'water-change', 'rough-unannounced']);
const MOST_MENDS = 40;

/** Takes the fixes of the checks for what fails in this room: mist or retarder for a long blend, dry paint where wet cannot be. */
function fixed(lesson: Lesson, draft: Draft, ids: () => string, rules: ReadonlySet<string>): Draft {
  let now = asDrafted(lesson, draft);
  const tried = new Set<string>();
  for (let round = 0; round < MOST_MENDS; round++) {
    const found = findings(now, planLesson(now)).find(
      (one) => rules.has(one.rule) && one.fix && !tried.has(one.id + one.fix.words),
    );
    if (!found?.fix) break;
    tried.add(found.id + found.fix.words);
    const { command, args } = found.fix;
    const withIds =
      command === 'divideStep'
        ? { ...(args as { parts: number }), ids: Array.from({ length: (args as { parts: number }).parts - 1 }, ids) }
        : args;
    now = carryOut(startHistory(now), command as CommandName, withIds as CommandArgs<CommandName>).lesson;
  }
  const why = new Map(draft.steps.map((one) => [one.step.id, one.why]));
  return {
    stages: draft.stages,
    passages: now.passages,
    steps: now.steps.map((step) => ({ step, why: why.get(step.id) ?? ['In parts, so that each is blended while it is wet.'] })),
  };
}

/** A draft with its breaks, each with its reason. */
function rested(lesson: Lesson, draft: Draft, ids: () => string): Draft {
  const why = new Map(draft.steps.map((one) => [one.step.id, one.why]));
  const { steps } = withBreaks(asDrafted(lesson, draft), ids);
  const reason = ['Eyes, backs and attention last about an hour.'];
  return { ...draft, steps: steps.map((step) => ({ step, why: why.get(step.id) ?? reason })) };
}

/** Breaks before the step that would make a stretch longer than an hour and a quarter; a pause of five minutes is a break already. */
export function withBreaks(lesson: Lesson, ids: () => string): Lesson {
  let now = lesson;
  for (let round = 0; round < 8; round++) {
    const { plan } = planLesson(now);
    const cuts = new Set(now.planning.cutsBefore);
    let from = 0;
    let at = -1;
    for (const item of plan.items) {
      const isRest = item.kind !== 'step' && item.endMin - item.startMin >= 5;
      if (isRest || (item.stepId && cuts.has(item.stepId))) from = isRest ? item.endMin : item.startMin;
      else if (item.endMin - from > (now.method?.breakEveryMin ?? LONGEST_STRETCH_MIN) && item.startMin > from) {
        at = now.steps.findIndex((one) => one.id === item.stepId);
        break;
      }
    }
    const before = now.steps[at];
    // Into wet paint nothing may come between.
    if (!before || before.needs === 'wet' || before.needs === 'damp' || before.role === 'last') break;
    const rest: Step = {
      id: ids(),
      markIds: [],
      ...empty,
      ...otherWords.break,
      kind: 'break',
      title: 'Break, fresh water',
      stageId: before.stageId,
      showMin: 0,
      doMin: BREAK_MIN,
    };
    now = { ...now, steps: [...now.steps.slice(0, at), rest, ...now.steps.slice(at)] };
  }
  return now;
}
