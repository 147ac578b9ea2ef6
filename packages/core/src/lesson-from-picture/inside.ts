import type { Area, AreaRole, Lab, Lesson, Level, Mark } from '@viaticum/contract';
import {
  blur,
  type Labels,
  type LabRaster,
  labelMeans,
  labRaster,
  lightness,
  type Rgba,
  shrink,
  sizeWithin,
} from '@viaticum/kernels/raster';
import { labelSheets, outlineArea, outlineBox, visibleParts } from '../area/index.js';
import { markAreaCm2 } from '../derived/index.js';
import { budgetOf, type DraftHints } from '../draft/index.js';
import { flowField, meanDirection, measureEdges } from '../picture/index.js';
import { movedIntoReach, reachOf } from '../stage/index.js';
import { lineColour } from './lines.js';
import { mixesFor, usedTubes } from './mixes.js';
import { usualTubes } from './tubes.js';
import { areaValues } from './values.js';

/** How fine a level can work: values an area at most, what counts as alike (ΔE00), tubes in a recipe. How much fits is the length's matter. */
const can: Record<Level, { values: number; alike: number; maxTubes: number }> = {
  beginner: { values: 3, alike: 4.5, maxTubes: 3 },
  improver: { values: 4, alike: 3.5, maxTubes: 4 },
  experienced: { values: 5, alike: 2.8, maxTubes: 4 },
};

/** How far it is, 0–1, and what is being worked out. */
export type Begun = { share: number; doing: 'areas' | 'edges' | 'colours' | 'steps' };
const EDGE_PIXELS = 700_000;
const VALUE_PIXELS = 160_000;

/** A lesson whose areas are known, with what the picture says of them, ready to be drafted; and what a draft wants to know beside it. */
export type Ready = { ready: Lesson; hints: DraftHints };

/** `keepsTargets`: what areas shall look like was said, and is what lies in the light. */
export type InsideOptions = { keepsTargets?: boolean };

/**
 * What follows from areas and picture: edges and directions that are not set yet, targets, values, and mixes with recipes. Areas that are
 * given stay as they are in all else.
 */
export function* inside(
  lesson: Lesson,
  picture: Rgba,
  ids: () => string,
  { keepsTargets = false }: InsideOptions = {},
): Generator<Begun, Ready> {
  const level = can[lesson.level];
  const budget = budgetOf(lesson.level, lesson.wantedMin);
  const areas = lesson.areas.map((area): Area => ({ ...area }));
  for (const area of areas) {
    const heart = area.surface === 'petals' && !area.flow ? middleOf(area.outline) : null;
    if (heart) area.flow = { kind: 'towards', at: heart };
  }
  yield { share: 0.62, doing: 'edges' };

  const size = sizeWithin(picture, EDGE_PIXELS);
  const middle = shrink(picture, size.width, size.height);
  const perPx = lesson.support.widthMm / size.width;
  const sheets = labelSheets(
    areas.map((area) => area.outline),
    size.width,
    size.height,
    perPx,
  );
  const lab = labRaster(middle);
  for (const edge of measureEdges(sheets, lab, perPx)) {
    if (edge.kind === 'hard') continue;
    const [one, other] = [areas[edge.one] as Area, areas[edge.other] as Area];
    const isSet = one.edges?.some((set) => set.with === other.id) || other.edges?.some((set) => set.with === one.id);
    if (isSet) continue;
    const measured = { kind: edge.kind, widthMm: tenth(edge.widthMm), contrast: tenth(edge.contrast) };
    one.edges = [...(one.edges ?? []), { with: other.id, ...measured }];
    other.edges = [...(other.edges ?? []), { with: one.id, ...measured }];
  }
  yield { share: 0.68, doing: 'edges' };
  const flow = flowField(lightness(middle), sheets, perPx);
  areas.forEach((area, i) => {
    const mean = meanDirection(flow.filter((stroke) => stroke.area === i));
    if (mean && area.directionDeg === undefined) area.directionDeg = Math.round(mean.deg);
  });
  const detail = detailOf(sheets, lab, areas.length, perPx);
  yield { share: 0.72, doing: 'colours' };

  const tubes = lesson.tubes.length > 0 ? lesson.tubes : usualTubes(lesson.school);
  const withTubes: Lesson = { ...lesson, areas, tubes, mixes: [] };
  const small = sizeWithin(picture, VALUE_PIXELS);
  const smallPx = lesson.support.widthMm / small.width;
  const aim = movedIntoReach(labRaster(shrink(picture, small.width, small.height)), reachOf(withTubes));
  const places = labelSheets(
    areas.map((area) => area.outline),
    small.width,
    small.height,
    smallPx,
  );
  // What an area shall look like is what the palette can make of it.
  labelMeans(places, aim, areas.length).forEach((mean, i) => {
    if (mean && !(keepsTargets && areas[i]?.targetLab)) (areas[i] as Area).targetLab = rounded(mean);
  });
  const values = areaValues(
    places,
    aim,
    areas.map(({ role, surface }) => ({
      most: surface !== undefined || role === 'subject' ? level.values + 1 : level.values,
      rich: surface !== undefined || role === 'feature',
    })),
  );
  // Lines are looked at in the finest picture: blurred they are lost.
  const isFine = lesson.marks.some((mark) => mark.along && !mark.targetLab);
  const fine = isFine ? movedIntoReach(lab, reachOf(withTubes)) : null;
  const marks = lesson.marks.map((mark): Mark => {
    const colour = fine && mark.along && !mark.targetLab ? lineColour(fine, mark.along, mark.widthMm, perPx) : null;
    return colour ? { ...mark, targetLab: rounded(colour) } : mark;
  });
  const seen = visibleParts(areas, lesson.support);
  const sizes = new Map(seen.map((part) => [part.id, part.areaCm2]));
  const mixing = mixesFor(
    withTubes,
    [
      ...areas.map((area, i) => ({
        areaId: area.id,
        name: area.role ? area.name : null,
        isRich: area.surface !== undefined || area.role === 'feature',
        areaCm2: (sizes.get(area.id) ?? outlineArea(area.outline) / 100) * importance[area.role ?? 'made'],
        values: values[i] ?? { values: [], gradual: false },
      })),
      ...marks.flatMap((mark) => {
        const { along, name, targetLab } = mark;
        if (!along || !targetLab) return [];
        const values = { values: [{ lab: targetLab, share: 1 }], gradual: false };
        return [{ areaId: null, name, isRich: true, areaCm2: markAreaCm2(mark) * importance.feature, values }];
      }),
    ],
    {
      alike: level.alike,
      most: budget.heaps,
      maxTubes: level.maxTubes,
      isSmallest: lesson.tubes.length === 0 && lesson.school.palette === 'smallest',
    },
    ids,
  );
  let made = mixing.next();
  while (!made.done) {
    yield { share: 0.72 + 0.18 * made.value, doing: 'colours' };
    made = mixing.next();
  }
  const { mixes, shares } = made.value;
  // What is full of detail has shapes in it, however many colours lie between its values.
  const gradual = new Set(areas.flatMap((area, i) => (values[i]?.gradual && (detail[i] ?? 0) < BUSY ? [area.id] : [])));
  const stays = areas.some((area) => area.id === lesson.subjectAreaId);
  const subjectAreaId = stays ? lesson.subjectAreaId : subjectOf(areas, sizes, lesson);
  const ready: Lesson = {
    ...withTubes,
    marks,
    mixes,
    tubes: lesson.tubes.length > 0 ? tubes : usedTubes(tubes, mixes),
    ...(subjectAreaId ? { subjectAreaId } : {}),
  };
  const hints = { shares, gradual };
  return { ready, hints };
}

