import { labRaster } from '../raster/index.js';
import { hash } from './chance.js';
import { type Glaze, glazed, glazeTable } from './glaze.js';
import { type LaidStrokes, type Laying, lay } from './lay.js';
import { layMarks } from './marks.js';
import type { Chosen, Coarse, ReadyPass } from './pass.js';
import type { StageArea, StageColour, StageInput, StagePass, StageStep } from './scene.js';
import { type Canvas, type Pen, toothAt } from './strokes.js';
import { layTexture } from './texture.js';

/** Steps between two colours of a blend. */
const EIGHTHS = 8;
const LINE_RGB = [92, 86, 80] as const;
const THREAD_MM = 1.15;
/** A place is changed only where that brings it nearer to the picture; at least this share of what was asked is. */
const LEAST_SHARE = 0.25;

/** A canvas with nothing on it. */
export function bareCanvas({ width, height, bare }: StageInput): Canvas {
  const rgb = new Uint8Array(width * height * 3);
  rgb.set(bare);
  // What is filled is doubled until all of it is.
  for (let filled = 3; filled < rgb.length; filled *= 2) rgb.copyWithin(filled, 0, Math.min(filled, rgb.length - filled));
  return { width, height, rgb, relief: new Uint8Array(width * height).fill(128) };
}

let known: { width: number; height: number; pitch: number; teeth: Uint8Array } | null = null;
/** The tooth of the canvas at every pixel; the same for all steps of one size, and worked out once. */
export function teethOf({ width, height, mmPerPx }: StageInput): Uint8Array {
  const pitch = Math.max(16, Math.round((THREAD_MM / mmPerPx) * 16));
  if (known?.width !== width || known.height !== height || known.pitch !== pitch) {
    const teeth = new Uint8Array(width * height);
    for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) teeth[y * width + x] = toothAt(x, y, pitch);
    known = { width, height, pitch, teeth };
  }
  return known.teeth;
}

/** Paints a step on the pen's canvas; gives its passes as they were laid. Deterministic from the input's seed, the area and the step. */
export function paintStep(input: StageInput, canvas: Canvas, pen: Pen, step: StageStep): DonePass[] {
  const laid = step.passes.flatMap((pass) => {
    if (!pass.strokes) return [paintReady(input, pen, readyPass(input, canvas, step, pass))];
    layTexture(input, canvas, pen, pass, pass.strokes, step.seed);
    return [];
  });
  for (const marks of step.marks) layMarks(input, pen, marks, step.seed);
  if (step.lines) for (const area of input.areas) drawOutline(canvas, area, input.mmPerPx);
  return laid;
}

export function readyPass(input: StageInput, canvas: Canvas, step: StageStep, pass: StagePass): ReadyPass {
  const area = input.areas[pass.area] as StageArea;
  const own = pass.isFirst ? area.painted : area.seen;
  const seed = hash(input.seed, area.seed, step.seed);
  const coarse = coarseOf(input, canvas, own, area.seen);
  let count = 0;
  for (let i = 0; i < own.length; i++) if (own[i] !== 0) count++;
  return { pass, area, own, coarse, chosen: choose(coarse, pass, seed), seed, brushPx: brushFor(pass.brushPx, count) };
}

const SMALL_SHARE = 0.45;
/** In steps of an eighth, so that an area that grows by a hair keeps its brush. */
function brushFor(wantedPx: number, count: number): number {
  const most = Math.sqrt(count) * SMALL_SHARE;
  if (wantedPx <= most) return Math.max(3, wantedPx);
  let step = 3;
  while (step * 1.125 <= most) step *= 1.125;
  return Math.max(3, Math.min(wantedPx, step));
}

