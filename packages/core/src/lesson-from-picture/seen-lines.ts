import type { Lesson } from '@viaticum/contract';
import { draftGround } from '../draft/index.js';
import { contrastOn } from '../transfer/index.js';

/** A lesson about to be drafted, with light transfer paper in place of dark where the ground that is toned first would hide its lines. */
export function withSeenLines(lesson: Lesson): Lesson {
  const { school } = lesson;
  const isOnGround = school.drawWhen !== 'before-anything';
  if (school.drawing !== 'tracing' || school.transferMedium !== 'transfer-paper' || !isOnGround) return lesson;
  const grounds = [{ l: draftGround(lesson)[0] }];
  const isBetter = contrastOn('transfer-paper', grounds).isHard && !contrastOn('light-paper', grounds).isHard;
  return isBetter ? { ...lesson, school: { ...school, transferMedium: 'light-paper' } } : lesson;
}
