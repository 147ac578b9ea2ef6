import type { Amount, Lab, SmallAmount } from '@viaticum/contract';
import { invert3, labToXyz, multiply3, type Rgb, weights, type Xyz, xyzToLab, xyzToSrgb } from '../colour/index.js';
import { FilmShare, pigmentOf, pigmentTable, SAMPLES } from '../pigment/index.js';

/** Absorption and scattering per volume part at 36 wavelengths 380-730 nm, and the share of both that counts in a thin film. */
export type Spectra = { K: ArrayLike<number>; S: ArrayLike<number>; film: number };
/** A part of a mix: a pigment of the table by its id, or any paint by its spectra. Parts may be any number above 0. */
export type MixPart = { pigment: string | Spectra; parts: Amount };
export type Finish = 'gloss' | 'satin' | 'matt';
export type MixOptions = {
  /**
   * The surface: satin for dry paint, gloss for wet. Wet paint given a finish has its veil laid over, so that it can be compared
   * with dry paint of that finish; without one it is what the eye or a camera sees of a palette.
   */
  finish?: Finish;
  state?: 'dry' | 'wet';
  film?: { dryUm: number };
  ground?: readonly [number, number, number] | Float64Array;
};
export type MixedColour = { reflectance: Float64Array; lab: Lab; srgb: Rgb; contrastRatio?: number };

/** The pigment table as plain rows, for choosing tubes. */
export const pigments = [...pigmentTable.values()];

export const dry = { k1: 0.04, k2: 0.6 }; // Saunderson 1942
const wet = { k1: 0.02, k2: 0.53, scatter: 0.03 }; // from memory
export const SPECULAR: Record<Finish, number> = { gloss: 0, satin: 0.5, matt: 1 };
/** Scattering of PW6 per mm of dry film: from published spreading rates of rutile white, 98 % hiding near 40 µm dry. */
const PER_MM = 700;
/** The white of a chart for hiding power reflects 80 % (ISO 6504-3): so much of it is seen from inside the paint. */
const CHART_WHITE = 0.915;
const SMALL: Record<SmallAmount, number> = {
  touch: 1 / 16,
  '2 touches': 2 / 16,
  '3 touches': 3 / 16,
  speck: 1 / 64,
  '2 specks': 2 / 64,
  '3 specks': 3 / 64,
};
const wetScatter = Float64Array.from({ length: SAMPLES }, (_, i) => wet.scatter * (550 / (380 + 10 * i)) ** 2);

/** An amount of a recipe as a number of parts: a touch is 1/16 part, a speck 1/64. Throws on anything below or at 0. */
export function partsOf(amount: Amount): number {
  const parts = typeof amount === 'number' ? amount : SMALL[amount];
  if (!(parts > 0 && Number.isFinite(parts)))
    throw new RangeError('Parts must be above 0. Give whole parts, “a touch” or “a speck”.');
  return parts;
}

export const spectraOf = (pigment: string | Spectra): Spectra => (typeof pigment === 'string' ? pigmentOf(pigment) : pigment);

/** What a mix absorbs and scatters per volume part, so that it can be mixed on like a tube. */
export function blend(parts: readonly MixPart[]): Spectra {
  const total = parts.reduce((sum, part) => sum + partsOf(part.parts), 0);
  const sum = (of: 'K' | 'S') =>
    Float64Array.from({ length: SAMPLES }, (_, i) =>
      parts.reduce((all, part) => all + (partsOf(part.parts) / total) * spectraOf(part.pigment)[of][i], 0),
    );
  const film = new FilmShare();
  for (const part of parts) film.add(partsOf(part.parts), spectraOf(part.pigment));
  return { K: sum('K'), S: sum('S'), film: film.mean };
}

/**
 * The colour of a mix by two-constant Kubelka-Munk theory (Kubelka and Munk 1931, Duncan 1940) with Saunderson's surface
 * correction (1942). Gives the reflectance at 36 samples 380-730 nm, L*a*b* (D65, 2°) and sRGB; an infinite film unless
 * `film` (dry µm) is given, then over `ground` (L*a*b* or reflectance; white gesso where none is given), with the contrast
 * ratio over black and a white of 80 % (ISO 6504-3). A thin film counts only the share `film` of the paint's K and S. Throws a RangeError on an empty recipe, unknown tube or bad amount.
 */
