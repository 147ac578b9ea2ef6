import { cdf, density } from '../pace/index.js';

/** Something that lies between two values (either may be infinite), as the sum of effects such as "room:north", one of its class, and one of a person in it. */
export type Observation = {
  lo: number;
  hi: number;
  effects: readonly string[];
  class: string;
  person?: number;
  years?: number;
};
/** Standard deviations of effects by their kind (what stands before the colon), of classes, of people, of one observation; a share of nonsense and its. */
export type Spread = {
  kinds: Readonly<Record<string, number>>;
  class: number;
  person?: number;
  one: number;
  nonsense: number;
  wide: number;
};
export type Fit = {
  /** The sum of some effects, with its standard deviation; what was never observed counts as its kind does. */
  of: (effects: readonly (readonly [effect: string, weight: number])[]) => { mean: number; sd: number };
  /** Standard deviation of one observation, as it was found. */
  one: number;
  observations: number;
  rounds: number;
};

/** How much longer (above 1) than the model some effects make something, with the bounds of its 80 % interval. */
export type Factor = { factor: number; from: number; to: number };
/** Four in five of a normal distribution lie within so many standard deviations. */
export const Z80 = 1.2816;
/** A factor from the mean of its logarithm and the standard deviation of that. */
export const factorBy = (mean: number, sd: number): Factor => ({
  factor: Math.exp(mean),
  from: Math.exp(mean - Z80 * sd),
  to: Math.exp(mean + Z80 * sd),
});
export function factorOf(fit: Fit, effects: readonly string[]): Factor {
  const { mean, sd } = fit.of(effects.map((effect) => [effect, 1]));
  return factorBy(mean, sd);
}

/** A factor, and from how many observations of how many classes it is known. */
export type Known = Factor & Counted;
type Counted = { observations: number; classes: number };
/** From how many observations of how many classes an effect is known. */
function countedFor(tests: readonly Observation[], effect: string): Counted {
  const own = tests.filter(({ effects }) => effects.includes(effect));
  return { observations: own.length, classes: new Set(own.map((test) => test.class)).size };
}

/** How much longer than the model an effect makes what was observed, by a fit of it, and from how much that is known. */
export const knownOf = (fit: Fit, tests: readonly Observation[], effect: string): Known => ({
  ...factorOf(fit, [effect]),
  ...countedFor(tests, effect),
});

const MOST_ROUNDS = 60;
const SETTLED = 1e-6;
/** Spreads of one observation that are weighed against each other, as shares of what is assumed, and how likely each is beforehand. */
const SCALES = [
  [0.6, 0.16],
  [0.8, 0.24],
  [1, 0.25],
  [1.25, 0.2],
  [1.55, 0.15],
] as const;
/** What is so many years old says so much less of today (variance a year). */
const AGEING = 0.01;

/**
 * Effects behind observations that are known within limits only, a tenth of which mean nothing: expectation–maximisation over which of them
 * are nonsense, Newton steps on the censored normal likelihood with normal priors, effects of people and then of classes taken out by the Schur complement. How
 * far single observations are spread is not known either: several spreads are fitted and weighed by their evidence (Laplace), so that the
 * limits hold also where coats are wilder or steadier than assumed. The order of the observations does not matter.
 * Source: Dempster, Laird, Rubin 1977 (EM); Tobin 1958 (censored normal); Kass, Raftery 1995 (evidence); the variances are our judgement.
 */
export function fitEffects(observations: readonly Observation[], spread: Spread): Fit {
  const fits = SCALES.map(([scale, before]) => ({ before, ...fitAt(observations, { ...spread, one: spread.one * scale }) }));
  const most = Math.max(...fits.map(({ evidence, before }) => evidence + Math.log(before)));
  const weights = fits.map(({ evidence, before }) => Math.exp(evidence + Math.log(before) - most));
  const sum = weights.reduce((all, weight) => all + weight, 0);
  const shares = weights.map((weight) => weight / sum);
  return {
    of(effects) {
      const each = fits.map((fit) => fit.of(effects));
      const mean = each.reduce((all, one, k) => all + (shares[k] as number) * one.mean, 0);
      const variance = each.reduce((all, one, k) => all + (shares[k] as number) * (one.sd ** 2 + (one.mean - mean) ** 2), 0);
      return { mean, sd: Math.sqrt(variance) };
    },
    one: fits.reduce((all, fit, k) => all + (shares[k] as number) * fit.one, 0),
    observations: observations.length,
    rounds: fits.reduce((all, fit) => all + fit.rounds, 0),
  };
}

