import { srgbToLab } from '../colour/index.js';
import { blur, type LabRaster } from '../raster/index.js';
import { chance, cosine, hash, sine, TURN } from './chance.js';
import { type Run, runOf } from './run.js';
import type { StageArea, StageColour, StageInput, StagePass, StageStrokes } from './scene.js';
import { type Canvas, type Pen, type Touch, touches } from './strokes.js';

/** Of its own width so much of the picture is looked at for a stroke. */
const LOOK = 0.45;
const looks = new WeakMap<LabRaster, Map<number, LabRaster>>();
function lookAt(aim: LabRaster, sigmaPx: number): LabRaster {
  const sigma = Math.round(sigmaPx * 4) / 4;
  if (sigma < 0.3) return aim;
  const known = looks.get(aim) ?? new Map<number, LabRaster>();
  looks.set(aim, known);
  const found = known.get(sigma);
  if (found) return found;
  const soft = (data: Float32Array) => blur({ width: aim.width, height: aim.height, data }, sigma).data;
  const fresh = { ...aim, l: soft(aim.l), a: soft(aim.a), b: soft(aim.b) };
  known.set(sigma, fresh);
  return fresh;
}

type Tone = readonly [number, number, number];
const apart = (one: Tone, other: Tone): number =>
  Math.sqrt(
    (one[0] - other[0]) * (one[0] - other[0]) +
      (one[1] - other[1]) * (one[1] - other[1]) +
      (one[2] - other[2]) * (one[2] - other[2]),
  );

const QUARTERS = 4;
/** Heaps, and what two neighbours give when the brush takes up some of both. */
function picked(colours: readonly StageColour[]): StageColour[] {
  const sorted = [...colours].sort((a, b) => a.lab[0] - b.lab[0]);
  return sorted.flatMap((own, i) => {
    const next = sorted[i + 1];
    if (!next) return [own];
    return Array.from({ length: QUARTERS }, (_, k): StageColour => {
      const part = (one: number, other: number) => one + ((other - one) * k) / QUARTERS;
      const [l, a, b] = [0, 1, 2].map((c) => part(own.lab[c as 0], next.lab[c as 0])) as [number, number, number];
      const [red, green, blue] = [0, 1, 2].map((c) => Math.round(part(own.rgb[c as 0], next.rgb[c as 0]))) as [
        number,
        number,
        number,
      ];
      return { rgb: [red, green, blue], lab: [l, a, b] };
    });
  });
}

type Planned = { x: number; y: number; cell: number; gain: number; order: number; seed: number; size: number; shift: number };

/**
 * A pass over a surface: strokes along its run, laid only where they bring the canvas nearer to the picture by the asked gain, the best of them
 * as far as they can be painted in their time; without a picture strewn evenly. All chance of a stroke comes from its own place, so
 * that the same thing keeps its strokes whatever else changes. Gives the number of strokes laid.
 */
