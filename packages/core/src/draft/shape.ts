import { type Lesson, noWords, type Passage, type Stage, type Step } from '@viaticum/contract';

/** A step as it is drafted, with the reasons of the school for it. */
export type DraftedStep = { step: Step; why: string[] };
export type Draft = { stages: Stage[]; steps: DraftedStep[]; passages: Passage[] };

/** A step of which nothing is said yet. */
export const empty: Omit<Step, 'id' | 'stageId' | 'markIds' | 'title'> = {
  kind: 'paint',
  areaIds: [],
  mixIds: [],
  needs: 'any',
  ...noWords,
};

/** The lesson with a draft in place of its steps. */
export const asDrafted = (lesson: Lesson, { stages, steps, passages }: Draft): Lesson => ({
  ...lesson,
  stages,
  passages,
  steps: steps.map((one) => one.step),
  planning: { ...lesson.planning, pins: [], cutsBefore: [] },
});
