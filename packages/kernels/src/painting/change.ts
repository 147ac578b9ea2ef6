import { inTurn, type LaidStrokes, type Laying, type Round, roundsOf, type Seed, seedAt, strokeAt, veilOver } from './lay.js';
import { bareCanvas, type DonePass, layingsOf, paintStep, readyPass, teethOf } from './paint.js';
import type { ReadyPass } from './pass.js';
import type { StageArea, StageInput, StageStep } from './scene.js';
import { type Canvas, type Cells, cellsOf, type Pen, painter } from './strokes.js';

/** Cells of a canvas that look otherwise now, and what lies in them, cell after cell, row after row. */
export type Patch = { cells: Int32Array; rgb: Uint8Array; relief: Uint8Array };
type Repainted = { patch: Patch | null; done: readonly DonePass[] };

/** Which cells of the coarse map may look otherwise than before. */
export type Dirty = Uint8Array;
type Sizes = { across: number; down: number };
const sizesOf = ({ width, height, factor }: StageInput): Sizes => ({
  across: Math.ceil(width / factor),
  down: Math.ceil(height / factor),
});

/** What goes over surfaces looks at the whole canvas: it is painted anew. */
export const hasTexture = ({ steps }: StageInput): boolean => steps.some((step) => step.passes.some((pass) => pass.strokes));

/** Whether two inputs differ in nothing but the shapes, edges and directions of their areas, so that a painting can be repainted. */
export function canBeRepainted(old: StageInput, fresh: StageInput): boolean {
  return (
    old.width === fresh.width &&
    old.height === fresh.height &&
    old.seed === fresh.seed &&
    old.bare.every((byte, c) => byte === fresh.bare[c]) &&
    old.areas.length === fresh.areas.length &&
    old.areas.every((area, i) => area.id === fresh.areas[i]?.id) &&
    isSameAim(old.aim, fresh.aim)
  );
}

function isSameAim(one: StageInput['aim'], other: StageInput['aim']): boolean {
  if (one === other) return true;
  if (!one || !other || one.l.length !== other.l.length) return false;
  for (let i = 0; i < one.l.length; i++)
    if (one.l[i] !== other.l[i] || one.a[i] !== other.a[i] || one.b[i] !== other.b[i]) return false;
  return true;
}

type Found = { old: StageArea; first: Dirty | null; later: Dirty | null };
const compared = new WeakMap<StageArea, Found>();
/** Cells in which the masks of an area differ, looked at once for every pair; null where they are the same. */
function maskChanges(old: StageArea, fresh: StageArea, input: StageInput, isFirst: boolean): Dirty | null {
  let known = compared.get(fresh);
  if (known?.old !== old) {
    known = { old, first: compareMasks(old, fresh, input, true), later: compareMasks(old, fresh, input, false) };
    compared.set(fresh, known);
  }
  return isFirst ? known.first : known.later;
}

/** Four bytes at a time; the few after the last four are looked at one by one. */
const words = (mask: Uint8Array) => new Uint32Array(mask.buffer, mask.byteOffset, mask.length >> 2);
type Rows = { from: number; to: number };
/** Marks the cells in which two masks (or pictures of so many bytes a pixel) differ within some rows; says whether there are any. */
function markDifferences(
  one: Uint8Array,
  other: Uint8Array,
  { width, height, factor }: StageInput,
  across: number,
  dirty: Dirty,
  { bytes = 1, rows = { from: 0, to: height - 1 } }: { bytes?: number; rows?: Rows } = {},
): boolean {
  if (one === other) return false;
  let found = false;
  const put = (at: number) => {
    if (one[at] === other[at]) return;
    const y = Math.floor(at / (width * bytes));
    dirty[Math.floor(y / factor) * across + Math.floor((at - y * width * bytes) / (factor * bytes))] = 1;
    found = true;
  };
  const [a, b] = [words(one), words(other)];
  const end = (rows.to + 1) * width * bytes;
  for (let i = Math.floor((rows.from * width * bytes) / 4); i < Math.min(a.length, Math.ceil(end / 4)); i++)
    if (a[i] !== b[i]) for (let k = 0; k < 4; k++) put(i * 4 + k);
  for (let at = a.length * 4; at < Math.min(one.length, end); at++) put(at);
  return found;
}

