// A table lamp in a dark room, 12 × 16 in, back to front.
import { clamp, mix, smooth } from '../noise.mjs';

export const canvas = { widthMm: 304.8, heightMm: 406.4 };
const [W, H] = [canvas.widthMm, canvas.heightMm];
const round = (outline) =>
  outline.map((polygon) => polygon.map((ring) => ring.map(([x, y]) => [Math.round(x * 10) / 10, Math.round(y * 10) / 10])));
const one = (points) => [[points]];
const ring = (cx, cy, rx, ry, from = 0, to = 2 * Math.PI, count = 40) =>
  Array.from({ length: count }, (_, i) => {
    const t = from + ((to - from) * i) / (count - 1);
    return [cx + rx * Math.cos(t), cy + ry * Math.sin(t)];
  });

export const areas = [
  {
    id: 'wall',
    name: 'dark wall',
    outline: one([
      [0, 0],
      [W, 0],
      [W, H],
      [0, H],
    ]),
  },
  { id: 'glow', name: 'glow on the wall', outline: one(ring(170, 120, 118, 112)) },
  {
    id: 'table',
    name: 'table',
    outline: one([
      [0, 296],
      [W, 284],
      [W, H],
      [0, H],
    ]),
  },
  { id: 'pool', name: 'light on the table', outline: one(ring(166, 336, 112, 34)) },
  {
    id: 'book',
    name: 'closed book',
    outline: one([
      [26, 330],
      [108, 316],
      [124, 346],
      [38, 364],
    ]),
  },
  {
    id: 'stand',
    name: 'brass stand',
    outline: one([
      [160, 176],
      [174, 176],
      [176, 300],
      [206, 312],
      [206, 324],
      [130, 324],
      [130, 312],
      [158, 300],
    ]),
  },
  {
    id: 'shade',
    name: 'lamp shade',
    outline: one([...ring(167, 96, 44, 9, Math.PI, 2 * Math.PI, 14), ...ring(167, 182, 84, 17, 0, Math.PI, 22)]),
  },
].map((area) => ({ ...area, outline: round(area.outline) }));

export const haze = { colour: [0.2, 0.14, 0.1], at: () => 0.04 };

/** sRGB 0…1 of a place in mm in one area: one warm lamp, everything else falls off into the dark. */
export function shade(id, x, y, n, fine) {
  const far = Math.hypot((x - 167) / 1.05, y - 150);
  const light = clamp(1 - far / 230) ** 1.6;
  const grain = 0.02 * (n(x / 7, y / 7) - 0.5);
  const lit = (colour, by = light) => colour.map((value) => clamp(value * (0.12 + 1.05 * by) + grain));
  if (id === 'wall') return lit([0.34, 0.3, 0.36]);
  if (id === 'glow')
    return mix(lit([0.34, 0.3, 0.36]), [0.78, 0.56, 0.34], 0.75 * clamp(1 - Math.hypot(x - 170, y - 120) / 118) ** 1.3);
  if (id === 'table') return lit([0.5, 0.3, 0.19], 0.55 * light + 0.04);
  if (id === 'pool')
    return mix([0.36, 0.2, 0.12], [0.93, 0.68, 0.4], clamp(1 - Math.hypot((x - 166) / 112, (y - 336) / 34)) ** 0.8);
  if (id === 'book') return mix([0.2, 0.09, 0.12], [0.55, 0.18, 0.18], smooth(40, 118, x) * 0.9 + 0.1 * fine);
  if (id === 'stand') return mix([0.24, 0.15, 0.07], [0.88, 0.68, 0.34], smooth(0.25, 0.6, Math.abs(((x - 158) / 18) % 1)) * 0.8);
  const across = Math.abs(x - 167) / 84;
  return mix([0.99, 0.93, 0.74], [0.86, 0.6, 0.3], clamp(across * 0.9 + (y - 90) / 300 + 0.1 * (n(x / 10, y / 30) - 0.5)));
}
