import type { Lesson, Step } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { inItsLanguage, paintingWords } from '../text/index.js';
import { brushOfCoat, coatsOf } from './coats.js';
import { areaFacts } from './facts.js';
import { usualStroke } from './rules/strokes.js';

/** What a step on an area would usually be painted with, and why. */
export type StepProposal = {
  fields: Pick<
    Step,
    'title' | 'technique' | 'brushId' | 'mixIds' | 'needs' | 'stroke' | 'say' | 'watch' | 'checkpoint' | 'finish'
  > &
    Partial<Pick<Step, 'coverShare' | 'medium' | 'partByPart'>>;
  why: string[];
};

const BRUSH_REASON = () => say('The brush is the widest that the area takes.');
const LATER_BRUSH_REASON = () => say('A later coat takes a brush half as wide.');

/**
 * Proposes how a step paints an area by the school of the lesson: its first coat, or the next one where steps before it (all where
 * `stepId` is not in the lesson) paint the area already. Null where the area is not seen. The rules are those of the draft; common
 * practice, no published source.
 */
export function proposeStep(lesson: Lesson, areaId: string, stepId?: string): StepProposal | null {
  const { areas } = areaFacts(lesson);
  const facts = areas.find((one) => one.area.id === areaId);
  if (!facts) return null;
  const at = lesson.steps.findIndex((step) => step.id === stepId);
  const before = at < 0 ? lesson.steps : lesson.steps.slice(0, at);
  const laid = before.filter((step) => step.kind === 'paint' && step.areaIds.includes(areaId)).length;
  const { coats, lights } = coatsOf(lesson, facts, areas);
  const all = lights ? [...coats, lights] : coats;
  const coat = all[Math.min(laid, all.length - 1)];
  if (!coat) return null;
  const { why, isLater, ...painted } = coat;
  const step = { areaIds: [areaId], brushId: brushOfCoat(facts, coat), ...painted };
  return {
    fields: {
      ...inItsLanguage(lesson, () => paintingWords(lesson, step)),
      ...painted,
      brushId: step.brushId,
      stroke: usualStroke[coat.technique],
    },
    why: [why, isLater ? LATER_BRUSH_REASON() : BRUSH_REASON()],
  };
}
