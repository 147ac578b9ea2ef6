import type { Lesson, Side, Step } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { colourOf, looksOf } from '../../derived/index.js';
import { sideOf } from '../../text/index.js';
import type { Finding, Rule } from '../finding.js';

/** The way on the canvas (x right, y down) of a side that is named by the canvas. */
const ways: Partial<Record<Side, [number, number]>> = { top: [0, -1], bottom: [0, 1], left: [-1, 0], right: [1, 0] };
/** From here on a side faces the other way than the light (cosine). */
const AWAY = -0.35;
/** So much lighter (L*) than what else is laid on an area a mix is a light. */
const LIGHTER = 6;

/** Whether a step lays the light colours of its areas. */
function laysLights(lesson: Lesson, step: Step): boolean {
  const own = colourOf(lesson, step)?.[0];
  const looks = looksOf(lesson);
  const others = lesson.steps
    .filter((other) => other.id !== step.id && other.areaIds.some((id) => step.areaIds.includes(id)))
    .flatMap((other) => other.mixIds.flatMap((id) => looks.get(id)?.colour?.lab[0] ?? []));
  if (own === undefined || others.length === 0) return false;
  return own > others.reduce((sum, one) => sum + one, 0) / others.length + LIGHTER;
}

/** Lights laid on the side that is turned away from the light. */
export const wrongSide: Rule = {
  id: 'wrong-side',
  look: (lesson) => {
    const { light } = lesson;
    if (!light) return [];
    const turn = (light.azimuthDeg * Math.PI) / 180;
    const [lx, ly] = [Math.sin(turn), -Math.cos(turn)];
    return lesson.steps.flatMap((step): Finding[] => {
      const way = step.side && ways[step.side];
      if (!way || step.kind !== 'paint' || way[0] * lx + way[1] * ly > AWAY || !laysLights(lesson, step)) return [];
      return [
        {
          id: `wrong-side/${step.id}`,
          rule: 'wrong-side',
          about: step.title,
          words: say`The lights lie on the ${step.side === 'top' || step.side === 'bottom' ? step.side : say`${step.side}-hand side`}, but the light comes from the ${sideOf(light.azimuthDeg)}.`,
          reason: say('Common practice: one light, and everything in the picture turns the same side to it.'),
          serious: false,
          place: { station: 'steps', stepId: step.id },
          fix: { words: say('Lay them on the lit side'), command: 'editStep', args: { id: step.id, step: { side: 'light' } } },
        },
      ];
    });
  },
};
