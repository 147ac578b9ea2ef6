import type { Lesson, Step } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import type { DryingConstraint, Pin } from '@viaticum/kernels/scheduling';
import { down, TICKS, up } from '@viaticum/kernels/scheduling';
import { type Contact, needWords } from '../contact/index.js';
import { areaOfConstraint, type Contradiction, type LessonPlan, planLesson } from '../plan/index.js';
import { capital, hourMinute, minutesInWords, the, verb, waitInWords } from '../units/index.js';

/** Why a step begins when it does, and not earlier. */
export type Reason =
  | { kind: 'start' }
  | { kind: 'after'; stepId: string }
  | { kind: 'dry'; stepId: string; areaId: string; waitMin: number; need: Contact['need'] }
  | { kind: 'break'; stepId: string; lengthMin: number }
  | { kind: 'window'; stepId: string; areaId: string }
  | { kind: 'pin' };
export type ChainLink = { stepId: string; startMin: number; endMin: number; reason: Reason };

const ticksOf = (minutes: number) => Math.round(minutes * TICKS);

/** What holds a step back in a plan: the constraint that is tight. Work done just before it wins over a wait that ends with it. */
export function whyNotEarlier(
  { problem, solution, contacts }: Pick<LessonPlan, 'problem' | 'solution' | 'contacts'>,
  stepId: string,
): Reason {
  const { items } = solution;
  const k = items.findIndex((item) => item.step === stepId);
  const item = items[k];
  if (!item) return { kind: 'start' };
  const start = ticksOf(item.start);
  const at = new Map(items.map((one) => [one.step, one]));
  const before = items[k - 1];
  if (before && ticksOf(before.end) === start) return { kind: 'after', stepId: before.step };
  for (const one of problem.constraints) {
    if (one.type !== 'dry' || one.to !== stepId) continue;
    const from = at.get(one.from);
    if (from && ticksOf(from.end) + up(one.minutes as number) === start)
      return {
        kind: 'dry',
        stepId: one.from,
        areaId: areaOfConstraint(one),
        waitMin: start / TICKS - from.end,
        need: contacts.find(({ id }) => id === one.source)?.need ?? 'damp',
      };
  }
  if (start === 0) return { kind: 'start' };
  if (before && item.gapBefore === 'break' && problem.breaks && ticksOf(before.end) + up(problem.breaks.length) === start)
    return { kind: 'break', stepId: before.step, lengthMin: problem.breaks.length };
  if (problem.pins?.some((pin) => 'step' in pin && pin.step === stepId && up(pin.start) === start)) return { kind: 'pin' };
  for (const one of problem.constraints) {
    if (one.type !== 'wet' || one.from !== stepId) continue;
    const to = at.get(one.to);
    if (to && ticksOf(to.start) - down(one.minutes as number) === ticksOf(item.end))
      return { kind: 'window', stepId: one.to, areaId: areaOfConstraint(one) };
  }
  return before ? { kind: 'after', stepId: before.step } : { kind: 'start' };
}

/** The steps that set the end of a plan, first to last, each with what it had to wait for: the critical chain. */
export function criticalChain(plan: Pick<LessonPlan, 'problem' | 'solution' | 'contacts'>): ChainLink[] {
  const { items } = plan.solution;
  const at = new Map(items.map((item) => [item.step, item]));
  const chain: ChainLink[] = [];
  const seen = new Set<string>();
  let item = items.reduce<(typeof items)[number] | undefined>(
    (last, one) => (!last || one.end > last.end ? one : last),
    undefined,
  );
  while (item && !seen.has(item.step)) {
    seen.add(item.step);
    const reason = whyNotEarlier(plan, item.step);
    chain.unshift({ stepId: item.step, startMin: item.start, endMin: item.end, reason });
    item = 'stepId' in reason ? at.get(reason.stepId) : undefined;
  }
  return chain.sort((a, b) => a.startMin - b.startMin);
}