/** Cells in which what is painted or seen of an area differs; all that it covers where its strokes run another way. */
function compareMasks(old: StageArea, fresh: StageArea, input: StageInput, isFirst: boolean): Dirty | null {
  const { across, down } = sizesOf(input);
  const dirty = new Uint8Array(across * down);
  const rows = { from: Math.min(old.rows.from, fresh.rows.from), to: Math.max(old.rows.to, fresh.rows.to) };
  // What is seen alone decides how colours run at a rim, also where more is painted.
  let isOther = markDifferences(old.seen, fresh.seen, input, across, dirty, { rows });
  if (isFirst) isOther = markDifferences(old.painted, fresh.painted, input, across, dirty, { rows }) || isOther;
  if (old.turn !== fresh.turn || JSON.stringify(old.flow) !== JSON.stringify(fresh.flow)) {
    const all = isFirst ? fresh.painted : fresh.seen;
    isOther = markDifferences(all, new Uint8Array(all.length), input, across, dirty, { rows }) || isOther;
  }
  return isOther ? dirty : null;
}

/** Cells within so many cells of some, along both axes. */
function grown(cells: Dirty, { across, down }: Sizes, by: number): Dirty {
  if (by < 1) return cells;
  const rows = new Uint8Array(cells.length);
  const out = new Uint8Array(cells.length);
  const run = (from: Dirty, to: Dirty, start: number, stride: number, length: number) => {
    let until = -1;
    for (let i = 0; i < length; i++) {
      // The next one ahead within reach, and the last one behind.
      if (i + by < length && from[start + (i + by) * stride] !== 0) until = i + 2 * by;
      else if (i === 0) for (let k = 0; k <= Math.min(by, length - 1); k++) if (from[start + k * stride] !== 0) until = k + by;
      if (i <= until) to[start + i * stride] = 1;
    }
  };
  for (let y = 0; y < down; y++) run(cells, rows, y * across, 1, across);
  for (let x = 0; x < across; x++) run(rows, out, x, across, down);
  return out;
}

const any = (cells: Dirty): boolean => cells.includes(1);

/** Repaints the canvases of a painting one step after another, from the first. Equal to painting them anew, byte for byte. */
export function repainter(old: StageInput, fresh: StageInput, { under, work, pen }: Desk) {
  const sizes = sizesOf(fresh);
  // The canvas after the steps so far: one that stands as it was, or the desk's own.
  let now: Canvas = bareCanvas(fresh);
  let dirty: Dirty = new Uint8Array(sizes.across * sizes.down);
  const inputs = { old, fresh };
  /** Takes the canvas as it was, with these cells (or all) from another one. */
  const taken = (after: Canvas, from: Canvas, cells: Dirty | null): Patch | null => {
    const patch = difference(from, after, cells, fresh, sizes);
    now = after;
    dirty = new Uint8Array(sizes.across * sizes.down);
    if (patch) {
      put(after, under);
      apply(patch, under, fresh);
      now = under;
      for (const cell of patch.cells) dirty[cell] = 1;
    }
    return patch;
  };
  return {
    /** The canvas after the steps repainted so far. */
    canvas: () => now,
    /** `after` is the canvas after this step as it was, `done` how its passes were laid; gives what differs from it now. */
    step(step: StageStep, after: Canvas, done: readonly DonePass[]): Repainted {
      const hasLines = step.lines || step.marks.length > 0;
      if (step.passes.length === 0 && !hasLines) return { patch: null, done: [] };
      const isClean = !any(dirty);
      const isReshaped = step.passes.some((one) => changesOf(inputs, one) !== null);
      if (isClean && !isReshaped && !hasLines) {
        now = after;
        return { patch: null, done };
      }
      const isTouched =
        isReshaped ||
        (!isClean && step.passes.some((one) => overlaps((fresh.areas[one.area] as StageArea).painted, dirty, fresh, sizes)));
      if (!hasLines && !isTouched) return { patch: taken(after, now, dirty), done };
      const repainted = hasLines ? null : repaintPasses(step, done, fresh, { under: now, work, pen }, dirty, sizes);
      if (repainted) return { patch: taken(after, work, repainted.wanted), done: repainted.done };
      put(now, work);
      const fresher = paintStep(fresh, work, pen, step);
      return { patch: taken(after, work, null), done: fresher };
    },
  };
}

const changesOf = ({ old, fresh }: { old: StageInput; fresh: StageInput }, { area, isFirst }: StageStep['passes'][number]) =>
  maskChanges(old.areas[area] as StageArea, fresh.areas[area] as StageArea, fresh, isFirst);