export function mixColour(parts: readonly MixPart[], options: MixOptions = {}): MixedColour {
  if (parts.length === 0) throw new RangeError('A recipe needs at least one tube. Add a tube and its parts.');
  const isWet = options.state === 'wet';
  const surface = isWet ? wet : dry;
  const veil = SPECULAR[options.finish ?? (isWet ? 'gloss' : 'satin')] * dry.k1;
  const K = new Float64Array(SAMPLES);
  const S = new Float64Array(SAMPLES);
  const film = new FilmShare();
  let total = 0;
  for (const part of parts) {
    const share = partsOf(part.parts);
    const pigment = spectraOf(part.pigment);
    total += share;
    film.add(share, pigment);
    for (let i = 0; i < SAMPLES; i++) {
      K[i] = K[i] + share * pigment.K[i];
      S[i] = S[i] + share * pigment.S[i];
    }
  }
  for (let i = 0; i < SAMPLES; i++) {
    K[i] = K[i] / total;
    S[i] = S[i] / total + (isWet ? wetScatter[i] : 0);
  }
  const outside = (inside: number) => veil + ((1 - surface.k1) * (1 - surface.k2) * inside) / (1 - surface.k2 * inside);
  if (!options.film) {
    const reflectance = new Float64Array(SAMPLES);
    for (let i = 0; i < SAMPLES; i++) reflectance[i] = outside(infinite(K[i], S[i]));
    return coloured(reflectance);
  }
  const thickMm = options.film.dryUm / 1000;
  if (!(thickMm > 0 && Number.isFinite(thickMm))) throw new RangeError('A dry film must be thicker than 0 µm.');
  const ground = groundInside(options.ground, surface, veil);
  const perPart = PER_MM * thickMm * film.mean;
  const reflectance = new Float64Array(SAMPLES);
  let overBlack = 0;
  let overWhite = 0;
  for (let i = 0; i < SAMPLES; i++) {
    const k = K[i];
    const s = S[i];
    const sx = s * perPart;
    reflectance[i] = outside(filmOver(k, s, sx, ground[i]));
    overBlack += weights.y[i] * outside(filmOver(k, s, sx, 0));
    overWhite += weights.y[i] * outside(filmOver(k, s, sx, CHART_WHITE));
  }
  return { ...coloured(reflectance), contrastRatio: overBlack / overWhite };
}

/** Reflectance inside the paint of a film too thick to see through: R∞ in its stable form. */
export function infinite(K: number, S: number): number {
  return S / (K + S + Math.sqrt(K * (K + 2 * S)));
}

/** Reflectance inside the paint of a film with scattering power `sx` = S·X over a ground of reflectance `ground`. */
export function filmOver(K: number, S: number, sx: number, ground: number): number {
  const a = 1 + K / S;
  if (K / S < 1e-9) return ((1 - ground) * sx + ground) / ((1 - ground) * sx + 1);
  const b = Math.sqrt(a * a - 1);
  const power = b * sx;
  if (power > 300) return a - b;
  const c = b / Math.tanh(power);
  return (1 - ground * (a - c)) / (a - ground + c);
}

function coloured(reflectance: Float64Array): MixedColour {
  const xyz = xyzOf(reflectance);
  return { reflectance, lab: xyzToLab(xyz), srgb: xyzToSrgb(xyz) };
}

/** Tristimulus values 0-100 (D65, 2°) of a reflectance of 36 samples. */
export function xyzOf(reflectance: ArrayLike<number>): Xyz {
  let x = 0;
  let y = 0;
  let z = 0;
  for (let i = 0; i < SAMPLES; i++) {
    const r = reflectance[i];
    x += r * weights.x[i];
    y += r * weights.y[i];
    z += r * weights.z[i];
  }
  return [x, y, z];
}

/** The ground's reflectance seen from inside the paint (Saunderson undone). */
function groundInside(ground: MixOptions['ground'], surface: { k1: number; k2: number }, veil: number): Float64Array {
  if (ground === undefined) {
    const white = pigmentOf('PW6');
    return Float64Array.from({ length: SAMPLES }, (_, i) => infinite(white.K[i], white.S[i]));
  }
  const seen = ground instanceof Float64Array ? ground : reflectanceOfLab(ground);
  return seen.map((value) => {
    const body = Math.max(0, value - veil);
    return Math.min(1, body / ((1 - surface.k1) * (1 - surface.k2) + surface.k2 * body));
  });
}

const bases = [600, 540, 455].map((centre, band) =>
  Float64Array.from({ length: SAMPLES }, (_, i) => {
    const nm = 380 + 10 * i;
    if (band === 0) return 1 / (1 + Math.exp(-(nm - 585) / 14));
    if (band === 2) return 1 / (1 + Math.exp((nm - 490) / 14));
    return Math.exp(-(((nm - centre) / 48) ** 2));
  }),
);
const basesInverse = invert3(
  (() => {
    const [r, g, b] = bases.map(xyzOf) as [Xyz, Xyz, Xyz];
    return [r[0], g[0], b[0], r[1], g[1], b[1], r[2], g[2], b[2]];
  })(),
);

/** A smooth reflectance that has the given L*a*b* (three broad bands; exact where none leaves 0-1). */
export function reflectanceOfLab(lab: readonly [number, number, number]): Float64Array {
  const share = multiply3(basesInverse, labToXyz(lab));
  return Float64Array.from({ length: SAMPLES }, (_, i) => {
    const value = bases.reduce((sum, basis, band) => sum + basis[i] * share[band], 0);
    return Math.min(1, Math.max(0, value));
  });
}
