import type { FollowSheet } from '@viaticum/contract';
import { spreadOf } from './draws.js';
import { withoutSteps } from './group.js';
import type { PaceModel, PaceStep } from './model.js';
import { player } from './play.js';
import { quantile } from './simulate.js';

/** A part of the lesson between two places where both groups are together: its steps, and the minutes that each group needs for it. */
export type Stretch = { stepIds: string[]; quickMin: number; slowMin: number; leftOut: string[] };
export type TwoSpeeds = {
  quick: { n: number; endMin: number };
  /** `wholeMin`: with all steps. */
  slow: { n: number; endMin: number; wholeMin: number };
  leftOut: string[];
  stretches: Stretch[];
};

const SURE = 0.8;
/** So near to each other is together. */
const CLOSE = { minutes: 3, share: 0.1 };
const RUNS = 400;

/** The paces of a group, quickest first: those that are known, and the others spread evenly over the chance. */
export function pacesOf({ n, sigma, factors = [] }: PaceModel['students']): number[] {
  const spread = spreadOf(sigma);
  const drawn = Math.max(0, n - factors.length);
  const others = Array.from({ length: drawn }, (_, i) => spread[Math.floor(((i + 0.5) / drawn) * spread.length)] as number);
  return [...factors.slice(0, n), ...others].sort((a, b) => a - b);
}

/** Where a group is divided: at the widest gap between neighbours within its middle half. Gives how many are in the quicker part. */
export function divideAt(paces: readonly number[]): number {
  const from = Math.ceil(paces.length / 4);
  const to = Math.floor((3 * paces.length) / 4);
  let best = Math.floor(paces.length / 2);
  let widest = 0;
  const gapAt = (k: number) => Math.log((paces[k] as number) / (paces[k - 1] as number));
  for (let k = from; k <= to; k++) {
    if (k < 1 || k >= paces.length) continue;
    // Of gaps that are alike the one nearest the middle.
    const gap = gapAt(k) - 1e-3 * Math.abs(k - paces.length / 2);
    if (gap > widest) [best, widest] = [k, gap];
  }
  return best;
}

/** A part of a class by itself: one instructor is shared with the other part, so hands wait as for two. */
function half(model: PaceModel, factors: number[]) {
  const { help } = model.students;
  const students = {
    ...model.students,
    n: factors.length,
    factors,
    sigma: 0,
    ...(help && { help: { ...help, minutes: help.minutes * 2 } }),
  };
  return (steps: PaceStep[]) => {
    const { play, starts, opens } = player({ ...model, steps, students }, 3);
    const gates = new Float64Array(RUNS);
    const by = new Map<string, number>();
    for (let run = 0; run < RUNS; run++) {
      gates[run] = play(run).gate;
      steps.forEach(({ id }, s) => {
        const before = s === 0 ? 0 : (opens[s - 1] as number);
        by.set(id, (by.get(id) ?? 0) + ((opens[s] as number) - Math.min(before, starts[s] as number)) / RUNS);
      });
    }
    return { endMin: quantile(gates.sort(), SURE), by };
  };
}

/**
 * A class in two speeds, together again at every pause for paint and break: what each part needs, and what the slower part leaves out so
 * that it is there when the quicker one is. What takes least from the picture for a minute goes first. Null for fewer than four students.
 */
export function twoSpeeds(model: PaceModel, leave: NonNullable<FollowSheet['leaveOut']>): TwoSpeeds | null {
  if (model.students.n < 4 || model.steps.length === 0) return null;
  const paces = pacesOf(model.students);
  // Of people whose pace is not known there is no gap to be seen.
  const known = model.students.factors?.length ?? 0;
  const at = known * 2 >= paces.length ? divideAt(paces) : Math.floor(paces.length / 2);
  const quick = half(model, paces.slice(0, at))(model.steps);
  const ofSlow = half(model, paces.slice(at));
  const whole = ofSlow(model.steps);
  const isClose = (slow: number) => slow <= quick.endMin + Math.max(CLOSE.minutes, CLOSE.share * quick.endMin);
  let slow = whole;
  const leftOut: string[] = [];
  const order = Object.entries(leave)
    .filter(([id, { minutes }]) => minutes > 0 && model.steps.some((step) => step.id === id))
    .sort(([, a], [, b]) => a.weight / a.minutes - b.weight / b.minutes);
  for (const [id] of order) {
    if (isClose(slow.endMin)) break;
    const next = ofSlow(withoutSteps(model, [...leftOut, id]).steps);
    if (next.endMin > slow.endMin - 1) continue;
    leftOut.push(id);
    slow = next;
  }
  return {
    quick: { n: at, endMin: quick.endMin },
    slow: { n: paces.length - at, endMin: slow.endMin, wholeMin: whole.endMin },
    leftOut,
    stretches: stretchesOf(model.steps, quick.by, slow.by, leftOut),
  };
}

/** The lesson between its joins: a break, or a pause for paint. */
function stretchesOf(
  steps: readonly PaceStep[],
  quick: ReadonlyMap<string, number>,
  slow: ReadonlyMap<string, number>,
  leftOut: readonly string[],
): Stretch[] {
  const stretches: Stretch[] = [];
  for (const step of steps) {
    const isJoin = step.breakMin > 0 || step.pauseMin >= 1;
    if (isJoin || stretches.length === 0) stretches.push({ stepIds: [], quickMin: 0, slowMin: 0, leftOut: [] });
    const last = stretches.at(-1) as Stretch;
    last.stepIds.push(step.id);
    last.quickMin += quick.get(step.id) ?? 0;
    last.slowMin += slow.get(step.id) ?? 0;
    if (leftOut.includes(step.id)) last.leftOut.push(step.id);
  }
  return stretches;
}
