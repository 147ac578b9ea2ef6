import type { Area, Lesson } from '@viaticum/contract';
import { areasWorkedOn, isOnlyMarks, laysPaint, memo } from '../derived/index.js';

/** The areas that no step paints; marks alone paint none. Remembered: four rules ask for the same. */
export const bareAreas: (lesson: Lesson) => readonly Area[] = memo((lesson: Lesson) => {
  const painted = new Set(
    lesson.steps
      .filter((step) => laysPaint(step) && step.kind === 'paint' && !isOnlyMarks(step))
      .flatMap((step) => areasWorkedOn(lesson, step)),
  );
  // What the canvas was toned in beforehand needs no coat.
  const grounds = new Set(lesson.support.groundCoats.map((coat) => coat.mixId));
  const isGround = (id: string) =>
    lesson.mixes.some((mix) => grounds.has(mix.id) && (mix.areaId === id || mix.alsoAreaIds?.includes(id)));
  return lesson.areas.filter((area) => !painted.has(area.id) && !isGround(area.id));
});

/** While more than half of the areas wait for their steps a lesson is being written: what is not used yet is no fault of it. */
export const isBeingWritten = (lesson: Lesson): boolean => bareAreas(lesson).length > lesson.areas.length / 2;
