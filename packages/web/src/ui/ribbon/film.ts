import type { LessonPlan, PlannedCoat } from '@viaticum/core/plan';
import { meanFilmUm } from '@viaticum/core/step';

export type FilmSlice = {
  coat: PlannedCoat;
  path: string;
  wetPath: string;
  dampPath: string;
  curedTop: string;
  topAt: (minute: number) => number;
};

/** Height in pixels of a film of so many µm: a square root, so that a glaze is seen beside an impasto. */
export const filmHeight = (um: number, scale: number): number => Math.sqrt(Math.max(0, um)) * scale;

/** The coats of one area as areas of a section: each on those before it, swelling while laid, shrinking as it dries. */
export function areaSection(
  plan: LessonPlan,
  areaId: string,
  endMin: number,
  toX: (minute: number) => number,
  base: number,
  scale: number,
): FilmSlice[] {
  const coats = plan.coats.filter((coat) => coat.areaId === areaId);
  const um = (coat: PlannedCoat, minute: number) =>
    meanFilmUm(coat.times, coat.laidFromMin, coat.laidToMin, minute) * coat.coverShare * coat.ownShare;
  const beneath = (rank: number, minute: number) => coats.slice(0, rank).reduce((sum, coat) => sum + um(coat, minute), 0);
  return coats.map((coat, rank) => {
    const low = (minute: number) => base - filmHeight(beneath(rank, minute), scale);
    const high = (minute: number) => base - filmHeight(beneath(rank, minute) + um(coat, minute), scale);
    const between = (from: number, to: number): string => {
      const minutes = sampleMinutes(coat, coats.slice(rank), from, Math.min(to, endMin));
      if (minutes.length < 2) return '';
      const point = (minute: number, y: number) => `${toX(minute).toFixed(1)} ${y.toFixed(2)}`;
      const top = minutes.map((minute) => point(minute, high(minute)));
      const foot = [...minutes].reverse().map((minute) => point(minute, low(minute)));
      return `M${[...top, ...foot].join('L')}Z`;
    };
    const curedAt = coat.laidToMin + coat.times.cureH * 60;
    const isTop = rank === coats.length - 1;
    const cured = isTop && curedAt < endMin ? sampleMinutes(coat, [coat], curedAt, endMin) : [];
    const { laidFromMin, laidToMin } = coat;
    const workable = laidToMin + (coat.openMin ?? Number.POSITIVE_INFINITY);
    const dampEnd = laidToMin + (coat.paintOverMin ?? Number.POSITIVE_INFINITY);
    return {
      coat,
      path: between(laidFromMin, endMin),
      wetPath: between(laidFromMin, workable),
      dampPath: workable < endMin ? between(workable, dampEnd) : '',
      curedTop:
        cured.length > 1 ? `M${cured.map((minute) => `${toX(minute).toFixed(1)} ${high(minute).toFixed(2)}`).join('L')}` : '',
      topAt: high,
    };
  });
}

/** Minutes at which a curve is drawn: dense while it is laid and dries, sparse when nothing moves. */
function sampleMinutes(coat: PlannedCoat, later: readonly PlannedCoat[], from: number, to: number): number[] {
  if (to <= from) return [];
  const marks = new Set([from, to]);
  for (const one of [coat, ...later]) {
    const end = one.laidToMin + Math.min(90, (one.touchDryMin ?? 90) * 1.3);
    const pieces = 28;
    for (let i = 0; i <= pieces; i++) marks.add(one.laidFromMin + ((end - one.laidFromMin) * i) / pieces);
  }
  return [...marks].filter((minute) => minute >= from && minute <= to).sort((a, b) => a - b);
}
