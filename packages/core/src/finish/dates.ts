import type { Lesson } from '@viaticum/contract';
import { airForStep } from '../derived/index.js';
import { planOf } from '../plan/index.js';
import { rangeOf } from '../step/index.js';

/** What a finished canvas stands, one after the other. */
const finishKinds = ['rack', 'stack', 'varnish', 'pack'] as const;
export type FinishKind = (typeof finishKinds)[number];
export type FinishDate = { kind: FinishKind; atMs: number };

const HOUR_MS = 3_600_000;
/** Nobody varnishes sooner (common practice, no published source); thick paint waits two weeks. */
const VARNISH_LEAST_H = 72;
const THICK_UM = 300;
const VARNISH_THICK_H = 14 * 24;
/** Paint that was not varnished is wrapped no sooner (common practice, no published source). */
const PACK_LEAST_H = 72;
const DAY_H = 24;
const HALF_HOUR_MS = 1_800_000;
/** Varnish rests a day before anything touches it (common practice, no published source). */
const AFTER_VARNISH_H = 24;

/**
 * When the canvases of a class that ended at `endMs` may go into the rack, lie on each other with paper between, be varnished, and be packed: by
 * the late end of what the model says of the last coats in this air, each taken for laid at the very end, as by the slowest. Where the
 * school varnishes nothing, packing follows on curing. Empty where nothing is painted, or where the air takes no water.
 */
export function canvasWhen(lesson: Lesson, endMs: number): FinishDate[] {
  const { laid } = planOf(lesson);
  if (laid.length === 0) return [];
  let [touchMin, firmH, cureH] = [0, 0, 0];
  const thickness = new Map<string, number>();
  for (const { coat, step, areaId, times } of laid) {
    const { late } = rangeOf(coat, airForStep(lesson, step));
    touchMin = Math.max(touchMin, late.touchDryMin);
    firmH = Math.max(firmH, late.firmH);
    cureH = Math.max(cureH, times.cureH * Math.max(1, late.firmH / times.firmH));
    thickness.set(areaId, (thickness.get(areaId) ?? 0) + times.dryUm);
  }
  const isThick = Math.max(...thickness.values()) > THICK_UM;
  const varnishH = Math.max(cureH, isThick ? VARNISH_THICK_H : VARNISH_LEAST_H);
  const isVarnished = lesson.school.varnish !== 'none';
  const dates: [FinishKind, number][] = [
    ['rack', touchMin / 60],
    ['stack', Math.max(firmH, touchMin / 60)],
    ...(isVarnished ? [['varnish', varnishH] as [FinishKind, number]] : []),
    ['pack', isVarnished ? varnishH + AFTER_VARNISH_H : Math.max(cureH, firmH, PACK_LEAST_H)],
  ];
  // Nobody handles canvases by the minute: up to the next half hour, what is days off to the same hour of its day.
  return dates.flatMap(([kind, hours]) => {
    if (!Number.isFinite(hours)) return [];
    const later = hours > DAY_H ? Math.ceil(hours / DAY_H) * DAY_H : hours;
    return [{ kind, atMs: Math.ceil((endMs + later * HOUR_MS) / HALF_HOUR_MS) * HALF_HOUR_MS }];
  });
}
