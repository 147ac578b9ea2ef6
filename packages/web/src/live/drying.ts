import type { FollowSheet, PlanCoat } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { areaRung, rungWord } from '@viaticum/core/step';
import { listInWords } from '@viaticum/core/units';

/** What may be done on each wet area now, and what has to wait: short sentences for a phone. */
export function allowed(
  sheet: FollowSheet,
  coats: readonly PlanCoat[],
  minute: number,
): { now: string[]; notYet: { names: string; minutes: number | null }[] } {
  const by: Record<'workable' | 'damp', { name: string; nextMin: number | null }[]> = { workable: [], damp: [] };
  for (const area of sheet.areas) {
    const { rung, nextMin, coat } = areaRung(coats, area.id, minute);
    if (rung !== 'workable' && rung !== 'damp') continue;
    const whole = coat?.paintOverMin == null ? null : coat.laidToMin + coat.paintOverMin - minute;
    by[rung].push({ name: area.name, nextMin: rung === 'damp' ? nextMin : whole });
  }
  const all = (list: { name: string }[]) =>
    list.length > 3 && list.length === sheet.areas.length ? say('the whole canvas') : listInWords(list.map((one) => one.name));
  const now: string[] = [];
  if (by.workable.length > 0) now.push(say`${all(by.workable)} ${rungWord.workable}: you may still blend it`);
  if (by.damp.length > 0) now.push(say`${all(by.damp)} ${rungWord.damp}: do not rub it`);
  const wet = [...by.workable, ...by.damp];
  const longest = wet.reduce<number | null>(
    (most, one) => (one.nextMin === null ? most : Math.max(most ?? 0, one.nextMin)),
    null,
  );
  return { now, notYet: wet.length > 0 ? [{ names: all(wet), minutes: longest }] : [] };
}
