import type { Lesson, School, Step } from '@viaticum/contract';

/** The school by which an area is painted: the lesson's, with what is said for this area alone. */
export function schoolOn({ school, areas }: Lesson, areaId: string | undefined): School {
  const own = areaId === undefined ? undefined : areas.find((area) => area.id === areaId)?.ownWay;
  return own ? { ...school, ...own } : school;
}

/** The school by which a step is done: that of its first area. */
export const schoolFor = (lesson: Lesson, step: Pick<Step, 'areaIds' | 'markIds'>): School =>
  schoolOn(lesson, step.areaIds[0] ?? lesson.marks.find((mark) => mark.id === step.markIds[0])?.areaId);