/** How much a colour of such a thing counts against one of another, of the same size: what is looked at keeps its colours. */
const importance: Record<AreaRole, number> = {
  sky: 0.5,
  background: 0.5,
  water: 0.8,
  ground: 0.8,
  foliage: 0.8,
  made: 1,
  subject: 3,
  feature: 6,
};

/** From this on (L*, median of what a blur of 2 mm takes away) a thing has shapes in it, no passage. */
const BUSY = 1.15;
const DETAIL_MM = 2;
/** How much detail each label holds: the median of how far its lightness lies from the same blurred by 2 mm. */
function detailOf(map: Labels, { width, height, l }: LabRaster, areas: number, mmPerPx: number): number[] {
  const soft = blur({ width, height, data: l }, DETAIL_MM / mmPerPx).data;
  const found: number[][] = Array.from({ length: areas }, () => []);
  for (let i = 0; i < l.length; i += DETAIL_EVERY)
    found[map.data[i] as number]?.push(Math.abs((l[i] as number) - (soft[i] as number)));
  return found.map((list) => list.sort((a, b) => a - b)[list.length >> 1] ?? 0);
}
const DETAIL_EVERY = 3;

/** The middle of the largest part of an outline, in mm; null where there is none. */
function middleOf(outline: Area['outline']): [number, number] | null {
  const largest = [...outline].sort((one, other) => outlineArea([other]) - outlineArea([one]))[0];
  const box = largest && outlineBox([largest]);
  return box ? [box.x + box.width / 2, box.y + box.height / 2] : null;
}

const tenth = (value: number): number => Math.round(value * 10) / 10;
export const rounded = (lab: Lab): Lab => lab.map((value) => Math.round(value * 10) / 10) as Lab;

/** What was told to be the subject; otherwise the frontmost area that lies away from the rim and is no crumb; what a picture is about is mostly there. Null where none does. */
function subjectOf(areas: readonly Area[], sizes: ReadonlyMap<string, number>, { support }: Lesson): string | null {
  const whole = (support.widthMm * support.heightMm) / 100;
  const told = areas.filter((area) => area.role === 'subject');
  const chosen = told.sort((one, other) => (sizes.get(other.id) ?? 0) - (sizes.get(one.id) ?? 0))[0];
  if (chosen) return chosen.id;
  const inner = areas.filter((area) => {
    const points = area.outline.flat(2);
    const atRim = points.filter(([x, y]) => x < 2 || y < 2 || x > support.widthMm - 2 || y > support.heightMm - 2).length;
    const size = sizes.get(area.id) ?? 0;
    return atRim === 0 && size > 0.01 * whole && size < 0.6 * whole;
  });
  const largest = [...inner].sort((one, other) => (sizes.get(other.id) ?? 0) - (sizes.get(one.id) ?? 0))[0];
  return largest?.id ?? null;
}
