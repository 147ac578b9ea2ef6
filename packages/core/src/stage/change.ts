import type { StageInput, StageStep, StageZone } from './input.js';
import { inTurn, type Laid, type Laying, roundsOf, type Seed, seedAt, strokeAt, within } from './lay.js';
import { type DonePass, layingsOf, type ReadyPass, readyPass, stepPainter, teethOf } from './paint.js';
import { type Canvas, type Cells, type Pen, painter } from './strokes.js';

type Mended = { canvas: Canvas; dirty: Dirty; done: readonly DonePass[] };

/** Which cells of the coarse map may look otherwise than before. */
export type Dirty = Uint8Array;
type Sizes = { across: number; down: number };
export const sizesOf = ({ width, height, factor }: StageInput): Sizes => ({
  across: Math.ceil(width / factor),
  down: Math.ceil(height / factor),
});

/** Whether two inputs differ in nothing but the shapes, edges and directions of their zones, so that a painting can be mended. */
export function canBeMended(old: StageInput, fresh: StageInput): boolean {
  return (
    old.width === fresh.width &&
    old.height === fresh.height &&
    old.seed === fresh.seed &&
    old.zones.length === fresh.zones.length &&
    old.zones.every((zone, i) => zone.id === fresh.zones[i]?.id) &&
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

type Found = { old: StageZone; first: Dirty | null; later: Dirty | null };
const compared = new WeakMap<StageZone, Found>();
/** Cells in which the masks of a zone differ, looked at once for every pair; null where they are the same. */
function maskChanges(old: StageZone, fresh: StageZone, input: StageInput, isFirst: boolean): Dirty | null {
  let known = compared.get(fresh);
  if (known?.old !== old) {
    known = { old, first: compareMasks(old, fresh, input, true), later: compareMasks(old, fresh, input, false) };
    compared.set(fresh, known);
  }
  return isFirst ? known.first : known.later;
}

/** Whether two masks are the same, four bytes at a time. */
function isSame(one: Uint8Array, other: Uint8Array): boolean {
  if (one === other) return true;
  const words = one.length >> 2;
  const [a, b] = [new Uint32Array(one.buffer, one.byteOffset, words), new Uint32Array(other.buffer, other.byteOffset, words)];
  for (let i = 0; i < words; i++) if (a[i] !== b[i]) return false;
  for (let i = words * 4; i < one.length; i++) if (one[i] !== other[i]) return false;
  return true;
}

/** All that a zone covers where its strokes run another way. */
function compareMasks(old: StageZone, fresh: StageZone, input: StageInput, isFirst: boolean): Dirty | null {
  const { across, down } = sizesOf(input);
  const [before, after] = isFirst ? [old.painted, fresh.painted] : [old.seen, fresh.seen];
  const isTurned = old.turn !== fresh.turn || JSON.stringify(old.flow) !== JSON.stringify(fresh.flow);
  // What is seen alone decides how colours run at a rim, also where more is painted.
  const dirty = new Uint8Array(across * down);
  let any = false;
  const [wasSeen, isSeen] = [old.seen, fresh.seen];
  const put = (at: number) => {
    const y = Math.floor(at / input.width);
    dirty[Math.floor(y / input.factor) * across + Math.floor((at - y * input.width) / input.factor)] = 1;
    any = true;
  };
  if (!isTurned && isSame(before, after) && isSame(wasSeen, isSeen)) return null;
  for (let at = 0; at < after.length; at++)
    if (before[at] !== after[at] || wasSeen[at] !== isSeen[at] || (isTurned && after[at] !== 0)) put(at);
  return any ? dirty : null;
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

/**
 * Mends the canvas after one step: `after` is the canvas as it was, `done` how its passes were laid, `beneath` the new canvas that it is
 * painted on, `dirty` the cells in which that differs. Gives the new canvas and the cells in which it may differ. Equal to painting it anew, byte for byte.
 */
export function mendStep(
  inputs: { old: StageInput; fresh: StageInput },
  step: StageStep,
  canvases: { after: Canvas; beneath: Canvas },
  dirty: Dirty,
  done: readonly DonePass[],
): Mended {
  const { old, fresh } = inputs;
  const sizes = sizesOf(fresh);
  const hasLines = step.lines || step.marks.length > 0;
  if (step.passes.length === 0 && !hasLines) return { canvas: canvases.beneath, dirty, done: [] };
  const isClean = !any(dirty);
  const isReshaped = step.passes.some(
    (one) => maskChanges(old.zones[one.zone] as StageZone, fresh.zones[one.zone] as StageZone, fresh, one.isFirst) !== null,
  );
  if (isClean && !isReshaped && !hasLines) return { canvas: canvases.after, dirty, done };
  const touched =
    isReshaped ||
    (!isClean && step.passes.some((one) => overlaps((fresh.zones[one.zone] as StageZone).painted, dirty, fresh, sizes)));
  if (!hasLines && !touched) return { ...pasted(canvases.after, canvases.beneath, dirty, fresh, sizes), done };
  const mended = hasLines ? null : mendPasses(step, done, fresh, canvases.beneath, dirty, sizes);
  if (!mended) return whole(fresh, step, canvases);
  return { ...pasted(canvases.after, mended.work, mended.wanted, fresh, sizes), done: mended.done };
}

/** Beyond this share of the canvas painting anew is quicker. */
const MOST_MENDED = 0.6;
const ROUNDS_OF_MENDING = 5;
const sizeOf = (cells: Dirty): number => cells.reduce((sum, one) => sum + one, 0);

/**
 * Lays the passes of a step again only where they come out otherwise: in cells whose mask, colour or ground changed, and along strokes that
 * came, went or changed. Whether a gap is filled depends on what lies in its square of the grid, so these squares are laid as well. Null where
 * that is nearly everything, or where passes of the step lie on each other.
 */
function mendPasses(
  step: StageStep,
  done: readonly DonePass[],
  fresh: StageInput,
  beneath: Canvas,
  dirty: Dirty,
  sizes: Sizes,
): { work: Canvas; wanted: Dirty; done: DonePass[] } | null {
  if (done.length !== step.passes.length) return null;
  const ready = step.passes.map((pass) => readyPass(fresh, beneath, step, pass));
  if (areOnEachOther([...ready, ...done.map((one) => one.ready)], ready.length)) return null;
  const wanted = dirty.slice();
  const mendings: Mending[] = [];
  const fresher: DonePass[] = [];
  for (const [i, is] of ready.entries()) {
    const was = done[i] as DonePass;
    const layings = [...layingsOf(fresh, is)];
    if (layings.length !== was.layings.length || was.laid.some((one) => one.length === 0)) return null;
    if (was.ready.brushPx !== is.brushPx || was.ready.chosen.palette.length !== is.chosen.palette.length) return null;
    const { index, strength } = was.ready.chosen;
    const changed = maskChanges(was.ready.zone, is.zone, fresh, is.pass.isFirst)?.slice() ?? new Uint8Array(dirty.length);
    for (let k = 0; k < changed.length; k++)
      if (index[k] !== is.chosen.index[k] || strength?.[k] !== is.chosen.strength?.[k]) changed[k] = 1;
    const near = any(changed) ? grown(changed, sizes, SHAPE_CELLS) : changed;
    for (let k = 0; k < wanted.length; k++) if (near[k] !== 0) wanted[k] = 1;
    const laid: Laid = [];
    fresher.push({ ready: is, layings, laid });
    for (const [k, laying] of layings.entries()) {
      const field = was.layings[k]?.field;
      if (field && laying.field) runs(field, laying.field, wanted, fresh, sizes);
      mendings.push({ is, laying, rounds: roundsOf(is, laying.isWhole), before: was.laid[k] as Seed[][], laid, place: k });
    }
  }
  for (let attempt = 0; attempt < ROUNDS_OF_MENDING; attempt++) {
    const size = sizeOf(wanted);
    if (size > MOST_MENDED * wanted.length) return null;
    const work = copyOf(beneath);
    const pen = painter(work, teethOf(fresh));
    const asked = wanted.slice();
    for (const mending of mendings) mending.laid[mending.place] = layWithin(mending, fresh, pen, asked, wanted, sizes);
    if (sizeOf(wanted) === size) return { work, wanted, done: fresher };
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
/** Adds cells in which colours run otherwise; a field has one colour a cell. */
function runs(old: Uint8Array, fresh: Uint8Array, cells: Dirty, { width, factor }: StageInput, { across, down }: Sizes): void {
  for (let cy = 0; cy < down; cy++)
    for (let cx = 0; cx < across; cx++) {
      const at = (cy * factor * width + cx * factor) * 3;
      if (old[at] !== fresh[at] || old[at + 1] !== fresh[at + 1] || old[at + 2] !== fresh[at + 2]) cells[cy * across + cx] = 1;
    }
}

type Mending = {
  is: ReadyPass;
  laying: Laying;
  rounds: ReturnType<typeof roundsOf>;
  before: readonly Seed[][];
  /** Where its places are put when they are found. */
  laid: Laid;
  place: number;
};
/** Lays all strokes that touch what was asked for; gives their places. Strokes that differ from before widen what is wanted. */
function layWithin(mending: Mending, fresh: StageInput, pen: Pen, asked: Dirty, wanted: Dirty, sizes: Sizes): Seed[][] {
  const { is, laying, rounds, before } = mending;
  const { factor } = fresh;
  const cells: Cells = { map: asked.slice(), ...sizes, factor };
  for (const { spacing } of rounds.slice(1))
    forSquares(asked, spacing, sizes, factor, (gx, gy) => {
      for (let y = Math.floor(gy / factor); y <= Math.min(sizes.down - 1, Math.floor((gy + spacing) / factor)); y++)
        for (let x = Math.floor(gx / factor); x <= Math.min(sizes.across - 1, Math.floor((gx + spacing) / factor)); x++)
          cells.map[y * sizes.across + x] = 1;
    });
  const mask = within(laying.shape, cells.map, sizes.across, fresh);
  const done = laying.isWhole ? new Uint8Array(fresh.width * fresh.height) : null;
  const wider: Cells = { map: wanted, ...sizes, factor };
  const key = (at: Seed) => `${at.gx},${at.gy},${at.x},${at.y},${at.number}`;
  return rounds.map(({ widthPx, spacing }, round) => {
    const old = before[round] ?? [];
    const next = seedsNear(mending, fresh, asked, sizes, { round, spacing, done });
    const [olds, news] = [new Set(old.map(key)), new Set(next.map(key))];
    for (const at of [...old.filter((one) => !news.has(key(one))), ...next.filter((one) => !olds.has(key(one)))]) {
      const stroke = strokeAt(is, laying, mask, { round, widthPx }, at);
      if (stroke) pen.mark(stroke, wider);
    }
    for (const at of next) {
      const stroke = strokeAt(is, laying, mask, { round, widthPx }, at);
      if (stroke) pen.lay(stroke, done, cells);
    }
    return next;
  });
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
  { is, laying, before }: Mending,
  fresh: StageInput,
  cells: Dirty,
  sizes: Sizes,
  { round, spacing, done }: { round: number; spacing: number; done: Uint8Array | null },
): Seed[] {
  const near = new Set<number>();
  const found: Seed[] = [];
  forSquares(cells, spacing, sizes, fresh.factor, (gx, gy) => {
    near.add(gy * 100_000 + gx);
    const at = seedAt(fresh, is, laying, { round, spacing, gx, gy }, done);
    if (at) found.push(at);
  });
  return inTurn([...(before[round] ?? []).filter((at) => !near.has(at.gy * 100_000 + at.gx)), ...found]);
}

const copyOf = ({ width, height, rgb, relief }: Canvas): Canvas => ({ width, height, rgb: rgb.slice(), relief: relief.slice() });

/** A step painted anew as a whole, and the cells in which that differs. */
function whole(fresh: StageInput, step: StageStep, { after, beneath }: { after: Canvas; beneath: Canvas }): Mended {
  const canvas = copyOf(beneath);
  const done = stepPainter(fresh, canvas).paint(step);
  return { canvas, dirty: difference(canvas, after, fresh), done };
}

function difference(one: Canvas, other: Canvas, input: StageInput): Dirty {
  const { across, down } = sizesOf(input);
  const dirty = new Uint8Array(across * down);
  for (let y = 0; y < one.height; y++)
    for (let x = 0; x < one.width; x++) {
      const at = y * one.width + x;
      if (
        one.rgb[at * 3] !== other.rgb[at * 3] ||
        one.rgb[at * 3 + 1] !== other.rgb[at * 3 + 1] ||
        one.rgb[at * 3 + 2] !== other.rgb[at * 3 + 2] ||
        one.relief[at] !== other.relief[at]
      )
        dirty[Math.floor(y / input.factor) * across + Math.floor(x / input.factor)] = 1;
    }
  return dirty;
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

/** A canvas with some cells of another one put in, and the cells in which it then differs from what it was. */
function pasted(
  on: Canvas,
  from: Canvas,
  cells: Dirty,
  { factor }: StageInput,
  { across, down }: Sizes,
): { canvas: Canvas; dirty: Dirty } {
  const canvas = copyOf(on);
  const dirty = new Uint8Array(cells.length);
  for (let cy = 0; cy < down; cy++)
    for (let cx = 0; cx < across; cx++) {
      const cell = cy * across + cx;
      if (cells[cell] === 0) continue;
      for (let y = cy * factor; y < Math.min(on.height, (cy + 1) * factor); y++)
        for (let x = cx * factor; x < Math.min(on.width, (cx + 1) * factor); x++) {
          const at = y * on.width + x;
          if (canvas.relief[at] !== from.relief[at]) {
            canvas.relief[at] = from.relief[at] as number;
            dirty[cell] = 1;
          }
          for (let c = at * 3; c < at * 3 + 3; c++) {
            if (canvas.rgb[c] === from.rgb[c]) continue;
            canvas.rgb[c] = from.rgb[c] as number;
            dirty[cell] = 1;
          }
        }
    }
  return { canvas, dirty };
}
