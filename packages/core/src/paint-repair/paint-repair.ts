import { type Lab, type Lesson, noWords, type Step, say } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { mixColour } from '@viaticum/kernels/mixing';
import { pigmentOf } from '@viaticum/kernels/pigment';
import { dryFilmUm } from '../coat/index.js';
import { looksOf, visibleOf } from '../derived/index.js';
import { glazeOver, paintOf, recipeParts, shortTubeName } from '../mix/index.js';
import { type LessonPlan, planLesson } from '../plan/index.js';
import { areaRung } from '../step/index.js';
import { relationsOf } from '../value-relations/index.js';

/** What went wrong: an area at a minute of the plan, the colour it has and the one it should have; `edge` where only an edge is too hard. */
export type RepairNeed = { areaId: string; atMin: number; isLab: Lab; wantLab: Lab; share?: number; edgeWith?: string };

/** One way to repair it. `extraMin` is what it adds to the plan's end; `step` is put in where it takes one. */
export type RepairWay = {
  kind: 'lift' | 'cover' | 'glaze' | 'strip' | 'leave';
  words: string;
  /** How far the colour is off afterwards (ΔE00); null where it is as it was before the mistake. */
  off: number | null;
  extraMin: number;
  step?: Step;
  afterStepId?: string;
};

const MOST_COATS = 4;
const MOST_PASSES = 4;
/** Parts of clear medium to one of paint. */
const DILUTIONS = [4, 12, 30] as const;
const COVERED = 2.5;
const UNSEEN = 2.5;
const STRIP_MM = 12;

/** What an area looks like at a minute of the plan, and what it should look like in the end; null where either is unknown. */
export function plannedState(
  lesson: Lesson,
  { plan }: LessonPlan,
  areaId: string,
  atMin: number,
): { isLab: Lab; wantLab: Lab } | null {
  const relations = relationsOf(lesson);
  const done = plan.items.filter((item) => item.stepId && item.endMin <= atMin + 1e-6).at(-1)?.stepId;
  const isLab = done ? relations.after.get(done)?.get(areaId) : undefined;
  const own = relations.areas.find((area) => area.areaId === areaId);
  const wantLab = own?.target ?? own?.last;
  return isLab && wantLab ? { isLab, wantLab } : null;
}

/**
 * Ways to repair a colour or an edge, least time first: lift it while it is wet, cover it, glaze it, lay a strip anew, or leave it; each with
 * its cost in the plan. By the drying and film models; colours are model estimates.
 */
export function repairWays(lesson: Lesson, planned: LessonPlan, need: RepairNeed): RepairWay[] {
  const { plan } = planned;
  const now = plan.items.filter((item) => item.stepId && item.startMin <= need.atMin + 1e-6).at(-1);
  const current = lesson.steps.find((step) => step.id === now?.stepId) ?? lesson.steps[0];
  if (!current) return [];
  const ways: RepairWay[] = [];
  const { rung, nextMin } = areaRung(plan.coats, need.areaId, need.atMin);
  if (rung === 'workable' && nextMin !== null)
    ways.push({
      kind: 'lift',
      words: say`Lift it with a damp towel while it is workable: ${wholeMinutes(nextMin)} left. Then lay it again.`,
      off: null,
      extraMin: 1,
    });
  const context: Context = { lesson, current, endMin: plan.endMin, need };
  const cover = need.edgeWith ? null : covered(context);
  const glaze = need.edgeWith ? null : glazed(context);
  const strip = need.edgeWith ? relaid(context, need.edgeWith) : null;
  for (const way of [cover, glaze, strip]) if (way) ways.push(way);
  const off = deltaE00(need.isLab, need.wantLab);
  if (!need.edgeWith)
    ways.push({
      kind: 'leave',
      words:
        off < UNSEEN
          ? say('Leave it: the difference is hardly seen beside its neighbours.')
          : say('Leave it, and let the neighbours follow: if all of them shift alike, the picture still holds.'),
      off,
      extraMin: 0,
    });
  return ways.sort((one, other) => rank(one) - rank(other));
}

/** What is left of the fault counts as time, so that leaving a large fault does not come first. */
const rank = ({ extraMin, off }: RepairWay): number => extraMin + 2.5 * Math.max(0, (off ?? 0) - UNSEEN);
const wholeMinutes = (minutes: number) => (minutes < 1.5 ? say('a minute') : say`${Math.floor(minutes)} min`);

type Context = { lesson: Lesson; current: Step; endMin: number; need: RepairNeed };

function stepFor({ current, need }: Context, change: Partial<Step> & Pick<Step, 'title' | 'technique'>): Step {
  return {
    id: `repair-${need.areaId}-${change.technique}`.slice(0, 32),
    stageId: current.stageId,
    kind: 'paint',
    areaIds: [need.areaId],
    markIds: [],
    mixIds: [],
    needs: 'paintOver',
    ...noWords,
    ...(current.brushId ? { brushId: current.brushId } : {}),
    ...(need.share ? { coverShare: need.share } : {}),
    ...change,
  };
}