/** What a pass lays by the groups of its colours (one, unless several lie side by side): the shape, and how its colours run. */
export function* layingsOf(input: StageInput, ready: ReadyPass): Generator<Laying> {
  const { pass, own, coarse, chosen, seed } = ready;
  const isWhole = pass.share >= 0.95;
  const groups = pass.isBlend || pass.colours.length === 1 ? 1 : pass.colours.length;
  for (let k = 0; k < groups; k++) {
    const group = groups > 1 ? k : -1;
    // The first of several colours is laid under the others too, so that no ground shows between them.
    const isUnder = k === 0 && pass.isFirst && isWhole;
    const shape = (groups > 1 && !isUnder) || !isWhole ? clipped(input, own, coarse, chosen, group, seed) : own;
    yield { shape, group, seed: hash(seed, k), isWhole, field: pass.isBlend ? blended(coarse, chosen, input) : null };
  }
}

/** A pass as it was laid: what it was made of, and the places of its strokes by group and round. */
export type DonePass = { ready: ReadyPass; layings: Laying[]; laid: LaidStrokes[] };
function paintReady(input: StageInput, pen: Pen, ready: ReadyPass): DonePass {
  const layings = [...layingsOf(input, ready)];
  return { ready, layings, laid: layings.map((laying) => lay(input, pen, ready, laying)) };
}

function coarseOf({ width, height, factor, aim }: StageInput, canvas: Canvas, mask: Uint8Array, seen: Uint8Array): Coarse {
  const [w, h] = [Math.ceil(width / factor), Math.ceil(height / factor)];
  const cells: number[] = [];
  const sure: number[] = [];
  const isSeen = (x: number, y: number) =>
    seen[Math.max(0, Math.min(height - 1, y)) * width + Math.max(0, Math.min(width - 1, x))] !== 0;
  const small = { width: w, height: h, data: new Uint8ClampedArray(w * h * 4) };
  const { rgb } = canvas;
  for (let cy = 0; cy < h; cy++)
    for (let cx = 0; cx < w; cx++) {
      const x = Math.min(width - 1, cx * factor + (factor >> 1));
      const y = Math.min(height - 1, cy * factor + (factor >> 1));
      if (mask[y * width + x] === 0) continue;
      cells.push(cy * w + cx);
      const near = factor;
      if (isSeen(x - near, y - near) && isSeen(x + near, y - near) && isSeen(x - near, y + near) && isSeen(x + near, y + near))
        sure.push(cy * w + cx);
      // Four places of the cell are enough to know what lies there.
      const above = Math.max(0, y - 1) * width;
      const below = Math.min(height - 1, y + 1) * width;
      const left = Math.max(0, x - 1);
      const right = Math.min(width - 1, x + 1);
      const [one, two, three, four] = [(above + left) * 3, (above + right) * 3, (below + left) * 3, (below + right) * 3];
      for (let c = 0; c < 3; c++)
        small.data[(cy * w + cx) * 4 + c] = (rgb[one + c] + rgb[two + c] + rgb[three + c] + rgb[four + c]) >> 2;
    }
  const now = labRaster(small);
  return {
    width: w,
    height: h,
    cells: Int32Array.from(cells),
    sure: Int32Array.from(sure),
    now,
    aim: aim && aim.width === w && aim.height === h ? aim : null,
  };
}

