import type { Absorbency, MarkTool, PaintKind, Technique } from '@viaticum/contract';

/** Physical constants of the drying model. Units in the names; sources beside each. */
export const air = {
  densityKgPerM3: 1.2, // textbook, 20 °C
  heatCapacity: 1006, // J/kgK, textbook
  conductivity: 0.026, // W/mK, textbook
  viscosity: 1.55e-5, // m²/s, textbook
  prandtl: 0.71, // textbook
  lewis: 0.87, // water vapour in air, textbook
  naturalConvection: 3, // W/m²K, fitted to common practice
};
export const heat = {
  latentJPerKg: 2.45e6, // water near 20 °C, textbook
  radiation: 5.7, // W/m²K, linearised at room temperature
  back: 6, // W/m²K, exchange through the back of a canvas; fitted
  sunAbsorbed: 0.6, // share of sunlight a middling colour absorbs; from memory
};
export const gas = { waterJPerKgK: 461.5, universal: 8.314 };
export const molar = { water: 18, humectant: 76 }; // g/mol
export const humectant = {
  transferFactor: 0.7, // of the water's mass transfer coefficient; from memory
  kelvin: 293.15, // at which the pressures below hold
  latentJPerMol: 64_500, // heat of vaporisation of propylene glycol near room temperature; handbook value, from memory
  pascalAt20: 13, // propylene glycol; from memory
  slowPascalAt20: 3, // that of slow-drying paint; from memory
};

export type { PaintKind };

/** Mass shares of the wet film; from memory, typical of makers' sheets. */
export const composition = {
  ordinary: { solids: 0.42, humectant: 0.02 },
  retarder: { solids: 0.4, humectant: 0.1 },
  slow: { solids: 0.36, humectant: 0.32 },
  glaze: { solids: 0.42, humectant: 0.05 },
  underFilm: { solids: 0.3, humectant: 0.05 }, // a thinned gel; assumed
};
export const density = { wetGPerUm: 1.1, waterGPerUm: 1, dryGPerUm: 1.15 }; // g/m² per µm of film

/** Wet film of undiluted paint in µm and the water already in the mix; fitted to common practice. */
export const films: Record<Technique, { wetUm: number; waterShare: number }> = {
  wash: { wetUm: 30, waterShare: 0.4 },
  glaze: { wetUm: 20, waterShare: 0 },
  'dry-brush': { wetUm: 20, waterShare: 0 },
  scumble: { wetUm: 25, waterShare: 0 },
  'block-in': { wetUm: 50, waterShare: 0 },
  blend: { wetUm: 60, waterShare: 0 },
  loaded: { wetUm: 120, waterShare: 0 },
  gesso: { wetUm: 150, waterShare: 0 },
  impasto: { wetUm: 500, waterShare: 0 },
  'under-film': { wetUm: 40, waterShare: 0 },
  spatter: { wetUm: 80, waterShare: 0 },
};

/**
 * How high a mark can stand, µm of wet film for each mm of its width, and no more than 300: a brush leaves a twenty-fifth of the
 * width of its mark, a tip a rounder drop; common practice, no published source.
 */
const markUmPerMm = { lines: 40, hairs: 40, tufts: 27, dots: 50, scatter: 50, spatter: 60, unit: 40 } as const;
const markMostUm = 300;
/** What a tool leaves whatever the mark's kind: a handle rounder drops, a sponge an even film, a knife planes and edges; µm a mm, or µm. */
const toolUm: { readonly [T in MarkTool]?: { perMm: number; most: number } } = {
  handle: { perMm: 60, most: 300 },
  sponge: { perMm: Number.POSITIVE_INFINITY, most: 40 },
  knife: { perMm: 100, most: 400 },
};
/** The wet film of marks, or of the strokes of a brush, of so many mm, laid with what goes with them or with a tool. */
export function markFilmUm(kind: keyof typeof markUmPerMm, widthMm: number, tool?: MarkTool): number {
  const own = tool && toolUm[tool];
  return own ? Math.min(own.most, own.perMm * widthMm) : Math.min(markMostUm, markUmPerMm[kind] * widthMm);
}
/** Water vapour in air, m²/s, textbook; small marks dry at most so many times as fast as a wide film, and wide ones as it (judged). */
export const vapourDiffusion = 2.5e-5;
export const edgeDrying = { most: 4, narrowMm: 8, wideMm: 16 };

/** Below this the binder forms no sound film, and near it a poor one, °C: makers name about 9 to 10; common practice, no published source. */
export const filmForms = { leastC: 9.5, soundC: 12 };

/** Gel in the paint makes a film thicker by a quarter; assumed. A pass of fine mist returns 2-4 g/m²; from memory. */
export const gelThickening = 1.25;
export const mistGPerM2 = 3;

/** A hair dryer: the spot it dries at a time, and the air it blows there; common practice, no published source. */
export const dryer = { spotM2: 0.03, airC: 45, airSpeed: 4 };

/** How far films, draughts and grounds stray from what was assumed; common practice, no published source. */
export const uncertainty = { film: 0.25, draught: 0.5, absorption: 0.5, naturalConvection: [2, 4] as const };

/** Water a ground draws in, g/m²; from memory. */
export const absorbed: Record<Absorbency, number> = { sealed: 1, acrylic: 2, gesso: 8, raw: 15 };
export const absorption = { timeConstantS: 300, greatestShareOfWater: 0.4 };

/** Thresholds of the ladder of dryness; fitted to common practice. */
export const ladder = {
  openSolids: 0.5,
  skinSolids: 0.62,
  perHumectant: 0.4,
  humectantReference: 0.048,
  skinDiffusion: 2.5e-12, // m²/s
  paintOver: 0.3, // water + humectant over solids
  touchDry: 0.12,
  runsAboveSolids: 0.2, // water from mist over solids at which paint runs
  firmDiffusion: 5e-12, // m²/s
  firmLeastH: 3,
  cureThinH: 24,
  cureThickH: 72,
  thickDryUm: 120,
};
export const longestDays = 20;
