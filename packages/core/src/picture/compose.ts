import type { Correction, Lab, Outline, Placement, Thing } from '@viaticum/contract';
import { labToXyz, xyzToSrgb } from '@viaticum/kernels/colour';
import { byteOfLinear, linearOfByte, type Rgba, rgba, shrink, sizeWithin } from '@viaticum/kernels/raster';
import { grow } from '@viaticum/kernels/segment';
import { scanOutline } from '../area/index.js';
import { canvasToPixel } from './crop.js';
import { fillFromBehind } from './fill.js';

/** The largest raster that measures run on. */
export const WORK_PIXELS = 1_800_000;
const GROWN_MM = 3;

/** A canvas's face as pixels: what is measured, and where nothing lies (0), a picture (1), its continued edge (2), paint of one's own (3). `patterned`: areas behind a thing that is gone whose pattern the fill does not carry on. */
export type LaidPicture = { picture: Rgba; source: Uint8Array; mmPerPx: number; patterned: string[] };

/** Size in pixels of the raster for a canvas, with its scale. */
export function workSize(canvas: { widthMm: number; heightMm: number }, pixels = WORK_PIXELS) {
  const mmPerPx = Math.sqrt((canvas.widthMm * canvas.heightMm) / pixels);
  const [width, height] = [Math.max(1, Math.round(canvas.widthMm / mmPerPx)), Math.max(1, Math.round(canvas.heightMm / mmPerPx))];
  return { width, height, mmPerPx: canvas.widthMm / width };
}

/** Factors on linear red, green and blue that make the neutral spot grey at its own lightness and the white spot L* 96. */
export function correctionGains(correction: Correction | undefined): [number, number, number] {
  const gains: [number, number, number] = [1, 1, 1];
  if (!correction) return gains;
  const light = (rgb: readonly number[]) =>
    rgb.map((value) => Math.max(0.002, linearOfByte[Math.round(value)] as number)) as [number, number, number];
  const lum = ([r, g, b]: readonly [number, number, number]) => 0.2126 * r + 0.7152 * g + 0.0722 * b;
  if (correction.neutral) {
    const spot = light(correction.neutral.rgb);
    for (let c = 0; c < 3; c++) gains[c as 0] = lum(spot) / (spot[c as 0] as number);
  }
  if (correction.white) {
    const spot = light(correction.white.rgb).map((value, c) => value * gains[c as 0]) as [number, number, number];
    if (!correction.neutral) for (let c = 0; c < 3; c++) gains[c as 0] = lum(spot) / spot[c as 0];
    const lift = 0.9 / lum(spot);
    for (let c = 0; c < 3; c++) gains[c as 0] *= lift;
  }
  return gains.map((gain) => Math.min(8, Math.max(0.125, gain))) as [number, number, number];
}

/** One reference with its pixels (at any size) and the size the placement speaks of. */
export type Source = {
  pixels: Rgba;
  widthPx: number;
  heightPx: number;
  placement: Placement;
  correction?: Correction;
  extend?: boolean;
};

/** Reads a placed reference at places of the canvas: bilinear, from a copy no finer than needed, corrected. */
function reader(source: Source, mmPerPx: number) {
  const { widthPx, heightPx, placement } = source;
  const wanted = ((widthPx * placement.mmPerPx) / mmPerPx) * ((heightPx * placement.mmPerPx) / mmPerPx);
  const size = sizeWithin(source.pixels, Math.max(16, wanted * 1.3));
  const { data, width, height } = shrink(source.pixels, size.width, size.height);
  const gains = correctionGains(source.correction);
  const tables = gains.map((gain) => linearOfByte.map((light) => light * gain)) as [Float32Array, Float32Array, Float32Array];
  const [sx, sy] = [width / widthPx, height / heightPx];
  // The placement as an affine map, from three of its points.
  const from = (x: number, y: number) => canvasToPixel({ widthPx, heightPx }, placement, [x, y]);
  const [o, ex, ey] = [from(0, 0), from(1, 0), from(0, 1)];
  const [ax, ay, bx, by] = [ex[0] - o[0], ex[1] - o[1], ey[0] - o[0], ey[1] - o[1]];
  const clampX = (x: number) => (x < 0 ? 0 : x >= width ? width - 1 : x);
  const clampY = (y: number) => (y < 0 ? 0 : y >= height ? height - 1 : y);
  /** 0 outside, 1 on the picture, 2 on its continued edge; the colour is written to `out`. */
  return (xMm: number, yMm: number, out: Uint8ClampedArray | Uint8Array, at: number): 0 | 1 | 2 => {
    const px = (o[0] + ax * xMm + bx * yMm) * sx;
    const py = (o[1] + ay * xMm + by * yMm) * sy;
    const inside = px >= 0 && py >= 0 && px <= width && py <= height;
    if (!inside && !source.extend) return 0;
    const x = Math.floor(px - 0.5);
    const y = Math.floor(py - 0.5);
    const u = px - 0.5 - x;
    const v = py - 0.5 - y;
    const [x0, x1, y0, y1] = [clampX(x), clampX(x + 1), clampY(y) * width, clampY(y + 1) * width];
    for (let c = 0; c < 3; c++) {
      const table = tables[c as 0];
      const p = table[data[(y0 + x0) * 4 + c] as number] as number;
      const q = table[data[(y0 + x1) * 4 + c] as number] as number;
      const r = table[data[(y1 + x0) * 4 + c] as number] as number;
      const s = table[data[(y1 + x1) * 4 + c] as number] as number;
      const top = p + (q - p) * u;
      out[at + c] = byteOfLinear(top + (r + (s - r) * u - top) * v);
    }
    out[at + 3] = 255;
    return inside ? 1 : 2;
  };
}

