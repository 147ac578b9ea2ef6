import type { Area, Lesson } from '@viaticum/contract';

type Pins = Lesson['planning']['pins'];

/** The pins that hold none but these steps. */
export const pinsAmong = (pins: Pins, has: (stepId: string) => boolean): Pins =>
  pins.filter((pin) => ('stepId' in pin ? [pin.stepId] : [pin.firstId, pin.thenId]).every(has));

/** The areas of things that were dropped: they are neither seen nor painted, and can come back. */
export function droppedAreas({ areas, things }: Pick<Lesson, 'areas' | 'things'>): Area[] {
  const dropped = new Set(things.flatMap((thing) => (thing.fate === 'dropped' ? [thing.id] : [])));
  return areas.filter((area) => area.thingId !== undefined && dropped.has(area.thingId));
}
