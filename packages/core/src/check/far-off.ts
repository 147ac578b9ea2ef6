import type { Lesson, Level } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { compareInWords } from '../picture/index.js';
import type { AreaOff } from '../stage/index.js';
import type { Finding } from './finding.js';

/** So far (ΔE00, half-closed eyes) an area of the last stage may lie from the picture at a level. */
const MOST: Record<Level, number> = { beginner: 11, improver: 8.5, experienced: 7 };
/** Less of the canvas than this is nobody's first look. */
const LEAST_SHARE = 0.01;

/** Areas that end too far from the picture, as they were measured on the painted last stage: what is wrong with each, the worst first. */
export function farFindings(lesson: Lesson, offs: readonly AreaOff[]): Finding[] {
  return offs
    .filter(({ mean, share }) => mean > MOST[lesson.level] && share >= LEAST_SHARE)
    .sort((one, other) => other.mean * other.share - one.mean * one.share)
    .flatMap((off): Finding[] => {
      const area = lesson.areas.find((one) => one.id === off.areaId);
      if (!area) return [];
      const last = lesson.steps.filter((step) => step.kind === 'paint' && step.areaIds.includes(area.id)).at(-1);
      const how = compareInWords(off.painted, off.pictured);
      const isMixed = how === 'the same to the eye' || how.startsWith('of the same value');
      return [
        {
          id: `far-off/${area.id}`,
          rule: 'far-off',
          about: area.name,
          words: isMixed
            ? say`It ends far from the picture${off.where ? say`, most ${off.where}` : ''}: right on the whole, but its lights and darks lie elsewhere.`
            : say`It ends far from the picture${off.where ? say`, most ${off.where}` : ''}: ${how} than there.`,
          reason: say`Measured on the painted last stage with half-closed eyes: ${Math.round(off.mean)} ΔE00, where ${Math.round(MOST[lesson.level])} is near enough for this level. Another mix, or one value more in it, brings it nearer.`,
          serious: false,
          place: { station: 'steps', areaId: area.id, ...(last ? { stepId: last.id } : {}) },
        },
      ];
    });
}
