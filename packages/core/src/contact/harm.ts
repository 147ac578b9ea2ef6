import type { Lesson, Mix } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { blend, type MixedColour, mixColour, reflectanceOfLab, type Spectra } from '@viaticum/kernels/mixing';
import { recipeParts } from '../mix/index.js';

/** A ladder of drying, as far as it says how much of a film still moves. */
export type Moving = { openMin: number; paintOverMin: number; touchDryMin: number };

const DAMP_LEFT = 0.2;
const TACKY_LEFT = 0.05;

/** How much of a film still moves at an age (0–1): all while it is workable, a fifth when it may be painted over, nothing once touch-dry. */
export function movingShare({ openMin, paintOverMin, touchDryMin }: Moving, ageMin: number): number {
  const between = (from: number, to: number, high: number, low: number) =>
    to > from ? high + ((low - high) * (ageMin - from)) / (to - from) : low;
  if (ageMin <= openMin) return 1;
  if (ageMin < paintOverMin) return between(openMin, paintOverMin, 1, DAMP_LEFT);
  if (ageMin < touchDryMin) return between(paintOverMin, touchDryMin, DAMP_LEFT, TACKY_LEFT);
  return 0;
}

/** The first age at which no more than a share of a film moves. */
export function ageOfShare({ openMin, paintOverMin, touchDryMin }: Moving, share: number): number {
  if (share >= 1) return 0;
  if (share >= DAMP_LEFT) return openMin + ((1 - share) / (1 - DAMP_LEFT)) * Math.max(0, paintOverMin - openMin);
  if (share <= TACKY_LEFT) return Math.max(paintOverMin, touchDryMin);
  return paintOverMin + ((DAMP_LEFT - share) / (DAMP_LEFT - TACKY_LEFT)) * Math.max(0, touchDryMin - paintOverMin);
}

const MOST_PICKED_UP = 0.5;
/** Share of wet paint in a stroke that went through it: by the film beneath and its own (both µm wet), and how much still moves. */
export const pickedUp = (lifts: number, moving: number, beneathUm: number, ownUm: number): number =>
  Math.min(MOST_PICKED_UP, (lifts * moving * 2 * beneathUm) / Math.max(1e-6, beneathUm + ownUm));

type Kept = { tubes: Lesson['tubes']; finish: Lesson['finish']; paint: Spectra | null };
const paints = new WeakMap<Mix, Kept>();

/** What a mix is as a paint: by its recipe, or a paint of its target's colour; null where it has neither. The same object while nothing changes. */
export function paintOfMix(lesson: Lesson, mix: Mix): Spectra | null {
  const kept = paints.get(mix);
  if (kept && kept.tubes === lesson.tubes && kept.finish === lesson.finish && !mix.mixedFrom?.length) return kept.paint;
  const parts = recipeParts(mix, lesson);
  const paint = parts ? blend(parts) : mix.targetLab ? paintOfColour(mix.targetLab) : null;
  paints.set(mix, { tubes: lesson.tubes, finish: lesson.finish, paint });
  return paint;
}

/** A paint of a colour of which nothing else is known: scattering 1, absorption by its reflectance (Kubelka and Munk 1931). */
export function paintOfColour(lab: readonly [number, number, number]): Spectra {
  const reflectance = reflectanceOfLab(lab);
  const K = Float64Array.from(reflectance, (value) => {
    const r = Math.max(1e-3, Math.min(0.999, value));
    return (1 - r) ** 2 / (2 * r);
  });
  return { K, S: new Float64Array(K.length).fill(1), film: 1 };
}

const HUNDREDTHS = 100;
const harms = new WeakMap<Spectra, WeakMap<Spectra, Float64Array>>();

/**
 * How far (ΔE00) a paint's colour is changed by a share of wet paint in it; shares are rounded to hundredths. Two-constant
 * Kubelka-Munk mixing, both as endless films.
 */
export function harmOf(wet: Spectra, own: Spectra, share: number): number {
  const at = Math.round(share * HUNDREDTHS);
  if (at <= 0) return 0;
  const of = harms.get(wet) ?? new WeakMap<Spectra, Float64Array>();
  harms.set(wet, of);
  const known = of.get(own) ?? new Float64Array(HUNDREDTHS + 1).fill(-1);
  of.set(own, known);
  if ((known[at] as number) < 0) {
    const mixed = mixColour([
      { pigment: wet, parts: at },
      { pigment: own, parts: HUNDREDTHS - at },
    ]);
    known[at] = deltaE00(aloneOf(own).lab, mixed.lab);
  }
  return known[at] as number;
}
const alone = new WeakMap<Spectra, MixedColour>();
const aloneOf = (paint: Spectra): MixedColour => {
  const known = alone.get(paint) ?? mixColour([{ pigment: paint, parts: 1 }]);
  alone.set(paint, known);
  return known;
};

/** The greatest share of wet paint (in hundredths, up to `most`) that changes a paint by no more than a limit. */
export function harmlessShare(wet: Spectra, own: Spectra, limit: number, most: number): number {
  let share = Math.round(most * HUNDREDTHS);
  while (share > 0 && harmOf(wet, own, share / HUNDREDTHS) > limit) share--;
  return share / HUNDREDTHS;
}
