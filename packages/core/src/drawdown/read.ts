import type { Lab } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { labToXyz, linearToXyz, type Rgb, xyzToLab } from '@viaticum/kernels/colour';
import { linearOfByte, type Rgba } from '@viaticum/kernels/raster';
import { solved } from '../geometry/index.js';
import { type Corners, straightened } from '../transfer/index.js';
import { card, greyPlaces, type Patch, type PlaceName, paperPlaces, places, usualGreys } from './card.js';

export type CardReading = Record<PlaceName, Lab> & {
  /** How unevenly the sheet was lit: least over most light. */
  evenness: number;
};

/** Brightest and darkest of the grey card must differ by so much, or the card was not in its place. */
const LEAST_GREYS = 3;
const UNEVEN = 0.35;
const CLIPPED = 0.985;

/**
 * The colours of a card of drawdowns from a photograph (its corners in the photograph's pixels): straightened, freed of the fall-off
 * of its light (a smooth surface through the bare paper), and brought to the known L* of a grey step card, channel by channel.
 * Throws a sentence on a photograph that cannot be read.
 */
export function readCard(photo: Rgba, corners: Corners, greys: readonly number[] = usualGreys): CardReading {
  if (greys.length < LEAST_GREYS || greys.some((l) => !(l > 0 && l <= 100)))
    throw new RangeError(say('A grey card needs at least three steps with L* above 0 and up to 100.'));
  const { picture, mmPerPx } = straightened(photo, card, corners);
  const mean = (patch: Patch) => meanOf(picture, mmPerPx, patch);
  const papers = paperPlaces.map((patch) => ({ patch, light: mean(patch) }));
  const surfaces = ([0, 1, 2] as const).map((c) =>
    surfaceThrough(papers.map(({ patch, light }) => ({ ...middleOf(patch), value: light[c] }))),
  );
  const lights = papers.map(({ patch }) => (surfaces[1] as Surface)(middleOf(patch)));
  const evenness = Math.min(...lights) / Math.max(...lights);
  if (!(evenness > UNEVEN))
    throw new RangeError(
      'The card is lit too unevenly. Photograph it in shade or under an overcast sky, without a lamp from one side.',
    );
  /** What a place sends back against bare paper in the same light. */
  const evened = (patch: Patch) => {
    const at = middleOf(patch);
    return mean(patch).map((v, c) => v / Math.max(1e-6, (surfaces[c] as Surface)(at))) as Rgb;
  };
  const steps = greyPlaces(greys.length).map((patch) => evened(patch));
  if (papers.some(({ light }) => Math.max(...light) > CLIPPED))
    throw new RangeError(
      'The paper is overexposed. Take the photograph darker, so that the white of the card is not quite white in it.',
    );
  const curves = ([0, 1, 2] as const).map((c) =>
    toneCurve(
      steps.map((step) => step[c]),
      greys,
    ),
  );
  const labOf = (value: Rgb): Lab => xyzToLab(linearToXyz(value.map((v, c) => (curves[c] as Curve)(v)) as Rgb));
  const labs = Object.fromEntries(Object.entries(places).map(([name, patch]) => [name, labOf(evened(patch))])) as Record<
    PlaceName,
    Lab
  >;
  return { ...labs, evenness };
}

const middleOf = ({ x, y, width, height }: Patch) => ({ x: x + width / 2, y: y + height / 2 });

/** Mean linear light of a place without its brightest and darkest tenth. */
function meanOf(picture: Rgba, mmPerPx: number, patch: Patch): Rgb {
  const [x0, x1] = [patch.x, patch.x + patch.width].map((x) => Math.round(x / mmPerPx)) as [number, number];
  const [y0, y1] = [patch.y, patch.y + patch.height].map((y) => Math.round(y / mmPerPx)) as [number, number];
  const values: number[][] = [[], [], []];
  for (let y = y0; y < y1; y++)
    for (let x = x0; x < x1; x++) {
      const at = (y * picture.width + x) * 4;
      for (let c = 0; c < 3; c++) (values[c] as number[]).push(linearOfByte[picture.data[at + c] as number] as number);
    }
  if ((values[0] as number[]).length < 4)
    throw new RangeError(say('The card is too small in this photograph. Go nearer, so that it fills most of the picture.'));
  return values.map((channel) => {
    channel.sort((a, b) => a - b);
    const cut = Math.floor(channel.length / 10);
    const inner = channel.slice(cut, channel.length - cut);
    return inner.reduce((sum, v) => sum + v, 0) / inner.length;
  }) as Rgb;
}

type At = { x: number; y: number };
type Surface = (at: At) => number;
/** A surface of the second order through values at places, by least squares on their logarithms. */
function surfaceThrough(values: readonly (At & { value: number })[]): Surface {
  const terms = ({ x, y }: At): number[] => {
    const [u, v] = [x / card.widthMm - 0.5, y / card.heightMm - 0.5];
    return [1, u, v, u * u, u * v, v * v];
  };
  const rows = values.map((one) => ({ t: terms(one), log: Math.log(Math.max(1e-5, one.value)) }));
  const n = 6;
  const matrix = Array.from({ length: n }, (_, i) =>
    Array.from({ length: n }, (_, j) => rows.reduce((sum, { t }) => sum + (t[i] as number) * (t[j] as number), 0)),
  );
  const right = Array.from({ length: n }, (_, i) => rows.reduce((sum, { t, log }) => sum + (t[i] as number) * log, 0));
  const found = solved(matrix, right);
  if (!found) throw new RangeError(say('The paper of the card cannot be read. Check its four corners.'));
  return (at) => Math.exp(terms(at).reduce((sum, term, i) => sum + term * (found[i] as number), 0));
}

type Curve = (value: number) => number;
/** From what a channel read of the grey steps to their known light: straight between steps on logarithms, and on past the ends. */
function toneCurve(read: readonly number[], greys: readonly number[]): Curve {
  const knots = read
    .map((value, i) => ({ from: Math.log(Math.max(1e-5, value)), to: Math.log(labToXyz([greys[i] as number, 0, 0])[1] / 100) }))
    .sort((one, other) => one.from - other.from);
  const rises = knots
    .slice(1)
    .every(
      (knot, i) =>
        knot.to > (knots[i] as (typeof knots)[number]).to && knot.from - (knots[i] as (typeof knots)[number]).from > 1e-3,
    );
  if (!rises)
    throw new RangeError(
      'The grey card cannot be read: its steps do not follow each other. Lay it in its place, light end to the left, and check the number of steps.',
    );
  return (value) => {
    const at = Math.log(Math.max(1e-5, value));
    const next = Math.min(
      knots.length - 1,
      Math.max(
        1,
        knots.findIndex((knot) => knot.from >= at),
      ),
    );
    const right = at > (knots.at(-1) as (typeof knots)[number]).from ? knots.length - 1 : next;
    const [a, b] = [knots[right - 1], knots[right]] as [(typeof knots)[number], (typeof knots)[number]];
    return Math.exp(a.to + ((b.to - a.to) * (at - a.from)) / (b.from - a.from));
  };
}