/** An area as far as composing needs it. Back to front. */
export type ComposeArea = { id: string; outline: Outline; thingId?: string | undefined; targetLab?: Lab | undefined };
export type Composition = {
  canvas: { widthMm: number; heightMm: number };
  /** The whole picture first; others by the id that an added thing names. */
  whole: Source | null;
  others: ReadonlyMap<string, Source>;
  areas: readonly ComposeArea[];
  things: readonly Thing[];
  /** Colour of the bare support. */
  bare: [number, number, number];
};

const byteRgb = (lab: Lab): [number, number, number] =>
  xyzToSrgb(labToXyz(lab)).map((value) => Math.round(value * 255)) as [number, number, number];

/**
 * The picture as it will be painted: the placed and corrected reference; dropped things and the places that moved things left
 * filled from the areas behind them; moved ones drawn where they are now; added ones cut from another reference or in their
 * areas' own colours. With no reference at all: areas in their chosen colours.
 */
export function compose(plan: Composition, pixels = WORK_PIXELS): LaidPicture {
  const { width, height, mmPerPx } = workSize(plan.canvas, pixels);
  const picture = rgba(width, height);
  const out = picture.data;
  const source = new Uint8Array(width * height);
  const read = plan.whole && reader(plan.whole, mmPerPx);
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at++) {
      const kind = read ? read((x + 0.5) * mmPerPx, (y + 0.5) * mmPerPx, out, at * 4) : 0;
      source[at] = kind;
      if (kind === 0) out.set([...plan.bare, 255], at * 4);
    }
  const byThing = new Map<string, ComposeArea[]>();
  for (const area of plan.areas) if (area.thingId) byThing.set(area.thingId, [...(byThing.get(area.thingId) ?? []), area]);
  if (!read) {
    for (const area of plan.areas) {
      const thing = plan.things.find((one) => one.id === area.thingId);
      if (thing?.fate === 'dropped') continue;
      paintFlat(area, out, source, width, height, mmPerPx);
    }
    return { picture, source, mmPerPx, patterned: [] };
  }
  let patterned: string[] = [];
  // Empty the places of things that are gone from where the picture has them.
  const gone = plan.things.filter((one) => one.fate === 'dropped' || one.fate === 'moved');
  if (gone.length > 0) {
    const mask = new Uint8Array(width * height);
    for (const thing of gone)
      for (const area of byThing.get(thing.id) ?? [])
        scanOutline(backOf(area.outline, thing), width, height, mmPerPx, (row, from, to) =>
          mask.fill(1, row * width + from, row * width + to + 1),
        );
    const goneIds = new Set(gone.map((one) => one.id));
    const behind = plan.areas.filter((area) => !area.thingId || !goneIds.has(area.thingId));
    const found = fillFromBehind(
      picture,
      grow(mask, width, height, Math.max(1, Math.round(GROWN_MM / mmPerPx))),
      mask,
      behind,
      mmPerPx,
    );
    patterned = found.map((i) => (behind[i] as ComposeArea).id);
  }
  // Things that were moved or added, back to front as their areas lie.
  const buffer = new Uint8ClampedArray(4);
  for (const area of plan.areas) {
    const thing = plan.things.find((one) => one.id === area.thingId);
    if (!thing || (thing.fate !== 'moved' && thing.fate !== 'added')) continue;
    const from = thing.fate === 'added' ? plan.others.get(thing.fromReferenceId ?? '') : plan.whole;
    if (!from) {
      paintFlat(area, out, source, width, height, mmPerPx);
      continue;
    }
    const take = reader(from, mmPerPx / (thing.move?.scale ?? 1));
    scanOutline(area.outline, width, height, mmPerPx, (row, first, last) => {
      for (let x = first; x <= last; x++) {
        const [px, py] = backPoint([(x + 0.5) * mmPerPx, (row + 0.5) * mmPerPx], thing);
        if (take(px, py, buffer, 0) === 0) continue;
        out.set(buffer, (row * width + x) * 4);
        source[row * width + x] = 1;
      }
    });
  }
  return { picture, source, mmPerPx, patterned };
}

function paintFlat(
  area: ComposeArea,
  out: Uint8ClampedArray | Uint8Array,
  source: Uint8Array,
  width: number,
  height: number,
  mmPerPx: number,
): void {
  if (!area.targetLab) return;
  const colour = byteRgb(area.targetLab);
  scanOutline(area.outline, width, height, mmPerPx, (row, from, to) => {
    for (let x = from; x <= to; x++) {
      out.set(colour, (row * width + x) * 4);
      out[(row * width + x) * 4 + 3] = 255;
      source[row * width + x] = 3;
    }
  });
}

/** Where a moved thing's place on the canvas lies in the unmoved picture. */
function backPoint([x, y]: [number, number], { move }: Thing): [number, number] {
  if (!move) return [x, y];
  const { dxMm, dyMm, scale, aboutXMm, aboutYMm } = move;
  return [(x - dxMm - aboutXMm) / scale + aboutXMm, (y - dyMm - aboutYMm) / scale + aboutYMm];
}
const backOf = (outline: Outline, thing: Thing): Outline =>
  outline.map((polygon) => polygon.map((ring) => ring.map((point) => backPoint(point, thing))));
