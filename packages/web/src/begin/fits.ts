/** How much of a picture is taken into a lesson. */
export const fits = ['less', 'fitting', 'more'] as const;
export type Fit = (typeof fits)[number];

const SHARE: Record<Fit, number> = { less: 0.6, fitting: 1, more: 1.5 };
const LEAST_MIN = 10;
const MOST_MIN = 10_000;
const EVEN_MIN = 5;

/** The minutes of a shorter, the fitting and a longer lesson: what was asked for, and less and more of it, in fives. */
export function minutesOf(wantedMin: number): Record<Fit, number> {
  const of = (fit: Fit): number =>
    fit === 'fitting'
      ? wantedMin
      : Math.max(LEAST_MIN, Math.min(MOST_MIN, EVEN_MIN * Math.round((wantedMin * SHARE[fit]) / EVEN_MIN)));
  return { less: of('less'), fitting: of('fitting'), more: of('more') };
}
