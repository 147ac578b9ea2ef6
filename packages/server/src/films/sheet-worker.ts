import type { Lesson, ShootNote, ShootSheet } from '@viaticum/contract';
import { notedSeconds, shootSheet, shootState } from '@viaticum/core/film';

/** The text of a lesson's document, and what was noted while it was filmed. */
export type ShootJob = { text: string; notes: ShootNote[] };

export default function work({ text, notes }: ShootJob): ShootSheet {
  return shootSheet(JSON.parse(text) as Lesson, notedSeconds(shootState(notes)));
}
