import type { Lesson, Step } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { toEnd } from '@viaticum/kernels/cooperative';
import { asAnswered, betterOrder } from '../advice/index.js';
import { otherWords, stopTestOf } from '../text/index.js';
import { ORDER_NODES } from './least-waiting.js';
import { empty } from './shape.js';

const FRESH_EYE_MIN = 5;

/** Sessions end before the first glaze, which wants a night's drying; otherwise where the search puts them, in the order that stands. */
export function overSessions(lesson: Lesson): Lesson {
  if (lesson.steps.some((step) => step.technique === 'glaze') && lesson.planning.sessions?.most === 2) {
    const steps = glazedOnSecondDay(lesson.steps);
    const glaze = steps.find((step) => step.technique === 'glaze') as Step;
    return { ...lesson, steps, planning: { ...lesson.planning, cutsBefore: [glaze.id] } };
  }
  const pins = lesson.steps.slice(1).map((step, k) => ({ firstId: (lesson.steps[k] as Step).id, thenId: step.id }));
  const held = { ...lesson, planning: { ...lesson.planning, pins: pins.slice(0, 200) } };
  const answer = toEnd(betterOrder(held, { maxNodes: ORDER_NODES }));
  const cut = asAnswered(lesson, { order: lesson.steps.map((step) => step.id), cutsBefore: answer.cutsBefore });
  return { ...cut, planning: { ...lesson.planning, cutsBefore: answer.cutsBefore } };
}

/** Opaque coats on the first day; glazes, and what lies on them, on the second. */
function glazedOnSecondDay(steps: readonly Step[]): Step[] {
  const glazed = new Set<string>();
  const second = new Set<Step>();
  for (const step of steps) {
    const isLight = step.technique === 'loaded' && step.mayBeLeftOut === true;
    const isLate = step.technique === 'glaze' || step.role === 'last' || isLight || step.areaIds.some((id) => glazed.has(id));
    if (step.technique === 'glaze') for (const id of step.areaIds) glazed.add(id);
    if (isLate) second.add(step);
  }
  const first = steps.filter((step) => !second.has(step));
  return [...first, ...steps.filter((step) => second.has(step))];
}

/** Every session ends with a look and washing up, and every later one begins with a look at what was done before. */
export function withFreshEye(lesson: Lesson, ids: () => string): Lesson {
  const cuts = lesson.planning.cutsBefore ?? [];
  const looks = new Map(cuts.map((id) => [id, ids()]));
  const steps = lesson.steps.flatMap((step): Step[] => {
    const id = looks.get(step.id);
    if (id === undefined) return [step];
    return [
      look(step.stageId, ids(), say('Look, then wash up'), END_OF_DAY_MIN, {
        say: say(
          'Put all canvases by the wall and look from the door. Cover the heaps that you need again, and wash every brush with soap.',
        ),
        checkpoint: say('What is the first thing you will do next time?'),
      }),
      look(step.stageId, id, say('Look with a fresh eye'), FRESH_EYE_MIN, {
        say: say('Look at it with a fresh eye before anything is mixed. What would you not do again? What is already enough?'),
        checkpoint: stopTestOf(lesson).join(' '),
      }),
      step,
    ];
  });
  return { ...lesson, steps, planning: { ...lesson.planning, cutsBefore: cuts.map((id) => looks.get(id) as string) } };
}

/** Before the last things that may be left out it is asked whether they are needed. */
export function withStopTest(lesson: Lesson, ids: () => string): Lesson {
  const { steps } = lesson;
  const last = steps.findIndex((step) => step.role === 'last');
  if (last < 0) return lesson;
  let from = last;
  while (from > 0 && steps[from - 1]?.mayBeLeftOut) from--;
  const next = steps[from];
  if (!next || last - from < LEAST_OPTIONAL || next.needs === 'wet' || next.needs === 'damp') return lesson;
  const test = look(next.stageId, ids(), say('Enough? Look before the last touches'), STOP_TEST_MIN, {
    say: say('Brushes down. Ask yourself these questions; whoever has three times yes may stop here and sign.'),
    checkpoint: stopTestOf(lesson).join(' '),
  });
  return { ...lesson, steps: [...steps.slice(0, from), test, ...steps.slice(from)] };
}
const LEAST_OPTIONAL = 2;
const STOP_TEST_MIN = 2;
const END_OF_DAY_MIN = 4;

const look = (stageId: string, id: string, title: string, doMin: number, words: Pick<Step, 'say' | 'checkpoint'>): Step => ({
  ...empty,
  ...otherWords.look,
  ...words,
  id,
  stageId,
  kind: 'look',
  title,
  markIds: [],
  showMin: 0,
  doMin,
});
