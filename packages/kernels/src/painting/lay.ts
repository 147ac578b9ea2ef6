import { chance, hash, TURN } from './chance.js';
import { turnAt } from './direction.js';
import type { Coarse, ReadyPass } from './pass.js';
import type { StageInput } from './scene.js';
import { type Covered, type Pen, type Stroke, touches, type Veil } from './strokes.js';

/** What is laid at once: where, in which of the pass's colours (-1: each place its own), and how colours run into each other. */
export type Laying = { shape: Uint8Array; group: number; seed: number; isWhole: boolean; field: Uint8Array | null };
/** The place of a stroke: its square of the grid, its middle, its turn among the others, and its colour. */
export type Seed = { gx: number; gy: number; x: number; y: number; order: number; number: number };
/** One shape as it was laid: the places of its strokes by round, and what is covered well (where gaps are filled). */
export type LaidStrokes = { rounds: Seed[][]; covered: Uint8Array | null };

/** Distance of strokes, as a share of the root of width times length. */
const SPACING = 0.54;

export type Round = { widthPx: number; spacing: number };
/** A first round with the brush, and where all is to be covered two finer ones into the gaps. */
export function roundsOf({ pass, brushPx }: ReadyPass, isWhole: boolean): Round[] {
  const touch = touches[pass.touch];
  const scales = isWhole && touch.opacity > 180 ? [1, 0.72, 0.42] : [1];
  return scales.map((scale) => {
    const widthPx = Math.max(2.5, brushPx * scale);
    return { widthPx, spacing: Math.max(2, Math.round(SPACING * Math.sqrt((widthPx * touch.long * widthPx) / 10))) };
  });
}

/** The stroke at a place, in one round. */
export function strokeAt(
  { area, pass, chosen }: ReadyPass,
  laying: Laying,
  { round, widthPx }: { round: number; widthPx: number },
  at: Seed,
): Stroke | null {
  const colour = chosen.palette[Math.max(0, at.number)];
  if (!colour) return null;
  const direction = (x: number, y: number) =>
    (turnAt(area, x, y) + (((hash(area.seed, Math.floor(x) >> 6, Math.floor(y) >> 6) & 127) - 64) >> 1) + TURN) & (TURN - 1);
  const seed = hash(laying.seed, round, at.x, at.y);
  const { shape: mask, field } = laying;
  const film = chosen.films?.[Math.max(0, at.number)] ?? null;
  return { x: at.x, y: at.y, widthPx, mask, colour, film, touch: touches[pass.touch], direction, seed, field };
}

type Square = { round: number; spacing: number; gx: number; gy: number };
/** The place in one square of the grid, or null where none is: by chance, or in a gap of what is done. */
export function seedAt(
  { width, height, factor }: StageInput,
  { coarse, chosen }: ReadyPass,
  { shape, group, seed }: Laying,
  { round, spacing, gx, gy }: Square,
  covered: Uint8Array | null,
): Seed | null {
  const draw = chance(hash(seed, round, gx, gy));
  const x = gx + ((draw() * spacing) >> 16);
  const y = gy + ((draw() * spacing) >> 16);
  const order = draw() * 65536 + ((gx * 31 + gy) & 65535);
  const place = round > 0 && covered ? gapIn({ covered, round }, shape, width, height, gx, gy, spacing) : { x, y };
  if (!place || place.x >= width || place.y >= height || shape[place.y * width + place.x] === 0) return null;
  const number = group >= 0 ? group : chosen.index[cellAt(place.x, place.y, coarse, factor)];
  return { gx, gy, ...place, order, number };
}

/** Lays the strokes of one shape; gives where they lie. */
export function lay(input: StageInput, pen: Pen, ready: ReadyPass, laying: Laying): LaidStrokes {
  const { width, height } = input;
  const box = boxOf(laying.shape, width, height);
  const covered = laying.isWhole ? new Uint8Array(width * height) : null;
  const veil = veilOver(ready, pen.canvas.rgb);
  const rounds = roundsOf(ready, laying.isWhole).map(({ widthPx, spacing }, round) => {
    const seeds: Seed[] = [];
    if (!box) return seeds;
    // The grid lies on the canvas, not on the area, so that an area that changes keeps its strokes elsewhere.
    for (let gy = box.y0 - (box.y0 % spacing); gy <= box.y1; gy += spacing)
      for (let gx = box.x0 - (box.x0 % spacing); gx <= box.x1; gx += spacing) {
        const at = seedAt(input, ready, laying, { round, spacing, gx, gy }, covered);
        if (at) seeds.push(at);
      }
    for (const at of inTurn(seeds)) {
      const stroke = strokeAt(ready, laying, { round, widthPx }, at);
      if (stroke) pen.lay(stroke, covered && { covered, round }, veil);
    }
    return seeds;
  });
  return { rounds, covered };
}

/** A glaze is one film, however often the brush goes over it: what lies below, and how much of the film is there. */
export const veilOver = ({ chosen }: ReadyPass, below: Uint8Array): Veil | null =>
  chosen.films && { below: below.slice(), laid: new Uint8Array(below.length / 3) };

/** Places in the order in which they are painted: by chance, and where that is the same by the grid. */
export const inTurn = (seeds: Seed[]): Seed[] => seeds.sort((a, b) => a.order - b.order || a.gy - b.gy || a.gx - b.gx);

const cellAt = (x: number, y: number, { width, height }: Coarse, factor: number): number =>
  Math.min(height - 1, Math.floor(y / factor)) * width + Math.min(width - 1, Math.floor(x / factor));

function boxOf(mask: Uint8Array, width: number, height: number): { x0: number; y0: number; x1: number; y1: number } | null {
  let [x0, y0, x1, y1] = [width, height, -1, -1];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (mask[y * width + x] === 0) continue;
      if (x < x0) x0 = x;
      if (x > x1) x1 = x;
      if (y < y0) y0 = y;
      y1 = y;
    }
  return x1 >= 0 ? { x0, y0, x1, y1 } : null;
}

type Place = { x: number; y: number };
/** Somewhere in the middle of what is still bare before a round in a cell of the grid, or null. */
function gapIn(
  { covered, round }: Covered,
  mask: Uint8Array,
  width: number,
  height: number,
  gx: number,
  gy: number,
  size: number,
): Place | null {
  let count = 0;
  let found: Place | null = null;
  for (let y = gy; y < Math.min(height, gy + size); y += 2)
    for (let x = gx; x < Math.min(width, gx + size); x += 2) {
      const at = y * width + x;
      if (mask[at] === 0 || (covered[at] > 0 && covered[at] <= round)) continue;
      count++;
      if (!found || (count & (count - 1)) === 0) found = { x, y };
    }
  return count > 1 ? found : null;
}
