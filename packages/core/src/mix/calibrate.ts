import type { Lab } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { type Finish, mixColour, type Spectra } from '@viaticum/kernels/mixing';
import { pigmentOf, pigmentTable, SAMPLES } from '@viaticum/kernels/pigment';
import { soundTarget } from './recipes.js';

export type Sample = {
  /** The tube painted out thickly and dry. */
  masstoneLab: Lab;
  /** One part of the tube to so many parts of titanium white, dry. */
  tint?: { lab: Lab; whiteParts: number } | undefined;
  /** The surface of the samples; satin unless said otherwise. */
  finish?: Finish | undefined;
  /** Two films of the tube, thin and thick (dry µm), over black and over white. */
  drawdowns?: { dryUm: [number, number]; overBlack: [Lab, Lab]; overWhite: [Lab, Lab]; black: Lab; white: Lab } | undefined;
};
export type Calibrated = Spectra & {
  /** Other spectra that the samples allow as well: one standard deviation along each axis of what is not known. */
  spread: readonly Spectra[];
  /** The tube of the table it was fitted from. */
  nearest: string;
  /** What is left between the samples and the fit, ΔE00. */
  left: { masstone: number; tint: number | null };
  /** Tinting strength against the nearest tube of the table. */
  strength: number;
  /** A sentence where the samples cannot be met together, or say too little. */
  warning: string | null;
};

const PARAMETERS = 7; // strength, hue tilt, two bends and a fine bend of absorption; scattering; share in a film
const CONTRADICTION = 3; // ΔE00 left from which the samples count as contradictory

/** The spectra of a pigment with its absorption bent by smooth factors, its scattering and its share in a film scaled. */
function bent(base: Spectra, p: ArrayLike<number>): Spectra {
  const K = new Float64Array(SAMPLES);
  const S = new Float64Array(SAMPLES);
  for (let i = 0; i < SAMPLES; i++) {
    const u = (2 * i) / (SAMPLES - 1) - 1;
    const log =
      (p[0] as number) +
      (p[1] as number) * u +
      (p[2] as number) * (2 * u * u - 1) +
      (p[3] as number) * (4 * u ** 3 - 3 * u) +
      (p[4] as number) * (8 * u ** 4 - 8 * u * u + 1);
    K[i] = (base.K[i] as number) * Math.exp(log);
    S[i] = (base.S[i] as number) * Math.exp(p[5] as number);
  }
  return { K, S, film: Math.min(1, base.film * Math.exp(p[6] as number)) };
}

/**
 * K and S of a tube from samples of it: dry Lab of its mass tone and of a tint of known ratio with titanium white. The table's
 * nearest pigment is scaled by smooth positive factors, found by damped least squares (Levenberg 1944, Marquardt 1963; from
 * memory) with a weak pull to the table, since six numbers do not give 72. Reports what is left and warns where the samples
 * contradict each other. Throws a sentence on a colour that cannot be.
 */
