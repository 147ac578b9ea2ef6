import type { PlanCoat } from '@viaticum/contract';
import { carriedShares } from '../coat/index.js';
import type { ClassState } from './shape.js';

/** An air that a coat dries in, as the class noted it. */
type Air = ClassState['airs'][number];
/** What a coat comes to, by what it may then bear. */
export type Rung = 'openMin' | 'paintOverMin' | 'touchDryMin' | 'firmMin';
/** In this order the times of a row stand. */
export const rungs: readonly Rung[] = ['openMin', 'paintOverMin', 'touchDryMin', 'firmMin'];
/** For these what is left of a coat in new air is known from its film; the others go by their share of the time. */
const carried: readonly Rung[] = ['paintOverMin', 'touchDryMin'];

export const coatKey = ({ stepId = '', areaId = '' }: Partial<Pick<PlanCoat, 'stepId' | 'areaId'>>): string =>
  `${stepId} ${areaId}`;
/** Half a minute of drying more is not worth a word. */
export const NO_WAIT_MIN = 0.5;

/** Minutes to a rung in an air, or as planned where no air was noted; `Infinity` where it never gets there. */
function minutesIn(air: Air | undefined, coat: PlanCoat, rung: Rung): number {
  const own = air?.row?.[coatKey(coat)];
  const known = own === undefined ? coat[rung] : (air?.rows?.[own]?.[rungs.indexOf(rung)] ?? null);
  return known === null ? Number.POSITIVE_INFINITY : known * (own === undefined ? (air?.factor ?? 1) : 1);
}

/** Minutes that a coat still takes in an air that begins when it has dried a share of its time in the one before. */
function leftIn(air: Air, coat: PlanCoat, rung: Rung, share: number): number {
  const whole = minutesIn(air, coat, rung);
  const own = air.row?.[coatKey(coat)];
  const knots = own === undefined ? undefined : air.left?.[own];
  const first = carried.indexOf(rung) * carriedShares.length;
  if (!knots || first < 0 || knots.length < first + carriedShares.length) return whole * (1 - share);
  const at = (k: number): number => knots[first + k] ?? Number.POSITIVE_INFINITY;
  const last = carriedShares.length - 1;
  const k = carriedShares.filter((knot) => knot <= share).length - 1;
  if (k >= last) return at(last);
  const [from, to] = [carriedShares[k] as number, carriedShares[k + 1] as number];
  return at(k) + (at(k + 1) - at(k)) * ((share - from) / (to - from));
}

/** The air at a class time; undefined before any was noted. */
const airAt = ({ airs }: ClassState, at: number): Air | undefined => airs.filter((air) => air.at <= at).at(-1);

/** Minutes to a rung in the air of a class time, by the model alone. */
export const rungNow = (state: ClassState, coat: PlanCoat, rung: Rung, now: number): number =>
  minutesIn(airAt(state, now), coat, rung);

/**
 * Which share of its time to a rung a coat has dried that was laid at a class time (ms), through every air that it had since: 1 where it is
 * there, more when it was there earlier. `slower` is how much longer than by the model coats take in this class.
 */
export function shareDried(state: ClassState, coat: PlanCoat, rung: Rung, laid: number, now: number, slower = 1): number {
  let air = airAt(state, laid);
  let share = 0;
  let from = laid;
  const dries = (to: number): void => {
    const whole = minutesIn(air, coat, rung);
    const minutes = Math.max(0, to - from) / 60_000 / slower;
    share += whole > 0 ? minutes / whole : share < 1 ? 1 + minutes : minutes;
    from = to;
  };
  for (const next of state.airs) {
    if (next.at <= laid) continue;
    if (next.at >= now) break;
    dries(next.at);
    if (share < 1) {
      const whole = minutesIn(next, coat, rung);
      // In air in which it never dries it stays where it is.
      if (Number.isFinite(whole)) share = whole > 0 ? Math.max(0, 1 - leftIn(next, coat, rung, share) / whole) : 1;
    }
    air = next;
  }
  dries(now);
  return share;
}

/** Minutes until a coat that was laid at a class time (ms) comes to a rung; negative since then; `Infinity` where it never does. */
export function minutesLeft(state: ClassState, coat: PlanCoat, rung: Rung, laid: number, now: number): number {
  const whole = rungNow(state, coat, rung, now);
  const share = shareDried(state, coat, rung, laid, now, state.dryFactor);
  if (Number.isFinite(whole)) return whole * (1 - share) * state.dryFactor;
  return share >= 1 ? 0 : Number.POSITIVE_INFINITY;
}
