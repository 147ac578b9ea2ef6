// An eight-point star tile, 12 × 12 in, back to front.
import { clamp, mix, smooth } from '../noise.mjs';

export const canvas = { widthMm: 304.8, heightMm: 304.8 };
const S = canvas.widthMm;
const C = S / 2;
const round = (outline) =>
  outline.map((polygon) => polygon.map((ring) => ring.map(([x, y]) => [Math.round(x * 10) / 10, Math.round(y * 10) / 10])));
const square = (inset) => [
  [inset, inset],
  [S - inset, inset],
  [S - inset, S - inset],
  [inset, S - inset],
];
const turned = (radius, from, count) =>
  Array.from({ length: count }, (_, i) => {
    const t = from + (i * 2 * Math.PI) / count;
    return [C + radius * Math.cos(t), C + radius * Math.sin(t)];
  });
/** A star of eight points: two squares laid over each other. */
const starRing = (radius) => {
  const inner = (radius * Math.cos(Math.PI / 4)) / Math.cos(Math.PI / 8);
  return Array.from({ length: 16 }, (_, i) => {
    const t = (i * Math.PI) / 8;
    const r = i % 2 === 0 ? radius : inner;
    return [C + r * Math.cos(t), C + r * Math.sin(t)];
  });
};
const kite = (k) => {
  const t = (k * Math.PI) / 4 + Math.PI / 8;
  const at = (r, by) => [C + r * Math.cos(t + by), C + r * Math.sin(t + by)];
  return [[at(92, 0), at(107, 0.17), at(126, 0), at(107, -0.17)]];
};
const corner = (sx, sy) => {
  const [x, y] = [C + sx * (C - 26), C + sy * (C - 26)];
  return [
    [
      [x, y],
      [x - sx * 46, y],
      ...[0.2, 0.4, 0.6, 0.8].map((t) => [x - sx * 46 * Math.cos((t * Math.PI) / 2), y - sy * 46 * Math.sin((t * Math.PI) / 2)]),
      [x, y - sy * 46],
    ],
  ];
};

export const areas = [
  { id: 'rim', name: 'blue rim', outline: [[square(0)]] },
  { id: 'ground', name: 'cream ground', outline: [[square(18)]] },
  { id: 'corners', name: 'corners', outline: [corner(1, 1), corner(1, -1), corner(-1, 1), corner(-1, -1)] },
  { id: 'kites', name: 'green kites', outline: Array.from({ length: 8 }, (_, k) => kite(k)) },
  { id: 'star', name: 'star', outline: [[starRing(116)]] },
  { id: 'band', name: 'white band', outline: [[starRing(84), starRing(74)]] },
  { id: 'rosette', name: 'ochre rosette', outline: [[turned(46, Math.PI / 8, 8)]] },
  { id: 'eye', name: 'dark eye', outline: [[turned(19, 0, 32)]] },
].map((area) => ({ ...area, outline: round(area.outline) }));

export const haze = { colour: [0.95, 0.95, 0.94], at: (x, y) => 0.16 * smooth(150, -60, Math.hypot(x - 40, y - 30)) };

const glaze = {
  rim: [0.13, 0.24, 0.47],
  ground: [0.87, 0.83, 0.72],
  corners: [0.58, 0.2, 0.17],
  kites: [0.25, 0.46, 0.33],
  star: [0.12, 0.42, 0.49],
  band: [0.9, 0.88, 0.83],
  rosette: [0.77, 0.55, 0.22],
  eye: [0.16, 0.13, 0.17],
};

/** sRGB 0…1 of a place in mm in one area: a hand-laid glaze that pools and breaks, and fine cracks. */
export function shade(id, x, y, n, fine) {
  const pool = n(x / 20, y / 20) - 0.5;
  const crack = smooth(0.035, 0, Math.abs(n(x / 16 + 90, y / 16) - 0.5)) * 0.14;
  const colour = glaze[id].map((value) => clamp(value * (1 + 0.28 * pool)));
  const lit = mix(colour, [1, 1, 1], 0.1 * smooth(0.62, 0.8, n(x / 44 + 7, y / 44)));
  return mix(lit, [0.25, 0.22, 0.2], crack + 0.04 * (fine - 0.5));
}
