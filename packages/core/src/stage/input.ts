import type { Lesson, Outline, Side, Step } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import type {
  StageArea,
  StageColour,
  StageInput,
  StageMarks,
  StagePass,
  StageStep,
  StageStrokes,
  TouchName,
} from '@viaticum/kernels/painting';
import { hashText, turnOf } from '@viaticum/kernels/painting';
import { type LabRaster, labRaster, type Rgba, shrink } from '@viaticum/kernels/raster';
import { extentOutline, outlineArea, outlineBox, outlineLength, scanOutline } from '../area/index.js';
import { brushOf } from '../brush/index.js';
import {
  coverOf,
  drawsLines,
  extentsOf,
  glazeFilm,
  laysPaint,
  looksOf,
  marksOf,
  mixesOn,
  type SurfaceStrokes,
  surfaceStrokes,
  visibleOf,
} from '../derived/index.js';
import { lightPicture, usualLight } from '../light/index.js';
import { surfaces } from '../surface/index.js';
import { movedIntoReach, type Reach, reachOf } from './reach.js';

/** Cells of the coarse map on which colours and places are chosen. */
export const FACTOR = 6;
const LEAST_BRUSH_PX = 3;
const WHOLE = () => say('whole canvas');
const bare = { canvas: [240, 238, 232], board: [236, 234, 228], paper: [246, 245, 242] } as const;

const touchOf: Record<NonNullable<Step['technique']>, TouchName> = {
  wash: 'wash',
  glaze: 'glaze',
  'dry-brush': 'broken',
  scumble: 'veil',
  'block-in': 'flat',
  blend: 'blend',
  loaded: 'loaded',
  gesso: 'flat',
  impasto: 'loaded',
  'under-film': 'glaze',
  spatter: 'spatter',
};

/**
 * A lesson as the painting engine takes it, `widthPx` wide: masks of what is seen and painted of every area, and for every step
 * its colours, brush and technique. `photograph` is the picture as it will be painted, over the whole face of the canvas; without one, things
 * of a known form are aimed at as their light makes them.
 */
