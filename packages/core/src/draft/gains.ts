import type { Lesson, Step } from '@viaticum/contract';
import { toEnd } from '@viaticum/kernels/cooperative';
import { betterOrder, inOrderOf, offersFor } from '../advice/index.js';
import { outlineLength } from '../area/index.js';
import { brushOf } from '../brush/index.js';
import { extentsOf } from '../derived/index.js';
import { type CommandArgs, carryOut, startHistory } from '../document/index.js';
import { planLesson } from '../plan/index.js';
import { areaFacts, brushFor } from './facts.js';
import { withDryers } from './fixing.js';
import { ORDER_NODES } from './least-waiting.js';
import { passageOfSteps, passagesOf } from './passages.js';

/** A way to a shorter lesson that takes nothing from the picture: another order, other fields of steps, or steps painted as one passage. */
export type Gain = {
  kind: 'order' | 'ahead' | 'thin' | 'dry' | 'brush' | 'join';
  savedMin: number;
  /** The end of the lesson with it and all gains before it. */
  endMin: number;
  order?: string[];
  edits?: { id: string; step: Partial<Omit<Step, 'id'>> }[];
  passages?: CommandArgs<'makePassage'>[];
};

const WORTH_MIN = 0.9;
const WIDER = 1.4;

/**
 * What makes a lesson shorter before anything is left out, mildest first: preparation done at home, the order that waits least, first
 * coats laid thin, hair dryers where the room has some, wider brushes where an area takes them, areas that pass into each other painted
 * as one. Each on top of those before it; those that save less than a minute are not told of. `ids` gives ids for passages.
 */
export function freeGains(lesson: Lesson, ids: () => string): { gains: Gain[]; lesson: Lesson } {
  const gains: Gain[] = [];
  let now = lesson;
  let plan = planLesson(now);
  const attempt = (kind: Gain['kind'], next: Lesson, changes = changesBetween(now, next)): void => {
    const planned = planLesson(next);
    const { endMin } = planned.plan;
    const savedMin = plan.plan.endMin - endMin;
    if (savedMin < WORTH_MIN || planned.misses.length > plan.misses.length) return;
    gains.push({ kind, savedMin, endMin, ...changes });
    now = next;
    plan = planned;
  };
  attempt('ahead', preparedAhead(now));
  const { order } = toEnd(betterOrder(now, { maxNodes: ORDER_NODES }));
  attempt('order', inOrderOf(now, order));
  attempt('thin', thinned(now));
  attempt('dry', withDryers({ ...now, school: { ...now.school, drying: 'dryer' } }));
  attempt('brush', withWiderBrushes(now));
  const { lesson: joined, passages } = withPassages(now, ids);
  if (passages.length > 0) attempt('join', joined, { passages });
  return { gains, lesson: now };
}

/** What changed from one lesson to another of the same steps: their order, and fields of them. */
function changesBetween(was: Lesson, now: Lesson): Pick<Gain, 'order' | 'edits' | 'passages'> {
  const ids = ({ steps }: Lesson) => steps.map((step) => step.id);
  const isMoved = ids(was).join() !== ids(now).join();
  const edits = now.steps.flatMap((step) => {
    const old = was.steps.find((one) => one.id === step.id) as Step;
    const changed = (['ahead', 'load', 'dryer', 'brushId'] as const).filter((field) => step[field] !== old[field]);
    return changed.length > 0 ? [{ id: step.id, step: Object.fromEntries(changed.map((field) => [field, step[field]])) }] : [];
  });
  return { ...(isMoved ? { order: ids(now) } : {}), ...(edits.length > 0 ? { edits } : {}) };
}

/** Gesso and grounds that come before all paint, done at home. */
function preparedAhead(lesson: Lesson): Lesson {
  const painted = lesson.steps.findIndex((step) => step.kind === 'paint');
  const steps = lesson.steps.map((step, i) =>
    step.kind === 'prepare' && (painted < 0 || i < painted) ? { ...step, ahead: true as const } : step,
  );
  return { ...lesson, steps };
}

/** First coats that something waits for, rubbed out thin. */
function thinned(lesson: Lesson): Lesson {
  const { contacts } = planLesson(lesson);
  const held = new Set(contacts.filter((one) => one.waitMin > 0 && !one.waived).map((one) => one.fromStepId));
  const isThinnable = (step: Step) =>
    held.has(step.id) && step.load === undefined && step.technique === 'block-in' && step.passageId === undefined;
  return { ...lesson, steps: lesson.steps.map((step) => (isThinnable(step) ? { ...step, load: 'thin' as const } : step)) };
}

/** The widest brush that each flat coat takes, where that is much wider than its own. */
function withWiderBrushes(lesson: Lesson): Lesson {
  const extents = new Map(extentsOf(lesson).map((part) => [part.id, part]));
  const steps = lesson.steps.map((step) => {
    const own = brushOf(step.brushId);
    const isFlat = step.technique === 'block-in' || step.technique === 'blend' || step.technique === 'wash';
    const parts = step.areaIds.flatMap((id) => extents.get(id) ?? []);
    if (!own || !isFlat || parts.length === 0 || step.coverShare !== undefined || step.doMin !== undefined) return step;
    const narrowest = Math.min(...parts.map(({ areaCm2, seen }) => (200 * areaCm2) / Math.max(1, outlineLength(seen))));
    const wider = brushFor(narrowest * 0.7, ['flat', 'filbert', 'round']);
    return wider.widthMm > own.widthMm * WIDER ? { ...step, brushId: wider.id } : step;
  });
  return { ...lesson, steps };
}

/**
 * The only coats of areas that pass into each other, each group painted as one wet passage where its paint stays workable for as long as
 * that takes.
 */
function withPassages(lesson: Lesson, ids: () => string): { lesson: Lesson; passages: CommandArgs<'makePassage'>[] } {
  const isPlain = (step: Step) =>
    step.kind === 'paint' &&
    (step.technique === 'block-in' || step.technique === 'blend') &&
    !step.mayBeLeftOut &&
    step.coverShare === undefined &&
    step.coatOf === undefined &&
    !lesson.steps.some((one) => one.coatOf === step.id);
  let now = lesson;
  const passages: CommandArgs<'makePassage'>[] = [];
  for (const group of passagesOf(lesson, areaFacts(lesson).areas)) {
    const inGroup = new Set(group.map(({ area }) => area.id));
    const stepIds = now.steps
      .filter((step) => isPlain(step) && step.areaIds.every((id) => inGroup.has(id)))
      .map((step) => step.id);
    const args = passageOfSteps(now, stepIds, ids);
    if (!args) continue;
    const { lesson: joined } = carryOut(startHistory(now), 'makePassage', args);
    if (offersFor(joined, args.step.id).length > 0) continue;
    now = joined;
    passages.push(args);
  }
  return { lesson: now, passages };
}