const titleOf = (lesson: Lesson, id: string): string => lesson.steps.find((step) => step.id === id)?.title ?? say('a step');
const areaName = (lesson: Lesson, id: string): string => lesson.areas.find((area) => area.id === id)?.name ?? say('paint');
const numberOf = (lesson: Lesson, id: string): number => lesson.steps.findIndex((step) => step.id === id) + 1;

/** "waits 14 min until the sky is touch-dry", as the end of a sentence about the step. */
export function reasonInWords(lesson: Lesson, reason: Reason): string {
  switch (reason.kind) {
    case 'start':
      return say('begins the lesson');
    case 'after':
      return say`follows “${titleOf(lesson, reason.stepId)}” at once: the hands are busy until then`;
    case 'dry':
      return say`waits ${waitInWords(reason.waitMin)} after step ${numberOf(lesson, reason.stepId)} for ${the(areaName(lesson, reason.areaId))} to be ${needWords[reason.need]}`;
    case 'break':
      return say`comes after a break of ${minutesInWords(reason.lengthMin)}`;
    case 'window':
      return say`must not be earlier, or ${the(areaName(lesson, reason.areaId))} would have set before “${titleOf(lesson, reason.stepId)}”`;
    case 'pin':
      return say('is pinned to this time');
  }
}

/** How many minutes one pin or one rule costs: the end of the plan with it less that without it. */
export type Cost =
  | { kind: 'pin'; stepId: string; minutes: number }
  | { kind: 'order'; firstId: string; thenId: string; minutes: number }
  | { kind: 'wait'; stepId: string; areaId: string; minutes: number }
  | { kind: 'breaks' | 'cautious' | 'slack'; minutes: number };

/** The costs of all pins, of the plan's rules, and of every wait on the critical chain; the greatest first, in the present order. */
export function costsOf(lesson: Lesson, plan: LessonPlan = planLesson(lesson)): Cost[] {
  const { planning } = lesson;
  const minutes = (changed: Lesson) => plan.plan.endMin - planLesson(changed).plan.endMin;
  const holding = (rest: Partial<Lesson['planning']>): Lesson => ({ ...lesson, planning: { ...planning, ...rest } });
  const costs: Cost[] = planning.pins.map((pin) => {
    const cost = minutes(holding({ pins: planning.pins.filter((one) => one !== pin) }));
    return 'stepId' in pin
      ? { kind: 'pin', stepId: pin.stepId, minutes: cost }
      : { kind: 'order', firstId: pin.firstId, thenId: pin.thenId, minutes: cost };
  });
  const { breaks: _, ...withoutBreaks } = planning;
  if (planning.breaks) costs.push({ kind: 'breaks', minutes: minutes({ ...lesson, planning: withoutBreaks }) });
  if (planning.cautious) costs.push({ kind: 'cautious', minutes: minutes(holding({ cautious: false })) });
  if (planning.slackShare) costs.push({ kind: 'slack', minutes: minutes(holding({ slackShare: 0 })) });
  for (const { stepId, reason } of criticalChain(plan)) {
    if (reason.kind !== 'dry') continue;
    const steps = lesson.steps.map((step) => (step.id === stepId ? ({ ...step, needs: 'any' } as Step) : step));
    costs.push({ kind: 'wait', stepId, areaId: reason.areaId, minutes: minutes({ ...lesson, steps }) });
  }
  return costs.sort((a, b) => b.minutes - a.minutes);
}

/** When a pinned step can begin at the soonest, where that is later than its pin; null where it is not. */
const soonest = ({ solution }: LessonPlan, pin: Pin): number | null => {
  if (!('step' in pin)) return null;
  const start = solution.items.find((item) => item.step === pin.step)?.start ?? 0;
  return start > pin.start + 1e-9 ? start : null;
};

