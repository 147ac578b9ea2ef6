import type { Conflict, Problem } from './problem.js';
import { TICKS } from './solver/compile.js';

const LONGEST_SHORTFALL = 1 << 14;

/**
 * A smallest set of constraints and pins that contradict each other, by leaving out one after the other (deletion filter, Chinneck;
 * from memory), and by how much: the least time that would have to be added to every window and pin among them.
 * `isInfeasible(problem, slack)` judges a problem whose windows and pins are `slack` ticks wider.
 */
export function conflictOf(problem: Problem, isInfeasible: (problem: Problem, slack: number) => boolean): Conflict {
  let kept: Problem = { ...problem, pins: problem.pins ?? [] };
  for (const constraint of [...kept.constraints]) {
    const fewer = { ...kept, constraints: kept.constraints.filter((one) => one !== constraint) };
    if (isInfeasible(fewer, 0)) kept = fewer;
  }
  for (const pin of [...(kept.pins ?? [])]) {
    const fewer = { ...kept, pins: (kept.pins ?? []).filter((one) => one !== pin) };
    if (isInfeasible(fewer, 0)) kept = fewer;
  }
  let enough = 1;
  while (enough < LONGEST_SHORTFALL && isInfeasible(kept, enough)) enough *= 2;
  let low = Math.floor(enough / 2);
  let high = enough;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (isInfeasible(kept, middle)) low = middle;
    else high = middle;
  }
  return {
    constraintIds: kept.constraints.map((constraint) => constraint.id),
    pins: (kept.pins ?? []).map((pin) => (problem.pins ?? []).indexOf(pin)),
    shortfall: enough >= LONGEST_SHORTFALL ? 0 : high / TICKS,
    needsBreaks: false,
  };
}