function choose(coarse: Coarse, pass: StagePass, seed: number): Chosen {
  const { width, height, cells, now, aim } = coarse;
  const index = new Int16Array(width * height).fill(-1);
  const palette = pass.isBlend ? blendPalette(pass.colours) : pass.colours;
  const score = new Float32Array(cells.length);
  const strength = aim && graded.has(pass.touch) && pass.share < 0.95 ? new Uint8Array(width * height) : null;
  const rows = cells.length > 0 ? [Math.floor(cells[0] / width), Math.floor((cells.at(-1) as number) / width)] : [0, 0];
  const placed = pass.at ? placedColours(coarse, pass.colours, pass.at) : null;
  cells.forEach((cell, i) => {
    if (placed) {
      index[cell] = nearestOf(palette, placed(cell));
      score[i] = patchAt(cell % width, Math.floor(cell / width), seed ^ 0x5bd1);
    } else if (aim) {
      let best = 0;
      let least = Number.POSITIVE_INFINITY;
      palette.forEach(({ lab }, k) => {
        const off = apart(aim, cell, lab);
        if (off < least) {
          least = off;
          best = k;
        }
      });
      index[cell] = best;
      const there = [now.l[cell], now.a[cell], now.b[cell]] as const;
      score[i] = apart(aim, cell, there) - least;
      if (strength) {
        const { lab, glaze } = palette[best] as StageColour;
        const would = glaze ? glazed(there, glaze) : lab;
        const share = along(there, would, aim, cell);
        strength[cell] = Math.round(share * 255);
        // What brings the canvas nearer at all counts, though the mix's own colour would go too far.
        score[i] = share * share * apartLab(there, would);
      }
    } else {
      // Without a picture: a blend goes from top to bottom, other colours lie in patches.
      const y = Math.floor(cell / width);
      const down = (y - rows[0]) / Math.max(1, rows[1] - rows[0]);
      const patch = patchAt(cell % width, y, seed) / 256;
      index[cell] = Math.min(palette.length - 1, Math.floor((pass.isBlend ? down : patch) * palette.length));
      score[i] = patchAt(cell % width, y, seed ^ 0x5bd1);
    }
  });
  const side = sideOf(coarse, pass);
  if (side) score.set(side);
  // Towards the other side the paint thins out.
  if (side && strength) for (const [i, cell] of cells.entries()) strength[cell] = Math.round(255 * clamp(2 * side[i] - 0.6));
  if (palette.length > 1 && aim) for (let round = 0; round < 2; round++) calm(coarse, index, palette.length);
  if (pass.share < 0.95) {
    const order = Array.from(cells.keys()).sort((a, b) => score[b] - score[a]);
    const wanted = Math.min(cells.length, Math.round(cells.length * pass.share * (strength ? GRADED_REACH : 1)));
    const least = Math.round(wanted * LEAST_SHARE);
    order.forEach((i, rank) => {
      const helps = side !== null || !aim || score[i] > (strength ? 4 : 0);
      if (rank >= wanted || (!helps && rank >= least)) index[cells[i]] = -1;
    });
    if (cells.length > 60) for (let round = 0; round < 2; round++) gather(coarse, index);
  }
  const films = palette.every(({ glaze }) => glaze) ? palette.map(({ glaze }) => glazeTable(glaze as Glaze)) : null;
  return { index, palette: palette.map(({ rgb }) => [...rgb] as [number, number, number]), films, strength };
}

type Tone = readonly [number, number, number];
const nearestOf = (palette: readonly StageColour[], lab: Tone): number => {
  let best = 0;
  let least = Number.POSITIVE_INFINITY;
  palette.forEach((one, k) => {
    const off = apartLab(one.lab, lab);
    if (off < least) {
      least = off;
      best = k;
    }
  });
  return best;
};

/** How far (0 there, about 1 at the far side) a place of an area's box lies from where a colour was put. */
const farFrom: Record<NonNullable<NonNullable<StagePass['at']>[number]>, (u: number, v: number) => number> = {
  top: (_, v) => v,
  bottom: (_, v) => 1 - v,
  left: (u) => u,
  right: (u) => 1 - u,
  corners: (u, v) => Math.hypot(Math.min(u, 1 - u), Math.min(v, 1 - v)) * Math.SQRT2,
  middle: (u, v) => Math.hypot(u - 0.5, v - 0.5) * Math.SQRT2,
};
/** A colour without a place lies everywhere, where no other is near. */
const EVERYWHERE = 0.4;