export function calibrateTube(sample: Sample): Calibrated {
  const { finish = 'satin' } = sample;
  soundTarget(sample.masstoneLab);
  if (sample.tint) {
    soundTarget(sample.tint.lab);
    if (!(sample.tint.whiteParts > 0 && sample.tint.whiteParts <= 200))
      throw new RangeError(say('A tint needs between 1 and 200 parts of white to one of the tube. Ten is usual.'));
  }
  const seen = (spectra: Spectra) => {
    const masstone = mixColour([{ pigment: spectra, parts: 1 }], { finish }).lab;
    const tint =
      sample.tint &&
      mixColour(
        [
          { pigment: spectra, parts: 1 },
          { pigment: 'PW6', parts: sample.tint.whiteParts },
        ],
        { finish },
      ).lab;
    return { masstone, tint };
  };
  const films = filmsOf(sample);
  const asFilm = (paint: Spectra, { dryUm, ground }: Film): Lab =>
    mixColour([{ pigment: paint, parts: 1 }], { finish, film: { dryUm }, ground }).lab;
  const distance = (spectra: Spectra) => {
    const { masstone, tint } = seen(spectra);
    const offTint = sample.tint && tint ? deltaE00(sample.tint.lab, tint) : 0;
    if (films.length === 0) return offTint + deltaE00(sample.masstoneLab, masstone);
    return offTint + films.reduce((sum, film) => sum + deltaE00(film.lab, asFilm(spectra, film)), 0) / 2;
  };
  const base = [...pigmentTable.values()].reduce((best, one) => (distance(one) < distance(best) ? one : best), pigmentOf('PB29'));
  const residuals = (p: Float64Array): number[] => {
    const { masstone, tint } = seen(bent(base, p));
    const off = (lab: Lab, aim: Lab) => lab.map((value, i) => value - (aim[i] as number));
    // Without a tint nothing is known of the strength: it stays the table's.
    const isThick = films.length === 0;
    const pull = [0.3, 0.5, 0.5, 0.8, 0.8, sample.tint ? 0.3 : 50, isThick ? 50 : 0.3].map(
      (weight, i) => weight * (p[i] as number),
    );
    const laid = bent(base, p);
    return [
      ...(isThick ? off(masstone, sample.masstoneLab) : []),
      ...(sample.tint && tint ? off(tint, sample.tint.lab) : []),
      ...films.flatMap((film) => off(asFilm(laid, film), film.lab)),
      ...pull,
    ];
  };
  const p = leastSquares(residuals, new Float64Array(PARAMETERS));
  const spectra = bent(base, p);
  const spread = axesOf(residuals, p).map((axis) =>
    bent(
      base,
      p.map((value, i) => value + (axis[i] as number)),
    ),
  );
  const { masstone, tint } = seen(spectra);
  const offFilms = films.map((film) => deltaE00(film.lab, asFilm(spectra, film)));
  const left = {
    masstone: films.length > 0 ? Math.max(...offFilms) : deltaE00(sample.masstoneLab, masstone),
    tint: sample.tint && tint ? deltaE00(sample.tint.lab, tint) : null,
  };
  const worst = Math.max(left.masstone, left.tint ?? 0);
  const warning =
    worst > CONTRADICTION
      ? say`These samples cannot be met together: a difference of ${worst.toFixed(1)} is left. Check the light of the photo, the ratio of the tint, and that both are dry.`
      : sample.tint
        ? null
        : say(
            'Without a tint with white the strength of this tube is that of its nearest relative. Paint out one part with ten of white.',
          );
  return { ...spectra, spread, nearest: base.id, left, strength: mean(spectra.K) / mean(base.K), warning };
}

type Film = { dryUm: number; ground: Lab; lab: Lab };
function filmsOf({ drawdowns }: Sample): Film[] {
  if (!drawdowns) return [];
  const { dryUm, overBlack, overWhite, black, white } = drawdowns;
  if (!(dryUm[0] > 0 && dryUm[1] > dryUm[0] && dryUm[1] <= 1000))
    throw new RangeError(say('The second drawdown must be thicker than the first, and both up to 1 000 µm dry.'));
  for (const lab of [...overBlack, ...overWhite, black, white]) soundTarget(lab);
  return [0, 1].flatMap((i): Film[] => [
    { dryUm: dryUm[i] as number, ground: black, lab: overBlack[i] as Lab },
    { dryUm: dryUm[i] as number, ground: white, lab: overWhite[i] as Lab },
  ]);
}

/** How far samples are read truly, in Lab: no photograph and no brush does better. */
const READ_SD = 1;
/**
 * One standard deviation along each axis of what the samples leave open: the columns of a root of the covariance, from the slopes
 * of the residuals (the pulls to the table count as what was known before).
 */
