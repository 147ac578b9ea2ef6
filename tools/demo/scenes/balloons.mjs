// The demo scene in canvas millimetres: hot-air balloons over terraced fields at dawn, 16 × 20 in, back to front.
import { clamp, mix, smooth } from '../noise.mjs';

export const canvas = { widthMm: 406.4, heightMm: 508 };

const W = canvas.widthMm;
const H = canvas.heightMm;
const range = (from, to, count) => Array.from({ length: count }, (_, i) => from + ((to - from) * i) / (count - 1));
const round = (outline) =>
  outline.map((polygon) => polygon.map((ring) => ring.map(([x, y]) => [Math.round(x * 10) / 10, Math.round(y * 10) / 10])));

export const farRidge = (x) => 296 - 22 * Math.sin(x / 78 + 0.6) - 9 * Math.sin(x / 31 + 2) - 0.03 * x;
export const nearRidge = (x) => 322 - 15 * Math.sin(x / 95 + 3.4) - 6 * Math.sin(x / 40);
export const treeLine = (x) => 343 - 7 * Math.sin(x / 60 + 1.1) - 3 * Math.abs(Math.sin(x / 7.3)) - 2 * Math.sin(x / 17);
export const terraceTop = (x) => 352 - 5 * Math.sin(x / 90 + 0.5);
/** Lower border of terrace k = 0…5 and the height of the dark edge beneath it. */
export const steps = [0, 1, 2, 3, 4].map((k) => ({
  y: (x) => 352 + [17, 39, 67, 101, 141][k] + (5 + 2.6 * k) * Math.sin(x / (66 + 9 * k) + k * 1.1 + 0.5),
  edge: 2.6 + 1.5 * k,
}));

/** Everything below a curve, to the foot of the canvas. */
const below = (curve, count) => [[[...range(0, W, count).map((x) => [x, curve(x)]), [W, H], [0, H]]]];
/** A band between a curve and the same curve lowered; it swells and thins a little as a built edge does. */
const band = (curve, height, count) => {
  const xs = range(0, W, count);
  return [
    [...xs.map((x) => [x, curve(x)]), ...xs.reverse().map((x) => [x, curve(x) + height * (0.85 + 0.15 * Math.sin(x / 23))])],
  ];
};

export const balloons = [
  { cx: 150, cy: 132, r: 76 },
  { cx: 306, cy: 92, r: 27 },
  { cx: 346, cy: 214, r: 15 },
  { cx: 52, cy: 246, r: 12 },
];
/** Half the width of a balloon at a height. */
export const halfWidth = ({ cy, r }, y) => {
  if (y <= cy) return Math.sqrt(Math.max(0, r * r - (y - cy) ** 2));
  const part = Math.min(1, (y - cy) / (1.32 * r));
  return r * (0.12 + 0.88 * Math.cos((part * Math.PI) / 2) ** 0.85);
};
const heights = ({ cy, r }, count) => {
  const up = range(0, Math.PI / 2, Math.ceil(count / 2)).map((t) => cy - r * Math.cos(t));
  return [...up, ...range(cy, cy + 1.32 * r, Math.floor(count / 2)).slice(1)];
};
const gore = (balloon, from, to, count) => {
  const ys = heights(balloon, count);
  const side = (s) => ys.map((y) => [balloon.cx + s * halfWidth(balloon, y), y]);
  return [[...side(from), ...side(to).reverse()]];
};
const basket = ({ cx, cy, r }) => {
  const top = cy + 1.52 * r;
  const half = 0.15 * r;
  return [
    [
      [cx - half, top],
      [cx + half, top],
      [cx + half * 0.85, top + 0.22 * r],
      [cx - half * 0.85, top + 0.22 * r],
    ],
  ];
};
const [great, ...small] = balloons;