/** What a wet passage shows at a cell: its colours by how near they were put, each fading into the next (inverse distances). */
function placedColours(
  { width, cells }: Coarse,
  colours: readonly StageColour[],
  at: NonNullable<StagePass['at']>,
): (cell: number) => Tone {
  let [left, right, top, bottom] = [width, 0, Number.POSITIVE_INFINITY, 0];
  for (const cell of cells) {
    const [x, y] = [cell % width, Math.floor(cell / width)];
    left = Math.min(left, x);
    right = Math.max(right, x);
    top = Math.min(top, y);
    bottom = Math.max(bottom, y);
  }
  return (cell) => {
    const u = ((cell % width) - left) / Math.max(1, right - left);
    const v = (Math.floor(cell / width) - top) / Math.max(1, bottom - top);
    let sum = 0;
    const lab: [number, number, number] = [0, 0, 0];
    colours.forEach((colour, k) => {
      const place = at[k];
      const far = place ? farFrom[place](u, v) : EVERYWHERE;
      const weight = 1 / ((far + 0.04) * (far + 0.04));
      sum += weight;
      for (let c = 0; c < 3; c++) lab[c] = lab[c] + weight * colour.lab[c];
    });
    return [lab[0] / sum, lab[1] / sum, lab[2] / sum];
  };
}

const clamp = (value: number) => Math.min(1, Math.max(0, value));

/** How far every cell lies towards the side on which a pass is laid, 0-1 over its area; null where it is laid all over. */
function sideOf({ width, cells }: Coarse, { toward }: StagePass): Float32Array | null {
  if (!toward || cells.length === 0) return null;
  const far = Float32Array.from(cells, (cell) => (cell % width) * toward.x + Math.floor(cell / width) * toward.y);
  const [low, high] = [far.reduce((a, b) => Math.min(a, b)), far.reduce((a, b) => Math.max(a, b))];
  return far.map((value) => (value - low) / Math.max(1e-6, high - low));
}

/** Touches whose paint can be graded by the hand's weight. */
const graded: ReadonlySet<StagePass['touch']> = new Set(['broken', 'veil', 'glaze']);
/** A graded coat fades out over more than its share. */
const GRADED_REACH = 1.8;

/** How far from what lies there towards a mix's colour the picture lies, 0-1. */
function along(
  there: readonly [number, number, number],
  lab: readonly [number, number, number],
  aim: NonNullable<StageInput['aim']>,
  cell: number,
): number {
  const want = [aim.l[cell], aim.a[cell], aim.b[cell]];
  let [up, down] = [0, 0];
  for (let c = 0; c < 3; c++) {
    const way = lab[c] - there[c];
    up += way * (want[c] - there[c]);
    down += way * way;
  }
  return down < 1 ? 0 : Math.max(0, Math.min(1, up / down));
}
const apartLab = (one: readonly [number, number, number], other: readonly [number, number, number]): number =>
  (one[0] - other[0]) * (one[0] - other[0]) +
  (one[1] - other[1]) * (one[1] - other[1]) +
  (one[2] - other[2]) * (one[2] - other[2]);

/** Squared difference in Lab. */
function apart(aim: NonNullable<StageInput['aim']>, cell: number, lab: readonly [number, number, number]): number {
  const [dl, da, db] = [aim.l[cell] - lab[0], aim.a[cell] - lab[1], aim.b[cell] - lab[2]];
  return dl * dl + da * da + db * db;
}

/** The colours between every two neighbours of a blend, by lightness, in eighths. */
function blendPalette(colours: readonly StageColour[]): StageColour[] {
  const sorted = [...colours].sort((a, b) => a.lab[0] - b.lab[0]);
  const out: StageColour[] = [];
  sorted.slice(1).forEach((to, k) => {
    const from = sorted[k] as StageColour;
    for (let i = k === 0 ? 0 : 1; i <= EIGHTHS; i++) {
      const mix = (a: number, b: number) => a + ((b - a) * i) / EIGHTHS;
      out.push({
        rgb: [0, 1, 2].map((c) => Math.round(mix(from.rgb[c], to.rgb[c]))) as unknown as StageColour['rgb'],
        lab: [0, 1, 2].map((c) => mix(from.lab[c], to.lab[c])) as unknown as StageColour['lab'],
      });
    }
  });
  return out;
}

