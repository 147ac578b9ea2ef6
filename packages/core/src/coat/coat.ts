import type { Technique } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import {
  absorption,
  composition,
  density,
  edgeDrying,
  films,
  gas,
  gelThickening,
  heat,
  humectant,
  ladder,
  longestDays,
  mistGPerM2,
  molar,
  type PaintKind,
  vapourDiffusion,
} from './constants.js';
import { assertRoom, convection, massTransfer, saturationDensity, surfaceBalance } from './evaporation.js';

/** What lies wet on a place, g/m². */
export type WetFilm = { water: number; solids: number; humectant: number };

/** One coat as it is laid. Films in µm, shares 0-0.95 of the mix, absorption g/m². */
export type Coat = {
  technique: Technique;
  paint?: PaintKind;
  retarder?: boolean;
  /** Clear gel in the paint: a thicker film with more humectant. */
  gel?: boolean;
  /** A film of water or gel laid first, to paint into. */
  underFilm?: 'water' | 'gel';
  /** Paint beneath that is still wet: both dry as one. Beneath dry paint nothing is added. */
  onWet?: WetFilm;
  /** Passes of fine mist, as long as the paint is being worked: minutes between them, and until when. */
  mist?: { everyMin: number; untilMin: number; gPerM2?: number };
  wetUm?: number;
  waterShareOfMix?: number;
  absorbGPerM2?: number;
  lengthM?: number;
  /** Laid as marks that lie apart: they dry from their edges as well. `share` is how much of their field they cover. */
  marks?: { shape: 'strip' | 'disc'; widthMm: number; share: number };
};

/** The air of a room; `calibration` multiplies the evaporation (from logged touch tests), still air moves by itself. */
export type CoatRoom = {
  airC: number;
  humidity: number;
  airSpeed: number;
  sunWPerM2?: number;
  calibration?: number;
  naturalConvection?: number;
};

/** A moment of a drying coat: minutes since it was laid, and g/m² of what it holds. */
export type CoatMoment = { min: number; water: number; solids: number; humectant: number };

export type CoatTimes = {
  openMin: number;
  paintOverMin: number;
  touchDryMin: number;
  firmH: number;
  cureH: number;
  dryUm: number;
  /** Paint that has set can be worked again with a spray until then (slow paint, re-wettable paint); null for paint that cannot. */
  revivedMin: number | null;
  curve: CoatMoment[];
  /** Passes of mist given, and whether one of them made the paint run. */
  mist?: { passes: number; runs: boolean };
};

/** What a fresh coat holds, g/m², with what it was laid into, and the wet thickness µm of its own paint. */
export function wetFilm(coat: Coat): WetFilm & { wetUm: number } {
  const film = films[coat.technique];
  const share = coat.waterShareOfMix ?? film.waterShare;
  if (!(share >= 0 && share <= 0.95)) throw new RangeError(say('The share of water must lie between 0 and 95 % of the mix.'));
  const fullUm = (coat.wetUm ?? film.wetUm) * (coat.gel ? gelThickening : 1);
  if (!(fullUm > 0 && fullUm <= 5000)) throw new RangeError(say('A wet film is between 0 and 5 000 µm thick.'));
  const wetUm = fullUm * (1 - share);
  const grams = wetUm / ((1 - share) / density.wetGPerUm + share / density.waterGPerUm);
  const paint = grams * (1 - share);
  const mix = compositionOf(coat);
  const own = {
    solids: paint * mix.solids,
    humectant: paint * mix.humectant,
    water: paint * (1 - mix.solids - mix.humectant) + grams * share,
  };
  const beneath = [coat.onWet, coat.underFilm && underFilmOf(coat.underFilm)].filter((one) => one !== undefined);
  return {
    wetUm,
    solids: beneath.reduce((sum, one) => sum + one.solids, own.solids),
    humectant: beneath.reduce((sum, one) => sum + one.humectant, own.humectant),
    water: beneath.reduce((sum, one) => sum + one.water, own.water),
  };
}

/** The dry film that a coat leaves by itself, µm; whatever the room. */
export const dryFilmUm = (coat: Coat): number => wetFilm(coat).solids / density.dryGPerUm;

