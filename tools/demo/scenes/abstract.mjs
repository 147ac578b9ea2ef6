// An abstract of bent bands and a disc, 24 × 24 in, back to front.
import { clamp, mix, smooth } from '../noise.mjs';

export const canvas = { widthMm: 609.6, heightMm: 609.6 };
const S = canvas.widthMm;
const round = (outline) =>
  outline.map((polygon) => polygon.map((ring) => ring.map(([x, y]) => [Math.round(x * 10) / 10, Math.round(y * 10) / 10])));
/** A band across the canvas between two bent lines. */
const band = (y0, y1, bend, lean) => {
  const xs = Array.from({ length: 25 }, (_, i) => (S * i) / 24);
  const at = (y) => (x) => [x, y + bend * Math.sin((Math.PI * x) / S) + lean * (x / S - 0.5)];
  return [[[...xs.map(at(y0)), ...[...xs].reverse().map(at(y1))]]];
};
const disc = (cx, cy, r) => [
  [Array.from({ length: 48 }, (_, i) => [cx + r * Math.cos((i * Math.PI) / 24), cy + r * Math.sin((i * Math.PI) / 24)])],
];

export const areas = [
  {
    id: 'field',
    name: 'ochre field',
    outline: [
      [
        [
          [0, 0],
          [S, 0],
          [S, S],
          [0, S],
        ],
      ],
    ],
  },
  { id: 'blue', name: 'blue band', outline: band(60, 190, 60, -90) },
  { id: 'rust', name: 'rust band', outline: band(330, 470, -70, 120) },
  { id: 'teal', name: 'teal band', outline: band(500, 590, -30, 40) },
  { id: 'disc', name: 'cream disc', outline: disc(400, 300, 118) },
  {
    id: 'dark',
    name: 'dark bar',
    outline: [
      [
        [
          [110, 120],
          [176, 104],
          [204, 520],
          [136, 532],
        ],
      ],
    ],
  },
  { id: 'spot', name: 'red spot', outline: disc(292, 214, 34) },
].map((area) => ({ ...area, outline: round(area.outline) }));

export const haze = { colour: [1, 1, 1], at: () => 0 };

const colours = {
  field: [
    [0.8, 0.62, 0.3],
    [0.9, 0.75, 0.45],
  ],
  blue: [
    [0.16, 0.27, 0.52],
    [0.3, 0.45, 0.68],
  ],
  rust: [
    [0.5, 0.2, 0.13],
    [0.68, 0.33, 0.2],
  ],
  teal: [
    [0.12, 0.36, 0.38],
    [0.27, 0.53, 0.52],
  ],
  disc: [
    [0.86, 0.8, 0.68],
    [0.97, 0.94, 0.86],
  ],
  dark: [
    [0.11, 0.1, 0.13],
    [0.22, 0.2, 0.24],
  ],
  spot: [
    [0.72, 0.15, 0.13],
    [0.82, 0.28, 0.2],
  ],
};
/** sRGB 0…1 of a place in mm in one area: two tones of a colour, dragged about. */
export function shade(id, x, y, n, fine) {
  const [deep, pale] = colours[id];
  return mix(deep, pale, clamp(smooth(0.3, 0.7, n(x / 90, y / 34)) + 0.14 * (fine - 0.5)));
}
