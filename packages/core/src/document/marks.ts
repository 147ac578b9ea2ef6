import { commandErrors, type Mark } from '@viaticum/contract';
import { lengthOf } from '../geometry/index.js';
import { between, type D, find, named, take } from './command-tools.js';
import { letGo } from './references.js';

const LEAST_LINE_MM = 0.2;
/** Lines drawn one by one are as many as were drawn, and as long as they are on average. */
function counted(mark: Mark): Mark {
  const { along } = mark;
  if (!along || along.length === 0) return mark;
  const mean = along.reduce((sum, line) => sum + lengthOf(line), 0) / along.length;
  return { ...mark, count: along.length, lengthMm: Math.max(LEAST_LINE_MM, Math.round(10 * mean) / 10) };
}

/** A mark as the lesson takes it; refused with a sentence where it cannot be. */
export function soundMark(lesson: D, given: Mark): Mark {
  const mark = counted(given);
  find(lesson.areas, mark.areaId, 'area');
  for (const id of mark.protectIds ?? []) find(lesson.areas, id, 'area');
  between(mark.count, 1, 2000, commandErrors.markCountOutOfRange);
  between(mark.lengthMm, LEAST_LINE_MM, 2000, commandErrors.markLengthOutOfRange);
  between(mark.widthMm, 0.2, 100, commandErrors.markWidthOutOfRange);
  between(mark.taper, 0, 1, commandErrors.taperOutOfRange);
  return { ...mark, count: Math.round(mark.count), name: named(mark.name, 'mark') };
}

/** Puts things of lines in the place of all that there are; steps keep those whose ids stay. */
export function drawLinesAnew(lesson: D, lines: readonly Mark[]): void {
  const stays = new Set(lines.map((mark) => mark.id));
  const gone = lesson.marks.flatMap((mark) => (mark.along && !stays.has(mark.id) ? [mark.id] : []));
  for (const id of gone) {
    take(lesson.marks, id, 'mark');
    letGo(lesson, 'marks', id);
  }
  for (const mark of lines) {
    const at = lesson.marks.findIndex((one) => one.id === mark.id);
    const sound = soundMark(lesson, mark);
    if (at < 0) lesson.marks.push(sound);
    else lesson.marks[at] = sound;
  }
}
