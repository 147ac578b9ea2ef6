import type { Lesson, Outline, Step } from '@viaticum/contract';
import { brushOf } from '../brush/index.js';
import { extentsOf, looksOf, visibleOf } from '../lesson/index.js';
import { laysPaint } from '../plan/index.js';
import { type LabRaster, labRaster, type Rgba, shrink } from '../raster/index.js';
import { extentOutline, outlineBox, scanOutline } from '../zone/index.js';
import { hashText, turnOf } from './chance.js';
import type { TouchName } from './strokes.js';

export type StageColour = { rgb: readonly [number, number, number]; lab: readonly [number, number, number] };
export type StageZone = {
  id: string;
  /** 255 where the zone is seen, and where it is painted (past its edge), 0 elsewhere. */
  seen: Uint8Array;
  painted: Uint8Array;
  outline: Outline;
  turn: number;
  seed: number;
};
/** What one step does to one zone. */
export type StagePass = {
  zone: number;
  colours: StageColour[];
  touch: TouchName;
  isBlend: boolean;
  isFirst: boolean;
  share: number;
  brushPx: number;
};
export type StageStep = { id: string; seed: number; passes: StagePass[]; lines: boolean; key: string };
export type StageInput = {
  width: number;
  height: number;
  mmPerPx: number;
  bare: readonly [number, number, number];
  zones: StageZone[];
  steps: StageStep[];
  /** The reference as it will be painted, `factor` times smaller; null without one. */
  aim: LabRaster | null;
  factor: number;
  seed: number;
};

/** Cells of the coarse map on which colours and places are chosen. */
export const FACTOR = 6;
const LEAST_BRUSH_PX = 3;
const WHOLE = 'whole canvas';
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
 * A lesson as the painting engine takes it, `widthPx` wide: masks of what is seen and painted of every zone, and for every step
 * its colours, brush and technique. `reference` is the picture as it will be painted, over the whole face of the canvas.
 */
export function stageInput(lesson: Lesson, reference: Rgba | null, widthPx: number): StageInput {
  const { support } = lesson;
  const mmPerPx = support.widthMm / widthPx;
  const [width, height] = [widthPx, Math.max(1, Math.round(support.heightMm / mmPerPx))];
  const extents = new Map(extentsOf(lesson).map((one) => [one.id, one]));
  const mask = (outline: Outline): Uint8Array => {
    const data = new Uint8Array(width * height);
    scanOutline(outline, width, height, mmPerPx, (row, from, to) => data.fill(255, row * width + from, row * width + to + 1));
    return data;
  };
  const zones = visibleOf(lesson)
    .filter((part) => part.areaCm2 > 0)
    .map((part): StageZone => {
      const extent = extents.get(part.id);
      const box = outlineBox(part.outline) as { width: number; height: number };
      const own = lesson.zones.find((zone) => zone.id === part.id);
      return {
        id: part.id,
        seen: mask(part.outline),
        painted: extent ? mask(extentOutline(extent)) : mask(part.outline),
        outline: part.outline,
        turn: turnOf(own?.directionDeg ?? (box.width >= box.height ? 0 : 90)),
        seed: hashText(part.id),
      };
    });
  // A step that names no zone works on the whole canvas at once.
  const all = new Uint8Array(width * height).fill(255);
  zones.push({ id: WHOLE, seen: all, painted: all, outline: [], turn: 0, seed: hashText(WHOLE) });
  const number = new Map(zones.map((zone, i) => [zone.id, i]));
  const looks = looksOf(lesson);
  const begun = new Set<number>();
  const steps = lesson.steps.map((step): StageStep => {
    const seed = hashText(step.id);
    const lines = step.kind === 'transfer' || step.kind === 'draw';
    const colours = step.mixIds.flatMap((id): StageColour[] => {
      const colour = looks.get(id)?.colour;
      if (!colour) return [];
      const [r = 0, g = 0, b = 0] = (looks.get(id)?.rgb.match(/\d+/g) ?? []).map(Number);
      return [{ rgb: [r, g, b], lab: colour.lab }];
    });
    const ids = step.zoneIds.length > 0 ? step.zoneIds : [WHOLE];
    const isPaint = laysPaint(step) && colours.length > 0 && step.technique !== undefined;
    const passes = !isPaint
      ? []
      : ids.flatMap((id): StagePass[] => {
          const zone = number.get(id);
          if (zone === undefined) return [];
          const isFirst = step.zoneIds.length > 0 && !begun.has(zone);
          if (step.zoneIds.length > 0) begun.add(zone);
          return [
            {
              zone,
              colours,
              touch: touchOf[step.technique as NonNullable<Step['technique']>],
              isBlend: step.technique === 'blend' && colours.length > 1,
              isFirst: isFirst || step.zoneIds.length === 0,
              share: step.coverShare ?? 1,
              brushPx: Math.max(LEAST_BRUSH_PX, (brushOf(step.brushId)?.widthMm ?? 12) / mmPerPx),
            },
          ];
        });
    return { id: step.id, seed, passes, lines, key: JSON.stringify([step.id, passes, lines]) };
  });
  const aim = reference ? labRaster(shrink(reference, Math.ceil(width / FACTOR), Math.ceil(height / FACTOR))) : null;
  return { width, height, mmPerPx, bare: bare[support.kind], zones, steps, aim, factor: FACTOR, seed: hashText(lesson.title) };
}