export function stageInput(lesson: Lesson, photograph: Rgba | null, widthPx: number): StageInput {
  const reference = photograph ?? lightPicture(lesson, widthPx);
  const { support } = lesson;
  const mmPerPx = support.widthMm / widthPx;
  const [width, height] = [widthPx, Math.max(1, Math.round(support.heightMm / mmPerPx))];
  const extents = new Map(extentsOf(lesson).map((one) => [one.id, one]));
  const mask = (outline: Outline): Uint8Array => {
    const data = new Uint8Array(width * height);
    scanOutline(outline, width, height, mmPerPx, (row, from, to) => data.fill(255, row * width + from, row * width + to + 1));
    return data;
  };
  const areas = visibleOf(lesson)
    .filter((part) => part.areaCm2 > 0)
    .map((part): StageArea => {
      const extent = extents.get(part.id);
      const box = outlineBox(part.outline) as { width: number; height: number };
      const own = lesson.areas.find((area) => area.id === part.id);
      return {
        id: part.id,
        seen: mask(part.outline),
        painted: extent ? mask(extentOutline(extent)) : mask(part.outline),
        rows: rowsOf(extent ? [...part.outline, ...extentOutline(extent)] : part.outline, height, mmPerPx),
        outline: part.outline,
        turn: turnOf(own?.directionDeg ?? (box.width >= box.height ? 0 : 90)),
        flow: own?.flow ? { kind: own.flow.kind, x: own.flow.at[0] / mmPerPx, y: own.flow.at[1] / mmPerPx } : null,
        fades: (own?.edges ?? []).flatMap((edge) => (edge.kind === 'hard' ? [] : [`${edge.with}:${edge.kind}`])).join(),
        seed: hashText(part.id),
        run: own?.surface ? surfaces[own.surface].run : 'any',
        combed: (own?.combed ?? []).flatMap((line) =>
          line.slice(1).map(([x, y], i): [number, number, number, number] => {
            const [x0, y0] = line[i] as [number, number];
            return [x0 / mmPerPx, y0 / mmPerPx, x / mmPerPx, y / mmPerPx];
          }),
        ),
      };
    });
  soften(lesson, areas, width, height, mmPerPx);
  // A step may work on the whole canvas at once.
  const all = new Uint8Array(width * height).fill(255);
  areas.push({
    id: WHOLE(),
    seen: all,
    painted: all,
    rows: { from: 0, to: height - 1 },
    outline: [],
    turn: 0,
    flow: null,
    fades: '',
    seed: hashText(WHOLE()),
    run: 'any',
    combed: [],
  });
  const number = new Map(areas.map((area, i) => [area.id, i]));
  const looks = looksOf(lesson);
  const begun = new Set<number>();
  const steps = lesson.steps.map((step): StageStep => {
    const seed = hashText(step.id);
    const lines = drawsLines(step);
    const coloursOf = (mixIds: readonly string[]) =>
      mixIds.flatMap((id): StageColour[] => {
        const colour = looks.get(id)?.colour;
        if (!colour) return [];
        const [r = 0, g = 0, b = 0] = (looks.get(id)?.rgb.match(/\d+/g) ?? []).map(Number);
        const mix = step.technique === 'glaze' && lesson.mixes.find((one) => one.id === id);
        const glaze = mix ? glazeFilm(lesson, mix) : null;
        return [{ rgb: [r, g, b], lab: colour.lab, ...(glaze ? { glaze } : {}) }];
      });
    const colours = coloursOf(step.mixIds);
    const ids = step.wholeCanvas ? [WHOLE()] : step.areaIds;
    const overSurface = surfaceStrokes(lesson, step);
    const isPaint = laysPaint(step) && colours.length > 0 && step.technique !== undefined;
    const passes = !isPaint
      ? []
      : ids.flatMap((id): StagePass[] => {
          const area = number.get(id);
          if (area === undefined) return [];
          const isFirst = !step.wholeCanvas && !begun.has(area);
          if (!step.wholeCanvas) begun.add(area);
          const own = step.passageId === undefined ? colours : coloursOf(mixesOn(lesson, step, id));
          const at = placesOn(lesson, step, id);
          const strokes = overSurface.find((one) => one.areaId === id);
          return [
            {
              area,
              colours: own,
              touch: touchOf[step.technique as NonNullable<Step['technique']>],
              isBlend: step.technique === 'blend' && own.length > 1,
              ...(at && at.length === own.length ? { at } : {}),
              isFirst: isFirst || step.wholeCanvas === true,
              share: coverOf(lesson, step),
              toward: step.side ? towards(step.side, lesson.light) : null,
              brushPx: Math.max(LEAST_BRUSH_PX, (brushOf(step.brushId)?.widthMm ?? 12) / mmPerPx),
              ...(strokes ? { strokes: strokesInPx(strokes, mmPerPx) } : {}),
            },
          ];
        });
    const marks = marksOf(lesson, step).flatMap((mark): StageMarks[] => {
      const area = number.get(mark.areaId);
      if (area === undefined || colours.length === 0) return [];
      const { round } = mark;
      return [
        {
          area,
          kind: mark.kind,
          count: mark.count,
          lengthPx: mark.lengthMm / mmPerPx,
          widthPx: mark.widthMm / mmPerPx,
          ends: Math.round(256 * (1 - mark.taper)),
          turn: mark.directionDeg === undefined ? null : turnOf(mark.directionDeg),
          round: round
            ? {
                x: round.at[0] / mmPerPx,
                y: round.at[1] / mmPerPx,
                radiusPx: round.radiusMm / mmPerPx,
                turnDeg: round.turnDeg ?? 0,
              }
            : null,
          along: mark.along?.map((line) => line.flatMap(([x, y]) => [x / mmPerPx, y / mmPerPx])) ?? null,
          colours,
          protect: (mark.protectIds ?? []).flatMap((id) => number.get(id) ?? []),
          seed: hashText(mark.id),
        },
      ];
    });
    return { id: step.id, seed, passes, marks, lines, key: JSON.stringify([step.id, passes, marks, lines]) };
  });
  const isTextured = steps.some((step) => step.passes.some((pass) => pass.strokes));
  const aim = reference ? aimOf(reference, Math.ceil(width / FACTOR), Math.ceil(height / FACTOR), reachOf(lesson)) : null;
  const fine = reference && isTextured ? fineOf(reference, width, height, reachOf(lesson)) : null;
  return {
    width,
    height,
    mmPerPx,
    bare: bare[support.kind],
    areas,
    steps,
    aim,
    factor: FACTOR,
    fine,
    seed: hashText(lesson.title),
  };
}

/** Where the colours of a passage lie on an area, if anything is said of it. */
function placesOn({ passages }: Lesson, { passageId }: Step, areaId: string): StagePass['at'] | null {
  const places = passages.find((one) => one.id === passageId)?.places.filter((place) => place.areaId === areaId) ?? [];
  return places.some((place) => place.at) ? places.map((place) => place.at ?? null) : null;
}

/** The direction on the canvas (y down) of a side of an area. */
function towards(side: Side, light: NonNullable<Lesson['light']> = usualLight): { x: number; y: number } {
  const [azimuth, elevation] = [(light.azimuthDeg * Math.PI) / 180, (light.elevationDeg * Math.PI) / 180];
  const lit = { x: Math.sin(azimuth) * Math.cos(elevation), y: -Math.sin(elevation) };
  const way: Record<Side, { x: number; y: number }> = {
    light: lit,
    shade: { x: -lit.x, y: -lit.y },
    top: { x: 0, y: -1 },
    bottom: { x: 0, y: 1 },
    left: { x: -1, y: 0 },
    right: { x: 1, y: 0 },
  };
  return way[side];
}

