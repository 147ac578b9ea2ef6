import type { Area, Lesson } from '@viaticum/contract';
import { type Labels, labRaster, type Rgba, recounted, shrink } from '@viaticum/kernels/raster';
import { budgetOf, draftInTime } from '../draft/index.js';
import { areaOfThing, colourSpread, cutAreas, prepare, proposeAreas, refineAreas, type ToldThing } from '../picture/index.js';
import { type Begun, inside, rounded } from './inside.js';
import { lineMarks, type ToldLines } from './lines.js';
import { withSeenLines } from './seen-lines.js';

export type BeginOptions = {
  /** How many areas; by the level and the wanted length where it is not said. */
  areas?: number;
  /** Things that were told apart, as labels of the picture (at any size), each with its name and what it is. */
  told?: { map: Labels; things: readonly ToldThing[] };
  /** Things of lines, drawn one by one over what lies there. */
  lines?: readonly ToldLines[];
};
/**
 * A whole lesson from its picture: areas with depth, edges and direction of strokes, values, tubes and mixes with recipes, and the steps
 * by the lesson's school. `picture` is the reference as it lies on the canvas. The title, canvas, school, level, room and references
 * of the lesson stay; tubes too where it has some; of the school only dark transfer paper gives way to light where the
 * ground would hide its lines. The same picture and ids give the same lesson.
 */
export function* beginLesson(
  lesson: Lesson,
  picture: Rgba,
  ids: () => string,
  options: BeginOptions = {},
): Generator<Begun, Lesson> {
  const budget = budgetOf(lesson.level, lesson.wantedMin);
  const { map, things } = options.told ? seenThings(options.told) : yield* ownAreas(picture, options.areas ?? budget.areas);
  yield { share: 0.55, doing: 'areas' };
  const mmPerPx = lesson.support.widthMm / map.width;
  const plain = labRaster(shrink(picture, map.width, map.height));
  const told = things.flatMap((one) => one ?? []);
  const proposed = proposeAreas(map, things.length, plain, mmPerPx, told);
  const areas = proposed.map(
    (one): Area => ({
      id: ids(),
      name: one.name,
      ...areaOfThing(told[one.region]),
      outline: one.outline,
      targetLab: rounded(one.meanLab),
    }),
  );
  // Small things that are looked at first are drawn by their axes.
  const features = areas.flatMap((area) => (area.feature ? [area.id] : []));
  const constructions: Lesson['drawing']['constructions'] =
    features.length > 0 ? [{ id: ids(), kind: 'features', areaIds: features }] : [];
  const plainLesson: Lesson = {
    ...lesson,
    areas,
    mixes: [],
    marks: [],
    things: [],
    drawing: { ...lesson.drawing, constructions },
  };
  const marks = lineMarks(plainLesson, options.lines ?? [], ids);
  const { ready, hints } = yield* inside({ ...plainLesson, marks }, picture, ids);
  yield { share: 0.92, doing: 'steps' };
  return draftInTime(withSeenLines(ready), ids, hints);
}

/** Areas found by colour alone, none of them told. */
function* ownAreas(picture: Rgba, most: number): Generator<Begun, { map: Labels; things: (ToldThing | null)[] }> {
  const segmenting = prepare(picture);
  let step = segmenting.next();
  while (!step.done) {
    yield { share: 0.4 * step.value, doing: 'areas' };
    step = segmenting.next();
  }
  yield { share: 0.42, doing: 'areas' };
  const segmentation = step.value;
  const count = colourSpread(segmentation) < 2 ? 1 : most;
  const { map, areas } = refineAreas(segmentation, cutAreas(segmentation, count));
  return { map, things: Array.from({ length: areas }, () => null) };
}

/** Things of which something is seen, with labels counted anew. */
function seenThings({ map, things }: NonNullable<BeginOptions['told']>): { map: Labels; things: ToldThing[] } {
  const { map: dense, kept } = recounted(map);
  return { map: dense, things: kept.map((label) => things[label] as ToldThing) };
}
