import type { Lesson } from '@viaticum/contract';
import type { LessonPlan } from './lesson-plan.js';

/** The minutes of a plan by what is done in them. */
export type LengthParts = Record<'painting' | 'showing' | 'drawing' | 'looking' | 'practising' | 'waiting' | 'breaks', number>;

/** How a lesson's time is spent; together its length. */
export function lengthParts(lesson: Lesson, { plan }: Pick<LessonPlan, 'plan'>): LengthParts {
  const parts: LengthParts = { painting: 0, showing: 0, drawing: 0, looking: 0, practising: 0, waiting: 0, breaks: 0 };
  const kinds = new Map(lesson.steps.map((step) => [step.id, step.kind]));
  for (const { kind, stepId, startMin, endMin, showMin } of plan.items) {
    const length = endMin - startMin;
    parts.showing += Math.min(length, showMin);
    const rest = Math.max(0, length - showMin);
    const of = kinds.get(stepId ?? '');
    if (kind === 'pause' || of === 'dry') parts.waiting += rest;
    else if (kind === 'break') parts.breaks += rest;
    else if (of === 'draw' || of === 'transfer') parts.drawing += rest;
    else if (of === 'look') parts.looking += rest;
    else if (of === 'practise') parts.practising += rest;
    else parts.painting += rest;
  }
  return parts;
}
