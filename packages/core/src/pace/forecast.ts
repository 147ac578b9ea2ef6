import type { Lesson } from '@viaticum/contract';
import type { LessonPlan } from '../plan/index.js';
import { paceModel } from './group.js';
import { simulatePace } from './simulate.js';
import { bookedMin } from './slot.js';

/** When a class of so many students is to be expected to end, minutes: half of all such classes, and for how long the room is booked. */
export type Forecast = { aboutMin: number; bookedMin: number };

const RUNS = 1500;
const SEED = 20;
/** A class goes on when nine of ten are done, and at the latest so many minutes over. */
const USUAL = { q: 0.9, overMin: 5 };

/** The ends of a class of a lesson, by playing it: the calendar, letters and the booking of a room go by these and not by the bare plan. */
export function forecast(lesson: Lesson, plan: LessonPlan, students: number): Forecast {
  if (lesson.steps.length === 0) return { aboutMin: 0, bookedMin: bookedMin(0) };
  const group = { n: Math.max(1, students), level: lesson.level, slotMin: Math.max(1, plan.plan.endMin), ...USUAL };
  const { classMin } = simulatePace(paceModel(lesson, plan, group), { runs: RUNS, seed: SEED });
  return { aboutMin: Math.ceil(classMin.p50 / 5) * 5, bookedMin: bookedMin(classMin.p90) };
}
