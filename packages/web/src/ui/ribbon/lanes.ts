import type { Lesson } from '@viaticum/contract';
import type { LessonPlan } from '@viaticum/core/plan';

/** One lane of the section: an area, or a thing made of several. */
export type Lane = { id: string; name: string; zoneIds: string[] };
const MOST_LANES = 9;

/** The lanes of a lesson, back to front; from more than nine areas on those of one thing share a lane, unless it is unfolded. */
export function lanesOf(lesson: Pick<Lesson, 'zones' | 'things'>, unfolded: ReadonlySet<string>): Lane[] {
  const { zones, things } = lesson;
  const alone = (zone: Lesson['zones'][number]): Lane => ({ id: zone.id, name: zone.name, zoneIds: [zone.id] });
  if (zones.length <= MOST_LANES) return zones.map(alone);
  const lanes: Lane[] = [];
  for (const zone of zones) {
    const thing = things.find((one) => one.id === zone.thingId);
    const members = thing ? zones.filter((one) => one.thingId === thing.id) : [];
    if (!thing || members.length < 2 || unfolded.has(thing.id)) lanes.push(alone(zone));
    else if (members[0] === zone) lanes.push({ id: thing.id, name: thing.name, zoneIds: members.map((one) => one.id) });
  }
  return lanes;
}

/** Where a step comes to stand in the order when it is pinned to a time: after all that are half done by then. */
export function placeAt({ solution }: Pick<LessonPlan, 'solution'>, stepId: string, startMin: number): number {
  return solution.items.filter((item) => item.step !== stepId && (item.start + item.end) / 2 <= startMin).length;
}
