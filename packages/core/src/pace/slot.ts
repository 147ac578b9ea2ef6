import type { FollowSheet, Lesson } from '@viaticum/contract';
import { planLesson } from '../plan/index.js';

/** A slot that the plan alone does not fit into: by how much, and what could be left out so that it does (empty: nothing makes it fit). */
export type TooShort = { shortMin: number; leaveOut: string[]; fitsAfter: boolean };

/**
 * Whether a plan fits a slot (minutes) before anybody is slow; null where it does. What may be left out is tried in the order of what it
 * takes from the picture for a minute, each planned anew, until the rest fits.
 */
export function tooShort(
  lesson: Lesson,
  endMin: number,
  slotMin: number,
  leave: NonNullable<FollowSheet['leaveOut']>,
): TooShort | null {
  const shortMin = endMin - slotMin;
  if (shortMin <= 0) return null;
  const order = Object.entries(leave)
    .filter(([, { minutes }]) => minutes > 0)
    .sort(([, a], [, b]) => a.weight / a.minutes - b.weight / b.minutes);
  const gone: string[] = [];
  let end = endMin;
  for (const [id] of order) {
    if (end <= slotMin) break;
    const steps = lesson.steps.filter((step) => ![...gone, id].includes(step.id));
    const next = planLesson({ ...lesson, steps }).plan.endMin;
    if (next >= end - 0.5) continue;
    gone.push(id);
    end = next;
  }
  return { shortMin, leaveOut: gone, fitsAfter: end <= slotMin };
}

/** Clearing up after a class; common practice, no published source. */
const CLEAR_UP_MIN = 10;
/** For how long a room is booked, minutes: what nine of ten classes need, rounded up to five minutes, and clearing up. */
export const bookedMin = (classP90Min: number): number => Math.ceil(classP90Min / 5 - 1e-9) * 5 + CLEAR_UP_MIN;
