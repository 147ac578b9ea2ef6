import type { Lesson, Mark, Step } from '@viaticum/contract';
import { bordersBetween, isOnlyMarks, marksOf, toolOf } from '../derived/index.js';
import { paintingWords } from '../text/index.js';
import { capital } from '../units/index.js';
import type { AreaFacts } from './facts.js';
import { empty } from './shape.js';

/** The marks of an area that lie on it alone, or those that cross a mirror that lies on it. */
export function marksOn(lesson: Lesson, { area }: AreaFacts, all: readonly AreaFacts[], which: 'own' | 'crossing'): Mark[] {
  const borders = bordersBetween(lesson).get(area.id);
  const carriesMirror = all.some((other) => other.area.twinOfId && (borders?.get(other.area.id) ?? 0) > 0);
  if (carriesMirror !== (which === 'crossing')) return [];
  return lesson.marks.filter((mark) => mark.areaId === area.id);
}

/** The step that lays a mark: in the lightest mix of its area, with what its tool asks for. */
export function markStep(lesson: Lesson, facts: AreaFacts, mark: Mark): Omit<Step, 'id' | 'stageId'> {
  const mix = facts.mixes.at(-1)?.mix;
  const tool = toolOf(mark);
  const step = {
    ...empty,
    kind: 'paint' as const,
    technique: tool === 'flick' ? ('spatter' as const) : ('loaded' as const),
    markIds: [mark.id],
    mixIds: mix ? [mix.id] : [],
    needs: 'auto' as const,
    brushId: tool === 'rake' ? 'flat-1-in' : tool === 'liner' || mark.widthMm < 2 ? 'rigger-2' : 'round-4',
  };
  const words = paintingWords(lesson, { ...step, areaIds: [facts.area.id] });
  return { ...step, ...words, title: capital(mark.name).slice(0, 120), mayBeLeftOut: true };
}

/** Whether a step lays hairs and nothing else. */
export const isHairPass = (lesson: Lesson, step: Step): boolean =>
  isOnlyMarks(step) && marksOf(lesson, step).every((mark) => mark.kind === 'hairs');