/** Two canvases to work on: what a step is painted on, and where it is painted, with its pen. */
export type Desk = { under: Canvas; work: Canvas; pen: Pen };
export function deskOf(input: StageInput): Desk {
  const work = bareCanvas(input);
  return { under: bareCanvas(input), work, pen: painter(work, teethOf(input), input.factor) };
}

/** Puts one canvas over another of the same size. */
export function put(from: Canvas, to: Canvas): void {
  to.rgb.set(from.rgb);
  to.relief.set(from.relief);
}

/** Beyond this share of the canvas painting anew is quicker. */
const MOST_MENDED = 0.6;
const ROUNDS_OF_MENDING = 5;
const sizeOf = (cells: Dirty): number => cells.reduce((sum, one) => sum + one, 0);

/**
 * Lays the passes of a step again only where they come out otherwise: in cells whose mask, colour or ground changed, and along strokes that
 * came, went or changed. Whether a gap is filled depends on what is covered in its square of the grid: that is remembered. Null where nearly
 * everything changes, or where passes of the step lie on each other.
 */
function repaintPasses(
  step: StageStep,
  done: readonly DonePass[],
  fresh: StageInput,
  { under, work, pen }: Desk,
  dirty: Dirty,
  sizes: Sizes,
): { wanted: Dirty; done: DonePass[] } | null {
  if (done.length !== step.passes.length) return null;
  const ready = step.passes.map((pass) => readyPass(fresh, under, step, pass));
  if (areOnEachOther([...ready, ...done.map((one) => one.ready)], ready.length)) return null;
  const wanted = dirty.slice();
  const repaintings: Repainting[] = [];
  const fresher: DonePass[] = [];
  for (const [i, is] of ready.entries()) {
    const was = done[i] as DonePass;
    const layings = [...layingsOf(fresh, is)];
    if (layings.length !== was.layings.length) return null;
    if (was.ready.brushPx !== is.brushPx || was.ready.chosen.palette.length !== is.chosen.palette.length) return null;
    const { index, strength } = was.ready.chosen;
    const changed = maskChanges(was.ready.area, is.area, fresh, is.pass.isFirst)?.slice() ?? new Uint8Array(dirty.length);
    for (let k = 0; k < changed.length; k++)
      if (index[k] !== is.chosen.index[k] || strength?.[k] !== is.chosen.strength?.[k]) changed[k] = 1;
    const near = any(changed) ? grown(changed, sizes, SHAPE_CELLS) : changed;
    for (let k = 0; k < wanted.length; k++) if (near[k] !== 0) wanted[k] = 1;
    const laid: LaidStrokes[] = [];
    fresher.push({ ready: is, layings, laid });
    for (const [k, laying] of layings.entries()) {
      const field = was.layings[k]?.field;
      if (field && laying.field) runs(field, laying.field, wanted);
      const before = was.laid[k] as LaidStrokes;
      const now = { rounds: [...before.rounds], covered: before.covered?.slice() ?? null };
      laid.push(now);
      repaintings.push({ is, laying, rounds: roundsOf(is, laying.isWhole), laid: now });
    }
  }
  // Strokes of the first round come and go with the cells alone: what they widen is known before anything is laid.
  const first = wanted.slice();
  for (const repainting of repaintings) markOther(repainting, pen, wanted, 0, seedsNear(repainting, fresh, first, sizes, 0));
  put(under, work);
  let asked = wanted.slice();
  for (let attempt = 0; attempt < ROUNDS_OF_MENDING; attempt++) {
    if (sizeOf(wanted) > MOST_MENDED * wanted.length) return null;
    const cells = cellsOf(asked, sizes, fresh.factor);
    const others = new Uint8Array(wanted.length);
    for (const repainting of repaintings) layWithin(repainting, fresh, { under, pen }, cells, others);
    // Strokes that came or went beyond the cells just laid: these cells are laid next, from the ground up.
    const next = others.map((is, k) => (is !== 0 && asked[k] === 0 ? 1 : 0));
    if (!any(next)) return { wanted, done: fresher };
    const again = marked(next);
    for (const cell of again) wanted[cell] = 1;
    apply(picked(under, again, fresh), work, fresh);
    asked = next;
  }
  return null;
}

