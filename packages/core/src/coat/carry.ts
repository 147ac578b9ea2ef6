import { type Coat, type CoatMoment, type CoatRoom, driedAs, wetFilm } from './coat.js';
import { absorption } from './constants.js';

/** Shares of its time that a coat has dried, at which it is worked out how long it still takes in other air. */
export const carriedShares: readonly number[] = [0, 0.25, 0.5, 0.75, 0.9, 0.95, 0.98];

/** So little paint of its own that only what it is laid into counts. */
const NO_PAINT_UM = 0.001;
const FINENESS = 2;

/** What a coat holds so many minutes after it was laid, g/m²; straight between the moments of its curve. */
function filmAt(curve: readonly CoatMoment[], minutes: number): { water: number; solids: number; humectant: number } {
  const next = curve.find((moment) => moment.min > minutes) ?? (curve.at(-1) as CoatMoment);
  const last = curve[Math.max(0, curve.indexOf(next) - 1)] as CoatMoment;
  const part = next.min > last.min ? Math.min(1, (minutes - last.min) / (next.min - last.min)) : 0;
  return {
    water: last.water + (next.water - last.water) * part,
    solids: last.solids,
    humectant: last.humectant + (next.humectant - last.humectant) * part,
  };
}

/**
 * Minutes that a coat still takes in other air once it has dried so much of its own time: until it may be painted over, and until it is
 * touch-dry, at each share; `Infinity` where it never gets there. The film's water and humectant are carried on in the
 * drying model, because a film that has lost its water but not its humectant is not as far as its age says. What the ground still draws
 * falls off as the model's own law does. In the air it had, what is left is the rest of its time.
 */
export function carriedOn(
  coat: Coat,
  was: CoatRoom,
  is: CoatRoom,
  shares: readonly number[] = carriedShares,
): { paintOver: readonly number[]; touchDry: readonly number[] } {
  const before = driedAs(coat, was, FINENESS);
  const { mist: _, ...still } = coat;
  const after = driedAs(still, is, FINENESS);
  const fresh = wetFilm(coat);
  const takes = Math.min(coat.absorbGPerM2 ?? 2, absorption.greatestShareOfWater * fresh.water);
  const leftOf = (rung: 'paintOverMin' | 'touchDryMin') =>
    shares.map((share) => {
      const age = share * before[rung];
      // What never dries in the air it had has come nowhere yet.
      if (!Number.isFinite(age)) return after[rung];
      if (share === 0) return after[rung];
      return driedAs(
        {
          technique: coat.technique,
          wetUm: NO_PAINT_UM,
          waterShareOfMix: 0,
          onWet: filmAt(before.curve, age),
          absorbGPerM2: takes * Math.exp((-60 * age) / absorption.timeConstantS),
          ...(coat.paint && { paint: coat.paint }),
          ...(coat.retarder && { retarder: true }),
          ...(coat.lengthM !== undefined && { lengthM: coat.lengthM }),
          ...(coat.marks && { marks: coat.marks }),
        },
        is,
        FINENESS,
        fresh,
      )[rung];
    });
  return { paintOver: leftOf('paintOverMin'), touchDry: leftOf('touchDryMin') };
}