/** Takes the commonest colour of a cell and its eight neighbours, so that shapes are flat and have no specks. */
function calm({ width, height, cells }: Coarse, index: Int16Array, count: number): void {
  const before = index.slice();
  const votes = new Uint8Array(count);
  for (const cell of cells) {
    votes.fill(0);
    const [cx, cy] = [cell % width, Math.floor(cell / width)];
    let best = before[cell];
    for (let y = Math.max(0, cy - 1); y <= Math.min(height - 1, cy + 1); y++)
      for (let x = Math.max(0, cx - 1); x <= Math.min(width - 1, cx + 1); x++) {
        const own = before[y * width + x];
        if (own < 0) continue;
        votes[own] = votes[own] + 1;
        if (votes[own] > votes[best]) best = own;
      }
    index[cell] = best;
  }
}

/** Takes what most of a cell's neighbours do, so that what is left alone and what is painted lie in patches. */
function gather({ width, height, cells }: Coarse, index: Int16Array): void {
  const before = index.slice();
  for (const cell of cells) {
    const [cx, cy] = [cell % width, Math.floor(cell / width)];
    let [painted, all, some] = [0, 0, -1];
    for (let y = Math.max(0, cy - 1); y <= Math.min(height - 1, cy + 1); y++)
      for (let x = Math.max(0, cx - 1); x <= Math.min(width - 1, cx + 1); x++) {
        const own = before[y * width + x];
        all++;
        if (own < 0) continue;
        painted++;
        some = own;
      }
    const is = before[cell] >= 0;
    if (is && painted * 3 < all) index[cell] = -1;
    else if (!is && painted * 3 > all * 2) index[cell] = some;
  }
}

/** Smooth chance on the coarse map, 0-255: patches some cells wide. */
function patchAt(x: number, y: number, seed: number): number {
  const size = 9;
  const [gx, gy] = [Math.floor(x / size), Math.floor(y / size)];
  const [fx, fy] = [(x % size) / size, (y % size) / size];
  const at = (i: number, j: number) => hash(seed, gx + i, gy + j) & 255;
  const top = at(0, 0) * (1 - fx) + at(1, 0) * fx;
  const low = at(0, 1) * (1 - fx) + at(1, 1) * fx;
  return Math.min(255, Math.floor(top * (1 - fy) + low * fy));
}

/** How much of a coarse map, in 1/256, one colour takes (or all that are chosen, or what its strength says), with its steps smoothed away. */
function shapeOf({ width, height, cells }: Coarse, { index, strength }: Chosen, group: number): Uint16Array {
  const own = new Uint16Array(width * height);
  for (const cell of cells) {
    const value = index[cell];
    if (value < 0 || (group >= 0 && value !== group)) continue;
    own[cell] = strength ? strength[cell] : 256;
  }
  let field = own;
  // Two rounds of 1 2 1 both ways: the steps of the cells go, and corners keep their place.
  for (let round = 0; round < 2; round++) {
    for (const [stride, length, lines, next] of [
      [1, width, height, width],
      [width, height, width, 1],
    ] as const) {
      const out = new Uint16Array(field.length);
      for (let line = 0; line < lines; line++)
        for (let i = 0; i < length; i++) {
          const at = line * next + i * stride;
          const before = i > 0 ? field[at - stride] : field[at];
          const after = i < length - 1 ? field[at + stride] : field[at];
          out[at] = (before + 2 * field[at] + after + 2) >> 2;
        }
      field = out;
    }
  }
  // What is only a cell wide would be smoothed away altogether.
  for (const cell of cells) if (field[cell] < THIN && own[cell] > THIN) field[cell] = Math.min(own[cell], THIN_KEPT);
  return field;
}