/** A film of water or thinned gel of the usual thickness, g/m². */
function underFilmOf(kind: 'water' | 'gel'): WetFilm {
  const um = films['under-film'].wetUm;
  if (kind === 'water') return { water: um * density.waterGPerUm, solids: 0, humectant: 0 };
  const grams = um * density.wetGPerUm;
  const { solids, humectant: glycol } = composition.underFilm;
  return { water: grams * (1 - solids - glycol), solids: grams * solids, humectant: grams * glycol };
}

function compositionOf(coat: Coat): { solids: number; humectant: number } {
  if (coat.paint === 'slow') return composition.slow;
  if (coat.retarder) return composition.retarder;
  if (coat.technique === 'glaze' || coat.gel) return composition.glaze;
  if (coat.technique === 'under-film') return composition.underFilm;
  return composition.ordinary;
}

/**
 * How a coat dries in a room: minutes to each rung of the ladder of dryness counted from when a part was laid
 * (`Infinity` where it never gets there within 20 days), hours to firm and cured, dry film in µm, and the curve of
 * water, solids and humectant in g/m². Model: evaporation by heat and mass transfer over a plate, Raoult's law between
 * water and humectant, absorption into the ground, a skin on thick films (`docs/decisions.md` names the sources).
 * Integrated by a linearly implicit Euler step whose length follows the loss; `fineness` multiplies the number of steps.
 * Water in the mix thins the film: no rung comes later than that of the neat coat, and it is workable for no longer than the
 * paint's own share of that (common practice, no published source); mist and films of water are no dilution. Throws a RangeError
 * on a room or a coat that cannot be.
 */
export function coatTimes(coat: Coat, room: CoatRoom, fineness = 1): CoatTimes {
  const water = coat.waterShareOfMix ?? films[coat.technique].waterShare;
  const own = driedAs(coat, room, fineness);
  if (!(water > 0)) return own;
  const neat = driedAs({ ...coat, waterShareOfMix: 0 }, room, fineness);
  const openMin = Math.min(own.openMin, (1 - water) * neat.openMin);
  const paintOverMin = Math.max(openMin, Math.min(own.paintOverMin, neat.paintOverMin));
  const touchDryMin = Math.max(paintOverMin, Math.min(own.touchDryMin, neat.touchDryMin));
  return { ...own, openMin, paintOverMin, touchDryMin };
}

/**
 * {@link coatTimes} of what lies there, whatever it was thinned with. `fresh` is what it held when it was laid, where it has dried some
 * time already: how far it must dry goes by that.
 */
