import type { Lesson } from '@viaticum/contract';
import type { LessonPlan } from '@viaticum/core/plan';

/** One lane of the section: an area, or a thing made of several. */
export type Lane = { id: string; name: string; areaIds: string[] };
const MOST_LANES = 9;

/** The lanes of a lesson, back to front; from more than nine areas on those of one thing share a lane, unless it is unfolded. */
export function lanesOf(lesson: Pick<Lesson, 'areas' | 'things'>, unfolded: ReadonlySet<string>): Lane[] {
  const { areas, things } = lesson;
  const alone = (area: Lesson['areas'][number]): Lane => ({ id: area.id, name: area.name, areaIds: [area.id] });
  if (areas.length <= MOST_LANES) return areas.map(alone);
  const lanes: Lane[] = [];
  for (const area of areas) {
    const thing = things.find((one) => one.id === area.thingId);
    const members = thing ? areas.filter((one) => one.thingId === thing.id) : [];
    if (!thing || members.length < 2 || unfolded.has(thing.id)) lanes.push(alone(area));
    else if (members[0] === area) lanes.push({ id: thing.id, name: thing.name, areaIds: members.map((one) => one.id) });
  }
  return lanes;
}

/** Where a step comes to stand in the order when it is pinned to a time: after all that are half done by then. */
export function placeAt({ solution }: Pick<LessonPlan, 'solution'>, stepId: string, startMin: number): number {
  return solution.items.filter((item) => item.step !== stepId && (item.start + item.end) / 2 <= startMin).length;
}
