import type { Correction, Lesson, Placement, Reference, Thing } from '@viaticum/contract';
import type { ComposeArea } from './compose.js';

/** A placed reference whose pixels are still to be read. */
export type PlacedReference = {
  pictureSha256: string;
  widthPx: number;
  heightPx: number;
  placement: Placement;
  correction?: Correction | undefined;
  extend?: boolean | undefined;
};
/** What {@link compose} needs of a lesson, but for the pixels. */
export type Laying = {
  canvas: { widthMm: number; heightMm: number };
  whole: PlacedReference | null;
  others: [string, PlacedReference][];
  areas: ComposeArea[];
  things: Thing[];
};

/** Colour of a bare support where a picture does not reach. */
export const BARE: [number, number, number] = [240, 238, 232];

const placed = ({ pictureSha256, widthPx, heightPx, placement, correction, extend }: Reference): PlacedReference => ({
  pictureSha256,
  widthPx,
  heightPx,
  placement,
  correction,
  extend,
});

/** The reference that shows the whole picture: the first of that role. */
export const wholeOf = (lesson: Lesson): Reference | undefined =>
  lesson.references.find((reference) => reference.role === 'whole') ?? lesson.references[0];

/** How a lesson's picture is put together; areas only as far as they change it. */
export function layingOf(lesson: Lesson): Laying {
  const whole = wholeOf(lesson);
  const matters = !whole || lesson.things.some((thing) => thing.fate !== 'kept');
  const cutFrom = new Set(lesson.things.map((thing) => thing.fromReferenceId));
  return {
    canvas: { widthMm: lesson.support.widthMm, heightMm: lesson.support.heightMm },
    whole: whole ? placed(whole) : null,
    others: lesson.references
      .filter((reference) => cutFrom.has(reference.id))
      .map((reference) => [reference.id, placed(reference)]),
    areas: matters ? lesson.areas.map(({ id, outline, thingId, targetLab }) => ({ id, outline, thingId, targetLab })) : [],
    things: matters ? lesson.things : [],
  };
}
