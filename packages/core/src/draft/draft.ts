import { type Lesson, noWords, type Stage, type Step } from '@viaticum/contract';
import { findings } from '../check/index.js';
import { type CommandArgs, type CommandName, carryOut, startHistory } from '../document/index.js';
import { planLesson } from '../plan/index.js';
import { otherWords, paintingWords } from '../text/index.js';
import { type AreaFacts, areaFacts, brushFor } from './facts.js';
import { detailRules, plainBelow } from './rules/detail.js';
import { drawingRules, drawWhenRules } from './rules/drawing.js';
import { groundRules } from './rules/ground.js';
import { layersRules } from './rules/layers.js';
import { orderRules } from './rules/order.js';
import { usualStroke } from './rules/strokes.js';
import { valuesRules } from './rules/values.js';

/** A step as it is drafted, with the reasons of the school for it. */
export type DraftedStep = { step: Step; why: string[] };
export type Draft = { stages: Stage[]; steps: DraftedStep[] };
/** What is known of the picture beside the lesson: by area the share of it that each of its mixes takes, and the areas whose values pass into each other. */
export type DraftHints = {
  shares?: ReadonlyMap<string, readonly { mixId: string; share: number }[]>;
  gradual?: ReadonlySet<string>;
};

const LONGEST_STRETCH_MIN = 60;
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
 * this room are fixed the way the checks would, and breaks stand where a stretch would be longer than an hour. `ids` gives new
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
  const stage = (name: string): string => {
    const made = { id: ids(), name };
    stages.push(made);
    return made.id;
  };
  const add = (stageId: string, step: Omit<Step, 'id' | 'stageId' | 'markIds'>, why: string[]) => {
    const stroke = step.technique ? { stroke: usualStroke[step.technique] } : {};
    steps.push({ step: { id: ids(), stageId, markIds: [], ...step, ...stroke }, why });
  };

  const first = stage('Ground and drawing');
  let isDrawn = drawing.step === null;
  const draw = (stageId: string) => {
    if (isDrawn || !drawing.step) return;
    isDrawn = true;
    const { kind, title } = drawing.step;
    const bare = steps.length === 0;
    add(stageId, { ...empty, wholeCanvas: true, ...otherWords.drawing, kind, title, needs: bare ? 'any' : 'auto' }, [
      drawing.reason,
      drawWhen.reason,
    ]);
  };
  if (drawWhen.after === 'nothing') draw(first);
  const tone = groundRules[school.ground];
  if (tone.isToned && ground) {
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
  const groups = joined(order.stages(areas).filter((group) => group.areas.length > 0));
  const wetSession = school.layers === 'one-wet-session';
  groups.forEach((group, k) => {
    const stageId = stage(group.name);
    const far = Math.ceil(groups.length / 3);
    if (drawWhen.after === 'far' && k === far) draw(stageId);
    if (drawWhen.after === 'background' && k === 1) draw(stageId);
    const all = inOrder(lesson, group.areas).map((facts) => coats.get(facts.area.id) as AreaCoats);
    const lay = ({ facts }: AreaCoats, coat: Coat) => {
      const { why, isLater, ...rest } = coat;
      const step = { areaIds: [facts.area.id], brushId: brushOfCoat(facts, coat), ...rest };
      add(
        stageId,
        { ...empty, ...step, kind: 'paint', ...paintingWords(lesson, step), ...(isLater ? { mayBeLeftOut: true } : {}) },
        [order.reason, why],
      );
    };
    if (order.finishesEach || wetSession) for (const one of all) for (const coat of one.coats) lay(one, coat);
    else {
      for (const one of all) if (one.coats[0]) lay(one, one.coats[0]);
      for (const one of all) for (const coat of one.coats.slice(1)) lay(one, coat);
    }
  });
  const last = stage('Lights and a last look');
  draw(last);
  for (const { facts, lights } of coats.values()) {
    if (!lights) continue;
    const { why, isLater: _, ...rest } = lights;
    const step = { areaIds: [facts.area.id], brushId: brushOfCoat(facts, lights), ...rest };
    add(last, { ...empty, ...step, kind: 'paint', ...paintingWords(lesson, step), mayBeLeftOut: true }, [why]);
  }
  if (areas.length > 0)
    add(last, { ...empty, ...otherWords.look, kind: 'look', title: 'Last look, then sign', doMin: 4 }, [
      'A last look costs little and saves a picture.',
    ]);
  const used = new Set(steps.map(({ step }) => step.stageId));
  const draft = { stages: stages.filter((one) => used.has(one.id)), steps };
  const whole = { ...draft, stages: draft.stages.length > 0 ? draft.stages : stages.slice(0, 1) };
  return fixed(lesson, withBreaks(lesson, fixed(lesson, whole, ids, fixable), ids), ids, voiced);
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
  const mixes = [...facts.mixes];
  const { method } = lesson;
  const isPlain = facts.share < (method?.plainBelowShare ?? plainBelow[level]);
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
        needs: 'touchDry',
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
    const only: Coat = { technique: 'block-in', mixIds: sequence, needs: 'paintOver', why: values.reason, isLater: false };
    return { facts, coats: [only], lights };
  }
  const isBlend = facts.isSoft || isGradual;
  // Where the picture was looked at, all values that pass into each other are blended at once.
  const taken = isBlend ? Math.min(shareOf.size > 0 ? MOST_BLENDED : 2, sequence.length) : 1;
  const base: Coat = {
    technique: isBlend ? 'blend' : 'block-in',
    mixIds: sequence.slice(0, taken),
    needs: 'paintOver',
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
  if (isShape) return { technique: 'block-in', needs: 'paintOver' };
  return {
    technique: later.technique,
    needs: later.technique === 'dry-brush' ? 'touchDry' : later.needs,
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
export const asDrafted = (lesson: Lesson, { stages, steps }: Draft): Lesson => ({
  ...lesson,
  stages,
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
    steps: now.steps.map((step) => ({ step, why: why.get(step.id) ?? ['In parts, so that each is blended while it is wet.'] })),
  };
}

/** Breaks before the step that would make a stretch longer than an hour; a pause of five minutes is a break already. */
function withBreaks(lesson: Lesson, draft: Draft, ids: () => string): Draft {
  const steps = [...draft.steps];
  for (let round = 0; round < 8; round++) {
    const { plan } = planLesson(asDrafted(lesson, { stages: draft.stages, steps }));
    let from = 0;
    let at = -1;
    for (const item of plan.items) {
      if (item.kind !== 'step' && item.endMin - item.startMin >= 5) from = item.endMin;
      else if (item.endMin - from > (lesson.method?.breakEveryMin ?? LONGEST_STRETCH_MIN) && item.startMin > from) {
        at = steps.findIndex((one) => one.step.id === item.stepId);
        break;
      }
    }
    const before = steps[at];
    // Into wet paint nothing may come between.
    if (!before || before.step.needs === 'wet' || before.step.needs === 'damp') break;
    steps.splice(at, 0, {
      step: {
        id: ids(),
        markIds: [],
        ...empty,
        ...otherWords.break,
        kind: 'break',
        title: 'Break, fresh water',
        stageId: before.step.stageId,
        showMin: 0,
        doMin: BREAK_MIN,
      },
      why: ['Eyes, backs and attention last about an hour.'],
    });
  }
  return { stages: draft.stages, steps };
}
