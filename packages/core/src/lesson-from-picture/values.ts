import type { Lab } from '@viaticum/contract';
import type { Labels, LabRaster } from '@viaticum/kernels/raster';

/** A value of an area: its mean colour and the share of the area it takes. */
type AreaValue = { lab: Lab; share: number };
/** The values of one area, dark to light; `gradual` where they pass into each other rather than lie side by side. */
export type AreaValues = { values: AreaValue[]; gradual: boolean };

const ROUNDS = 12;
/** One value more must bring the mean distance (ΔE of Lab) down by so much. */
const WORTH = 1.1;
const WORTH_RICH = 0.4;
const GOOD = 2.2;
/** On what is looked at a colour of its own counts more than a step of light. */
const HUE_RICH = 2;
/** A value on less of an area than this is noise. */
const LEAST_SHARE = 0.03;
const MOST_PIXELS = 12_000;

/** How many values an area gets at most; `rich` where a surface wants its darkest darks and lightest lights apart from the rest. */
export type Wants = { most: number; rich: boolean };

/**
 * The values of every label of a map, by k-means in Lab from evenly spread starts (no chance in it): as many as are worth it, at most
 * as many as each area wants. Shares are of the area's own pixels.
 */
export function areaValues(map: Labels, lab: LabRaster, wants: readonly Wants[]): AreaValues[] {
  const areas = wants.length;
  const places: number[][] = Array.from({ length: areas }, () => []);
  map.data.forEach((label, at) => {
    if (label >= 0 && label < areas) (places[label] as number[]).push(at);
  });
  return places.map((all, area) => {
    const { most, rich } = wants[area] as Wants;
    const step = Math.max(1, Math.floor(all.length / MOST_PIXELS));
    const pixels = all
      .filter((_, i) => i % step === 0)
      .map((at): Lab => [lab.l[at] as number, lab.a[at] as number, lab.b[at] as number]);
    if (pixels.length === 0) return { values: [], gradual: false };
    const hue = rich ? HUE_RICH : 1;
    let best = means(pixels, 1, hue);
    for (let k = 2; k <= most && best.off > GOOD; k++) {
      const next = means(pixels, k, hue);
      if (best.off - next.off < (rich ? WORTH_RICH : WORTH) || next.values.some((one) => one.share < LEAST_SHARE)) break;
      best = next;
    }
    const values = best.values.sort((one, other) => one.lab[0] - other.lab[0]);
    return { values: rich ? withAccents(pixels, values) : values, gradual: isGradual(pixels, values) };
  });
}

/** So much of a surface is its darkest darks, and as much its lightest lights. */
const ACCENT_SHARE = 0.06;
const ACCENT_APART = 5;
/** The darkest and the lightest value moved to the darkest and lightest places, where these lie well apart from them. */
function withAccents(pixels: readonly Lab[], values: readonly AreaValue[]): AreaValue[] {
  if (values.length < 3) return [...values];
  const byLight = [...pixels].sort((one, other) => one[0] - other[0]);
  const count = Math.max(1, Math.round(ACCENT_SHARE * pixels.length));
  const mean = (some: readonly Lab[]) =>
    [0, 1, 2].map((c) => some.reduce((sum, one) => sum + one[c as 0], 0) / some.length) as Lab;
  const [dark, light] = [mean(byLight.slice(0, count)), mean(byLight.slice(-count))];
  return values.map((value, i) => {
    const accent = i === 0 ? dark : i === values.length - 1 ? light : null;
    return accent && Math.abs(accent[0] - value.lab[0]) > ACCENT_APART ? { ...value, lab: accent } : value;
  });
}

const BETWEEN_FROM = 0.25;
const GRADUAL_SHARE = 0.14;
/** Whether many pixels lie between two values: from side to side with a blend of both in the middle, no shapes. */
function isGradual(pixels: readonly Lab[], values: readonly AreaValue[]): boolean {
  if (values.length < 2) return false;
  let between = 0;
  for (const pixel of pixels) {
    const [first = 0, second = 0] = values.map((value) => Math.sqrt(squared(value.lab, pixel))).sort((a, b) => a - b);
    if (first / Math.max(1e-6, first + second) > BETWEEN_FROM) between++;
  }
  return between / pixels.length > GRADUAL_SHARE;
}

const squared = (one: Lab, other: Lab, hue = 1) =>
  (one[0] - other[0]) ** 2 + hue * ((one[1] - other[1]) ** 2 + (one[2] - other[2]) ** 2);

function means(pixels: readonly Lab[], k: number, hue = 1): { values: AreaValue[]; off: number } {
  const byLight = [...pixels].sort((one, other) => one[0] - other[0]);
  let centres = Array.from({ length: k }, (_, i) => byLight[Math.floor(((i + 0.5) * byLight.length) / k)] as Lab);
  let counts: number[] = [];
  let off = 0;
  for (let round = 0; round < ROUNDS; round++) {
    const sums = centres.map(() => [0, 0, 0, 0] as [number, number, number, number]);
    off = 0;
    for (const pixel of pixels) {
      let nearest = 0;
      let least = Number.POSITIVE_INFINITY;
      centres.forEach((centre, i) => {
        const far = squared(centre, pixel, hue);
        if (far < least) {
          least = far;
          nearest = i;
        }
      });
      const sum = sums[nearest] as [number, number, number, number];
      for (let c = 0; c < 3; c++) sum[c] = (sum[c] as number) + (pixel[c] as number);
      sum[3]++;
      off += Math.sqrt(least);
    }
    counts = sums.map((sum) => sum[3]);
    centres = sums.map((sum, i) => (sum[3] > 0 ? [sum[0] / sum[3], sum[1] / sum[3], sum[2] / sum[3]] : (centres[i] as Lab)));
  }
  const values = centres.map((lab, i) => ({ lab, share: (counts[i] as number) / pixels.length }));
  return { values: values.filter((one) => one.share > 0), off: off / pixels.length };
}
