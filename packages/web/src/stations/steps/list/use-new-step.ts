import { useLesson, useSession, useView } from '../../../lesson/context.js';
import { newStep } from '../new-step.js';

/** Adds a step after the marked one, and marks it. */
export function useNewStep(): () => void {
  const lesson = useLesson();
  const session = useSession();
  const view = useView();
  return () => {
    const selected = lesson.steps.findIndex((step) => step.id === view.stepId);
    const stageId = lesson.steps[selected]?.stageId ?? lesson.stages.at(-1)?.id;
    if (!stageId) return;
    const step = newStep(stageId);
    if (session.do('addStep', { step, ...(selected >= 0 ? { at: selected + 1 } : {}) })) view.selectStep(step.id);
  };
}
