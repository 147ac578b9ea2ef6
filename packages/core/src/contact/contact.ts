import type { EdgeWish, Lesson, Mix, Need, Step } from '@viaticum/contract';
import { blend, type Spectra } from '@viaticum/kernels/mixing';
import { isOnlyMarks, marksOf, memo, mixesOn } from '../derived/index.js';
import { type LaidCoat, rungMinutes, type StepMinutes } from '../step/index.js';
import { askedOf, type ContactKind, harmLimit, pickUp, wishOf } from './asked.js';
import { ageOfShare, harmlessShare, harmOf, paintOfMix, pickedUp } from './harm.js';

/** An earlier coat that a step's brush, hand or paper touches, and what follows from it; minutes and mm. */
export type Contact = {
  /** `step/area of the coat/step of the coat`. */
  id: string;
  fromStepId: string;
  toStepId: string;
  /** The area whose coat is touched, and the one that is worked on. */
  areaId: string;
  ownAreaId: string;
  kind: ContactKind;
  wish: EdgeWish;
  /** The rung that is asked of it. */
  need: Need;
  byNature: boolean;
  /** Length of the border, of an edge. */
  lengthMm?: number;
  /** Change of colour (ΔE00) if one went on at once; null where the colours are not known. What of it is allowed. */
  harm: number | null;
  limit: number;
  /** Share of wet paint that a stroke takes up at once. */
  takenUp: number;
  /** The two mixes that it is reckoned with: the wet one and one's own. */
  wetMixId?: string;
  ownMixId?: string;
  /** Age at which its paint may be touched, and the least wait after the end of its step that this comes to. */
  neededMin: number;
  waitMin: number;
  /** Minutes that the touched part has dried by itself before it is reached: beyond the gap between the two steps. */
  creditMin: number;
  /** So much sooner than `neededMin` it may be met, lightly. */
  toleranceMin: number;
  /** Dried with the dryers, in turns; by itself it would take so long. */
  undriedMin?: number;
  /** The instructor goes on all the same. */
  waived?: true;
};

/** A step as far as it touches paint: with its minutes, and the film that it lays (µm wet; 0 where it lays none). */
export type Act = { step: Step; areaId: string; minutes: StepMinutes; wetUm: number };

type Heap = { mix: Mix; paint: Spectra };
/** The heaps that a step lays on an area: of a passage those that have their place there. */
const heapsOn = (lesson: Lesson, { mixIds, passageId }: Step, areaId: string): Heap[] =>
  mixesOn(lesson, { mixIds, passageId }, areaId).flatMap((id) => {
    const mix = lesson.mixes.find((one) => one.id === id);
    const paint = mix && paintOfMix(lesson, mix);
    return mix && paint ? [{ mix, paint }] : [];
  });
/** What lies wet where several heaps of one coat met: their mean. */
const meanPaint = memo((...paints: Spectra[]) => blend(paints.map((pigment) => ({ pigment, parts: 1 }))), 200);

type Harm = { at: (share: number) => number; least: (limit: number, most: number) => number; wet: Heap; own: Heap };
/** How wet paint of one step changes the colours of another: the one of them that it changes most; of a blend, what it is on the whole. */
function harmBetween(lesson: Lesson, below: LaidCoat, act: Act, share: number): Harm | null {
  const wet = heapsOn(lesson, below.step, below.areaId);
  const own = heapsOn(lesson, act.step, act.areaId);
  const [first] = wet;
  if (!first || own.length === 0) return null;
  const paint = wet.length === 1 ? first.paint : meanPaint(...wet.map((one) => one.paint));
  const worst =
    act.step.technique === 'blend' && own.length > 1
      ? { mix: (own[0] as Heap).mix, paint: meanPaint(...own.map((one) => one.paint)) }
      : own.reduce((most, one) => (harmOf(paint, one.paint, share) > harmOf(paint, most.paint, share) ? one : most));
  return {
    at: (part) => harmOf(paint, worst.paint, part),
    least: (limit, most) => harmlessShare(paint, worst.paint, limit, most),
    wet: first,
    own: worst,
  };
}

/** Values of one area that are laid beside each other in one stage may run into each other a little. */
const areNeighbourValues = (from: Step, to: Step): boolean =>
  from.stageId === to.stageId && to.technique === 'blend' && to.coverShare !== undefined && !isOnlyMarks(to);

/** A second coat of the same paint is there to cover: on wet paint it would only push the first one about. */
const isSameAgain = (from: Step, to: Step): boolean =>
  to.mixIds.length > 0 && to.mixIds.every((id) => from.mixIds.includes(id)) && (to.coverShare ?? 1) >= 1 && !isOnlyMarks(to);

