import { blur } from '../raster/index.js';
import { distanceInside } from './distance.js';

/** A thing as a body: `axisDeg` of a cylinder or cone (0 lying, 90 standing), `edge` the nearest corner of a box, in px. */
export type Form =
  | { kind: 'round' | 'flat' | 'cloud' }
  | { kind: 'cylinder' | 'cone'; axisDeg: number }
  | { kind: 'box'; edge: { x: number; y: number } };

/** Which way every pixel of a thing is turned: x right, y down, z towards the viewer; and how far it lies from the rim. */
export type Normals = { x: Float32Array; y: Float32Array; z: Float32Array; fromRim: Float32Array };

/** The heights of a rounded body are softened by so much of the root of its area, so that its shapes have quiet borders. */
const SOFT = 0.02;
/** A cloud is made of billows of about this share of its width. */
const BILLOW = 0.35;

/**
 * A body over a mask: round things rise from their rim like a ball, cylinders and cones across their axis, boxes have three faces that
 * meet in their nearest corner, flat things face the viewer.
 */
export function normalsOf(mask: Uint8Array, width: number, height: number, form: Form): Normals {
  const fromRim = distanceInside(mask, width, height);
  if (form.kind === 'flat' || form.kind === 'box') return { ...faces(mask, width, height, form), fromRim };
  const heights =
    form.kind === 'cylinder' || form.kind === 'cone'
      ? acrossAxis(mask, width, height, form.axisDeg)
      : swollen(fromRim, form.kind === 'cloud' ? BILLOW : 1);
  const area = mask.reduce((sum, one) => sum + (one !== 0 ? 1 : 0), 0);
  const soft = blur({ width, height, data: heights }, Math.max(1.2, SOFT * Math.sqrt(area))).data;
  const [x, y, z] = [new Float32Array(mask.length), new Float32Array(mask.length), new Float32Array(mask.length)];
  const at = (i: number, j: number) => soft[Math.max(0, Math.min(height - 1, j)) * width + Math.max(0, Math.min(width - 1, i))];
  for (let j = 0; j < height; j++)
    for (let i = 0; i < width; i++) {
      const k = j * width + i;
      if (mask[k] === 0) continue;
      const [dx, dy] = [(at(i + 1, j) - at(i - 1, j)) / 2, (at(i, j + 1) - at(i, j - 1)) / 2];
      const long = Math.sqrt(dx * dx + dy * dy + 1);
      x[k] = -dx / long;
      y[k] = -dy / long;
      z[k] = 1 / long;
    }
  return { x, y, z, fromRim };
}

/** A ball's height over its rim; `share` of the greatest distance to the rim is a radius. */
function swollen(fromRim: Float32Array, share: number): Float32Array {
  const radius = share * fromRim.reduce((most, one) => Math.max(most, one), 0);
  return fromRim.map((distance) => {
    const down = radius - Math.min(radius, distance);
    return Math.sqrt(Math.max(0, radius * radius - down * down));
  });
}

/** The height of a body turned about an axis: of every slice across it a half circle from rim to rim. */
function acrossAxis(mask: Uint8Array, width: number, height: number, axisDeg: number): Float32Array {
  const turn = (axisDeg * Math.PI) / 180;
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const slice = (i: number, j: number) => Math.round(i * c + j * s);
  const across = (i: number, j: number) => -i * s + j * c;
  const [low, high] = [new Map<number, number>(), new Map<number, number>()];
  const each = (what: (k: number, i: number, j: number) => void) => {
    for (let j = 0; j < height; j++) for (let i = 0; i < width; i++) if (mask[j * width + i] !== 0) what(j * width + i, i, j);
  };
  each((_, i, j) => {
    const [own, u] = [slice(i, j), across(i, j)];
    low.set(own, Math.min(low.get(own) ?? u, u));
    high.set(own, Math.max(high.get(own) ?? u, u));
  });
  const out = new Float32Array(mask.length);
  each((k, i, j) => {
    const own = slice(i, j);
    const [from, to] = [low.get(own) as number, high.get(own) as number];
    const radius = Math.max(1, (to - from) / 2);
    const off = across(i, j) - (from + to) / 2;
    out[k] = Math.sqrt(Math.max(0, radius * radius - off * off));
  });
  return out;
}

/** How far the upper face of a box is turned up, and the others lean back. */
const UP = [0, -0.95, 0.31] as const;
const LEAN = 0.12;
/** A flat face; or the three faces of a box, which meet in its nearest corner: the wider of the two that stand is turned more to the viewer. */
function faces(mask: Uint8Array, width: number, height: number, form: Form): Pick<Normals, 'x' | 'y' | 'z'> {
  const [x, y, z] = [new Float32Array(mask.length), new Float32Array(mask.length), new Float32Array(mask.length)];
  const set = (k: number, [nx, ny, nz]: readonly [number, number, number]) => {
    x[k] = nx;
    y[k] = ny;
    z[k] = nz;
  };
  if (form.kind !== 'box') {
    for (let k = 0; k < mask.length; k++) if (mask[k] !== 0) set(k, [0, 0, 1]);
    return { x, y, z };
  }
  const { edge } = form;
  // The ends of its upper edges: the highest places at its left and right rims.
  const left = rimCorner(mask, width, height, -1);
  const right = rimCorner(mask, width, height, 1);
  const [wide, narrow] = [Math.max(1, edge.x - left.x), Math.max(1, right.x - edge.x)];
  const long = Math.sqrt(wide * wide + narrow * narrow);
  const stand = (nx: number, nz: number): readonly [number, number, number] => {
    const size = Math.sqrt(nx * nx + nz * nz + LEAN * LEAN);
    return [nx / size, LEAN / size, nz / size];
  };
  const [toLeft, toRight] = [stand(-narrow / long, wide / long), stand(wide / long, narrow / long)];
  for (let j = 0; j < height; j++)
    for (let i = 0; i < width; i++) {
      const k = j * width + i;
      if (mask[k] === 0) continue;
      const end = i < edge.x ? left : right;
      const share = (i - edge.x) / (end.x - edge.x || 1);
      const upper = edge.y + share * (end.y - edge.y);
      set(k, j < upper ? UP : i < edge.x ? toLeft : toRight);
    }
  return { x, y, z };
}

/** The highest pixel of a mask in the outermost columns of one side. */
function rimCorner(mask: Uint8Array, width: number, height: number, side: -1 | 1): { x: number; y: number } {
  for (let k = 0; k < width; k++) {
    const i = side < 0 ? k : width - 1 - k;
    for (let j = 0; j < height; j++) if (mask[j * width + i] !== 0) return { x: i, y: j };
  }
  return { x: side < 0 ? 0 : width - 1, y: 0 };
}
