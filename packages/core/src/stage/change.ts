import type { StageInput, StageStep, StageZone } from './input.js';
import { paintReady, type ReadyPass, reachOfPass, readyPass, stepPainter } from './paint.js';
import { type Canvas, painter } from './strokes.js';

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

/** All that a zone covers where its strokes run another way. */
function compareMasks(old: StageZone, fresh: StageZone, input: StageInput, isFirst: boolean): Dirty | null {
  const { across, down } = sizesOf(input);
  const [before, after] = isFirst ? [old.painted, fresh.painted] : [old.seen, fresh.seen];
  const isTurned = old.turn !== fresh.turn || JSON.stringify(old.flow) !== JSON.stringify(fresh.flow);
  // What is seen alone decides how colours run at a rim, also where more is painted.
  const dirty = new Uint8Array(across * down);
  let any = false;
  for (let at = 0; at < after.length; at++) {
    if (before[at] === after[at] && old.seen[at] === fresh.seen[at] && !(isTurned && after[at] !== 0)) continue;
    const y = Math.floor(at / input.width);
    dirty[Math.floor(y / input.factor) * across + Math.floor((at - y * input.width) / input.factor)] = 1;
    any = true;
  }
  return any ? dirty : null;
}

/** Cells within so many cells of some, along both axes. */
export function grown(cells: Dirty, { across, down }: Sizes, by: number): Dirty {
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
 * Mends the canvas after one step: `before` and `after` are its canvases as they were, `beneath` the new canvas that it is painted on,
 * `dirty` the cells in which that differs. Gives the new canvas and the cells in which it may differ. Equal to painting it anew, byte for byte.
 */
export function mendStep(
  inputs: { old: StageInput; fresh: StageInput },
  step: { old: StageStep; fresh: StageStep },
  canvases: { before: Canvas; after: Canvas; beneath: Canvas },
  dirty: Dirty,
): { canvas: Canvas; dirty: Dirty } {
  const { old, fresh } = inputs;
  const sizes = sizesOf(fresh);
  const [pass] = step.fresh.passes;
  const isSingle = step.fresh.passes.length === 1 && step.fresh.marks.length === 0 && !step.fresh.lines;
  if (step.fresh.passes.length === 0 && step.fresh.marks.length === 0 && !step.fresh.lines)
    return { canvas: canvases.beneath, dirty };
  const isClean = !any(dirty);
  const isReshaped = step.fresh.passes.some(
    (one) => maskChanges(old.zones[one.zone] as StageZone, fresh.zones[one.zone] as StageZone, fresh, one.isFirst) !== null,
  );
  const hasLines = step.fresh.lines || step.fresh.marks.length > 0;
  if (isClean && !isReshaped && !hasLines) return { canvas: canvases.after, dirty };
  const touched =
    isReshaped ||
    (!isClean && step.fresh.passes.some((one) => overlaps((fresh.zones[one.zone] as StageZone).painted, dirty, fresh, sizes)));
  if (isSingle && !touched) return pasted(canvases.after, canvases.beneath, dirty, fresh, sizes);
  if (!isSingle || !pass) return whole(fresh, step.fresh, canvases);
  const was = readyPass(old, canvases.before, step.old, step.old.passes[0] as typeof pass);
  const is = readyPass(fresh, canvases.beneath, step.fresh, pass);
  const region = regionOf(was, is, { old, fresh }, dirty, sizes);
  if (region === null) return whole(fresh, step.fresh, canvases);
  const work = copyOf(canvases.beneath);
  const pen = painter(work, 1, teethOf(fresh));
  paintReady(fresh, pen, is, region);
  return pasted(canvases.after, work, region.wanted, fresh, sizes);
}

/** Where the strokes of a pass may leave something else than before, and what has to be laid to know it; null where that is nearly everything. */
function regionOf(
  was: ReadyPass,
  is: ReadyPass,
  { old, fresh }: { old: StageInput; fresh: StageInput },
  dirty: Dirty,
  sizes: Sizes,
): { wanted: Dirty; laid: Dirty; reach: Dirty } | null {
  if (was.brushPx !== is.brushPx || was.chosen.palette.length !== is.chosen.palette.length) return null;
  const changed = maskChanges(was.zone, is.zone, fresh, is.pass.isFirst) ?? new Uint8Array(dirty.length);
  for (let i = 0; i < changed.length; i++)
    if (was.chosen.index[i] !== is.chosen.index[i] || was.chosen.strength?.[i] !== is.chosen.strength?.[i]) changed[i] = 1;
  const { strokePx, cells } = reachOfPass(is, fresh);
  const strokeCells = Math.ceil(strokePx / old.factor);
  const wanted = any(changed) ? grown(changed, sizes, cells + strokeCells) : changed;
  for (let i = 0; i < wanted.length; i++) if (dirty[i] !== 0) wanted[i] = 1;
  // Strokes fill the gaps of earlier rounds: for what is wanted to be right, its surroundings must be laid too.
  const laid = grown(wanted, sizes, 3 * strokeCells);
  const share = laid.reduce((sum, one) => sum + one, 0) / laid.length;
  if (share > MOST_MENDED) return null;
  return { wanted, laid, reach: grown(laid, sizes, strokeCells) };
}
/** Beyond this share of the canvas painting anew is quicker. */
const MOST_MENDED = 0.7;

const copyOf = ({ width, height, rgb, relief }: Canvas): Canvas => ({ width, height, rgb: rgb.slice(), relief: relief.slice() });

let teeth: { width: number; height: number; mmPerPx: number; of: Uint8Array } | null = null;
/** The tooth of the canvas, the same for all steps of one size. */
function teethOf(input: StageInput): Uint8Array {
  if (teeth?.width !== input.width || teeth.height !== input.height || teeth.mmPerPx !== input.mmPerPx) {
    const bare: Canvas = { width: input.width, height: input.height, rgb: new Uint8Array(0), relief: new Uint8Array(0) };
    teeth = { width: input.width, height: input.height, mmPerPx: input.mmPerPx, of: stepPainter(input, bare).teeth };
  }
  return teeth.of;
}

/** A step painted anew as a whole, and the cells in which that differs. */
function whole(
  fresh: StageInput,
  step: StageStep,
  { after, beneath }: { after: Canvas; beneath: Canvas },
): { canvas: Canvas; dirty: Dirty } {
  const canvas = copyOf(beneath);
  stepPainter(fresh, canvas).paint(step);
  return { canvas, dirty: difference(canvas, after, fresh) };
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
