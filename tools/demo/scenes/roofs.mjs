// A town's rooftops in rain, 14 × 18 in, back to front.
import { clamp, mix, smooth } from '../noise.mjs';

export const canvas = { widthMm: 355.6, heightMm: 457.2 };
const [W, H] = [canvas.widthMm, canvas.heightMm];
const round = (outline) =>
  outline.map((polygon) => polygon.map((ring) => ring.map(([x, y]) => [Math.round(x * 10) / 10, Math.round(y * 10) / 10])));
const one = (points) => [[points]];
/** A row of gables along a height: each a ridge with two slopes, down to the bottom of the canvas. */
const row = (tops) => one([[0, H], ...tops, [W, H]]);
const far = [
  [0, 170],
  [34, 146],
  [62, 168],
  [96, 138],
  [128, 166],
  [176, 150],
  [206, 172],
  [246, 140],
  [290, 170],
  [W, 152],
];
const middle = [
  [0, 236],
  [52, 196],
  [104, 240],
  [150, 204],
  [204, 244],
  [262, 190],
  [322, 238],
  [W, 220],
];
const near = [
  [0, 330],
  [70, 262],
  [150, 338],
  [228, 280],
  [300, 344],
  [W, 306],
];
const box = (x, y, w, h) => [
  [x, y],
  [x + w, y],
  [x + w, y + h],
  [x, y + h],
];

export const areas = [
  { id: 'sky', name: 'rain sky', outline: one(box(0, 0, W, H)) },
  { id: 'far', name: 'far roofs', outline: row(far) },
  {
    id: 'tower',
    name: 'water tower',
    outline: one([
      [228, 96],
      [250, 78],
      [272, 96],
      [268, 168],
      [232, 168],
    ]),
  },
  { id: 'middle', name: 'middle roofs', outline: row(middle) },
  { id: 'near', name: 'near roofs', outline: row(near) },
  { id: 'chimneys', name: 'chimneys', outline: [[box(96, 250, 26, 62)], [box(258, 262, 30, 58)]] },
  {
    id: 'lit',
    name: 'lit skylight',
    outline: one([
      [44, 366],
      [92, 352],
      [98, 392],
      [50, 406],
    ]),
  },
  {
    id: 'gutter',
    name: 'wet terrace',
    outline: one([
      [0, 424],
      [W, 412],
      [W, H],
      [0, H],
    ]),
  },
].map((area) => ({ ...area, outline: round(area.outline) }));

export const haze = { colour: [0.62, 0.66, 0.7], at: (_x, y) => 0.34 * smooth(330, 120, y) };

const wall = { far: [0.5, 0.52, 0.57], middle: [0.38, 0.36, 0.4], near: [0.24, 0.21, 0.23] };
/** sRGB 0…1 of a place in mm in one area: slate with tile rows, wet lights, slanting rain. */
export function shade(id, x, y, n, fine) {
  const rain = 0.05 * smooth(0.66, 0.82, n((x + y * 0.28) / 2.4, (y - x * 0.1) / 40));
  const grey = (colour) => colour.map((value) => value + rain);
  if (id === 'sky') return grey(mix([0.56, 0.61, 0.66], [0.78, 0.79, 0.78], clamp(y / 190 + 0.25 * (n(x / 60, y / 26) - 0.5))));
  if (id === 'tower') return grey(mix([0.36, 0.33, 0.34], [0.55, 0.53, 0.52], smooth(236, 262, x)));
  if (id === 'chimneys') return grey(mix([0.42, 0.22, 0.17], [0.28, 0.16, 0.15], smooth(0.4, 0.6, n(x / 9, y / 5))));
  if (id === 'lit') return mix([0.98, 0.83, 0.48], [0.86, 0.6, 0.28], clamp((y - 352) / 60 + 0.4 * (fine - 0.5)));
  if (id === 'gutter') return grey(mix([0.19, 0.2, 0.23], [0.55, 0.52, 0.46], smooth(0.56, 0.74, n(x / 30, y / 5)) * 0.7));
  const base = wall[id];
  const tops = id === 'far' ? far : id === 'middle' ? middle : near;
  let slope = 0;
  for (let i = 0; i + 1 < tops.length; i++)
    if (x >= tops[i][0] && x < tops[i + 1][0]) slope = Math.sign(tops[i + 1][1] - tops[i][1]);
  const tile = 0.5 + 0.5 * Math.sin(y / (id === 'near' ? 3.4 : 2.2) + n(x / 8, 3) * 2);
  const lit = slope > 0 ? 0.13 : -0.02;
  const warm = id === 'middle' && n(x / 70 + 4, 1) > 0.5 ? [0.09, 0.0, -0.03] : [0, 0, 0];
  return grey(base.map((value, c) => clamp(value + lit + 0.035 * (tile - 0.5) + warm[c] + 0.06 * (n(x / 16, y / 12) - 0.5))));
}