/** "Step 6 must begin within 2.75 min of step 3, but …": why constraints and pins cannot hold together. */
export function contradictionInWords(
  lesson: Lesson,
  plan: LessonPlan,
  { constraints, pins, shortfall, leftOut }: Contradiction,
): string {
  if (leftOut === 'breaks') return say('The breaks do not fit: one step is longer than the stretch that is allowed without one.');
  const step = (id: string) => say`step ${numberOf(lesson, id)}`;
  const exact = (value: number) => say`${Math.round(value * 100) / 100} min`;
  const said = [
    ...pins.map((pin) =>
      'step' in pin
        ? say`${step(pin.step)} is pinned to ${hourMinute(pin.start)}`
        : say`${step(pin.first)} is to come before ${step(pin.then)}`,
    ),
    ...constraints.map((one) => relationInWords(lesson, one, step, exact)),
  ];
  const text =
    said.length > 1 ? say`${said.slice(0, -1).join(', ')}, and ${said.at(-1)}` : (said[0] ?? say('The order of the steps'));
  const start = 'source' in leftOut ? null : soonest(plan, leftOut);
  let why = say`in this order ${exact(shortfall)} are missing`;
  if ('first' in leftOut) why = say('the steps stand the other way round');
  else if (start !== null && 'step' in leftOut)
    why = say`in this order ${step(leftOut.step)} cannot begin before ${hourMinute(Math.ceil(start))}`;
  return `${capital(text)}; ${why}.`;
}

function relationInWords(
  lesson: Lesson,
  one: DryingConstraint,
  step: (id: string) => string,
  exact: (value: number) => string,
): string {
  const area = areaName(lesson, areaOfConstraint(one));
  if (one.type === 'wet')
    return say`${step(one.to)} must begin within ${exact(one.minutes as number)} after ${step(one.from)}, while ${the(area)} ${verb(area, 'is', 'are')} still open`;
  if (one.type === 'dry') return say`${step(one.to)} waits ${exact(one.minutes as number)} for ${the(area)} of ${step(one.from)}`;
  return say`${step(one.from)} comes before ${step(one.to)}`;
}

/** Ways out of a contradiction, each one command that can be undone. */
export type WayOut =
  | { words: string; command: 'unpin'; args: { id: string } }
  | { words: string; command: 'pinStep'; args: { id: string; startMin: number } }
  | { words: string; command: 'unpinOrder'; args: { firstId: string; thenId: string } }
  | { words: string; command: 'moveStep'; args: { id: string; to: number } }
  | { words: string; command: 'editStep'; args: { id: string; step: Partial<Omit<Step, 'id'>> } };

export function waysOut(lesson: Lesson, plan: LessonPlan, { constraints, pins }: Contradiction): WayOut[] {
  const ways: WayOut[] = [];
  for (const pin of pins) {
    if ('step' in pin) {
      const later = soonest(plan, pin);
      if (later !== null)
        ways.push({
          words: say`Pin step ${numberOf(lesson, pin.step)} to ${hourMinute(Math.ceil(later))}`,
          command: 'pinStep',
          args: { id: pin.step, startMin: Math.ceil(later) },
        });
      ways.push({ words: say`Let go of step ${numberOf(lesson, pin.step)}`, command: 'unpin', args: { id: pin.step } });
    } else
      ways.push({
        words: say('Let go of this order'),
        command: 'unpinOrder',
        args: { firstId: pin.first, thenId: pin.then },
      });
  }
  for (const one of constraints) {
    if (one.type !== 'wet') continue;
    const from = lesson.steps.findIndex((step) => step.id === one.from);
    const to = lesson.steps.findIndex((step) => step.id === one.to);
    if (to > from + 1)
      ways.push({
        words: say`Do step ${to + 1} straight after step ${from + 1}`,
        command: 'moveStep',
        args: { id: one.to, to: from + 1 },
      });
    ways.push({
      words: say`Do step ${to + 1} on dry paint`,
      command: 'editStep',
      args: { id: one.to, step: { needs: 'paintOver' } },
    });
  }
  return ways;
}
