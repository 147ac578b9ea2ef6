import { lightnessBins, type Rgba } from '@viaticum/kernels/raster';

export const BINS = 256;
/** L* of the middle of a bin. */
export const binL = (bin: number): number => (bin * 100) / (BINS - 1);

/** Counts of lightness in 256 bins; pixels where `counts` is 0 are left out. */
export function histogram(bins: Uint8Array, counted?: Uint8Array): Float64Array {
  const out = new Uint32Array(BINS);
  if (counted) {
    for (let i = 0; i < bins.length; i++) out[bins[i] as number] = (out[bins[i] as number] as number) + (counted[i] ? 1 : 0);
    return Float64Array.from(out);
  }
  // Neighbours are alike: in four tables, none waits for the count before it.
  const tables = new Uint32Array(4 * BINS);
  for (let i = 0; i < bins.length; i++) {
    const at = ((i & 3) << 8) | (bins[i] as number);
    tables[at] = (tables[at] as number) + 1;
  }
  return Float64Array.from({ length: BINS }, (_, bin) =>
    [0, 1, 2, 3].reduce((sum, k) => sum + (tables[(k << 8) | bin] as number), 0),
  );
}

/**
 * Thresholds that part a histogram into `classes` groups with the greatest variance between them (Otsu 1979), found exactly by
 * dynamic programming over all cuts. Gives the last bin of every class but the last; fewer classes where there are fewer
 * different values.
 */
export function multiOtsu(counts: ArrayLike<number>, classes: number): number[] {
  const n = counts.length;
  const [weight, moment] = [new Float64Array(n + 1), new Float64Array(n + 1)];
  let different = 0;
  for (let i = 0; i < n; i++) {
    const count = counts[i] as number;
    weight[i + 1] = (weight[i] as number) + count;
    moment[i + 1] = (moment[i] as number) + count * i;
    if (count > 0) different++;
  }
  const k = Math.max(1, Math.min(classes, different));
  /** Weight times squared mean of bins from+1 … to. */
  const score = (from: number, to: number) => {
    const w = (weight[to] as number) - (weight[from] as number);
    const m = (moment[to] as number) - (moment[from] as number);
    return w > 0 ? (m * m) / w : 0;
  };
  let best = Float64Array.from({ length: n + 1 }, (_, to) => score(0, to));
  const cuts: Int32Array[] = [];
  for (let c = 2; c <= k; c++) {
    const next = new Float64Array(n + 1).fill(Number.NEGATIVE_INFINITY);
    const cut = new Int32Array(n + 1);
    for (let to = c; to <= n; to++)
      for (let from = c - 1; from < to; from++) {
        const value = (best[from] as number) + score(from, to);
        if (value > (next[to] as number) + 1e-9) {
          next[to] = value;
          cut[to] = from;
        }
      }
    best = next;
    cuts.push(cut);
  }
  const thresholds: number[] = [];
  let to = n;
  for (let c = k - 2; c >= 0; c--) {
    to = (cuts[c] as Int32Array)[to] as number;
    thresholds.unshift(to - 1);
  }
  return thresholds;
}

export type ValueClass = { fromL: number; toL: number; meanL: number; share: number };
/** The masses of light and dark: every pixel's class (0 the darkest), and each class's range, mean L* and share of the area. */
export type ValueMasses = { width: number; height: number; classOf: Uint8Array; classes: ValueClass[] };

/** Reduces a picture to 2–7 values by exact multilevel thresholds on its L* histogram. `counted`: pixels that count (others join their class but do not weigh). */
export function reduceValues(picture: Rgba, count: number, counted?: Uint8Array): ValueMasses {
  const bins = lightnessBins(picture);
  const counts = histogram(bins, counted);
  const thresholds = multiOtsu(counts, Math.max(1, Math.min(7, count)));
  const classOfBin = new Uint8Array(BINS);
  for (let bin = 0; bin < BINS; bin++) classOfBin[bin] = thresholds.filter((threshold) => bin > threshold).length;
  const classOf = bins; // the bins are not needed any more
  for (let i = 0; i < bins.length; i++) classOf[i] = classOfBin[bins[i] as number] as number;
  const all = counts.reduce((sum, value) => sum + value, 0);
  const classes = Array.from({ length: thresholds.length + 1 }, (_, k): ValueClass => {
    const [low, high] = [
      k === 0 ? 0 : (thresholds[k - 1] as number) + 1,
      k === thresholds.length ? BINS - 1 : (thresholds[k] as number),
    ];
    let [weight, sum] = [0, 0];
    for (let bin = low; bin <= high; bin++) {
      weight += counts[bin] as number;
      sum += (counts[bin] as number) * binL(bin);
    }
    return {
      fromL: binL(low),
      toL: binL(high),
      meanL: weight > 0 ? sum / weight : binL((low + high) / 2),
      share: all > 0 ? weight / all : 0,
    };
  });
  return { width: picture.width, height: picture.height, classOf, classes };
}

/** Masks of the darkest and the lightest share (0.01–0.05) of a picture, and the L* at which each begins. */
export function extremes(picture: Rgba, share: number, counted?: Uint8Array) {
  const bins = lightnessBins(picture);
  const counts = histogram(bins, counted);
  const wanted = counts.reduce((sum, value) => sum + value, 0) * share;
  const limit = (order: number[]) => {
    let sum = 0;
    for (const bin of order) {
      sum += counts[bin] as number;
      if (sum >= wanted) return bin;
    }
    return order.at(-1) as number;
  };
  const rising = Array.from({ length: BINS }, (_, i) => i);
  const [dark, light] = [limit(rising), limit([...rising].reverse())];
  return {
    darkest: Uint8Array.from(bins, (bin) => (bin <= dark ? 1 : 0)),
    lightest: Uint8Array.from(bins, (bin) => (bin >= light ? 1 : 0)),
    darkL: binL(dark),
    lightL: binL(light),
  };
}
