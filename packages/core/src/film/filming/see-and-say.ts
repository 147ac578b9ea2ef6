import type { Lesson, Step } from '@viaticum/contract';
import { say, worded } from '@viaticum/contract';
import { areaName, areasWorkedOn, drawsLines } from '../../derived/index.js';
import type { LessonPlan } from '../../plan/index.js';
import { plainSay } from '../../text/index.js';
import { listInWords, minutesInWords, the, uncapital } from '../../units/index.js';
import { driedBefore } from './film-plan.js';

const strokes: Record<NonNullable<Step['stroke']>, string> = worded({
  tap: 'tap',
  stamp: 'stamp',
  drag: 'drag',
  pull: 'pull',
  feather: 'feather',
  'cut-in': 'cut-in',
  'criss-cross': 'criss-cross',
  circle: 'circle',
  roll: 'roll',
  flick: 'flick',
  'lift-off': 'lift-off',
});

/** What must be seen of a step's work. */
export function seenIn(lesson: Lesson, step: Step): string[] {
  const areas = areasWorkedOn(lesson, step)
    .slice(0, 3)
    .map((id) => the(uncapital(areaName(lesson, id))));
  const where = step.wholeCanvas ? say('the whole canvas') : listInWords(areas);
  const what =
    step.kind === 'look'
      ? say('the canvas from where the viewer stands')
      : drawsLines(step)
        ? say('the line coming onto the canvas')
        : step.stroke
          ? say`the ${strokes[step.stroke]} stroke on ${where || say('the canvas')}, once, slowly`
          : say`the first strokes on ${where || say('the canvas')}, slowly`;
  const check = plainSay(step.checkpoint);
  return [what, ...(check ? [check.replace(/\.$/, '')] : [])];
}

/** What must be said with it, beside its say-lines. */
export function saidIn(step: Step, { plan }: LessonPlan): string[] {
  const dryMin = driedBefore(plan).get(step.id)?.minutes ?? 0;
  return [
    ...(dryMin > 0 ? [say`it dried ${minutesInWords(dryMin)} before this`] : []),
    ...(step.repeat?.until ? [say`again until ${uncapital(step.repeat.until)}`] : []),
  ];
}