/** What touching a coat asks for, whichever of the two is laid first in the lesson. */
export function contactBetween(
  lesson: Lesson,
  below: LaidCoat,
  belowMinutes: StepMinutes,
  act: Act,
  kind: ContactKind,
  lengthMm?: number,
): Contact {
  const { step } = act;
  const wish: EdgeWish =
    kind === 'edge' ? wishOf(lesson, act.areaId, below.areaId) : areNeighbourValues(below.step, step) ? 'may-soften' : 'clean';
  const asked = askedOf(step, kind, wish, isOnlyMarks(step));
  const { need } = asked;
  const byNature = asked.byNature || (kind === 'over' && isSameAgain(below.step, step));
  const rung = rungMinutes(need, below.drying);
  const limit = harmLimit(lesson, act.areaId, wish);
  const lifts = pickUp(step, kind);
  const most = pickedUp(lifts, 1, below.wetUm, act.wetUm);
  const harm = act.wetUm > 0 ? harmBetween(lesson, below, act, most) : null;
  const neededMin = neededAge(below, act, { need, byNature, rung, limit, lifts, most }, harm);
  const toleranceMin = toleranceOf(lesson, neededMin);
  const credit = creditOf(lesson, below, belowMinutes, act, kind);
  const isWaived = lesson.planning.waived?.some(
    (one) => one.fromStepId === below.step.id && one.toStepId === step.id && (one.areaId ?? below.areaId) === below.areaId,
  );
  return {
    id: `${step.id}/${below.areaId}/${below.step.id}`,
    fromStepId: below.step.id,
    toStepId: step.id,
    areaId: below.areaId,
    ownAreaId: act.areaId,
    kind,
    wish,
    need,
    byNature,
    ...(lengthMm === undefined ? {} : { lengthMm }),
    harm: harm ? harm.at(most) : null,
    limit,
    takenUp: most,
    ...(harm ? { wetMixId: harm.wet.mix.id, ownMixId: harm.own.mix.id } : {}),
    neededMin,
    waitMin: neededMin <= 0 ? 0 : Math.max(0, neededMin - credit - toleranceMin),
    toleranceMin,
    creditMin: credit,
    ...(below.step.dryer && rung < rungMinutes(need, below.times) ? { undriedMin: rungMinutes(need, below.times) } : {}),
    ...(isWaived ? { waived: true } : {}),
  };
}

type Judged = { need: Need; byNature: boolean; rung: number; limit: number; lifts: number; most: number };
/** The age at which paint may be touched: when its rung is reached, or sooner, once too little of it moves to hurt. */
function neededAge(below: LaidCoat, act: Act, { byNature, rung, limit, lifts, most }: Judged, harm: Harm | null): number {
  if (byNature || !harm || rung <= 0) return rung;
  const share = harm.least(limit, most);
  if (share >= Math.round(most * 100) / 100) return 0;
  const moving = (share * (below.wetUm + act.wetUm)) / (lifts * 2 * below.wetUm);
  return Math.min(rung, ageOfShare(below.drying, moving));
}

const LEAST_TOLERANCE_MIN = 1.5;
const TOLERANCE_SHARE = 0.15;
/** So much before its time paint may be met: its film is known to a quarter. */
function toleranceOf({ planning }: Lesson, neededMin: number): number {
  if (planning.cautious || !Number.isFinite(neededMin)) return 0;
  return planning.toleranceMin ?? Math.max(LEAST_TOLERANCE_MIN, TOLERANCE_SHARE * neededMin);
}

/** Minutes that the touched part has dried by itself: laid before the end of its step, and reached only some time into the next. */
function creditOf(lesson: Lesson, below: LaidCoat, before: StepMinutes, act: Act, kind: ContactKind): number {
  const { step, minutes } = act;
  const shown = lesson.school.teaching === 'paint-along' ? 0 : minutes.showMin;
  if (kind === 'edge') {
    const laidBy = edgesAt(below.step, before, 'laid');
    const reachedAt = edgesAt(step, minutes, 'reached');
    return shown + (before.doMin - laidBy) + reachedAt;
  }
  const covers = (one: Step) => (one.coverShare ?? 1) >= 1 && !isOnlyMarks(one) && !one.side;
  const isInStep = (covers(step) && covers(below.step)) || goRoundAlike(lesson, below.step, step);
  if (!isInStep || act.wetUm <= 0) return shown + minutes.leadMin;
  // One person goes over the same area in the same order of parts.
  const [one, other] = [before.doMin - before.leadMin, minutes.doMin - minutes.leadMin];
  return shown + minutes.leadMin + Math.max(0, Math.min(one, other));
}

/** Whether both lay marks in the same order: the same ones again, or some set round the same point. */
function goRoundAlike(lesson: Lesson, one: Step, other: Step): boolean {
  if (!isOnlyMarks(one) || !isOnlyMarks(other)) return false;
  const centre = (step: Step) => marksOf(lesson, step).map(({ id, round }) => (round ? round.at.join() : id));
  const own = new Set(centre(one));
  return own.size > 0 && centre(other).every((at) => own.has(at));
}

/** When the edges of a step are laid, or at the soonest reached, in minutes from the beginning of its doing. */
function edgesAt(step: Step, own: StepMinutes, when: 'laid' | 'reached'): number {
  const isBlockIn = step.technique === 'block-in' || step.technique === 'loaded';
  const laying = step.laying ?? (isBlockIn ? 'edges-first' : undefined);
  if (laying === 'edges-first') return when === 'laid' ? Math.min(own.doMin, own.leadMin + own.edgeMin) : own.leadMin;
  if (laying === 'edges-last') return when === 'laid' ? own.doMin : Math.max(own.leadMin, own.doMin - own.edgeMin);
  return when === 'laid' ? own.doMin : own.leadMin;
}