export function driedAs(coat: Coat, room: CoatRoom, fineness: number, fresh?: WetFilm): CoatTimes {
  assertRoom(room);
  const film = wetFilm(coat);
  const drying = dryingAir(coat, room);
  const { solids } = film;
  const dryUm = dryFilmUm(coat);
  const perSolids = (fresh ?? film).humectant / (fresh ?? film).solids;
  const moved = ladder.perHumectant * (perSolids - ladder.humectantReference);
  const openSolids = Math.min(0.97, ladder.openSolids + moved);
  const skinSolids = Math.min(0.99, ladder.skinSolids + moved);
  let skinMin = skinMinutes(film, drying, skinSolids);
  const mist = mistOf(coat);

  let { water, humectant: glycol } = film;
  let seconds = 0;
  let taken = 0;
  let surface = room.airC - 2;
  const balance = { ...drying.balance };
  let lastStep = 10 / fineness;
  const takes = Math.min(coat.absorbGPerM2 ?? 2, absorption.greatestShareOfWater * water);
  const liquid = water + glycol;
  const stepLoss = liquid / (220 * fineness);
  const found = { open: Number.POSITIVE_INFINITY, paintOver: Number.POSITIVE_INFINITY, touchDry: Number.POSITIVE_INFINITY };
  const curve: CoatMoment[] = [{ min: 0, water, solids, humectant: glycol }];
  const rungs = [
    { name: 'open' as const, liquid: solids * (1 / openSolids - 1) },
    { name: 'paintOver' as const, liquid: solids * ladder.paintOver },
    { name: 'touchDry' as const, liquid: solids * ladder.touchDry },
  ];
  const longest = longestDays * 86_400;
  for (let count = 0; count < 20_000 && seconds < longest; count++) {
    const liquidNow = water + glycol;
    const moles = water / molar.water + glycol / molar.humectant;
    const waterShare = moles > 0 ? water / molar.water / moles : 0;
    balance.activity = waterShare;
    const now = surfaceBalance(balance, surface);
    surface = now.surfaceC;
    const pull = takes > taken ? (takes - taken) / absorption.timeConstantS : 0;
    const evaporating = now.kgPerM2S * 1000 * drying.calibration;
    const glycolRate = drying.glycolAt(surface) * (1 - waterShare) * drying.calibration;
    const lossRate = Math.abs(evaporating + pull);
    // The implicit part: how the rate falls as water leaves, and rises as humectant leaves.
    const steep = moles > 0 ? (drying.calibration * 1000 * balance.mass * now.saturated) / moles : 0;
    const stiff = (steep * (1 - waterShare)) / molar.water;
    const coupled = (steep * waterShare) / molar.humectant;
    const above = rungs.find((rung) => found[rung.name] === Number.POSITIVE_INFINITY);
    const near = above !== undefined && liquidNow - above.liquid < 2 * stepLoss;
    const loss = near ? stepLoss / 6 : stepLoss;
    // The longest step whose implicit loss stays within `loss`, for water and for humectant.
    const forWater = lossRate > loss * stiff ? loss / (lossRate - loss * stiff) : Number.POSITIVE_INFINITY;
    const forGlycol =
      glycolRate > 0 ? Math.min(loss / glycolRate, Math.max(glycol / glycolRate, 1e-3)) : Number.POSITIVE_INFINITY;
    const sprayS = mist && found.open === Number.POSITIVE_INFINITY && mist.nextS <= 60 * skinMin ? mist.nextS - seconds : longest;
    const step = Math.min(forWater, forGlycol, lastStep * 1.25 ** (1 / fineness), longest - seconds, Math.max(sprayS, 1e-3));
    lastStep = step;
    const beforeSeconds = seconds;
    const glycolLoss = Math.min(glycol, step * glycolRate);
    water = Math.max(0, water - (step * (evaporating + pull + coupled * glycolLoss)) / (1 + step * stiff));
    glycol -= glycolLoss;
    taken += pull * step;
    seconds += step;
    curve.push({ min: seconds / 60, water, solids, humectant: glycol });
    const after = water + glycol;
    for (const rung of rungs) {
      if (found[rung.name] !== Number.POSITIVE_INFINITY || after > rung.liquid) continue;
      const part = liquidNow > after ? Math.min(1, Math.max(0, (liquidNow - rung.liquid) / (liquidNow - after))) : 1;
      found[rung.name] = (beforeSeconds + part * (seconds - beforeSeconds)) / 60;
    }
    if (mist && seconds >= mist.nextS - 1e-6 && found.open === Number.POSITIVE_INFINITY && seconds / 60 <= skinMin) {
      water += mist.gPerM2;
      curve.push({ min: seconds / 60 + 1e-6, water, solids, humectant: glycol });
      mist.passes++;
      mist.runs ||= water - film.water > ladder.runsAboveSolids * solids;
      const nextS = (mist.passes + 1) * mist.everyS;
      mist.nextS = nextS < mist.untilS - 1e-6 ? nextS : Number.POSITIVE_INFINITY;
      skinMin = seconds / 60 + skinMinutes({ water, solids, humectant: glycol }, drying, skinSolids);
      continue;
    }
    if (found.touchDry !== Number.POSITIVE_INFINITY && seconds / 60 > found.touchDry * 1.25) break;
    if (after < 1e-6 * liquid) break;
    if (after > 3 * liquid + 50) break; // the air is saturated: water condenses
  }
  const openMin = Math.min(found.open, skinMin);
  const paintOverMin = Math.max(found.paintOver, openMin);
  const touchDryMin = Math.max(found.touchDry, paintOverMin);
  const delta = dryUm * 1e-6;
  const setH = (((4 * delta * delta) / (Math.PI ** 2 * ladder.firmDiffusion)) * Math.log(0.81 / 0.05)) / 3600;
  const firmH = Math.max(ladder.firmLeastH, touchDryMin / 60 + setH);
  const cure = dryUm >= ladder.thickDryUm ? ladder.cureThickH : ladder.cureThinH;
  // Common practice, no published source.
  const revivedMin = coat.paint === 'slow' ? touchDryMin : coat.paint === 're-wettable' ? firmH * 60 : null;
  const times = { openMin, paintOverMin, touchDryMin, firmH, cureH: Math.max(cure, firmH), dryUm, revivedMin, curve };
  return mist ? { ...times, mist: { passes: mist.passes, runs: mist.runs } } : times;
}