/** Whether two passes of one step, now or before, share a pixel. */
function areOnEachOther(ready: readonly ReadyPass[], count: number): boolean {
  for (const part of [ready.slice(0, count), ready.slice(count)])
    for (const [i, one] of part.entries())
      for (const other of part.slice(i + 1)) {
        const [a, b] = [one.own, other.own];
        for (let at = 0; at < a.length; at++) if (a[at] !== 0 && b[at] !== 0) return true;
      }
  return false;
}

/** So far the shape of what lies in a cell reaches: two rounds of smoothing, and half a cell between. */
const SHAPE_CELLS = 4;
/** Adds cells in which colours run otherwise. */
function runs(old: Uint8Array, fresh: Uint8Array, cells: Dirty): void {
  for (let cell = 0, at = 0; cell < cells.length; cell++, at += 3)
    if (old[at] !== fresh[at] || old[at + 1] !== fresh[at + 1] || old[at + 2] !== fresh[at + 2]) cells[cell] = 1;
}

/** `laid` begins as it was and becomes what it is now. */
type Repainting = { is: ReadyPass; laying: Laying; rounds: Round[]; laid: LaidStrokes };
/** Lays all strokes as far as they lie in some cells; marks the cells of all that came or went. */
function layWithin(
  repainting: Repainting,
  fresh: StageInput,
  { under, pen }: Pick<Desk, 'under' | 'pen'>,
  cells: Cells,
  others: Dirty,
): void {
  const { is, laying, rounds, laid } = repainting;
  const { covered } = laid;
  if (covered) clear(covered, cells, fresh);
  const veil = veilOver(is, under.rgb);
  for (const [round, { widthPx }] of rounds.entries()) {
    const next = seedsNear(repainting, fresh, cells.map, cells, round);
    markOther(repainting, pen, others, round, next);
    for (const at of next) {
      const stroke = strokeAt(is, laying, { round, widthPx }, at);
      if (stroke) pen.lay(stroke, covered && { covered, round }, veil, cells);
    }
    laid.rounds[round] = next;
  }
}

function clear(covered: Uint8Array, { map, across, factor }: Cells, { width, height }: StageInput): void {
  rowsOf(marked(map), across, factor, width, height, (at, _, length) => covered.fill(0, at, at + length));
}

const key = (at: Seed) => `${at.gx},${at.gy},${at.x},${at.y},${at.number}`;
/** Marks the cells of all strokes of a round that are there and were not, or the other way round. */
function markOther({ is, laying, rounds, laid }: Repainting, pen: Pen, cells: Dirty, round: number, next: Seed[]): void {
  const old = laid.rounds[round] ?? [];
  const [olds, news] = [new Set(old.map(key)), new Set(next.map(key))];
  const { widthPx } = rounds[round] as Round;
  for (const at of [...old.filter((one) => !news.has(key(one))), ...next.filter((one) => !olds.has(key(one)))]) {
    const stroke = strokeAt(is, laying, { round, widthPx }, at);
    if (stroke) pen.mark(stroke, cells);
  }
}

/** Every square of a grid that some cells reach into, once, by its corner. */
function forSquares(
  cells: Dirty,
  spacing: number,
  { across, down }: Sizes,
  factor: number,
  found: (gx: number, gy: number) => void,
): void {
  const seen = new Set<number>();
  for (let cy = 0; cy < down; cy++)
    for (let cx = 0; cx < across; cx++) {
      if (cells[cy * across + cx] === 0) continue;
      const [x0, y0] = [cx * factor, cy * factor];
      for (let gy = y0 - (y0 % spacing); gy < y0 + factor; gy += spacing)
        for (let gx = x0 - (x0 % spacing); gx < x0 + factor; gx += spacing) {
          if (seen.has(gy * 100_000 + gx)) continue;
          seen.add(gy * 100_000 + gx);
          found(gx, gy);
        }
    }
}

/** The places of a round as they are now: looked for anew in squares that some cells reach into, elsewhere as they were. */
function seedsNear(
  { is, laying, rounds, laid }: Repainting,
  fresh: StageInput,
  cells: Dirty,
  sizes: Sizes,
  round: number,
): Seed[] {
  const { spacing } = rounds[round] as Round;
  const near = new Set<number>();
  const found: Seed[] = [];
  forSquares(cells, spacing, sizes, fresh.factor, (gx, gy) => {
    near.add(gy * 100_000 + gx);
    const at = seedAt(fresh, is, laying, { round, spacing, gx, gy }, laid.covered);
    if (at) found.push(at);
  });
  return inTurn([...(laid.rounds[round] ?? []).filter((at) => !near.has(at.gy * 100_000 + at.gx)), ...found]);
}