/** Strokes over surfaces look at every second pixel of the canvas. */
const FINE_FACTOR = 2;
const fines = new WeakMap<Rgba, Aimed>();
function fineOf(reference: Rgba, width: number, height: number, { dark, light }: Reach): StageInput['fine'] {
  const [w, h] = [Math.ceil(width / FINE_FACTOR), Math.ceil(height / FINE_FACTOR)];
  return { aim: kept(fines, reference, w, h, { dark, light }), factor: FINE_FACTOR };
}

const strokesInPx = ({ pass, widthMm, lengthMm, everyMm, count }: SurfaceStrokes, mmPerPx: number): StageStrokes => ({
  widthPx: widthMm / mmPerPx,
  lengthPx: lengthMm / mmPerPx,
  everyPx: everyMm / mmPerPx,
  jitter: Math.abs(turnOf(pass.jitterDeg)),
  ends: Math.round(256 * (1 - pass.taper)),
  gain: pass.gain / 2,
  only: pass.only ?? null,
  isByPicture: pass.isByPicture === true,
  most: count,
});

type Aimed = { width: number; height: number; dark: number; light: number; aim: LabRaster };
const aims = new WeakMap<Rgba, Aimed>();
/** The picture, smaller and moved into reach; worked out once for a picture. */
const aimOf = (reference: Rgba, width: number, height: number, reach: Reach): LabRaster =>
  kept(aims, reference, width, height, reach);

function kept(cache: WeakMap<Rgba, Aimed>, reference: Rgba, width: number, height: number, { dark, light }: Reach): LabRaster {
  const known = cache.get(reference);
  if (known?.width === width && known.height === height && known.dark === dark && known.light === light) return known.aim;
  const aim = movedIntoReach(labRaster(shrink(reference, width, height)), { dark, light });
  cache.set(reference, { width, height, dark, light, aim });
  return aim;
}

/** Half the width over which an edge is lost, in mm; hard edges have none. */
const softMm = { soft: 2.6, lost: 7 } as const;

/** The rows that an outline can reach into, with what its edges may fade beyond it. */
function rowsOf(outline: Outline, height: number, mmPerPx: number): { from: number; to: number } {
  const box = outlineBox(outline);
  if (!box) return { from: 0, to: -1 };
  const past = 2 * softMm.lost;
  return {
    from: Math.max(0, Math.floor((box.y - past) / mmPerPx) - 1),
    to: Math.min(height - 1, Math.ceil((box.y + box.height + past) / mmPerPx) + 1),
  };
}

/** Makes the masks of areas fade where they meet a neighbour softly: later paint runs out over the edge. */
function soften(lesson: Lesson, areas: readonly StageArea[], width: number, height: number, mmPerPx: number): void {
  const crisp = new Map(areas.map((area) => [area.id, area.seen]));
  for (const area of areas) {
    const edges = lesson.areas.find((one) => one.id === area.id)?.edges ?? [];
    for (const kind of ['soft', 'lost'] as const) {
      const others = edges.flatMap((edge) => (edge.kind === kind ? (crisp.get(edge.with) ?? []) : []));
      if (others.length === 0) continue;
      // A small area keeps its shape.
      const acrossMm = (2 * outlineArea(area.outline)) / Math.max(1, outlineLength(area.outline));
      const radius = Math.max(1, Math.round(Math.min(softMm[kind], acrossMm * 0.2) / mmPerPx));
      const beside = new Uint8Array(width * height);
      for (const mask of others) for (let i = 0; i < beside.length; i++) if (mask[i] !== 0) beside[i] = 255;
      const near = boxed(beside, width, height, radius);
      const faded = boxed(boxed(crisp.get(area.id) as Uint8Array, width, height, radius), width, height, radius >> 1);
      const seen = area.seen.slice();
      for (let i = 0; i < seen.length; i++) if (near[i] !== 0) seen[i] = faded[i] as number;
      area.seen = seen;
    }
  }
}

/** The mean over a square, by running sums. */
function boxed(mask: Uint8Array, width: number, height: number, radius: number): Uint8Array {
  if (radius < 1) return mask;
  const rows = new Uint8Array(mask.length);
  const out = new Uint8Array(mask.length);
  const run = (from: Uint8Array, to: Uint8Array, start: number, stride: number, length: number) => {
    let sum = 0;
    for (let i = -radius; i < length; i++) {
      if (i + radius < length) sum += from[start + (i + radius) * stride] as number;
      if (i - radius - 1 >= 0) sum -= from[start + (i - radius - 1) * stride] as number;
      if (i >= 0) to[start + i * stride] = Math.floor(sum / (2 * radius + 1));
    }
  };
  for (let y = 0; y < height; y++) run(mask, rows, y * width, 1, width);
  for (let x = 0; x < width; x++) run(rows, out, x, width, height);
  return out;
}
