import type { Lesson, Step } from '@viaticum/contract';
import type { DryingConstraint, Problem } from '@viaticum/kernels/scheduling';
import { solving } from '@viaticum/kernels/scheduling';
import { areApart, edgePairs, LEAST_EDGE_MM, wishOf } from '../contact/index.js';
import { areasWorkedOn, bordersBetween, drawsLines, laysPaint } from '../derived/index.js';
import { NEW_MIX_MIN, paceOf } from '../step/index.js';
import { lessonProblem, planLesson } from './lesson-plan.js';

/** A plan's length and the waiting in it, minutes. */
export type PlanLength = { endMin: number; waitMin: number };
export type OrderAnswer = {
  /** The lesson's own order, and the best found; equal where none is shorter. */
  own: PlanLength;
  best: PlanLength;
  /** The steps in the best order found. */
  order: string[];
  /** Pairs of steps that changed places. */
  changes: number;
  /** Whether no order ends sooner, and whether none that ends as soon changes fewer pairs. */
  proven: boolean;
  orderProven: boolean;
  /** No order can end before this. */
  lowerBoundMin: number;
  nodes: number;
  /** Steps before which a session ends, where the lesson may be spread over several. */
  cutsBefore: string[];
};

/**
 * The orders that a lesson allows, as a planning problem: what must be dry, wet or damp, and besides that coats of one area stay
 * one on the other, lines are drawn before what they are drawn for, and steps that lay nothing (looking, practising, a break)
 * keep their place between their neighbours.
 */
export function orderProblem(lesson: Lesson): Problem {
  const { problem, contacts, laid, minutes } = lessonProblem({ ...lesson, planning: withoutCuts(lesson) });
  const steps = lesson.steps.filter((step) => !step.ahead);
  // Steps that only meet along a border may come in either order, each with its own wait.
  const free = new Set(contacts.flatMap((one) => (one.kind === 'edge' ? [`dry:${one.id}`] : [])));
  const constraints: DryingConstraint[] = [
    ...problem.constraints.filter((one) => !free.has(one.id)),
    ...edgePairs(lesson, laid, minutes).map(
      ({ one, other, oneFirstMin, otherFirstMin }): DryingConstraint => ({
        id: `either:${one}/${other}`,
        type: 'either',
        from: one,
        to: other,
        minutes: oneFirstMin,
        backMinutes: otherFirstMin,
        source: 'edge',
      }),
    ),
  ];
  const before = (from: Step, to: Step, source: string) =>
    constraints.push({ id: `before:${from.id}/${to.id}`, type: 'before', from: from.id, to: to.id, source });
  const areas = steps.map((step) => new Set(areasWorkedOn(lesson, step)));
  const firsts = firstCoats(lesson);
  steps.forEach((step, i) => {
    const shares = (k: number) => [...(areas[k] as Set<string>)].some((id) => (areas[i] as Set<string>).has(id));
    for (let k = i - 1; k >= 0; k--) {
      const other = steps[k] as Step;
      const both = (laysPaint(other) || drawsLines(other)) && (laysPaint(step) || drawsLines(step));
      if (both && shares(k) && !areApart(lesson, other, step)) before(other, step, 'same-area');
      if (isFarBeforeNear(lesson, firsts, other, step)) before(other, step, 'far-to-near');
      if (isMirrorOf(lesson, other, step)) before(other, step, 'mirror');
      if (step.role === 'last' && laysPaint(other)) before(other, step, 'last');
      if (other.role === 'last' && laysPaint(step)) before(other, step, 'after-sign');
    }
    if (laysPaint(step) || drawsLines(step)) return;
    const [last, next] = [steps[i - 1], steps[i + 1]];
    if (last) before(last, step, 'keeps-its-place');
    if (next) before(step, next, 'keeps-its-place');
  });
  const { sessions } = lesson.planning;
  return { ...problem, constraints, ...(sessions ? { sessions: { max: sessions.most, limit: sessions.limitMin } } : {}) };
}

/** The step that lays the first coat of every area. */
function firstCoats(lesson: Lesson): Map<string, string> {
  const firsts = new Map<string, string>();
  for (const step of lesson.steps)
    if (step.kind === 'paint' && laysPaint(step)) for (const id of step.areaIds) if (!firsts.has(id)) firsts.set(id, step.id);
  return firsts;
}

