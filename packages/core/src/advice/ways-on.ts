import type { Lesson, PlanItem, Step } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import type { Contact } from '../contact/index.js';
import { areaName, areasWorkedOn } from '../derived/index.js';
import { type CommandArgs, carryOut, startHistory } from '../document/index.js';
import { type LessonPlan, planLesson } from '../plan/index.js';
import { the } from '../units/index.js';

/** A way past a wait, as one command that can be undone, with the length of the lesson that it leads to. */
export type WayOn = { kind: 'waive' | 'soften' | 'edge-last' | 'gap' | 'dry' | 'other-first'; words: string; endMin: number } & {
  [N in 'waiveContact' | 'setWish' | 'editStep' | 'moveStep']: { command: N; args: CommandArgs<N> };
}['waiveContact' | 'setWish' | 'editStep' | 'moveStep'];

/** The contacts for which a step waits in a plan, the one that holds it longest first; empty where it does not wait. */
export function heldBy(
  { plan, contacts, solution }: Pick<LessonPlan, 'plan' | 'contacts' | 'solution'>,
  stepId: string,
): Contact[] {
  const pause = pauseBefore(plan.items, stepId);
  if (!pause) return [];
  const ends = new Map(solution.items.map((item) => [item.step, item.end]));
  const until = (one: Contact) => (ends.get(one.fromStepId) ?? 0) + one.waitMin;
  return contacts
    .filter((one) => one.toStepId === stepId && !one.waived && until(one) > pause.startMin + 1e-6)
    .sort((one, other) => until(other) - until(one));
}

const pauseBefore = (items: readonly PlanItem[], stepId: string): PlanItem | undefined => {
  const at = items.findIndex((item) => item.stepId === stepId);
  const before = items[at - 1];
  return before?.kind === 'pause' ? before : undefined;
};

const AHEAD = 5;
const WORTH_MIN = 0.5;

/**
 * Ways past the wait before a step, each worked out by planning the lesson anew: to paint on, to let the border soften, to lay the edge
 * last, to leave a gap, to dry it, or to do another step first. Only those that end the lesson sooner; the greatest gain first,
 * painting on last. Empty where the step does not wait for paint.
 */
export function waysOn(lesson: Lesson, stepId: string, plan: LessonPlan = planLesson(lesson)): WayOn[] {
  const held = heldBy(plan, stepId);
  const [first] = held;
  const at = lesson.steps.findIndex((step) => step.id === stepId);
  const step = lesson.steps[at];
  if (!first || !step) return [];
  const ways: WayOn[] = [];
  const history = startHistory(lesson);
  type Way = Omit<WayOn, 'endMin' | 'command' | 'args'> & Pick<WayOn, 'command' | 'args'>;
  const consider = (way: Way): void => {
    const changed = carryOut(history, way.command, way.args as never).lesson;
    const next = planLesson(changed);
    if (next.contradictions.length > plan.contradictions.length || next.misses.length > plan.misses.length) return;
    if (next.plan.endMin > plan.plan.endMin - WORTH_MIN && way.kind !== 'waive') return;
    ways.push({ ...way, endMin: next.plan.endMin } as WayOn);
  };
  const edges = held.filter((one) => one.kind === 'edge' && !one.byNature);
  const [edge] = edges;
  if (edge && edges.length === held.length) {
    if (step.laying !== 'edges-last')
      consider({
        kind: 'edge-last',
        words: say('Lay this edge last'),
        command: 'editStep',
        args: { id: stepId, step: { laying: 'edges-last' } },
      });
    consider({
      kind: 'gap',
      words: say('Leave 2 mm, close it later'),
      command: 'editStep',
      args: { id: stepId, step: { laying: 'gap' } },
    });
    if (edge.wish === 'clean')
      consider({
        kind: 'soften',
        words: say('Let this edge soften'),
        command: 'setWish',
        args: { id: edge.ownAreaId, with: edge.areaId, wish: 'may-soften' },
      });
  }
  const from = lesson.steps.find((one) => one.id === first.fromStepId);
  if (from && !from.dryer && lesson.room.dryers?.count && from.technique !== 'impasto')
    consider({
      kind: 'dry',
      words: say`Dry ${the(areaName(lesson, first.areaId))} with the dryers`,
      command: 'editStep',
      args: { id: from.id, step: { dryer: true } },
    });
  const other = anotherFirst(lesson, at, plan);
  if (other) consider(other);
  ways.sort((one, two) => one.endMin - two.endMin);
  consider({
    kind: 'waive',
    words: say('Paint on anyway'),
    command: 'waiveContact',
    args: { contacts: held.map(({ fromStepId, toStepId, areaId }) => ({ fromStepId, toStepId, areaId })) },
  });
  return ways;
}

/** Whether nothing that a step stands on, or is drawn for, is done between a place and its own. */
function canComeFirst(lesson: Lesson, step: Step, at: number): boolean {
  const own = new Set(areasWorkedOn(lesson, step));
  const between = lesson.steps.slice(at, lesson.steps.indexOf(step));
  return !between.some((one) => areasWorkedOn(lesson, one).some((id) => own.has(id)));
}

/** The step of those that follow which, done before the one that waits, ends the lesson soonest. */
function anotherFirst(lesson: Lesson, at: number, plan: LessonPlan): Pick<WayOn, 'kind' | 'words' | 'command' | 'args'> | null {
  let best: { title: string; id: string; endMin: number } | null = null;
  const history = startHistory(lesson);
  for (const step of lesson.steps.slice(at + 1, at + 1 + AHEAD)) {
    if (step.kind === 'look' || step.kind === 'break' || !canComeFirst(lesson, step, at)) continue;
    const changed = carryOut(history, 'moveStep', { id: step.id, to: at }).lesson;
    const next = planLesson(changed);
    if (next.contradictions.length > plan.contradictions.length || next.misses.length > plan.misses.length) continue;
    if (next.plan.endMin < (best?.endMin ?? plan.plan.endMin - WORTH_MIN))
      best = { title: step.title, id: step.id, endMin: next.plan.endMin };
  }
  return best && { kind: 'other-first', words: say`First “${best.title}”`, command: 'moveStep', args: { id: best.id, to: at } };
}