/** The areas of the demo lesson as stacked sheets. */
export const areas = [
  {
    id: 'sky',
    name: 'sky',
    outline: [
      [
        [
          [0, 0],
          [W, 0],
          [W, H],
          [0, H],
        ],
      ],
    ],
  },
  { id: 'far', name: 'far ridge', outline: below(farRidge, 40) },
  { id: 'near', name: 'near ridge', outline: below(nearRidge, 40) },
  { id: 'trees', name: 'tree line', outline: below(treeLine, 90) },
  { id: 'fields', name: 'terraces', outline: below(terraceTop, 30) },
  { id: 'edges', name: 'terrace edges', outline: steps.map((step) => band(step.y, step.edge, 40)) },
  { id: 'great', name: 'great balloon', outline: [gore(great, -1, 1, 44)] },
  {
    id: 'stripes',
    name: 'cream stripes',
    outline: [
      [-0.8, -0.47],
      [-0.16, 0.16],
      [0.47, 0.8],
    ].map(([a, b]) => gore(great, a, b, 44)),
  },
  { id: 'small', name: 'small balloons', outline: small.map((one) => gore(one, -1, 1, 26)) },
  { id: 'baskets', name: 'baskets', outline: balloons.map(basket) },
].map((area) => ({ ...area, outline: round(area.outline) }));

/** Colour of the morning haze; it lies thickest along the foot of the ridges. */
export const haze = { colour: [0.93, 0.78, 0.68], at: (_, y) => 0.1 * Math.exp(-(((y - 318) / 46) ** 2)) };

/** sRGB 0…1 of a place in mm in one area. */
export function shade(id, x, y, n, fine) {
  const soft = n(x / 60, y / 22);
  if (id === 'sky') {
    const t = clamp((y + 26 * (soft - 0.5)) / 300);
    const low = mix([0.62, 0.63, 0.78], [0.97, 0.8, 0.66], smooth(0.45, 1, t));
    const sky = mix([0.33, 0.45, 0.68], low, smooth(0, 0.62, t));
    const cloud = smooth(0.6, 0.82, n(x / 85, y / 13 + 40)) * smooth(40, 150, y) * (1 - smooth(230, 290, y));
    return mix(sky, [0.98, 0.83, 0.74], cloud * 0.55);
  }
  if (id === 'far')
    return mix(mix([0.53, 0.54, 0.71], [0.47, 0.49, 0.68], soft), haze.colour, 0.42 * smooth(-4, 40, y - farRidge(x)));
  if (id === 'near')
    return mix(mix([0.34, 0.39, 0.57], [0.28, 0.34, 0.52], soft), haze.colour, 0.38 * smooth(2, 32, y - nearRidge(x)));
  if (id === 'trees')
    return mix(
      [0.13, 0.22, 0.22],
      [0.25, 0.34, 0.27],
      smooth(0.35, 0.7, n(x / 5, y / 5)) * (1 - smooth(0, 14, y - treeLine(x)) * 0.6),
    );
  if (id === 'fields') {
    const row = steps.findIndex((step) => y < step.y(x));
    const k = row === -1 ? 5 : row;
    const top = k === 0 ? terraceTop(x) : steps[k - 1].y(x);
    const lit = smooth(0.25, 0.8, (y - top) / (14 + 7 * k) + 0.5 * n(x / 34, y / 8) - 0.3);
    const green = mix([0.36, 0.47, 0.25], [0.45, 0.52, 0.24], n(x / 25 + k * 7, y / 9));
    return mix(mix(green, [0.82, 0.7, 0.42], 0.62 * (1 - lit)), haze.colour, 0.3 * (1 - smooth(350, 430, y)));
  }
  if (id === 'edges') return mix([0.24, 0.19, 0.3], [0.33, 0.26, 0.34], n(x / 9, y / 4));
  const balloon =
    balloons.find((one) => Math.abs(x - one.cx) < one.r * 1.1 && y > one.cy - one.r * 1.1 && y < one.cy + one.r * 1.9) ??
    balloons[0];
  const across = (x - balloon.cx) / Math.max(1, halfWidth(balloon, y));
  const light = clamp(0.55 + 0.6 * across - 0.25 * ((y - balloon.cy) / balloon.r));
  if (id === 'great' || id === 'small')
    return mix(
      mix([0.33, 0.11, 0.16], [0.79, 0.24, 0.17], smooth(0, 0.75, light)),
      [0.98, 0.66, 0.42],
      0.5 * smooth(0.86, 1.02, light),
    );
  if (id === 'stripes')
    return mix(mix([0.55, 0.44, 0.46], [0.94, 0.85, 0.68], smooth(0, 0.7, light)), [1, 0.95, 0.82], smooth(0.85, 1.05, light));
  return mix([0.26, 0.17, 0.12], [0.48, 0.31, 0.17], clamp(light + 0.3 * (fine - 0.5)));
}
