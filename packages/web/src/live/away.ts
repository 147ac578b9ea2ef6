import { classTime } from '@viaticum/core/class';
import type { LiveSnapshot } from './connection.js';

/** Since when (class time, ms) a student's phone is not there; null where it is, or nothing is known of phones. */
export function awaySince({ state, online, connected, away }: LiveSnapshot, studentId: string, now: number): number | null {
  if (!online || connected.includes(studentId)) return null;
  const since = away[studentId];
  return since === undefined ? now : Math.min(now, classTime(state, since));
}
