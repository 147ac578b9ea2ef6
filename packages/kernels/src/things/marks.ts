import type { Scene } from './prepare.js';

/** A mark of an instructor: a tap or a stroke over a thing, or a ring round it; points in shares (0-1) of the picture. */
export type ThingMark = { thing: number; kind: 'tap' | 'stroke' | 'ring'; points: readonly (readonly [number, number])[] };
/** The pixels under a mark, each once. */
export type Covered = { mark: ThingMark; pixels: Int32Array };

const STROKE_SHARE = 0.006;
const INSIDE_SHARE = 0.8;

/** Half the width of a stroke, px. */
const strokeRadius = ({ width, height }: Pick<Scene, 'width' | 'height'>): number =>
  Math.max(2, STROKE_SHARE * Math.hypot(width, height));

/**
 * What every mark covers: rings first, and a ring that lies within another takes its pixels out of that one, whichever came first.
 */
export function coveredBy(scene: Pick<Scene, 'width' | 'height'>, marks: readonly ThingMark[]): Covered[] {
  const rings = marks.filter((mark) => mark.kind === 'ring').map((mark) => ({ mark, pixels: insideOf(scene, mark) }));
  const kept = rings.map(({ mark, pixels }) => {
    const inner = rings.filter(
      (other) => other.mark !== mark && other.mark.thing !== mark.thing && other.pixels.length < pixels.length,
    );
    const own = new Set(pixels);
    for (const other of inner) {
      const shared = other.pixels.reduce((sum, pixel) => sum + (own.has(pixel) ? 1 : 0), 0);
      if (shared > INSIDE_SHARE * other.pixels.length) for (const pixel of other.pixels) own.delete(pixel);
    }
    return { mark, pixels: Int32Array.from(own) };
  });
  return [...kept, ...marks.filter((mark) => mark.kind !== 'ring').map((mark) => ({ mark, pixels: alongOf(scene, mark) }))];
}

function insideOf({ width, height }: Pick<Scene, 'width' | 'height'>, { points }: ThingMark): Int32Array {
  const corners = points.map(([x, y]) => [x * width, y * height] as const);
  const pixels: number[] = [];
  for (let y = 0; y < height; y++) {
    const middle = y + 0.5;
    const crossings: number[] = [];
    corners.forEach(([x1, y1], i) => {
      const [x0, y0] = corners[(i + corners.length - 1) % corners.length] as readonly [number, number];
      if (y0 > middle !== y1 > middle) crossings.push(x0 + ((middle - y0) / (y1 - y0)) * (x1 - x0));
    });
    crossings.sort((a, b) => a - b);
    for (let k = 0; k + 1 < crossings.length; k += 2) {
      const from = Math.max(0, Math.ceil(crossings[k] - 0.5));
      const to = Math.min(width - 1, Math.floor(crossings[k + 1] - 0.5));
      for (let x = from; x <= to; x++) pixels.push(y * width + x);
    }
  }
  return Int32Array.from(pixels);
}

function alongOf(scene: Pick<Scene, 'width' | 'height'>, { points }: ThingMark): Int32Array {
  const { width, height } = scene;
  const radius = strokeRadius(scene);
  const pixels = new Set<number>();
  const dab = (x: number, y: number) => {
    for (let j = Math.max(0, Math.floor(y - radius)); j <= Math.min(height - 1, y + radius); j++)
      for (let i = Math.max(0, Math.floor(x - radius)); i <= Math.min(width - 1, x + radius); i++)
        if ((i - x) ** 2 + (j - y) ** 2 <= radius * radius) pixels.add(j * width + i);
  };
  points.forEach(([sx, sy], k) => {
    const [x, y] = [sx * width, sy * height];
    dab(x, y);
    const last = points[k - 1];
    if (!last) return;
    const [a, b] = [last[0] * width, last[1] * height];
    const steps = Math.ceil(Math.hypot(x - a, y - b) / (radius * 0.7));
    for (let i = 1; i < steps; i++) dab(a + ((x - a) * i) / steps, b + ((y - b) * i) / steps);
  });
  return Int32Array.from(pixels);
}