function mistOf({ mist }: Coat) {
  if (!mist) return null;
  const { everyMin, untilMin, gPerM2 = mistGPerM2 } = mist;
  if (!(everyMin > 0 && untilMin >= 0 && gPerM2 > 0)) throw new RangeError(say('Mist needs minutes above 0 between its passes.'));
  const everyS = everyMin * 60;
  const untilS = untilMin * 60;
  return { everyS, untilS, gPerM2, nextS: everyS < untilS ? everyS : Number.POSITIVE_INFINITY, passes: 0, runs: false };
}

/** The air side of a room worked out once per coat. */
function dryingAir(coat: Coat, room: CoatRoom) {
  const calibration = room.calibration ?? 1;
  if (!(calibration > 0)) throw new RangeError(say('The calibration of a room must be above 0.'));
  const wide = convection(room.airSpeed, coat.lengthM ?? 0.4, room.naturalConvection);
  const heatTransfer = wide * edgeFactor(coat, massTransfer(wide));
  const mass = massTransfer(heatTransfer);
  const at20 = coat.paint === 'slow' ? humectant.slowPascalAt20 : humectant.pascalAt20;
  const balance = {
    mass,
    activity: 1,
    vapour: room.humidity * saturationDensity(room.airC),
    exchange: heatTransfer + heat.radiation + heat.back,
    sun: heat.sunAbsorbed * (room.sunWPerM2 ?? 0),
    airC: room.airC,
  };
  const perPascal = (humectant.transferFactor * mass * molar.humectant) / gas.universal;
  /** g/m²s of pure humectant from a film of so many °C. */
  const glycolAt = (celsius: number) => (perPascal * humectantPascal(celsius, at20)) / (celsius + ZERO_C);
  return { balance, calibration, glycolAt, humidity: room.humidity };
}

const ZERO_C = 273.15;
/** Vapour pressure of the humectant at a film's temperature, from that at 20 °C by the equation of Clausius and Clapeyron. */
export const humectantPascal = (celsius: number, at20: number = humectant.pascalAt20): number =>
  at20 * Math.exp((-humectant.latentJPerMol / gas.universal) * (1 / (celsius + ZERO_C) - 1 / humectant.kelvin));

/**
 * How many times as fast marks lose water as a wide film: vapour leaves a narrow strip or a small disc sideways as well (Weber
 * 1873 for the disc; shape factors of heat transfer textbooks), the less so the more of their field they cover.
 */
function edgeFactor({ marks }: Coat, mass: number): number {
  if (!marks) return 1;
  const widthM = marks.widthMm / 1000;
  if (!(widthM > 0)) throw new RangeError(say('A mark is wider than 0 mm.'));
  const layerM = vapourDiffusion / mass;
  const sideways =
    marks.shape === 'disc'
      ? (8 * vapourDiffusion) / (Math.PI * widthM)
      : (Math.PI * vapourDiffusion) / (widthM * Math.log(Math.max(1.8, (4 * layerM) / widthM)));
  const { most, narrowMm, wideMm } = edgeDrying;
  const factor = Math.min(most, 1 / Math.max(0.01, marks.share), Math.cbrt(1 + (sideways / mass) ** 3));
  const isWide = Math.min(1, Math.max(0, (marks.widthMm - narrowMm) / (wideMm - narrowMm)));
  return Math.max(1, factor + (1 - factor) * isWide);
}

/** Minutes until a skin forms on the surface, or Infinity where the humectant keeps it open. */
function skinMinutes(film: WetFilm, drying: ReturnType<typeof dryingAir>, skinSolids: number): number {
  const total = film.water + film.solids + film.humectant;
  const fresh = film.solids / total;
  const held =
    drying.humidity < 1
      ? (drying.humidity / (1 - drying.humidity)) * (film.humectant / molar.humectant) * molar.water
      : Number.POSITIVE_INFINITY;
  if (film.solids / (film.solids + film.humectant + held) < skinSolids) return Number.POSITIVE_INFINITY;
  const moles = film.water / molar.water + film.humectant / molar.humectant;
  const first = surfaceBalance({ ...drying.balance, activity: film.water / molar.water / moles }, drying.balance.airC - 2);
  const speed = (first.kgPerM2S * drying.calibration) / 1000;
  if (speed <= 0) return Number.POSITIVE_INFINITY;
  return (Math.PI * ladder.skinDiffusion * ((skinSolids - fresh) / (2 * fresh * speed)) ** 2) / 60;
}
