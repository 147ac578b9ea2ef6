import type { Lesson } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { brushInWords, brushOf } from '../brush/index.js';
import { shortTubeName } from '../mix/index.js';
import { sizeInWords } from '../units/index.js';

/** What each student brings to a lesson: canvas, tubes, brushes, a sentence each. */
export function bringInWords(lesson: Lesson): string {
  const { widthMm, heightMm } = lesson.support;
  const tubes = lesson.tubes.filter((tube) => tube.students !== false).map(shortTubeName);
  const brushes = [...new Set(lesson.steps.flatMap((step) => brushOf(step.brushId) ?? []))].map((brush) => brushInWords(brush));
  return [
    say`Bring: a canvas ${sizeInWords(widthMm, heightMm, lesson.units)}.`,
    tubes.length > 0 ? say`Tubes: ${tubes.join(', ')}.` : '',
    brushes.length > 0 ? say`Brushes: ${brushes.join(', ')}.` : '',
  ]
    .filter(Boolean)
    .join('\n');
}
