// A copper kettle and two blue enamel mugs on a checked cloth, 16 × 12 in, back to front.
import { clamp, mix, smooth } from '../noise.mjs';

export const canvas = { widthMm: 406.4, heightMm: 304.8 };
const [W, H] = [canvas.widthMm, canvas.heightMm];
const range = (from, to, count) => Array.from({ length: count }, (_, i) => from + ((to - from) * i) / (count - 1));
const round = (outline) =>
  outline.map((polygon) => polygon.map((ring) => ring.map(([x, y]) => [Math.round(x * 10) / 10, Math.round(y * 10) / 10])));

const edge = (x) => 148 + 2.5 * Math.sin(x / 70);
const kettle = { cx: 150, top: 104, foot: 232, half: 74 };
/** Half the width of the kettle's body at a height. */
const bodyHalf = (y) => {
  const t = clamp((y - kettle.top) / (kettle.foot - kettle.top));
  return kettle.half * (0.46 + 0.54 * Math.sin(Math.PI * (0.12 + 0.62 * t)) ** 0.8);
};
const ellipse = (cx, cy, rx, ry, count = 36, from = 0, to = 2 * Math.PI) =>
  range(from, to, count).map((t) => [cx + rx * Math.cos(t), cy + ry * Math.sin(t)]);
const body = () => {
  const ys = range(kettle.top, kettle.foot, 26);
  const foot = ellipse(kettle.cx, kettle.foot, bodyHalf(kettle.foot), 12, 13, 0, Math.PI);
  return [
    [
      ...ys.map((y) => [kettle.cx + bodyHalf(y), y]),
      ...foot.slice(1, -1),
      ...[...ys].reverse().map((y) => [kettle.cx - bodyHalf(y), y]),
    ],
  ];
};
const lid = [
  [...ellipse(kettle.cx, 104, 38, 17, 20, Math.PI, 2 * Math.PI), ...ellipse(kettle.cx, 104, 38, 7, 14, 0.2, Math.PI - 0.2)],
];
const knob = [ellipse(kettle.cx, 82, 9, 8, 20).slice(0, -1)];
const spout = [
  [
    [204, 176],
    [232, 150],
    [246, 118],
    [262, 112],
    [268, 117],
    [258, 126],
    [248, 164],
    [216, 206],
  ],
];
const handle = [
  [
    ...ellipse(kettle.cx, 98, 66, 74, 30, Math.PI, 2 * Math.PI),
    ...ellipse(kettle.cx, 98, 55, 63, 30, Math.PI, 2 * Math.PI).reverse(),
  ],
];
const mugs = [
  { cx: 276, top: 168, foot: 246, half: 36 },
  { cx: 362, top: 148, foot: 206, half: 28 },
];
const cup = ({ cx, top, foot, half }) => [
  [
    [cx - half, top],
    ...ellipse(cx, top, half, half * 0.24, 14, Math.PI, 2 * Math.PI).slice(1, -1),
    [cx + half, top],
    ...ellipse(cx, foot, half * 0.86, half * 0.24, 14, 0, Math.PI),
  ],
];
const grip = ({ cx, top, foot, half }) => {
  const y = (top + foot) / 2 - 4;
  const r = (foot - top) * 0.3;
  return [
    [
      ...ellipse(cx + half - 2, y, r, r, 20, -1.35, 1.35),
      ...ellipse(cx + half - 2, y, r * 0.62, r * 0.66, 20, -1.35, 1.35).reverse(),
    ],
  ];
};
const inside = ({ cx, top, half }) => [ellipse(cx, top, half * 0.93, half * 0.19, 30).slice(0, -1)];

