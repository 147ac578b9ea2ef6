import type { Lesson, LineEdit } from '@viaticum/contract';
import { insideOutline, outlineBox } from '../../area/index.js';
import { visibleOf } from '../../derived/index.js';
import { evenly, fromSegment, lengthOf, type Point } from '../../geometry/index.js';
import { flattened } from '../bezier.js';
import { STEP_MM } from './borders.js';
import { softened } from './chains.js';
import { type DrawnLine, fitted } from './draw.js';

/** A line with what was decided about it: smoother, and before which step it is needed. */
export type Line = DrawnLine & { name?: string; stepId?: string; smoothMm?: number };

const NEAR_MM = 12;

/** How far a place is from a line. */
export function fromLine({ curve }: { curve: Point[] }, at: Point): number {
  const points = flattened(curve, 2);
  let least = Number.POSITIVE_INFINITY;
  for (let i = 1; i < points.length; i++) least = Math.min(least, fromSegment(at, points[i - 1] as Point, points[i] as Point));
  return least;
}

/** The middle of a line, along it. */
export function middleOf({ curve }: { curve: Point[] }): Point {
  const points = evenly(flattened(curve, 2), 1);
  return points[points.length >> 1] as Point;
}

/**
 * The computed lines with all that a person decided: some taken out, made smoother or tied to a step, and the lines of one's own.
 * A decision finds its line by its areas and place, so that it holds while the areas are only nudged.
 */
export function decidedLines(lesson: Lesson, computed: readonly DrawnLine[]): Line[] {
  const byLine = new Map<DrawnLine, LineEdit>();
  for (const edit of lesson.drawing.edits) {
    let [best, least]: [DrawnLine | null, number] = [null, NEAR_MM];
    for (const line of computed) {
      if (line.kind !== edit.kind || line.areaIds.join() !== edit.areas.join()) continue;
      const far = fromLine(line, edit.at);
      if (far < least) [best, least] = [line, far];
    }
    if (best) byLine.set(best, { ...byLine.get(best), ...edit });
  }
  const kept = computed.flatMap((line): Line[] => {
    const edit = byLine.get(line);
    if (!edit) return [line];
    if (edit.gone) return [];
    const smoother = edit.smoothMm !== undefined ? { curve: smoothed(line, edit.smoothMm), smoothMm: edit.smoothMm } : {};
    return [{ ...line, ...smoother, ...(edit.stepId && { stepId: edit.stepId }) }];
  });
  const parts = visibleOf(lesson);
  const own = lesson.drawing.own.map((line): Line => {
    const curve = line.curve.map(([x, y]): Point => [x, y]);
    const areaId = line.areaId ?? areaAt(parts, middleOf({ curve }));
    return {
      id: line.id,
      kind: 'own',
      areaIds: areaId ? [areaId] : [],
      curve,
      lengthMm: lengthOf(flattened(curve, 1)),
      deltaE: 0,
      weight: Number.POSITIVE_INFINITY,
      ...(line.name && { name: line.name }),
      ...(line.stepId && { stepId: line.stepId }),
    };
  });
  return [...own, ...kept];
}

function areaAt(parts: ReturnType<typeof visibleOf>, [x, y]: Point): string | null {
  for (const part of [...parts].reverse()) {
    const box = outlineBox(part.outline);
    if (box && x >= box.x && y >= box.y && x <= box.x + box.width && y <= box.y + box.height && insideOutline(part.outline, x, y))
      return part.id;
  }
  return null;
}

/** The line drawn with fewer turns: softened over so many mm and fitted as loosely. */
const smoothed = (line: DrawnLine, mm: number): Point[] =>
  fitted(softened(evenly(flattened(line.curve, 0.5), STEP_MM), mm / STEP_MM), mm);