const THIN = 128;
const THIN_KEPT = 210;
/** Below this a graded coat leaves nothing. */
const FAINT = 26;
/** A mask of the chosen cells (of one colour, or all that are chosen), with edges that waver a little. */
function clipped(
  { width, height, factor }: StageInput,
  own: Uint8Array,
  coarse: Coarse,
  chosen: Chosen,
  group: number,
  seed: number,
): Uint8Array {
  const mask = new Uint8Array(width * height);
  const field = shapeOf(coarse, chosen, group);
  const isGraded = chosen.strength !== null;
  // Past the rim of an area its last cells go on, so that its edge is the outline and not the map's.
  const within = new Uint8Array(field.length);
  for (const cell of coarse.cells) within[cell] = 1;
  const value = (cx: number, cy: number, x: number, y: number): number => {
    const at = cy * coarse.width + cx;
    return within[at] === 1 ? field[at] : field[y * coarse.width + x];
  };
  for (const cell of coarse.cells) {
    const [cx, cy] = [cell % coarse.width, Math.floor(cell / coarse.width)];
    const [left, right] = [Math.max(0, cx - 1), Math.min(coarse.width - 1, cx + 1)];
    const [above, below] = [Math.max(0, cy - 1), Math.min(coarse.height - 1, cy + 1)];
    let [least, most] = [65535, 0];
    for (let y = above; y <= below; y++)
      for (let x = left; x <= right; x++) {
        const one = value(x, y, cx, cy);
        if (one < least) least = one;
        if (one > most) most = one;
      }
    if (most < (isGraded ? FAINT : 96)) continue;
    for (let y = cy * factor; y < Math.min(height, (cy + 1) * factor); y++)
      for (let x = cx * factor; x < Math.min(width, (cx + 1) * factor); x++) {
        const at = y * width + x;
        const allowed = own[at];
        if (allowed === 0) continue;
        if (!isGraded && least >= 250) {
          mask[at] = allowed;
          continue;
        }
        const [u, v] = [(x + 0.5) / factor - 0.5, (y + 0.5) / factor - 0.5];
        const [iu, iv] = [Math.floor(u), Math.floor(v)];
        const [fu, fv] = [u - iu, v - iv];
        const [x0, x1] = [Math.max(0, iu), Math.min(coarse.width - 1, iu + 1)];
        const [y0, y1] = [Math.max(0, iv), Math.min(coarse.height - 1, iv + 1)];
        const here =
          (value(x0, y0, cx, cy) * (1 - fu) + value(x1, y0, cx, cy) * fu) * (1 - fv) +
          (value(x0, y1, cx, cy) * (1 - fu) + value(x1, y1, cx, cy) * fu) * fv;
        const waver = (hash(seed, x >> 2, y >> 2) & 63) - 32;
        if (isGraded) {
          const graded = Math.min(255, here + (waver >> 1));
          if (graded > FAINT) mask[at] = (graded * allowed) >> 8;
        } else if (here + waver > 128) mask[at] = allowed;
      }
  }
  return mask;
}

/** The drawn line of an area: a pencil's width, pale enough to be painted over. */
function drawOutline({ width, height, rgb }: Canvas, area: StageArea, mmPerPx: number): void {
  const dot = (x: number, y: number) => {
    const [px, py] = [Math.floor(x), Math.floor(y)];
    if (px < 0 || py < 0 || px >= width || py >= height) return;
    for (let c = 0; c < 3; c++) {
      const i = (py * width + px) * 3 + c;
      rgb[i] = (rgb[i] * 90 + LINE_RGB[c] * 166) >> 8;
    }
  };
  for (const part of area.outline)
    for (const ring of part)
      ring.forEach(([x1, y1], i) => {
        const [x0, y0] = ring[(i + ring.length - 1) % ring.length] as [number, number];
        const steps = Math.max(1, Math.ceil(Math.sqrt((x1 - x0) * (x1 - x0) + (y1 - y0) * (y1 - y0)) / mmPerPx));
        for (let k = 0; k < steps; k++) {
          const [x, y] = [(x0 + ((x1 - x0) * k) / steps) / mmPerPx, (y0 + ((y1 - y0) * k) / steps) / mmPerPx];
          dot(x, y);
          if (mmPerPx < 0.6) dot(x + 1, y);
        }
      });
}

