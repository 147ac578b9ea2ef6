import type { Lesson, School } from '@viaticum/contract';
import { colourBeneath, colourOf, laysPaint } from '../derived/index.js';

export type LineMedium = School['transferMedium'] | 'thin-paint' | 'marker' | 'light';

/** Lightness (L*) of the lines that each medium leaves; from memory. */
export const lineLightness: Record<LineMedium, number> = {
  'transfer-paper': 40,
  'light-paper': 92,
  graphite: 45,
  charcoal: 25,
  chalk: 92,
  'thin-paint': 35,
  marker: 15,
  light: 98,
};
/** Under this difference in lightness lines are hard to see; from memory. */
export const LEAST_CONTRAST = 15;
/** L* of gesso. */
export const GESSO_L = 94;

/** How light what lies on some areas is where lines come before a step (by its number); with no areas, the ground. */
export function groundsAt(lesson: Lesson, at: number, areaIds: readonly string[]): { areaId: string | null; l: number }[] {
  const before = Math.max(0, at);
  const [coat] = lesson.support.groundCoats.slice(-1);
  const first = lesson.steps
    .slice(0, before)
    .filter((step) => step.wholeCanvas && laysPaint(step))
    .at(-1);
  const ground = (first && colourOf(lesson, first)?.[0]) ?? (coat && colourOf(lesson, { mixIds: [coat.mixId] })?.[0]) ?? GESSO_L;
  if (areaIds.length === 0) return [{ areaId: null, l: ground }];
  return areaIds.map((areaId) => ({ areaId, l: colourBeneath(lesson, before, areaId)?.[0] ?? ground }));
}

/** How well the lines of a medium show on grounds: the least difference in lightness, and whether that is hard to see. */
export function contrastOn(medium: LineMedium, grounds: readonly { l: number }[]): { least: number; isHard: boolean } {
  const least = Math.min(...grounds.map(({ l }) => Math.abs(l - lineLightness[medium])), 100);
  return { least, isHard: least < LEAST_CONTRAST };
}

export type Way = {
  id: 'transfer-paper' | 'light-paper' | 'graphite' | 'charcoal' | 'chalk' | 'grid' | 'envelope' | 'freehand' | 'projector';
  medium: LineMedium;
  /** The print must be mirrored: the drawing is rubbed down face to face. */
  isMirrored: boolean;
  contrast: { least: number; isHard: boolean };
  /** Minutes for a beginner on this canvas. */
  minutes: number;
};

/** Minutes for a metre of line, and before the first one; common practice, no published source. */
const pace: Record<Way['id'], { perMetre: number; before: number }> = {
  'transfer-paper': { perMetre: 1.6, before: 3 },
  'light-paper': { perMetre: 1.6, before: 3 },
  graphite: { perMetre: 1.6, before: 5 },
  charcoal: { perMetre: 1.4, before: 5 },
  chalk: { perMetre: 1.8, before: 5 },
  grid: { perMetre: 4.5, before: 8 },
  envelope: { perMetre: 3.5, before: 4 },
  freehand: { perMetre: 3, before: 1 },
  projector: { perMetre: 1.4, before: 6 },
};

/** Every way of getting lines onto a canvas, best seen first, with its minutes for so many mm of line. */
export function waysOnto(grounds: readonly { l: number }[], lineMm: number): Way[] {
  const row = (id: Way['id'], medium: LineMedium, isMirrored = false): Way => ({
    id,
    medium,
    isMirrored,
    contrast: contrastOn(medium, grounds),
    minutes: pace[id].before + (pace[id].perMetre * lineMm) / 1000,
  });
  const dark = grounds.every(({ l }) => l < 55);
  const ways = [
    row('transfer-paper', 'transfer-paper'),
    row('light-paper', 'light-paper'),
    row('graphite', 'graphite'),
    row('charcoal', 'charcoal'),
    row('chalk', 'chalk'),
    row('grid', dark ? 'chalk' : 'graphite'),
    row('envelope', dark ? 'chalk' : 'charcoal'),
    row('freehand', 'thin-paint'),
    row('projector', dark ? 'chalk' : 'graphite'),
  ];
  return ways.sort((a, b) => Number(a.contrast.isHard) - Number(b.contrast.isHard) || a.minutes - b.minutes);
}