export function layTexture(
  input: StageInput,
  canvas: Canvas,
  pen: Pen,
  pass: StagePass,
  strokes: StageStrokes,
  stepSeed: number,
): number {
  const area = input.areas[pass.area] as StageArea;
  const seed = hash(input.seed, area.seed, stepSeed, 61);
  const run = runOf(input, area, strokes.isByPicture);
  const view = viewOf(input, strokes);
  const colours = picked(pass.colours);
  const planned: Planned[] = [];
  const every = Math.max(2, Math.round(strokes.everyPx));
  const { width, height } = input;
  for (let gy = area.rows.from - (area.rows.from % every); gy <= area.rows.to; gy += every)
    for (let gx = 0; gx < width; gx += every) {
      const draw = chance(hash(seed, gx, gy));
      const x = gx + ((draw() * every) >> 16);
      const y = gy + ((draw() * every) >> 16);
      const order = draw();
      if (x >= width || y >= height || area.seen[y * width + x] < SEEN) continue;
      const place = {
        x,
        y,
        cell: Math.floor(y / run.factor) * run.width + Math.floor(x / run.factor),
        order,
        seed: hash(seed, gx, gy, 5),
        size: 205 + ((draw() * 102) >> 16),
        shift: strokes.jitter > 0 ? ((draw() * 2 * strokes.jitter) >> 16) - strokes.jitter : 0,
      };
      const { gain } = choiceAt(canvas, run, view, colours, strokes, place);
      if (gain >= strokes.gain || !view) planned.push({ ...place, gain: view ? gain : order });
    }
  planned.sort((a, b) => b.gain - a.gain || a.order - b.order || a.y - b.y || a.x - b.x);
  const kept = planned.slice(0, strokes.most).sort((a, b) => a.order - b.order || a.y - b.y || a.x - b.x);
  const base = touches[pass.touch];
  const wide = Math.max(1.3, strokes.widthPx);
  const touch: Touch = {
    ...base,
    long: Math.max(8, Math.round((10 * strokes.lengthPx) / wide)),
    // A fine touch with some tooth keeps the length it is given.
    tooth: wide < 9 ? Math.max(1, base.tooth) : base.tooth,
  };
  let laid = 0;
  for (const place of kept) {
    const { colour, gain } = choiceAt(canvas, run, view, colours, strokes, place);
    if (view && gain < strokes.gain / 2) continue;
    pen.lay(
      {
        x: place.x,
        y: place.y,
        widthPx: Math.max(1.3, (wide * place.size) / 256),
        mask: area.seen,
        colour: colour.rgb,
        touch,
        direction: (x, y) => (turnIn(run, x, y) + place.shift + TURN) & (TURN - 1),
        seed: place.seed,
        ends: strokes.ends,
        field: null,
      },
      null,
    );
    laid++;
  }
  return laid;
}
const SEEN = 60;

type View = { look: LabRaster; factor: number };
const viewOf = ({ fine }: StageInput, { widthPx }: StageStrokes): View | null =>
  fine && { look: lookAt(fine.aim, (LOOK * widthPx) / fine.factor), factor: fine.factor };

function turnIn({ width, height, factor, turn }: Run, x: number, y: number): number {
  const cx = Math.max(0, Math.min(width - 1, Math.floor(x / factor)));
  const cy = Math.max(0, Math.min(height - 1, Math.floor(y / factor)));
  return turn[cy * width + cx];
}

const ALONG = 0.3;
/** The colour that a stroke takes at a place, and how much nearer it brings the canvas; -1 where it must not be laid. */
function choiceAt(
  { width, height, rgb }: Canvas,
  run: Run,
  view: View | null,
  colours: readonly StageColour[],
  { lengthPx, only }: StageStrokes,
  { x, y, order }: Pick<Planned, 'x' | 'y' | 'order'>,
): { colour: StageColour; gain: number } {
  const any = colours[order % colours.length] as StageColour;
  if (!view) return { colour: any, gain: 0 };
  const { look, factor } = view;
  const at = Math.min(look.height - 1, Math.floor(y / factor)) * look.width + Math.min(look.width - 1, Math.floor(x / factor));
  const want: Tone = [look.l[at], look.a[at], look.b[at]];
  let [best, least] = [any, Number.POSITIVE_INFINITY];
  for (const colour of colours) {
    const off = apart(want, colour.lab);
    if (off < least) [best, least] = [colour, off];
  }
  const turn = turnIn(run, x, y);
  const [dx, dy] = [(cosine(turn) * lengthPx * ALONG) / 4096, (sine(turn) * lengthPx * ALONG) / 4096];
  let [r, g, b, count] = [0, 0, 0, 0];
  for (const k of [-1, 0, 1]) {
    const [px, py] = [Math.round(x + k * dx), Math.round(y + k * dy)];
    if (px < 0 || py < 0 || px >= width || py >= height) continue;
    const i = (py * width + px) * 3;
    r += rgb[i];
    g += rgb[i + 1];
    b += rgb[i + 2];
    count++;
  }
  const now = srgbToLab([r / count / 255, g / count / 255, b / count / 255]) as unknown as Tone;
  if (only === 'dark' && best.lab[0] > now[0] - STEP) return { colour: best, gain: -1 };
  if (only === 'light' && best.lab[0] < now[0] + STEP) return { colour: best, gain: -1 };
  return { colour: best, gain: apart(now, want) - least };
}
/** Darker or lighter by less than this (L*) is neither. */
const STEP = 2;
