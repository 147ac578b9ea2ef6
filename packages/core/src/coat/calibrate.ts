import { say } from '@viaticum/contract';

/** A touch test of a coat: still wet at one time, dry at another (either may be missing), against the minutes that the model gives. */
export type TouchTest = { predictedMin: number; wetAtMin?: number; dryAtMin?: number };

/** Spread of real drying about the model's, as a standard deviation of logarithms: film, air and absorption together; fitted to the likely range of a coat. */
const SPREAD = 0.3;
/** The model itself counts as much as so many tests. */
const PRIOR_TESTS = 2;
const MOST = Math.log(4);

/**
 * The factor on evaporation for one room and paint that fits logged touch tests best: the drying times' logarithms are normal about
 * the model's, each test says between which times a coat became dry (interval-censored), and the factor is shrunk to 1 with the
 * weight of two tests. 1 without tests; between a quarter and four. Throws on tests that contradict themselves.
 */
export function calibrate(tests: readonly TouchTest[]): number {
  const spans = tests.map(({ predictedMin, wetAtMin, dryAtMin }) => {
    if (!(predictedMin > 0 && Number.isFinite(predictedMin))) throw new RangeError(say('A touch test needs a coat that dries.'));
    if (wetAtMin !== undefined && dryAtMin !== undefined && wetAtMin > dryAtMin)
      throw new RangeError(say('A coat cannot be dry before it was still wet. Look at the times of this test.'));
    const low = wetAtMin !== undefined && wetAtMin > 0 ? Math.log(wetAtMin / predictedMin) : Number.NEGATIVE_INFINITY;
    const high = dryAtMin !== undefined ? Math.log(Math.max(dryAtMin, 1e-6) / predictedMin) : Number.POSITIVE_INFINITY;
    return [low, high] as const;
  });
  if (spans.length === 0) return 1;
  const worth = (mu: number): number => {
    let sum = (-PRIOR_TESTS * mu * mu) / (2 * SPREAD * SPREAD);
    for (const [low, high] of spans) sum += logBetween((low - mu) / SPREAD, (high - mu) / SPREAD);
    return sum;
  };
  // Longer drying is slower evaporation.
  return Math.exp(-highest(worth, -MOST, MOST));
}

/** Where a function of one hill is highest (golden section; Kiefer 1953). */
function highest(worth: (x: number) => number, from: number, to: number): number {
  const golden = (Math.sqrt(5) - 1) / 2;
  let [a, b] = [from, to];
  let [c, d] = [b - golden * (b - a), a + golden * (b - a)];
  let [atC, atD] = [worth(c), worth(d)];
  while (b - a > 1e-6) {
    if (atC > atD) {
      b = d;
      [d, atD] = [c, atC];
      c = b - golden * (b - a);
      atC = worth(c);
    } else {
      a = c;
      [c, atC] = [d, atD];
      d = a + golden * (b - a);
      atD = worth(d);
    }
  }
  return (a + b) / 2;
}

/** Logarithm of the chance that a standard normal number lies between two; far out in a tail by its first term, so that it still falls. */
function logBetween(low: number, high: number): number {
  if (high < -5) return logTail(-high);
  if (low > 5) return logTail(low);
  return Math.log(Math.max(1e-12, cdf(high) - cdf(low)));
}
/** Mills' ratio far out: φ(x)/x. */
const logTail = (x: number): number => -(x * x) / 2 - Math.log(x * Math.sqrt(2 * Math.PI));

/** The normal distribution's function (Abramowitz and Stegun 26.2.17, within 7.5e−8). */
function cdf(x: number): number {
  if (x === Number.POSITIVE_INFINITY) return 1;
  if (x === Number.NEGATIVE_INFINITY) return 0;
  const t = 1 / (1 + 0.2316419 * Math.abs(x));
  const tail =
    (Math.exp((-x * x) / 2) / Math.sqrt(2 * Math.PI)) *
    t *
    (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))));
  return x > 0 ? 1 - tail : tail;
}
