import type { PlanCoat } from '@viaticum/contract';
import { worded } from '@viaticum/contract';
import type { CoatTimes } from '../coat/index.js';
import { density } from '../coat/index.js';

export type Rung = 'unpainted' | 'workable' | 'damp' | 'paint-over' | 'touch-dry' | 'firm' | 'cured';

export const rungWord: Record<Rung, string> = worded({
  unpainted: 'bare',
  workable: 'workable',
  damp: 'damp',
  'paint-over': 'dry enough to paint over',
  'touch-dry': 'touch-dry',
  firm: 'firm',
  cured: 'cured',
});

type Ladder = Pick<PlanCoat, 'openMin' | 'paintOverMin' | 'touchDryMin' | 'firmMin'>;

/** The rung of a coat `minutes` after it was laid, and the minutes to the next rung (null where it never comes). */
export function rungAt(coat: Ladder, minutes: number): { rung: Rung; nextMin: number | null } {
  if (minutes < 0) return { rung: 'unpainted', nextMin: -minutes };
  const steps: [Rung, number | null][] = [
    ['workable', coat.openMin],
    ['damp', coat.paintOverMin],
    ['paint-over', coat.touchDryMin],
    ['touch-dry', coat.firmMin],
  ];
  for (const [rung, until] of steps) {
    if (until === null || minutes < until) return { rung, nextMin: until === null ? null : until - minutes };
  }
  return { rung: 'firm', nextMin: null };
}

/** The topmost coat on an area at a minute of the plan, or null while it is bare. Counted from the end of its laying. */
export function topCoat<T extends PlanCoat>(coats: readonly T[], areaId: string, minute: number): T | null {
  let top: T | null = null;
  for (const coat of coats) if (coat.areaId === areaId && coat.laidFromMin <= minute) top = coat;
  return top;
}

/** The rung of an area at a minute of the plan: that of the part laid last. */
export function areaRung(
  coats: readonly PlanCoat[],
  areaId: string,
  minute: number,
): { rung: Rung; nextMin: number | null; coat: PlanCoat | null } {
  const coat = topCoat(coats, areaId, minute);
  if (!coat) return { rung: 'unpainted', nextMin: null, coat: null };
  return { ...rungAt(coat, Math.max(0, minute - coat.laidToMin)), coat };
}

/** Film thickness in µm `minutes` after a part was laid: what the curve still holds, water and humectant at 1 g/cm³. */
export function filmUm(times: CoatTimes, minutes: number): number {
  const { curve } = times;
  if (minutes <= 0) return thickness(curve[0] as CoatTimes['curve'][number]);
  const last = curve.at(-1) as CoatTimes['curve'][number];
  if (minutes >= last.min) return thickness(last);
  let low = 0;
  let high = curve.length - 1;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if ((curve[middle] as { min: number }).min <= minutes) low = middle;
    else high = middle;
  }
  const a = curve[low] as CoatTimes['curve'][number];
  const b = curve[high] as CoatTimes['curve'][number];
  const part = b.min > a.min ? (minutes - a.min) / (b.min - a.min) : 0;
  return thickness(a) + part * (thickness(b) - thickness(a));
}

const thickness = (moment: { water: number; solids: number; humectant: number }) =>
  moment.solids / density.dryGPerUm + moment.water + moment.humectant;

/**
 * Mean film thickness in µm over a coat that is laid part by part from `fromMin` to `toMin`, at a minute of the plan:
 * it swells while the brush is at work and shrinks as its water leaves.
 */
export function meanFilmUm(times: CoatTimes, fromMin: number, toMin: number, minute: number): number {
  if (minute <= fromMin) return 0;
  const span = Math.max(toMin - fromMin, 1e-6);
  const laid = Math.min(1, (minute - fromMin) / span);
  const samples = 8;
  let sum = 0;
  for (let i = 0; i < samples; i++) sum += filmUm(times, minute - fromMin - ((i + 0.5) / samples) * laid * span);
  return (sum / samples) * laid;
}
