// A ball of red wool on old boards, 16 × 12 in lying, back to front.
import { clamp, mix, smooth } from '../noise.mjs';

export const canvas = { widthMm: 406.4, heightMm: 304.8 };
const [W, H] = [canvas.widthMm, canvas.heightMm];
const BALL = { x: 212, y: 150, r: 92 };
const TABLE = 168;
const round = (outline) =>
  outline.map((polygon) => polygon.map((ring) => ring.map(([x, y]) => [Math.round(x * 10) / 10, Math.round(y * 10) / 10])));
const ring = (cx, cy, rx, ry, count = 64) =>
  Array.from({ length: count }, (_, i) => {
    const t = (2 * Math.PI * i) / count;
    return [cx + rx * Math.cos(t), cy + ry * Math.sin(t)];
  });
/** A bar between two places, thinner at its second end. */
const bar = ([ax, ay], [bx, by], from, to) => {
  const length = Math.hypot(bx - ax, by - ay);
  const [nx, ny] = [(by - ay) / length, (ax - bx) / length];
  return [
    [ax + nx * from, ay + ny * from],
    [bx + nx * to, by + ny * to],
    [bx - nx * to, by - ny * to],
    [ax - nx * from, ay - ny * from],
  ];
};

export const areas = [
  {
    id: 'wall',
    name: 'grey wall',
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
  {
    id: 'boards',
    name: 'old boards',
    outline: [
      [
        [
          [0, TABLE],
          [W, TABLE - 4],
          [W, H],
          [0, H],
        ],
      ],
    ],
  },
  { id: 'needles', name: 'needles', outline: [[bar([250, 92], [352, 22], 3.4, 2.6)], [bar([262, 118], [372, 70], 3.4, 2.6)]] },
  { id: 'ball', name: 'ball of wool', outline: [[ring(BALL.x, BALL.y, BALL.r, BALL.r * 0.97)]] },
].map((area) => ({ ...area, outline: round(area.outline) }));

export const haze = { colour: [0.5, 0.5, 0.5], at: () => 0.02 };

/** Three ways in which the wool is wound: axes of the windings. */
const axes = [
  [0.34, 0.9, 0.28],
  [0.86, -0.3, 0.41],
  [-0.6, 0.62, 0.5],
];
const LIGHT = [-0.52, -0.6, 0.61];
const STRAND_MM = 6.4;

function wool(x, y, n, fine) {
  const [u, v] = [(x - BALL.x) / BALL.r, (y - BALL.y) / (BALL.r * 0.97)];
  const z = Math.sqrt(Math.max(0, 1 - u * u - v * v));
  const lit = clamp(u * LIGHT[0] + v * LIGHT[1] + z * LIGHT[2]);
  const axis = axes[Math.min(2, Math.floor(3 * clamp(n(u * 1.3 + 40, v * 1.3 + 7) * 1.3 - 0.15)))];
  const along = Math.asin(clamp((u * axis[0] + v * axis[1] + z * axis[2] + 1) / 2) * 2 - 1);
  const strand = 0.5 + 0.5 * Math.cos((2 * Math.PI * along * BALL.r) / STRAND_MM + 2 * n(x / 30, y / 30));
  const value = 0.16 + 0.95 * lit;
  const fuzz = 0.1 * (fine - 0.5);
  const deep = [0.2, 0.035, 0.05];
  const red = [0.72, 0.16, 0.14];
  const pale = [0.96, 0.52, 0.42];
  const own = mix(deep, mix(red, pale, smooth(0.62, 1, strand * lit)), clamp(0.2 + 0.8 * strand));
  return own.map((c) => clamp(c * value + fuzz * c + 0.03));
}

/** sRGB 0…1 of a place in mm in one area: daylight from the upper left. */
export function shade(id, x, y, n, fine) {
  if (id === 'wall') {
    const glow = clamp(1 - Math.hypot(x - 70, y - 20) / 420);
    return mix([0.36, 0.4, 0.42], [0.66, 0.7, 0.7], glow).map((c) => clamp(c + 0.03 * (n(x / 60, y / 60) - 0.5)));
  }
  if (id === 'boards') {
    const down = (y - TABLE) / (H - TABLE);
    const board = Math.floor((y - TABLE) / (20 + 34 * down));
    const edge = (y - TABLE) % (20 + 34 * down);
    const grain = 0.5 + 0.5 * Math.sin(y * 1.1 + 9 * n(x / 120, y / 9 + board * 3));
    const cast = smooth(1.25, 0.5, Math.hypot((x - BALL.x - 66) / 128, (y - BALL.y - 92) / 34));
    const base = mix([0.42, 0.3, 0.2], [0.62, 0.48, 0.34], 0.55 * grain + 0.25 * n(board * 7.1, 3) + 0.2 * (1 - x / W));
    const joint = edge < 1.6 ? 0.45 : 1;
    return base.map((c) => clamp(c * joint * (1 - 0.68 * cast) + 0.02 * (fine - 0.5)));
  }
  if (id === 'needles') {
    const across = 0.5 + 0.5 * Math.sin((x + y * 1.4) / 2.2);
    return mix([0.5, 0.36, 0.2], [0.93, 0.82, 0.62], across);
  }
  return wool(x, y, n, fine);
}