/** The fit with one spread of observations, and the logarithm of its evidence. */
function fitAt(observations: readonly Observation[], spread: Spread): Fit & { evidence: number } {
  const names = [...new Set(observations.flatMap(({ effects }) => effects))].sort();
  const at = new Map(names.map((name, i) => [name, i]));
  const classes = [...new Set(observations.map((one) => one.class))].sort();
  const classAt = new Map(classes.map((name, i) => [name, i]));
  const people = [...new Set(observations.flatMap((one) => (one.person === undefined ? [] : [personKey(one)])))].sort();
  const personAt = new Map(people.map((name, p) => [name, p]));
  const classOf = new Int32Array(people.length);
  const rows = observations
    .map((one) => ({
      ...one,
      inPerson: one.person === undefined ? -1 : (personAt.get(personKey(one)) as number),
      index: one.effects.map((name) => at.get(name) as number),
      inClass: classAt.get(one.class) as number,
      aged: AGEING * (one.years ?? 0),
    }))
    // One order, so that sums come out alike whatever order they were given in.
    .sort((a, b) => a.inClass - b.inClass || a.lo - b.lo || a.hi - b.hi || (a.effects.join() < b.effects.join() ? -1 : 1));
  for (const { inPerson, inClass } of rows) if (inPerson >= 0) classOf[inPerson] = inClass;
  const personSd = spread.person ?? 0.3;
  const n = names.length;
  const prior = (name: string): number => 1 / (spread.kinds[name.split(':')[0] as string] ?? 0.1) ** 2;
  const beta = new Float64Array(n);
  const gamma = new Float64Array(classes.length);
  const zeta = new Float64Array(people.length);
  const { one } = spread;
  let evidence = 0;
  let inverse: Float64Array[] = [];
  let rounds = 0;
  for (let isLast = false; rounds < MOST_ROUNDS; rounds++) {
    const hessian = names.map((name, i) => {
      const row = new Float64Array(n);
      row[i] = prior(name);
      return row;
    });
    const slope = Float64Array.from(names, (name, i) => -(beta[i] as number) * prior(name));
    const mixed = classes.map(() => new Float64Array(n));
    const own = new Float64Array(classes.length).fill(1 / spread.class ** 2);
    const ownSlope = Float64Array.from(gamma, (value) => -value / spread.class ** 2);
    // Of each person: what they have in common with the effects, with their class (`joint`), and alone.
    const personal = people.map(() => new Float64Array(n));
    const joint = new Float64Array(people.length);
    const alone = new Float64Array(people.length).fill(1 / personSd ** 2);
    const aloneSlope = Float64Array.from(zeta, (value) => -value / personSd ** 2);
    evidence = 0;
    for (const { lo, hi, index, inClass, inPerson, aged } of rows) {
      const sd = Math.sqrt(one * one + aged);
      const eta = index.reduce((sum, i) => sum + (beta[i] as number), (gamma[inClass] as number) + (zeta[inPerson] ?? 0));
      const [a, b] = [(lo - eta) / sd, (hi - eta) / sd];
      const chance = Math.max(1e-12, cdf(b) - cdf(a));
      const wide = Math.max(1e-3, cdf(hi / spread.wide) - cdf(lo / spread.wide));
      const trust = ((1 - spread.nonsense) * chance) / ((1 - spread.nonsense) * chance + spread.nonsense * wide);
      const [atA, atB] = [density(a), density(b)];
      const ends = (Number.isFinite(a) ? a * atA : 0) - (Number.isFinite(b) ? b * atB : 0);
      const first = (atA - atB) / chance / sd;
      const second = (ends / chance - ((atA - atB) / chance) ** 2) / sd ** 2;
      // In the last round the information that was observed, for the variances.
      const curve = Math.max(1e-6, isLast ? -(trust * second + trust * (1 - trust) * first * first) : -trust * second);
      const pull = trust * first;
      for (const i of index) {
        slope[i] = (slope[i] as number) + pull;
        const cross = mixed[inClass] as Float64Array;
        cross[i] = (cross[i] as number) + curve;
        const row = hessian[i] as Float64Array;
        for (const k of index) row[k] = (row[k] as number) + curve;
      }
      if (inPerson >= 0) {
        const cross = personal[inPerson] as Float64Array;
        for (const i of index) cross[i] = (cross[i] as number) + curve;
        joint[inPerson] = (joint[inPerson] as number) + curve;
        alone[inPerson] = (alone[inPerson] as number) + curve;
        aloneSlope[inPerson] = (aloneSlope[inPerson] as number) + pull;
      }
      ownSlope[inClass] = (ownSlope[inClass] as number) + pull;
      own[inClass] = (own[inClass] as number) + curve;
      evidence += Math.log((1 - spread.nonsense) * chance + spread.nonsense * wide);
    }
    /** Schur complement: what has this in common with the effects is taken out of them. */
    const takeOut = (cross: Float64Array, diagonal: number, pulled: number): void => {
      for (let i = 0; i < n; i++) {
        const share = (cross[i] as number) / diagonal;
        if (share === 0) continue;
        slope[i] = (slope[i] as number) - share * pulled;
        const row = hessian[i] as Float64Array;
        for (let k = 0; k < n; k++) row[k] = (row[k] as number) - share * (cross[k] as number);
      }
    };
    people.forEach((_, p) => {
      const c = classOf[p] as number;
      const share = (joint[p] as number) / (alone[p] as number);
      const cross = mixed[c] as Float64Array;
      for (let i = 0; i < n; i++) cross[i] = (cross[i] as number) - share * ((personal[p] as Float64Array)[i] as number);
      own[c] = (own[c] as number) - share * (joint[p] as number);
      ownSlope[c] = (ownSlope[c] as number) - share * (aloneSlope[p] as number);
      takeOut(personal[p] as Float64Array, alone[p] as number, aloneSlope[p] as number);
    });
    classes.forEach((_, c) => {
      takeOut(mixed[c] as Float64Array, own[c] as number, ownSlope[c] as number);
    });
    const solved = inverted(hessian);
    inverse = solved.inverse;
    const { logOfPivots } = solved;
    const moved = inverse.map((row) => row.reduce((sum, value, k) => sum + value * (slope[k] as number), 0));
    moved.forEach((value, i) => {
      beta[i] = (beta[i] as number) + value;
    });
    const along = (cross: Float64Array): number => moved.reduce((sum, value, i) => sum + (cross[i] as number) * value, 0);
    const classMoved = classes.map((_, c) => ((ownSlope[c] as number) - along(mixed[c] as Float64Array)) / (own[c] as number));
    classMoved.forEach((value, c) => {
      gamma[c] = (gamma[c] as number) + value;
    });
    people.forEach((_, p) => {
      const rest = along(personal[p] as Float64Array) + (joint[p] as number) * (classMoved[classOf[p] as number] as number);
      zeta[p] = (zeta[p] as number) + ((aloneSlope[p] as number) - rest) / (alone[p] as number);
    });
    if (isLast) {
      evidence -= names.reduce(
        (sum, name, i) => sum + ((beta[i] as number) ** 2 * prior(name)) / 2 - Math.log(prior(name)) / 2,
        0,
      );
      evidence -= gamma.reduce((sum, value) => sum + (value / spread.class) ** 2 / 2 + Math.log(spread.class), 0);
      evidence -= zeta.reduce((sum, value) => sum + (value / personSd) ** 2 / 2 + Math.log(personSd), 0);
      evidence -= alone.reduce((sum, value) => sum + Math.log(value), 0) / 2;
      evidence -= (own.reduce((sum, value) => sum + Math.log(value), 0) + logOfPivots) / 2;
      break;
    }
    isLast = moved.every((value) => Math.abs(value) < SETTLED) || rounds === MOST_ROUNDS - 2;
  }
  const varianceOf = (name: string): number => 1 / prior(name);
  return {
    of(effects) {
      let mean = 0;
      let variance = 0;
      for (const [name, weight] of effects) {
        const i = at.get(name);
        if (i === undefined) variance += weight * weight * varianceOf(name);
        else {
          mean += weight * (beta[i] as number);
          for (const [other, otherWeight] of effects) {
            const k = at.get(other);
            if (k !== undefined) variance += weight * otherWeight * ((inverse[i] as Float64Array)[k] as number);
          }
        }
      }
      return { mean, sd: Math.sqrt(variance) };
    },
    one,
    observations: observations.length,
    rounds,
    evidence,
  };
}

const personKey = (one: Observation): string => `${one.class} ${one.person}`;

/** The inverse of a symmetric matrix with a heavy diagonal (Gauss–Jordan), and the logarithm of its determinant. */
function inverted(matrix: readonly Float64Array[]): { inverse: Float64Array[]; logOfPivots: number } {
  const n = matrix.length;
  let logOfPivots = 0;
  const wide = matrix.map((row, i) => {
    const full = new Float64Array(2 * n);
    full.set(row);
    full[n + i] = 1;
    return full;
  });
  for (let i = 0; i < n; i++) {
    const pivot = wide[i] as Float64Array;
    const head = pivot[i] as number;
    logOfPivots += Math.log(Math.max(1e-300, head));
    for (let k = 0; k < 2 * n; k++) pivot[k] = (pivot[k] as number) / head;
    for (let j = 0; j < n; j++) {
      const row = wide[j] as Float64Array;
      const factor = row[i] as number;
      if (j === i || factor === 0) continue;
      for (let k = 0; k < 2 * n; k++) row[k] = (row[k] as number) - factor * (pivot[k] as number);
    }
  }
  return { inverse: wide.map((row) => row.slice(n)), logOfPivots };
}
