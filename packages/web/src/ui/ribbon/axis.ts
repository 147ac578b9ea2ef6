import { hourMinute } from '@viaticum/core/units';

export const LABEL_PX = 116;
export const HANDS_PX = 36;
export const AXIS_PX = 26;
const RIGHT_PX = 18;
const DAY = 1440;
const LEAST_SPAN = 8;

/** The stretch of time that a ribbon shows, and where a minute lies on it. */
export type Axis = {
  fromMin: number;
  toMin: number;
  inner: number;
  toX: (minute: number) => number;
  toMinute: (x: number) => number;
};

/** How far out one can go: twice the lesson, a day, three days: there coats get firm and cure. */
const outwards = (endMin: number): number[] => [Math.max(endMin * 2, 240), DAY, 3 * DAY].filter((span) => span > endMin * 1.2);
export const farthest = (endMin: number): number => -outwards(endMin).length;
export const nearest = (endMin: number): number => Math.max(0, Math.floor(Math.log2(endMin / LEAST_SPAN)));

/**
 * The axis of a ribbon `width` pixels wide: zoom 0 shows the whole lesson, each step above halves the time round `minute`, each
 * below goes outwards to days.
 */
export function axisFor(endMin: number, zoom: number, minute: number, width: number): Axis {
  const inner = Math.max(200, width - LABEL_PX - RIGHT_PX);
  const out = outwards(endMin);
  const span = zoom < 0 ? (out[Math.min(-zoom, out.length) - 1] ?? endMin) : endMin / 2 ** Math.min(zoom, nearest(endMin));
  const fromMin = zoom > 0 ? Math.min(Math.max(0, minute - span / 2), endMin - span) : 0;
  return {
    fromMin,
    toMin: fromMin + span,
    inner,
    toX: (at) => LABEL_PX + ((at - fromMin) / span) * inner,
    toMinute: (x) => fromMin + ((x - LABEL_PX) / inner) * span,
  };
}

const steps = [1, 2, 5, 10, 15, 30, 60, 120, 240, 720, DAY];

/** Times to write along an axis, at most a dozen, with what to write. */
export function ticksOf({ fromMin, toMin }: Pick<Axis, 'fromMin' | 'toMin'>): { at: number; label: string }[] {
  const step = steps.find((one) => (toMin - fromMin) / one <= 11) ?? 2 * DAY;
  const ticks: { at: number; label: string }[] = [];
  for (let at = Math.ceil(fromMin / step - 1e-9) * step; at <= toMin + 1e-9; at += step) ticks.push({ at, label: timeLabel(at) });
  return ticks;
}

/** "0:53" within the first day, then "1 d", "1 d 12 h". */
export function timeLabel(at: number): string {
  if (at < DAY) return hourMinute(at);
  const hours = Math.round((at % DAY) / 60);
  return `${Math.floor(at / DAY)} d${hours > 0 ? ` ${hours} h` : ''}`;
}
