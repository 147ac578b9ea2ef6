import type { Lab, Lesson, Level, Zone } from '@viaticum/contract';
import { betterOrder, inOrderOf } from '../advice/index.js';
import { toEnd } from '../cooperative/index.js';
import { asDrafted, draftLesson } from '../draft/index.js';
import {
  colourSpread,
  cutZones,
  flowField,
  meanDirection,
  measureEdges,
  prepare,
  proposeZones,
  refineZones,
} from '../picture/index.js';
import { labelMeans, labRaster, lightness, type Rgba, shrink, sizeWithin } from '../raster/index.js';
import { movedIntoReach, reachOf } from '../stage/index.js';
import { labelSheets, outlineArea, visibleParts } from '../zone/index.js';
import { mixesFor, usedTubes } from './mixes.js';
import { usualTubes } from './tubes.js';
import { zoneValues } from './values.js';

/** How much a level can take: areas, values an area at most, mixes at most, what counts as alike (ΔE00), tubes in a recipe. */
const can: Record<Level, { zones: number; values: number; mixes: number; alike: number; maxTubes: number }> = {
  beginner: { zones: 8, values: 3, mixes: 13, alike: 4.5, maxTubes: 3 },
  improver: { zones: 11, values: 4, mixes: 18, alike: 3.5, maxTubes: 4 },
  experienced: { zones: 14, values: 5, mixes: 24, alike: 2.8, maxTubes: 4 },
};

export type BeginOptions = {
  /** How many areas; by the level where it is not said. */
  zones?: number;
};
/** How far it is, 0–1, and what is being worked out. */
export type Begun = { share: number; doing: 'areas' | 'edges' | 'colours' | 'steps' };
const EDGE_PIXELS = 700_000;
const VALUE_PIXELS = 160_000;

/**
 * A whole lesson from its picture: areas with depth, edges and direction of strokes, values, tubes and mixes with recipes, and the steps
 * by the lesson's school. `picture` is the reference as it lies on the canvas. The title, canvas, school, level, room and references
 * of the lesson stay; tubes too where it has some. The same picture and ids give the same lesson.
 */