function axesOf(residuals: (p: Float64Array) => number[], p: Float64Array): number[][] {
  const now = residuals(p);
  const slope = Array.from(p, (_, i) => {
    const moved = Float64Array.from(p);
    moved[i] = (moved[i] as number) + 1e-4;
    return residuals(moved).map((value, k) => (value - (now[k] as number)) / 1e-4);
  });
  const sd = Math.max(READ_SD, Math.sqrt(squares(now) / Math.max(1, now.length - PARAMETERS)));
  const precision = slope.map((one, i) => slope.map((other, j) => dot(one, other) / sd ** 2 + (i === j ? 1e-9 : 0)));
  const columns = precision.map((_, i) =>
    solve(
      precision,
      precision.map((__, k) => (k === i ? 1 : 0)),
    ),
  );
  return choleskyColumns(columns);
}

/** The columns of the lower root of a symmetric positive matrix (Cholesky). */
function choleskyColumns(matrix: readonly (readonly number[])[]): number[][] {
  const n = matrix.length;
  const lower = matrix.map(() => new Array<number>(n).fill(0));
  for (let i = 0; i < n; i++)
    for (let j = 0; j <= i; j++) {
      let sum = matrix[i]?.[j] as number;
      for (let k = 0; k < j; k++) sum -= (lower[i]?.[k] as number) * (lower[j]?.[k] as number);
      (lower[i] as number[])[j] = i === j ? Math.sqrt(Math.max(0, sum)) : sum / Math.max(1e-12, lower[j]?.[j] as number);
    }
  return lower.map((_, j) => lower.map((row) => row[j] as number));
}

const mean = (values: ArrayLike<number>) => Array.from(values).reduce((sum, value) => sum + value, 0) / values.length;

/** Least squares of a few parameters by damped normal equations with numerical derivatives. */
function leastSquares(residuals: (p: Float64Array) => number[], start: Float64Array): Float64Array {
  let p = start;
  let now = residuals(p);
  let sum = squares(now);
  let damping = 0.1;
  for (let round = 0; round < 60 && damping < 1e9; round++) {
    const slope = Array.from(p, (_, i) => {
      const moved = Float64Array.from(p);
      moved[i] = (moved[i] as number) + 1e-4;
      return residuals(moved).map((value, k) => (value - (now[k] as number)) / 1e-4);
    });
    const matrix = slope.map((one, i) =>
      slope.map((other, j) => dot(one, other) * (i === j ? 1 + damping : 1) + (i === j ? 1e-9 : 0)),
    );
    const step = solve(
      matrix,
      slope.map((one) => -dot(one, now)),
    );
    const next = Float64Array.from(p, (value, i) => value + Math.max(-1, Math.min(1, step[i] as number)));
    const then = residuals(next);
    if (squares(then) < sum) {
      const gain = sum - squares(then);
      [p, now, sum, damping] = [next, then, squares(then), damping / 3];
      if (gain < 1e-10) break;
    } else damping *= 4;
  }
  return p;
}
const dot = (one: readonly number[], other: readonly number[]) =>
  one.reduce((sum, value, i) => sum + value * (other[i] as number), 0);
const squares = (values: readonly number[]) => dot(values, values);

/** A small system of linear equations by elimination with row exchange. */
function solve(matrix: number[][], right: number[]): number[] {
  const n = right.length;
  const rows = matrix.map((row, i) => [...row, right[i] as number]);
  for (let k = 0; k < n; k++) {
    let pivot = k;
    for (let i = k + 1; i < n; i++) if (Math.abs(rows[i]?.[k] as number) > Math.abs(rows[pivot]?.[k] as number)) pivot = i;
    [rows[k], rows[pivot]] = [rows[pivot] as number[], rows[k] as number[]];
    const head = rows[k] as number[];
    for (let i = 0; i < n; i++) {
      if (i === k) continue;
      const row = rows[i] as number[];
      const factor = (row[k] as number) / (head[k] as number);
      for (let j = k; j <= n; j++) row[j] = (row[j] as number) - factor * (head[j] as number);
    }
  }
  return rows.map((row, i) => (row[n] as number) / (row[i] as number));
}