/** Near overlaps far, so that edges do not look cut out: where the first coats of two areas meet, the one behind keeps its place before the other. */
function isFarBeforeNear(lesson: Lesson, firsts: ReadonlyMap<string, string>, one: Step, other: Step): boolean {
  if (lesson.school.order === 'subject-first') return false;
  const borders = bordersBetween(lesson);
  const depth = (id: string) => lesson.areas.findIndex((area) => area.id === id);
  const first = (step: Step) => step.areaIds.filter((id) => firsts.get(id) === step.id);
  return first(one).some((far) =>
    first(other).some((near) => {
      // Value by value or mix by mix, only clean edges keep the one behind before the other.
      if (lesson.school.sweep !== 'far-to-near' && wishOf(lesson, far, near) !== 'clean') return false;
      return depth(far) < depth(near) && (borders.get(far)?.get(near) ?? 0) >= LEAST_EDGE_MM;
    }),
  );
}

/** Whether a step lays the same coat on a mirror that another lays on its thing: the thing comes first, coat by coat. */
function isMirrorOf(lesson: Lesson, thing: Step, mirror: Step): boolean {
  const coatOf = (step: Step, areaId: string) =>
    lesson.steps.slice(0, lesson.steps.indexOf(step)).filter((one) => laysPaint(one) && one.areaIds.includes(areaId)).length;
  return lesson.areas.some(
    ({ id, twinOfId }) =>
      twinOfId !== undefined &&
      mirror.areaIds.includes(id) &&
      thing.areaIds.includes(twinOfId) &&
      coatOf(mirror, id) === coatOf(thing, twinOfId),
  );
}

/** The search places the ends of sessions itself. */
const withoutCuts = ({ planning: { cutsBefore: _, ...rest } }: Lesson): Lesson['planning'] => rest;

/** A lesson with its steps in another order; each place keeps the stage that it had. */
export const inOrderOf = (lesson: Lesson, order: readonly string[]): Lesson => ({
  ...lesson,
  steps: order.flatMap((id, place) => {
    const step = lesson.steps.find((one) => one.id === id);
    return step ? [{ ...step, stageId: lesson.steps[place]?.stageId ?? step.stageId }] : [];
  }),
});

const lengthOf = (lesson: Lesson): PlanLength => {
  const { plan } = planLesson(lesson);
  return { endMin: plan.endMin, waitMin: plan.waitMin };
};

/** A lesson in another order, with the ends of its sessions where the search put them. */
export const asAnswered = (lesson: Lesson, { order, cutsBefore }: Pick<OrderAnswer, 'order' | 'cutsBefore'>): Lesson => {
  const planning = lesson.planning.sessions ? { ...lesson.planning, cutsBefore } : lesson.planning;
  return inOrderOf({ ...lesson, planning }, order);
};

type SearchOptions = { maxNodes?: number; laterMin?: number };

/** Seeks the order with the earliest end, and of those (or of all that end `laterMin` later) the one with the fewest changes; yields how far it is. */
export function* betterOrder(
  lesson: Lesson,
  options: SearchOptions = {},
): Generator<{ endMin: number; lowerBoundMin: number; nodes: number }, OrderAnswer, undefined | 'stop'> {
  const own = lengthOf(lesson);
  const work = solving(orderProblem(lesson), options);
  let step = work.next();
  while (!step.done) {
    const { end, lowerBound, nodes } = step.value;
    step = work.next(yield { endMin: end, lowerBoundMin: lowerBound, nodes });
  }
  const { items, status, orderProven, lowerBound, inversions, nodes } = step.value;
  const order = orderOf(lesson, items);
  const cutsBefore = items.flatMap((item) => (item.gapBefore === 'cut' ? [item.step] : []));
  // The plan itself has the last word: what lies on what, and who mixes a mix first, may differ in another order.
  const isWhole = order.length === lesson.steps.length;
  const planned = isWhole ? planLesson(asAnswered(lesson, { order, cutsBefore })) : null;
  const best = planned ? { endMin: planned.plan.endMin, waitMin: planned.plan.waitMin } : own;
  const isShorter = planned !== null && best.endMin < own.endMin;
  const least = Math.max(0, lowerBound - movableMin(lesson));
  const reached = isShorter ? best.endMin : own.endMin;
  const proven = status === 'optimal' && reached <= least + 1e-9;
  if (!isShorter)
    return {
      own,
      best: own,
      order: lesson.steps.map((one) => one.id),
      changes: 0,
      proven,
      orderProven: proven,
      lowerBoundMin: Math.min(own.endMin, least),
      nodes,
      cutsBefore: lesson.planning.cutsBefore ?? [],
    };
  return {
    own,
    best,
    order,
    changes: inversions,
    proven,
    orderProven: proven && orderProven,
    lowerBoundMin: Math.min(best.endMin, least),
    nodes,
    cutsBefore,
  };
}

