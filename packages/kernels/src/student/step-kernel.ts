import { LADDER, phi16, rung } from './tables.js';

/** Length of a tick, seconds. */
export const TICK_S = 30;
/** Paces in 1/64 octave, a quarter octave apart: 0.59 to 2.83 times the plan's minutes. */
const PACES = [-48, -32, -16, 0, 16, 32, 48, 64, 80, 96];
/** How far one step differs from a student's pace, in 1/64 octave (0.195 nat); one step in 32 goes wrong and takes 1.5 to 4 times as long. */
const SPREAD = 18;
const WRONG = 32;
const LEAST_CHANCE = 16;

/** The chance (of 65536) that a step lasts so many half minutes, from `low` to `high`; and evenly `each` from `from` to `to` where it goes wrong. */
export type StepKernel = { low: number; high: number; chance: Float64Array; from: number; to: number; each: number };

const kept = new Map<number, StepKernel[]>();
/** How long a step of so many minutes (a rung) lasts, at every pace. */
export function kernelOf(step: number): StepKernel[] {
  const known = kept.get(step);
  if (known) return known;
  const made = PACES.map((pace): StepKernel => {
    const centre = Math.max(0, Math.min(step + pace, LADDER.length - 1));
    const middle = LADDER[centre] / 256 / TICK_S;
    const length = Math.max(3, Math.floor(middle * 2.2) + 2);
    const chance = new Float64Array(length);
    let before = 0;
    for (let d = 0; d < length; d++) {
      const at = d === length - 1 ? 65536 : phi16(Math.floor(((rung((d + 0.5) * TICK_S) - centre) * 32) / SPREAD));
      chance[d] = Math.floor(((at - before) * (WRONG - 1)) / WRONG);
      before = at;
    }
    let high = length;
    while (high > 1 && chance[high - 1] < LEAST_CHANCE) high--;
    let low = 0;
    while (low < high - 1 && chance[low] < LEAST_CHANCE) low++;
    const from = Math.floor(middle * 1.5) + 1;
    const to = Math.floor(middle * 4) + 2;
    return { low, high, chance, from, to, each: Math.floor(65536 / WRONG / (to - from)) };
  });
  kept.set(step, made);
  return made;
}

const SHORTEST_S = 20;
/** The rung of a length of time; nothing is shorter than twenty seconds. */
export const rungOf = (seconds: number): number => rung(Math.max(SHORTEST_S, seconds));
