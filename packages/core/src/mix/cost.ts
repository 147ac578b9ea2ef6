import type { Lab } from '@viaticum/contract';
import { type Finish, type MixPart, MOST_PARTS, mixColour, partsOf, type Spectra, spectraOf } from '@viaticum/kernels/mixing';
import { sensitivity, tintingPower } from './recipes.js';

/** What speaks against a recipe beside how far its colour is off. */
export type RecipeCost = {
  tubes: number;
  /** Chroma that its colours kill in each other: 0 where all pull the same way. */
  killed: number;
  /** Doubling its touchiest part moves the colour so far, ΔE00; and which part that is (its place). */
  touchy: { deltaE: number; part: number };
  /** Tubes that nothing else on the palette needs. */
  fresh: number;
  /** All of it as a difference of colour that one would accept instead, ΔE00. */
  total: number;
};

/** ΔE00 that each must win (judged by mixing: a person would rather have two tubes that are a shade off than four that fight). */
const price = {
  tube: 0.25,
  small: 0.1,
  /** For each unit of chroma that is killed. */
  killed: 0.025,
  /** For each ΔE00 beyond what a careful hand keeps to. */
  touchy: 0.08,
  steady: 4,
  fresh: 0.15,
  /** A heap of more parts than one counts out. */
  heap: 0.4,
};
const MOST_TOUCHY = 1;

const tints = new WeakMap<object, Map<Finish, Lab>>();
const WHITE_POWER = 0.05;
/** The colour of a paint where it tints: let down to a middle value with white. */
function tintOf(paint: Spectra, finish: Finish): Lab {
  const known = tints.get(paint)?.get(finish);
  if (known) return known;
  const power = tintingPower(paint);
  const parts: MixPart[] = [{ pigment: paint, parts: 1 }];
  if (power > WHITE_POWER) parts.push({ pigment: 'PW6', parts: 3 * power });
  const { lab } = mixColour(parts, { finish });
  const own = tints.get(paint) ?? new Map<Finish, Lab>();
  own.set(finish, lab);
  tints.set(paint, own);
  return lab;
}

/**
 * What a recipe costs beside its colour: tubes and small amounts, colour that is killed (the sum of what its paints pull, by their
 * tinting power, less what is left of it), how touchy its smallest part is, and tubes that are opened for it alone.
 */
export function recipeCost(
  parts: readonly MixPart[],
  { finish = 'satin', isOpen = () => true }: { finish?: Finish; isOpen?: (part: number) => boolean } = {},
): RecipeCost {
  let [power, along, a, b, fresh, smalls, heaps] = [0, 0, 0, 0, 0, 0, 0];
  parts.forEach((part, i) => {
    const paint = spectraOf(part.pigment);
    const weight = tintingPower(paint) * partsOf(part.parts);
    const [, tintA, tintB] = tintOf(paint, finish);
    power += weight;
    along += weight * Math.hypot(tintA, tintB);
    a += weight * tintA;
    b += weight * tintB;
    if (!isOpen(i)) fresh++;
    if (typeof part.parts === 'number' && part.parts > MOST_PARTS) heaps++;
    // Beyond the first time the knife is dipped in once more.
    if (typeof part.parts !== 'number') smalls += 0.5 + 0.5 * (Number.parseInt(part.parts, 10) || 1);
  });
  const killed = power > 0 ? (along - Math.hypot(a, b)) / power : 0;
  const touchy = sensitivity(parts, { finish });
  const total =
    price.tube * (parts.length - 1) +
    price.small * smalls +
    price.killed * killed +
    Math.min(MOST_TOUCHY, price.touchy * Math.max(0, touchy.deltaE - price.steady)) +
    price.fresh * fresh +
    price.heap * heaps;
  return { tubes: parts.length, killed, touchy, fresh, total };
}