export const areas = [
  {
    id: 'wall',
    name: 'wall',
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
  { id: 'cloth', name: 'checked cloth', outline: [[[...range(0, W, 30).map((x) => [x, edge(x)]), [W, H], [0, H]]]] },
  { id: 'handle', name: 'kettle handle', outline: [handle] },
  { id: 'spout', name: 'spout', outline: [spout] },
  { id: 'kettle', name: 'copper body', outline: [body()] },
  { id: 'lid', name: 'lid', outline: [lid, knob] },
  { id: 'mugs', name: 'blue mugs', outline: mugs.flatMap((mug) => [grip(mug), cup(mug)]) },
  { id: 'insides', name: 'insides of the mugs', outline: mugs.map(inside) },
].map((area) => ({ ...area, outline: round(area.outline) }));

export const haze = {
  colour: [0.86, 0.83, 0.78],
  at: (x, y) => 0.05 * Math.exp(-(((x - 60) / 160) ** 2) - ((y - 40) / 110) ** 2),
};

/** Darkening of the cloth under the things that stand on it, the light coming from the left. */
const shadow = (x, y) => {
  const cast = (cx, cy, rx, ry) => 1 - smooth(0.55, 1.1, Math.hypot((x - cx) / rx, (y - cy) / ry));
  return Math.max(cast(kettle.cx + 46, 240, 108, 20), cast(300, 252, 58, 11), cast(384, 211, 44, 9));
};

/** sRGB 0…1 of a place in mm in one area. */
export function shade(id, x, y, n, fine) {
  if (id === 'wall')
    return mix(
      mix([0.72, 0.69, 0.63], [0.5, 0.49, 0.48], smooth(0, W, x + 40 * (n(x / 50, y / 50) - 0.5))),
      [0.62, 0.6, 0.56],
      0.2,
    );
  if (id === 'cloth') {
    // Rows narrow towards the far edge.
    const depth = Math.log(1 + (y - edge(x) + 40) / 40) * 6;
    const column = (x - W / 2) / (20 + 0.16 * (y - 148)) + 40;
    const [u, v] = [Math.floor(column) % 2, Math.floor(depth * 1.6) % 2];
    const cloth = mix([0.86, 0.83, 0.76], [0.62, 0.24, 0.22], u === v ? (u === 0 ? 0 : 0.85) : 0.45);
    return mix(mix(cloth, [0.3, 0.24, 0.27], 0.62 * shadow(x, y)), [0.93, 0.9, 0.84], 0.12 * n(x / 12, y / 12));
  }
  if (id === 'handle')
    return mix(
      [0.12, 0.1, 0.1],
      [0.34, 0.29, 0.26],
      smooth(0.4, 0.9, 1 - Math.abs(Math.hypot((x - kettle.cx) / 60, (y - 98) / 68) - 1) * 14),
    );
  if (id === 'spout') return mix([0.36, 0.17, 0.1], [0.87, 0.52, 0.32], smooth(-12, 16, 236 - x + 0.5 * (y - 150) + 6 * fine));
  if (id === 'kettle' || id === 'lid') {
    const across = (x - kettle.cx) / Math.max(10, id === 'lid' ? 38 : bodyHalf(y));
    const light = clamp(0.62 - 0.55 * across - 0.0018 * (y - 150) + 0.08 * (n(x / 18, y / 30) - 0.5));
    const copper = mix([0.3, 0.13, 0.09], [0.83, 0.46, 0.28], smooth(0.05, 0.85, light));
    const glint =
      Math.exp(-(((across + 0.52) / 0.09) ** 2)) * smooth(kettle.top, kettle.top + 30, y + (id === 'lid' ? 40 : 0)) * 0.75;
    const back = id === 'kettle' ? 0.3 * smooth(0.72, 0.98, across) : 0;
    return mix(mix(copper, [0.99, 0.86, 0.72], glint), [0.7, 0.33, 0.26], back);
  }
  const mug = mugs[x < 334 ? 0 : 1];
  const across = (x - mug.cx) / mug.half;
  if (id === 'insides') return mix([0.88, 0.89, 0.88], [0.45, 0.48, 0.52], smooth(-0.6, 0.8, -across));
  const blue = mix([0.1, 0.17, 0.36], [0.27, 0.43, 0.7], smooth(0, 1, 0.62 - 0.62 * across));
  return mix(blue, [0.85, 0.91, 0.97], 0.8 * Math.exp(-(((across + 0.5) / 0.08) ** 2)) * smooth(mug.top, mug.top + 14, y));
}
