import type { Lesson, Step } from '@viaticum/contract';
import { areaName, areasWorkedOn, drawsLines } from '../../derived/index.js';
import type { LessonPlan } from '../../plan/index.js';
import { plainSay } from '../../text/index.js';
import { listInWords, minutesInWords, the, uncapital } from '../../units/index.js';
import { driedBefore } from './film-plan.js';

/** What must be seen of a step's work. */
export function seenIn(lesson: Lesson, step: Step): string[] {
  const areas = areasWorkedOn(lesson, step)
    .slice(0, 3)
    .map((id) => the(uncapital(areaName(lesson, id))));
  const where = step.wholeCanvas ? 'the whole canvas' : listInWords(areas);
  const what =
    step.kind === 'look'
      ? 'the canvas from where the viewer stands'
      : drawsLines(step)
        ? 'the line coming onto the canvas'
        : step.stroke
          ? `the ${step.stroke} stroke on ${where || 'the canvas'}, once, slowly`
          : `the first strokes on ${where || 'the canvas'}, slowly`;
  const check = plainSay(step.checkpoint);
  return [what, ...(check ? [check.replace(/\.$/, '')] : [])];
}

/** What must be said with it, beside its say-lines. */
export function saidIn(step: Step, { plan }: LessonPlan): string[] {
  const dryMin = driedBefore(plan).get(step.id)?.minutes ?? 0;
  return [
    ...(dryMin > 0 ? [`it dried ${minutesInWords(dryMin)} before this`] : []),
    ...(step.repeat?.until ? [`again until ${uncapital(step.repeat.until)}`] : []),
  ];
}