export function* beginLesson(
  lesson: Lesson,
  picture: Rgba,
  ids: () => string,
  options: BeginOptions = {},
): Generator<Begun, Lesson> {
  const level = can[lesson.level];
  const segmenting = prepare(picture);
  let step = segmenting.next();
  while (!step.done) {
    yield { share: 0.4 * step.value, doing: 'areas' };
    step = segmenting.next();
  }
  const segmentation = step.value;
  const count = colourSpread(segmentation) < 2 ? 1 : (options.zones ?? level.zones);
  yield { share: 0.42, doing: 'areas' };
  const { map, zones: found } = refineZones(segmentation, cutZones(segmentation, count));
  yield { share: 0.55, doing: 'areas' };
  const mmPerPx = lesson.support.widthMm / map.width;
  const proposed = proposeZones(map, found, labRaster(shrink(picture, map.width, map.height)), mmPerPx);
  const zones = proposed.map(
    (one): Zone => ({ id: ids(), name: one.name, outline: one.outline, targetLab: rounded(one.meanLab) }),
  );
  yield { share: 0.62, doing: 'edges' };

  const size = sizeWithin(picture, EDGE_PIXELS);
  const middle = shrink(picture, size.width, size.height);
  const perPx = lesson.support.widthMm / size.width;
  const sheets = labelSheets(
    zones.map((zone) => zone.outline),
    size.width,
    size.height,
    perPx,
  );
  const lab = labRaster(middle);
  for (const edge of measureEdges(sheets, lab, perPx)) {
    if (edge.kind === 'hard') continue;
    const [one, other] = [zones[edge.one] as Zone, zones[edge.other] as Zone];
    one.edges = [...(one.edges ?? []), { with: other.id, kind: edge.kind }];
    other.edges = [...(other.edges ?? []), { with: one.id, kind: edge.kind }];
  }
  yield { share: 0.68, doing: 'edges' };
  const flow = flowField(lightness(middle), sheets, perPx);
  zones.forEach((zone, i) => {
    const mean = meanDirection(flow.filter((stroke) => stroke.zone === i));
    if (mean) zone.directionDeg = Math.round(mean.deg);
  });
  yield { share: 0.72, doing: 'colours' };

  const tubes = lesson.tubes.length > 0 ? lesson.tubes : usualTubes(lesson.school);
  const withTubes: Lesson = { ...lesson, zones, tubes, mixes: [], marks: [], things: [] };
  const small = sizeWithin(picture, VALUE_PIXELS);
  const smallPx = lesson.support.widthMm / small.width;
  const aim = movedIntoReach(labRaster(shrink(picture, small.width, small.height)), reachOf(withTubes));
  const places = labelSheets(
    zones.map((zone) => zone.outline),
    small.width,
    small.height,
    smallPx,
  );
  // What a zone shall look like is what the palette can make of it.
  labelMeans(places, aim, zones.length).forEach((mean, i) => {
    if (mean) (zones[i] as Zone).targetLab = rounded(mean);
  });
  const values = zoneValues(places, aim, zones.length, level.values);
  const seen = visibleParts(zones, lesson.support);
  const areas = new Map(seen.map((part) => [part.id, part.areaCm2]));
  const mixing = mixesFor(
    withTubes,
    zones.map((zone, i) => ({
      zoneId: zone.id,
      areaCm2: areas.get(zone.id) ?? outlineArea(zone.outline) / 100,
      values: values[i] ?? { values: [], gradual: false },
    })),
    { alike: level.alike, most: level.mixes, maxTubes: level.maxTubes },
    ids,
  );
  let made = mixing.next();
  while (!made.done) {
    yield { share: 0.72 + 0.18 * made.value, doing: 'colours' };
    made = mixing.next();
  }
  const { mixes, shares } = made.value;
  const gradual = new Set(zones.flatMap((zone, i) => (values[i]?.gradual ? [zone.id] : [])));
  const subjectZoneId = subjectOf(zones, areas, lesson);
  const ready: Lesson = {
    ...withTubes,
    mixes,
    tubes: lesson.tubes.length > 0 ? tubes : usedTubes(tubes, mixes),
    ...(subjectZoneId ? { subjectZoneId } : {}),
  };
  yield { share: 0.92, doing: 'steps' };
  const drafted = asDrafted(ready, draftLesson(ready, ids, { shares, gradual }));
  yield { share: 0.96, doing: 'steps' };
  return waitingLess(drafted);
}

const ORDER_NODES = 1500;
/** The steps of every stage in the order that waits least; stages stay as they follow each other. */
function waitingLess(lesson: Lesson): Lesson {
  const pins = lesson.stages.slice(1).flatMap((stage, k) => {
    const before = lesson.steps.filter((step) => step.stageId === lesson.stages[k]?.id);
    const own = lesson.steps.filter((step) => step.stageId === stage.id);
    return before.flatMap((one) => own.map((other) => ({ firstId: one.id, thenId: other.id })));
  });
  const held = { ...lesson, planning: { ...lesson.planning, pins: pins.slice(0, 200) } };
  const { best, own, order } = toEnd(betterOrder(held, { maxNodes: ORDER_NODES }));
  return best.endMin < own.endMin ? inOrderOf(lesson, order) : lesson;
}

const rounded = (lab: Lab): Lab => lab.map((value) => Math.round(value * 10) / 10) as Lab;

/** The frontmost area that lies away from the rim and is no crumb; what a picture is about is mostly there. Null where none does. */
function subjectOf(zones: readonly Zone[], areas: ReadonlyMap<string, number>, { support }: Lesson): string | null {
  const whole = (support.widthMm * support.heightMm) / 100;
  const inner = zones.filter((zone) => {
    const points = zone.outline.flat(2);
    const atRim = points.filter(([x, y]) => x < 2 || y < 2 || x > support.widthMm - 2 || y > support.heightMm - 2).length;
    const area = areas.get(zone.id) ?? 0;
    return atRim === 0 && area > 0.01 * whole && area < 0.6 * whole;
  });
  const largest = [...inner].sort((one, other) => (areas.get(other.id) ?? 0) - (areas.get(one.id) ?? 0))[0];
  return largest?.id ?? null;
}
