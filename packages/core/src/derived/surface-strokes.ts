import type { Lesson, Level, Step } from '@viaticum/contract';
import { type SurfacePass, surfacePass } from '../surface/index.js';
import { visibleOf } from './areas.js';
import { isSubject } from './weight.js';

/** How much longer than the experienced hand students take. */
export const handPace: Record<Level, number> = { beginner: 2, improver: 1.4, experienced: 1 };

/** Strokes of a pass over one area: in mm, and how many of them are laid in their time. */
export type SurfaceStrokes = {
  areaId: string;
  pass: SurfacePass;
  widthMm: number;
  lengthMm: number;
  everyMm: number;
  count: number;
};

/** The size of canvas (mm, its longer side) for which strokes are given; on others they grow and shrink with it, but not as far. */
const USUAL_MM = 508;
/** Finer than this nobody of a level paints, mm. */
const FINEST_MM: Record<Level, number> = { beginner: 1.5, improver: 1, experienced: 0.6 };
/** A pass over the subject takes no longer than attention lasts, minutes of doing; over anything else only as long as that is worth. */
const MOST_MIN: Record<Level, number> = { beginner: 10, improver: 13, experienced: 17 };
const ASIDE = 0.45;
const MOST_TOGETHER = 2;
/** Of the places where a stroke could lie about so many get one. */
const LAID_SHARE = 0.55;
/** So much larger than it should be a brush may be where time is short. */
const COARSEST = 2;

/** The strokes of a step that goes over surfaces, by area; none where its areas have no such pass. */
export function surfaceStrokes(lesson: Lesson, step: Pick<Step, 'pass' | 'areaIds' | 'doMin'>): SurfaceStrokes[] {
  if (!step.pass) return [];
  const { widthMm, heightMm } = lesson.support;
  const scale = Math.sqrt(Math.max(widthMm, heightMm) / USUAL_MM);
  const parts = new Map(visibleOf(lesson).map((part) => [part.id, part.areaCm2]));
  const pace = handPace[lesson.level];
  const found = step.areaIds.flatMap((areaId) => {
    const area = lesson.areas.find((one) => one.id === areaId);
    const pass = surfacePass(area?.surface, step.pass);
    const areaCm2 = parts.get(areaId) ?? 0;
    if (!pass || areaCm2 <= 0) return [];
    const own = Math.max(1, FINEST_MM[lesson.level] / (pass.widthMm * scale)) * scale;
    const everyMm = pass.everyMm * own;
    const full = Math.max(1, (LAID_SHARE * areaCm2 * 100) / (everyMm * everyMm));
    return [{ areaId, pass, widthMm: pass.widthMm * own, lengthMm: pass.lengthMm * own, everyMm, full }];
  });
  const minutes = found.reduce((sum, { full, pass }) => sum + (full * pass.seconds * pace) / 60, 0);
  const isAside = !lesson.areas.some((area) => step.areaIds.includes(area.id) && isSubject(lesson, area));
  const most = step.doMin ?? MOST_MIN[lesson.level] * (isAside ? ASIDE * Math.min(MOST_TOGETHER, Math.max(1, found.length)) : 1);
  // Where time is short the brush is larger, and where that is not enough only the strokes that matter most are laid.
  const coarser = Math.min(COARSEST, Math.max(1, Math.sqrt(minutes / most)));
  const share = Math.min(1, (most * coarser * coarser) / Math.max(1e-6, minutes));
  return found.map(({ full, widthMm: wide, lengthMm, everyMm, ...one }) => ({
    ...one,
    widthMm: wide * coarser,
    lengthMm: lengthMm * coarser,
    everyMm: everyMm * coarser,
    count: Math.max(1, Math.round((full * share) / (coarser * coarser))),
  }));
}

/** Minutes that an experienced hand takes for the strokes of a step over surfaces. */
export const surfaceMinutes = (lesson: Lesson, step: Pick<Step, 'pass' | 'areaIds' | 'doMin'>): number =>
  surfaceStrokes(lesson, { ...step, doMin: undefined }).reduce((sum, { count, pass }) => sum + (count * pass.seconds) / 60, 0);
