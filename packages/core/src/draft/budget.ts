import type { Level } from '@viaticum/contract';

/** How much fits into a length: areas, heaps of paint, and things that are painted. */
export type Budget = { areas: number; heaps: number; acts: number };
type Row = [areas: number, heaps: number, acts: number];

/** By minutes, for beginners, improvers and the experienced (our judgement: one painted act costs about 8.5, 6 and 4 min). */
const rows: readonly [minutes: number, Record<Level, Row>][] = [
  [60, { beginner: [3, 5, 4], improver: [4, 7, 7], experienced: [6, 9, 10] }],
  [90, { beginner: [4, 7, 7], improver: [6, 9, 11], experienced: [8, 12, 16] }],
  [120, { beginner: [6, 9, 10], improver: [8, 12, 15], experienced: [10, 15, 22] }],
  [150, { beginner: [7, 10, 13], improver: [9, 14, 20], experienced: [12, 18, 28] }],
  [180, { beginner: [8, 12, 15], improver: [11, 16, 24], experienced: [14, 20, 34] }],
  [240, { beginner: [9, 14, 21], improver: [12, 20, 33], experienced: [16, 24, 46] }],
];

/** How long a lesson is wanted where nothing is said, minutes of one session. */
export const usualMin: Record<Level, number> = { beginner: 120, improver: 150, experienced: 180 };

/** What fits into a lesson of so many minutes at a level: the row that is not longer than it. */
export function budgetOf(level: Level, wantedMin: number = usualMin[level]): Budget {
  const row = rows.reduce((best, one) => (one[0] <= wantedMin + 1e-9 ? one : best), rows[0] as (typeof rows)[number]);
  const [areas, heaps, acts] = row[1][level];
  return { areas, heaps, acts };
}