/** What so many of a step add to the plan's end, put in after the present step. */
function cost({ lesson, current, endMin }: Context, step: Step, times: number): number {
  const at = lesson.steps.indexOf(current) + 1;
  const more = Array.from({ length: times }, (_, i) => ({ ...step, id: `${step.id}-${i}`.slice(-32) }));
  const steps = [...lesson.steps.slice(0, at), ...more, ...lesson.steps.slice(at)];
  return Math.max(0, planLesson({ ...lesson, steps }).plan.endMin - endMin);
}

/** The mix that covers it best: as few coats as bring it within what the mix itself can do. */
function covered(context: Context): RepairWay | null {
  const { lesson, need } = context;
  const { finish } = lesson;
  const dryUm = dryFilmUm({ technique: 'block-in' });
  let best: { mix: Lesson['mixes'][number]; coats: number; off: number } | null = null;
  for (const mix of lesson.mixes) {
    const parts = recipeParts(mix, lesson);
    if (!parts) continue;
    const own = deltaE00(mixColour(parts, { finish }).lab, need.wantLab);
    for (let coats = 1; coats <= MOST_COATS; coats++) {
      const { lab } = mixColour(parts, { finish, film: { dryUm: dryUm * coats }, ground: need.isLab });
      const off = deltaE00(lab, need.wantLab);
      if (off > own + COVERED && coats < MOST_COATS) continue;
      if (best === null || off + coats < best.off + best.coats) best = { mix, coats, off };
      break;
    }
  }
  if (!best) return null;
  const { mix, coats, off } = best;
  const step = stepFor(context, {
    title: say`Repair: cover with ${mix.name}`.slice(0, 120),
    technique: 'block-in',
    mixIds: [mix.id],
  });
  return {
    kind: 'cover',
    words: say`Cover it with ${mix.name} when it is dry enough to paint over, ${coats === 1 ? say('in one coat') : say`in ${coats} coats`}.`,
    off,
    extraMin: cost(context, step, coats),
    step,
    afterStepId: context.current.id,
  };
}

/** A glaze that brings the colour nearer: which tube, how thin, how many passes, by the film model. */
function glazed(context: Context): RepairWay | null {
  const { lesson, need } = context;
  const { finish } = lesson;
  const dryUm = dryFilmUm({ technique: 'glaze' });
  const before = deltaE00(need.isLab, need.wantLab);
  let best: { tube: Lesson['tubes'][number]; medium: number; passes: number; off: number } | null = null;
  for (const tube of lesson.tubes) {
    if (pigmentOf(tube.pigment).opacity === 'opaque') continue;
    for (const medium of DILUTIONS) {
      let lab = need.isLab;
      for (let passes = 1; passes <= MOST_PASSES; passes++) {
        lab = glazeOver([{ pigment: paintOf(tube), parts: 1 }], lab, { medium, dryUm, finish }).lab;
        const off = deltaE00(lab, need.wantLab);
        if (best === null || off + 0.5 * passes < best.off + 0.5 * best.passes) best = { tube, medium, passes, off };
      }
    }
  }
  if (!best || best.off > 0.7 * before) return null;
  const { tube, medium, passes, off } = best;
  const name = shortTubeName(tube);
  const step = stepFor(context, {
    title: say`Repair: glaze with ${name}`.slice(0, 120),
    technique: 'glaze',
    needs: 'touchDry',
    medium: 'glazing-medium',
  });
  return {
    kind: 'glaze',
    words: say`Glaze it with ${name}, 1 part to ${medium} of clear medium, ${passes === 1 ? say('one pass') : say`${passes} passes`}, each on touch-dry paint.`,
    off,
    extraMin: cost(context, step, passes),
    step: { ...step, say: say`${name}, 1 part to ${medium} of clear medium.` },
    afterStepId: context.current.id,
  };
}

/** A strip along an edge laid again with both colours and blended. */
function relaid(context: Context, otherId: string): RepairWay | null {
  const { lesson, need } = context;
  const looks = looksOf(lesson);
  const mixOf = (areaId: string) =>
    [...lesson.steps]
      .reverse()
      .find((step) => step.areaIds.includes(areaId) && step.mixIds.length > 0 && (step.coverShare ?? 1) > 0.3)?.mixIds[0];
  const [one, other] = [mixOf(need.areaId), mixOf(otherId)];
  if (!one || !other) return null;
  const part = visibleOf(lesson).find((each) => each.id === need.areaId);
  const areaMm2 = (part?.areaCm2 ?? 0) * 100;
  const edgeMm = Math.sqrt(Math.max(1, areaMm2)) * 1.2;
  const share = Math.max(0.02, Math.min(0.6, (edgeMm * STRIP_MM) / Math.max(1, areaMm2)));
  const names = [one, other].map((id) => looks.get(id)?.mix.name ?? '');
  const step = stepFor(context, {
    title: say('Repair: lay the edge again'),
    technique: 'blend',
    mixIds: [one, other],
    coverShare: share,
    say: say`A finger's width along the edge: ${names[0]} on its own side, ${names[1]} on the other, then a dry brush along it while both are wet.`,
  });
  return {
    kind: 'strip',
    words: say`Lay a strip of ${STRIP_MM} mm along the edge again with ${names[0]} and ${names[1]}, and soften it while both are wet.`,
    off: null,
    extraMin: cost(context, step, 1),
    step,
    afterStepId: context.current.id,
  };
}