/** Minutes of mixing that another order could move from one step to another: mixes that several steps use, any of which may come first. */
function movableMin(lesson: Lesson): number {
  const users = new Map<string, Set<string>>();
  for (const step of lesson.steps) for (const id of step.mixIds) users.set(id, (users.get(id) ?? new Set()).add(step.id));
  const worked = new Map(lesson.steps.map((step) => [step.id, new Set(areasWorkedOn(lesson, step))]));
  const minutes = NEW_MIX_MIN * paceOf(lesson) * (1 + (lesson.planning.slackShare ?? 0));
  return [...users.values()].reduce((sum, steps) => {
    const [one, ...others] = [...steps];
    const areas = worked.get(one ?? '') ?? new Set();
    // Steps on one area keep their order, so that the first of them stays the first.
    const isFixed = others.every((other) => [...(worked.get(other) ?? [])].some((id) => areas.has(id)));
    const isTyped = [...steps].every((id) => lesson.steps.find((step) => step.id === id)?.doMin !== undefined);
    return isFixed || isTyped ? sum : sum + minutes;
  }, 0);
}

/** A lesson planned calmly: a tenth more time for every step, the late end of drying, the early end of wet paint, and breaks. */
export const calmly = (lesson: Lesson): Lesson => ({
  ...lesson,
  planning: {
    ...lesson.planning,
    pins: lesson.planning.pins.filter((pin) => !('stepId' in pin)),
    cautious: true,
    slackShare: Math.max(0.1, lesson.planning.slackShare ?? 0),
    breaks: lesson.planning.breaks ?? { lengthMin: 10, everyMin: 75 },
  },
});

/** Minutes against changes: the shortest plan for every number of changes that is worth it, fewest changes first. */
export type Trade = PlanLength & { order: string[]; cutsBefore: string[]; changes: number; proven: boolean };
export type PlansAnswer = {
  best: OrderAnswer;
  /** The calm plan: its length, and the order it takes. */
  calm: OrderAnswer;
  trades: Trade[];
};

const LATER_MIN = [3, 6, 10, 15, 20, 30, 45, 60];

/** Three plans side by side (the instructor's order, the least waiting, the calm one) and what lies between the first two. */
export function* threePlans(
  lesson: Lesson,
  { maxNodes = 20_000 }: { maxNodes?: number } = {},
): Generator<{ nodes: number; endMin: number; lowerBoundMin: number }, PlansAnswer, undefined | 'stop'> {
  const best = yield* betterOrder(lesson, { maxNodes });
  const calm = yield* betterOrder(calmly(lesson), { maxNodes: Math.min(maxNodes, 6000) });
  const asTrade = (one: OrderAnswer): Trade => ({
    ...one.best,
    order: one.order,
    cutsBefore: one.cutsBefore,
    changes: one.changes,
    proven: one.orderProven,
  });
  const trades: Trade[] = [
    {
      ...best.own,
      order: lesson.steps.map((one) => one.id),
      cutsBefore: lesson.planning.cutsBefore ?? [],
      changes: 0,
      proven: true,
    },
  ];
  if (best.changes > 0) {
    const found: Trade[] = [asTrade(best)];
    for (const laterMin of LATER_MIN) {
      const fewest = found.at(-1) as Trade;
      if (best.best.endMin + laterMin >= best.own.endMin || fewest.changes <= 1) break;
      const one = asTrade(yield* betterOrder(lesson, { maxNodes: Math.min(maxNodes, 5000), laterMin }));
      if (one.changes > 0 && one.changes < fewest.changes) found.push(one);
    }
    trades.push(...found.reverse());
  }
  return { best, calm, trades };
}

/** The order of all steps from that of the class: what is done at home comes first, and no search moves it. */
export const orderOf = ({ steps }: Lesson, items: readonly { step: string }[]): string[] => [
  ...steps.filter((step) => step.ahead).map((step) => step.id),
  ...items.map((item) => item.step),
];