/** How far colours run into each other where they are blended. */
const RUN_MM = 5;

/** The colours of a blend, each run into its neighbours, for every cell; only where the area lies. */
function blended(coarse: Coarse, { index, palette }: Chosen, { factor, mmPerPx }: StageInput): Uint8Array {
  const run = Math.max(1, Math.round(RUN_MM / (mmPerPx * factor)));
  const { width: w, height: h, cells } = coarse;
  const inside = new Uint8Array(w * h);
  let planes: Float32Array[] = [0, 1, 2].map(() => new Float32Array(w * h));
  const { sure } = coarse;
  // What is seen of the area alone decides; at its rim and past its edge the colours go on as they are.
  for (const cell of sure.length > 0 ? sure : cells) {
    inside[cell] = 1;
    const colour = palette[Math.max(0, index[cell])] as [number, number, number];
    for (const [c, plane] of planes.entries()) plane[cell] = colour[c];
  }
  for (let round = 0; round < 2; round++) {
    planes = planes.map((plane) => averaged(plane, inside, run, { stride: 1, length: w, lines: h, next: w }));
    planes = planes.map((plane) => averaged(plane, inside, run, { stride: w, length: h, lines: w, next: 1 }));
  }
  goOn(planes, inside, w, h);
  const out = new Uint8Array(w * h * 3);
  for (const [c, plane] of planes.entries())
    for (let cell = 0; cell < plane.length; cell++) if (inside[cell] !== 0) out[cell * 3 + c] = Math.round(plane[cell]);
  return out;
}

const RINGS = 12;
/** Continues colours past what is inside, ring by ring, by the mean of the neighbours that are known. */
function goOn(planes: readonly Float32Array[], inside: Uint8Array, width: number, height: number): void {
  const [red, green, blue] = planes as [Float32Array, Float32Array, Float32Array];
  for (let ring = 0; ring < RINGS; ring++) {
    const fresh: number[] = [];
    for (let cy = 0, cell = 0; cy < height; cy++)
      for (let cx = 0; cx < width; cx++, cell++) {
        if (inside[cell] !== 0) continue;
        let [r, g, b, known] = [0, 0, 0, 0];
        for (let side = 0; side < 4; side++) {
          const at = side === 0 ? cell - 1 : side === 1 ? cell + 1 : side === 2 ? cell - width : cell + width;
          const isThere = side === 0 ? cx > 0 : side === 1 ? cx < width - 1 : side === 2 ? cy > 0 : cy < height - 1;
          if (!isThere || inside[at] !== 1) continue;
          r += red[at];
          g += green[at];
          b += blue[at];
          known++;
        }
        if (known === 0) continue;
        fresh.push(cell);
        red[cell] = r / known;
        green[cell] = g / known;
        blue[cell] = b / known;
      }
    for (const cell of fresh) inside[cell] = 1;
    if (fresh.length === 0) return;
  }
}

type Lines = { stride: number; length: number; lines: number; next: number };
/** The mean of what is inside within `run` cells along rows or columns. */
function averaged(plane: Float32Array, inside: Uint8Array, run: number, { stride, length, lines, next }: Lines): Float32Array {
  const out = new Float32Array(plane.length);
  for (let line = 0; line < lines; line++) {
    const start = line * next;
    let sum = 0;
    let count = 0;
    const add = (i: number, sign: number) => {
      if (i < 0 || i >= length || inside[start + i * stride] === 0) return;
      sum += sign * plane[start + i * stride];
      count += sign;
    };
    for (let i = 0; i < run; i++) add(i, 1);
    for (let i = 0; i < length; i++) {
      add(i + run, 1);
      add(i - run - 1, -1);
      if (inside[start + i * stride] !== 0 && count > 0) out[start + i * stride] = sum / count;
    }
  }
  return out;
}
