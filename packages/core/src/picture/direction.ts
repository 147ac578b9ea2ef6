import { blur, type Labels, type Plane, plane, resample, resampleLabels } from '@viaticum/kernels/raster';

/** The run of strokes at a place: along what is seen there. Degrees from the x axis towards y (down), −90…90; coherence 0–1. */
export type FlowStroke = { xMm: number; yMm: number; deg: number; coherence: number; area: number };

const BLUR_MM = 1.6;
const REACH_MM = 9;
const RIM_PX = 8;
/** Below this a direction is not told from noise: "unknown". */
export const LEAST_COHERENCE = 0.4;

/**
 * Direction field by the structure tensor (Bigün and Granlund 1987, from memory): gradients after a blur of 1.6 mm, their
 * products smoothed within each region over about 9 mm, leaving out 8 pixels at its rim. A stroke every `spacingMm`.
 */
export function flowField(lightness: Plane, map: Labels, mmPerPx: number, spacingMm = 12, reachMm = REACH_MM): FlowStroke[] {
  const soft = blur(lightness, BLUR_MM / mmPerPx);
  const { width, height } = soft;
  const [xx, xy, yy] = [plane(width, height), plane(width, height), plane(width, height)];
  const used = plane(width, height);
  const rim = farFromRim(map, RIM_PX);
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const at = y * width + x;
      if (!rim[at]) continue;
      const dx = ((soft.data[at + 1] as number) - (soft.data[at - 1] as number)) / 2;
      const dy = ((soft.data[at + width] as number) - (soft.data[at - width] as number)) / 2;
      xx.data[at] = dx * dx;
      xy.data[at] = dx * dy;
      yy.data[at] = dy * dy;
      used.data[at] = 1;
    }
  const factor = Math.max(1, Math.floor((reachMm / mmPerPx) * 0.25));
  const [w, h] = [Math.max(1, Math.round(width / factor)), Math.max(1, Math.round(height / factor))];
  const small = [xx, xy, yy, used].map((one) => resample(one, w, h)) as [Plane, Plane, Plane, Plane];
  const areas = resampleLabels(map, w, h);
  const scale = (mmPerPx * width) / w;
  const sigma = reachMm / scale;
  const found: FlowStroke[] = [];
  const count = map.data.reduce((most, label) => Math.max(most, label), -1) + 1;
  for (let area = 0; area < count; area++) {
    const own = (from: Plane): Plane =>
      blur({ width: w, height: h, data: from.data.map((value, i) => (areas.data[i] === area ? value : 0)) }, sigma);
    const [sxx, sxy, syy, su] = small.map(own) as [Plane, Plane, Plane, Plane];
    const step = Math.max(1, spacingMm / scale);
    for (let y = step / 2; y < h; y += step)
      for (let x = step / 2; x < w; x += step) {
        const at = Math.floor(y) * w + Math.floor(x);
        if (areas.data[at] !== area || (su.data[at] as number) < 0.05) continue;
        const [p, q, r] = [sxx.data[at] as number, sxy.data[at] as number, syy.data[at] as number];
        const energy = (p + r) / (su.data[at] as number);
        const coherence = p + r > 0 && energy > 0.0004 ? Math.hypot(p - r, 2 * q) / (p + r) : 0;
        let deg = (0.5 * Math.atan2(2 * q, p - r) * 180) / Math.PI + 90;
        if (deg > 90) deg -= 180;
        found.push({ xMm: (Math.floor(x) + 0.5) * scale, yMm: (Math.floor(y) + 0.5) * scale, deg, coherence, area });
      }
  }
  return found;
}

/** 1 where no other label lies within so many pixels along the axes. */
function farFromRim({ width, height, data }: Labels, reach: number): Uint8Array {
  const out = new Uint8Array(width * height).fill(1);
  const run = (start: number, stride: number, length: number) => {
    let from = 0;
    for (let i = 1; i <= length; i++) {
      if (i < length && data[start + i * stride] === data[start + from * stride]) continue;
      const [head, tail] = [from === 0 ? 0 : reach, i === length ? 0 : reach];
      for (let k = from; k < i; k++) if (k - from < head || i - 1 - k < tail) out[start + k * stride] = 0;
      from = i;
    }
  };
  for (let y = 0; y < height; y++) run(y * width, 1, width);
  for (let x = 0; x < width; x++) run(x, width, height);
  return out;
}

/** The mean direction of a region with its coherence, or null where nothing speaks for one. */
export function meanDirection(strokes: readonly FlowStroke[]): { deg: number; coherence: number } | null {
  let [c, s, weight] = [0, 0, 0];
  for (const { deg, coherence } of strokes) {
    const turn = (deg * Math.PI) / 90;
    c += coherence * Math.cos(turn);
    s += coherence * Math.sin(turn);
    weight += 1;
  }
  if (weight === 0) return null;
  const coherence = Math.hypot(c, s) / weight;
  return coherence < LEAST_COHERENCE ? null : { deg: (Math.atan2(s, c) * 90) / Math.PI, coherence };
}