function overlaps(mask: Uint8Array, cells: Dirty, { width, height, factor }: StageInput, { across, down }: Sizes): boolean {
  for (let cy = 0; cy < down; cy++)
    for (let cx = 0; cx < across; cx++) {
      if (cells[cy * across + cx] === 0) continue;
      for (let y = cy * factor; y < Math.min(height, (cy + 1) * factor); y++)
        for (let x = cx * factor; x < Math.min(width, (cx + 1) * factor); x++) if (mask[y * width + x] !== 0) return true;
    }
  return false;
}

/** What one canvas has that another has not, in some cells or (null) everywhere; null where they are the same. */
function difference(one: Canvas, other: Canvas, within: Dirty | null, input: StageInput, sizes: Sizes): Patch | null {
  const found = within ? cellsThatDiffer(one, other, within, input.factor, sizes) : allThatDiffer(one, other, input, sizes);
  return found.length > 0 ? picked(one, found, input) : null;
}

/** What lies in some cells of a canvas. */
function picked(one: Canvas, cells: Int32Array, { width, height, factor }: StageInput): Patch {
  const [rgb, relief] = [new Uint8Array(cells.length * factor * factor * 3), new Uint8Array(cells.length * factor * factor)];
  rowsOf(cells, Math.ceil(width / factor), factor, width, height, (at, slot, length) => {
    move(one.rgb, at * 3, rgb, slot * 3, length * 3);
    move(one.relief, at, relief, slot, length);
  });
  return { cells, rgb, relief };
}

function cellsThatDiffer(one: Canvas, other: Canvas, within: Dirty, factor: number, { across, down }: Sizes): Int32Array {
  const found: number[] = [];
  for (let cy = 0; cy < down; cy++)
    for (let cx = 0; cx < across; cx++) {
      const cell = cy * across + cx;
      if (within[cell] !== 0 && isOther(one, other, cx * factor, cy * factor, factor)) found.push(cell);
    }
  return Int32Array.from(found);
}

function allThatDiffer(one: Canvas, other: Canvas, input: StageInput, { across, down }: Sizes): Int32Array {
  const cells = new Uint8Array(across * down);
  markDifferences(one.rgb, other.rgb, input, across, cells, { bytes: 3 });
  markDifferences(one.relief, other.relief, input, across, cells);
  return marked(cells);
}

/** The numbers of the cells that are marked. */
function marked(cells: Dirty): Int32Array {
  const found: number[] = [];
  for (let cell = 0; cell < cells.length; cell++) if (cells[cell] !== 0) found.push(cell);
  return Int32Array.from(found);
}

function isOther(one: Canvas, other: Canvas, x: number, y: number, factor: number): boolean {
  const [right, bottom] = [Math.min(one.width, x + factor), Math.min(one.height, y + factor)];
  for (let row = y; row < bottom; row++) {
    const [from, to] = [row * one.width + x, row * one.width + right];
    for (let at = from; at < to; at++) if (one.relief[at] !== other.relief[at]) return true;
    for (let at = from * 3; at < to * 3; at++) if (one.rgb[at] !== other.rgb[at]) return true;
  }
  return false;
}

/** Puts what differs into a canvas. */
export function apply({ cells, rgb, relief }: Patch, { width, height, ...to }: Canvas, { factor }: StageInput): void {
  rowsOf(cells, Math.ceil(width / factor), factor, width, height, (at, slot, length) => {
    move(rgb, slot * 3, to.rgb, at * 3, length * 3);
    move(relief, slot, to.relief, at, length);
  });
}

/** Copies a few bytes: for so few a loop is quicker than the array's own way. */
function move(from: Uint8Array, at: number, to: Uint8Array, place: number, length: number): void {
  for (let i = 0; i < length; i++) to[place + i] = from[at + i];
}

/** The rows of pixels of some cells: where each begins on the canvas and in a list of cells, and how long it is. */
function rowsOf(
  cells: Int32Array,
  across: number,
  factor: number,
  width: number,
  height: number,
  row: (at: number, slot: number, length: number) => void,
): void {
  cells.forEach((cell, i) => {
    const [x, y] = [(cell % across) * factor, Math.floor(cell / across) * factor];
    const length = Math.min(width, x + factor) - x;
    for (let k = 0; k < factor && y + k < height; k++) row((y + k) * width + x, (i * factor + k) * factor, length);
  });
}
