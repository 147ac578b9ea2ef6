import { say } from '@viaticum/contract';

/** Places after the point of a currency (ISO 4217, from memory for those named; two elsewhere). */
const exponents: Record<string, number> = { JPY: 0, KRW: 0, ISK: 0, CLP: 0, VND: 0, BHD: 3, KWD: 3, JOD: 3, OMR: 3, TND: 3 };
export const exponentOf = (currency: string): number => exponents[currency] ?? 2;

/** An amount in its smallest coin as it is written: 8430 EUR is "84.30". */
export function moneyInWords(minor: number, currency: string): string {
  const exponent = exponentOf(currency);
  const digits = Math.abs(Math.round(minor))
    .toString()
    .padStart(exponent + 1, '0');
  const whole = digits.slice(0, digits.length - exponent);
  return `${minor < 0 ? '−' : ''}${whole}${exponent > 0 ? `.${digits.slice(-exponent)}` : ''}`;
}

/** "7.80", "7,8" or "780 " read as an amount in the smallest coin; null where it is none. */
export function readMoney(text: string, currency: string): number | null {
  const exponent = exponentOf(currency);
  const found = text.trim().match(/^(\d{1,9})(?:[.,](\d+))?$/);
  if (!found) return null;
  const [, whole = '0', rest = ''] = found;
  if (rest.length > exponent) return null;
  return Number(whole) * 10 ** exponent + Number(rest.padEnd(exponent, '0') || 0);
}

/**
 * An amount shared by weights so that the shares sum to it exactly: each rounded down, the coins that are left to the largest remainders, of
 * equal ones to the first. Whole numbers alone: weights are whole too. Throws where all weights are nothing.
 */
export function shareOut(minor: number, weights: readonly number[]): number[] {
  const sum = weights.reduce((all, one) => all + one, 0);
  if (!(sum > 0)) throw new RangeError(say('There is nobody to share it among.'));
  const [amount, whole] = [BigInt(minor), BigInt(sum)];
  const exact = weights.map((weight) => amount * BigInt(weight));
  const shares = exact.map((one) => Number(one / whole));
  const left = minor - shares.reduce((all, one) => all + one, 0);
  const order = exact
    .map((one, i) => ({ i, rest: one % whole }))
    .sort((one, other) => (one.rest === other.rest ? one.i - other.i : one.rest < other.rest ? 1 : -1));
  for (const { i } of order.slice(0, left)) shares[i] = (shares[i] as number) + 1;
  return shares;
}

/** What so many hundredths of a ml cost of a tube, in the smallest coin, rounded once, half up. */
export function costOf(hundredthMl: number, size: { ml: number; priceMinor: number }): number {
  const per = BigInt(Math.round(size.ml * 100));
  return Number((2n * BigInt(Math.round(hundredthMl)) * BigInt(size.priceMinor) + per) / (2n * per));
}

/**
 * From how many who pay a class pays for itself: their fee less what the payment takes (of 1 000), less the material of each, against what it
 * costs whoever comes. Null where it never does.
 */
export function paysFrom(feeMinor: number, takesOf1000: number, materialMinor: number, fixedMinor: number): number | null {
  const eachOf1000 = feeMinor * (1000 - takesOf1000) - 1000 * materialMinor;
  if (eachOf1000 <= 0) return null;
  return Math.max(1, Math.ceil((1000 * fixedMinor) / eachOf1000));
}
