import type { Lesson, PlanCoat } from '@viaticum/contract';
import { type Coat, type CoatRoom, carriedOn, coatTimes } from '../coat/index.js';
import { learntDrying } from '../derived/index.js';
import { planLesson } from '../plan/index.js';
import { coatKey } from './air.js';

/** What an air does to the coats of a plan: see the event `climateNoted`. Tenths of a minute, rounded up; -1: never. */
export type AirRows = { rows: number[][]; row: number[]; left: number[][] };

/** Never too early: up to the next tenth of a minute. */
const tenths = (minutes: number): number => (Number.isFinite(minutes) ? Math.ceil(minutes * 10 - 1e-6) : -1);

/** One coat in an air, and what it still takes there once it has dried so much of its time in the air that was. */
function rowOf(coat: Coat, was: CoatRoom, is: CoatRoom): { row: number[]; left: number[] } {
  const times = coatTimes(coat, is);
  const paintOverMin = Math.max(times.paintOverMin, times.openMin);
  const touchDryMin = Math.max(paintOverMin, times.touchDryMin);
  const carried = carriedOn(coat, was, is);
  // Water in the mix makes no rung later than that of the neat coat: what is left is shortened as the whole is.
  const within = (left: readonly number[], whole: number) => {
    const [fresh = whole] = left;
    return left.map((one) => (Number.isFinite(one) && Number.isFinite(fresh) && fresh > 0 ? (one * whole) / fresh : one));
  };
  return {
    row: [Math.min(times.openMin, paintOverMin), paintOverMin, touchDryMin, times.firmH * 60].map(tenths),
    left: [...within(carried.paintOver, paintOverMin), ...within(carried.touchDry, touchDryMin)].map(tenths),
  };
}

/**
 * The coats of a lesson in other air, by the drying model, in the order of a plan of it. What a dryer dries does not mind the air of the
 * room. `was` is the air that the coats have dried in so far. About 2 ms for 25 coats.
 */
export function airRows(lesson: Lesson, coats: readonly PlanCoat[], was: Lesson['room'], is: Lesson['room']): AirRows {
  const laid = new Map<string, { coat: Coat; longer: number }>();
  for (const { step, areaId, coat } of planLesson({ ...lesson, room: was }).laid)
    if (!step.dryer) laid.set(coatKey({ stepId: step.id, areaId }), { coat, longer: learntDrying(lesson, step) });
  const own = coats.map((one) => laid.get(coatKey(one)));
  return alike(
    own.map((one) => one?.coat ?? null),
    was,
    is,
    own.map((one) => one?.longer ?? 1),
  );
}

const slower = (air: CoatRoom, longer: number): CoatRoom =>
  longer === 1 ? air : { ...air, calibration: (air.calibration ?? 1) / longer };

/** Rows for coats one by one (null: as planned), each kind of coat once; `longer`: how much longer than the model each of them dries. */
export function alike(coats: readonly (Coat | null)[], was: CoatRoom, is: CoatRoom, longer: readonly number[] = []): AirRows {
  const found: AirRows = { rows: [], row: [], left: [] };
  const byText = new Map<string, number>();
  for (const [k, coat] of coats.entries()) {
    if (!coat) {
      found.row.push(-1);
      continue;
    }
    const by = longer[k] ?? 1;
    const text = `${by} ${JSON.stringify(coat)}`;
    let at = byText.get(text);
    if (at === undefined) {
      const { row, left } = rowOf(coat, slower(was, by), slower(is, by));
      const same = found.rows.findIndex((_, k) => `${found.rows[k]} ${found.left[k]}` === `${row} ${left}`);
      at = same < 0 ? found.rows.push(row) - 1 : same;
      if (same < 0) found.left.push(left);
      byText.set(text, at);
    }
    found.row.push(at);
  }
  return found;
}
