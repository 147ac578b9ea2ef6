import { say } from '@viaticum/contract';
import { clockTime, dayAndTime } from './clock.js';

/** A moment as it is said: “today 14:05”, “yesterday 9:30”, “3 Nov 2026, 9:30”. */
export function momentWords(iso: string, now = new Date()): string {
  const at = new Date(iso);
  const start = new Date(now.getFullYear(), now.getMonth(), now.getDate()).getTime();
  const days = Math.ceil((start - at.getTime()) / 86_400_000);
  if (days <= 0) return say`today ${clockTime(iso)}`;
  return days === 1 ? say`yesterday ${clockTime(iso)}` : dayAndTime(iso);
}
