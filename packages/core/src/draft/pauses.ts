import type { Lesson, Plan, Step } from '@viaticum/contract';
import { say, worded } from '@viaticum/contract';
import { inOrderOf } from '../advice/index.js';
import { orderProblem, planLesson } from '../plan/index.js';
import { NEW_MIX_MIN, paceOf } from '../step/index.js';
import { listInWords } from '../units/index.js';
import { isHairPass } from './marks.js';
import { empty } from './shape.js';

const MOST_PREMIXED = 5;
const AHEAD = 5;

/** Long pauses get work of their own: mixes of the next steps mixed ahead, and the next stroke practised on scrap. */
export function withWorkInPauses(lesson: Lesson, ids: () => string): Lesson {
  let now = lesson;
  for (let round = 0; round < 4; round++) {
    const { plan } = planLesson(now);
    const length = (i: number) => (plan.items[i]?.endMin ?? 0) - (plan.items[i]?.startMin ?? 0);
    const at = plan.items.reduce(
      (most, item, i) => (item.kind === 'pause' && plan.items[i + 1]?.stepId && length(i) > length(most) ? i : most),
      -1,
    );
    const pause = length(at) >= LEAST_FILLING_MIN ? plan.items[at] : undefined;
    const place = now.steps.findIndex((step) => step.id === plan.items[at + 1]?.stepId);
    const waiting = now.steps[place];
    if (!pause || !waiting) return now;
    const minutes = pause.endMin - pause.startMin;
    const work = premixing(now, place, minutes) ?? filling(now, minutes);
    if (!work) return now;
    const step: Step = {
      ...empty,
      markIds: [],
      showMin: 0,
      ...work,
      kind: 'practise',
      id: ids(),
      stageId: waiting.stageId,
    };
    const next = { ...now, steps: [...now.steps.slice(0, place), step, ...now.steps.slice(place)] };
    if (planLesson(next).plan.endMin > plan.endMin + 1e-6) return now;
    now = next;
  }
  return now;
}

/** So short a pause nobody notices: what is looked at before it is looked at a little longer. */
const UNNOTICED_MIN = 2;
/** The same lesson, in which looks last until the short pauses after them are over. */
export function withLongerLooks(lesson: Lesson): Lesson {
  const { plan } = planLesson(lesson);
  const longer = new Map(
    plan.items.flatMap((item, i) => {
      const pause = item.endMin - item.startMin;
      const before = plan.items[i - 1]?.stepId;
      return item.kind === 'pause' && pause <= UNNOTICED_MIN && before ? [[before, Math.ceil(pause * 2) / 2] as const] : [];
    }),
  );
  const steps = lesson.steps.map((step) =>
    step.kind === 'look' && step.doMin !== undefined && longer.has(step.id)
      ? { ...step, doMin: step.doMin + (longer.get(step.id) as number) }
      : step,
  );
  return { ...lesson, steps };
}

type Work = Pick<Step, 'title' | 'say' | 'doMin'> & { mixIds?: string[] };
function premixing(lesson: Lesson, place: number, minutes: number): Work | null {
  const each = NEW_MIX_MIN * paceOf(lesson);
  const mixed = new Set(lesson.steps.slice(0, place).flatMap((step) => step.mixIds));
  const ahead = lesson.steps.slice(place, place + AHEAD).flatMap((step) => step.mixIds);
  const fresh = [...new Set(ahead)].filter((id) => !mixed.has(id));
  const mixIds = fresh.slice(0, Math.min(MOST_PREMIXED, Math.floor(minutes / each)));
  if (mixIds.length < 2) return null;
  const names = listInWords(mixIds.flatMap((id) => lesson.mixes.find((mix) => mix.id === id)?.name ?? []));
  return {
    title: say`Mix ahead: ${names}`.slice(0, 120),
    say: say`While it dries, mix ${names} and cover the heaps. Each a little more than you think you need.`,
    mixIds,
    doMin: Math.round(mixIds.length * each * 2) / 2,
  };
}

/** Work that fills a pause as long as it lasts, each once in a lesson. */
const fillings: readonly { title: string; say: string; most: number }[] = worded(
  [
    {
      title: 'Practise the next stroke on scrap',
      say: 'While it dries, try the next stroke on scrap paper until it comes by itself.',
      most: 10,
    },
    {
      title: 'Walk round and look at the others',
      say: 'While it dries, look at three other canvases. Say what you would keep, and what you would take from it for your own.',
      most: 8,
    },
  ],
  ['say', 'watch', 'checkpoint', 'finish', 'title', 'reason', 'ahead', 'look', 'brushed', 'sprayed', 'name', 'words'],
);

function filling(lesson: Lesson, minutes: number): Work | null {
  const open = fillings.find(({ title }) => !lesson.steps.some((step) => step.title === title));
  if (!open || minutes < LEAST_FILLING_MIN) return null;
  return { title: open.title, say: open.say, doMin: Math.min(open.most, Math.floor(minutes)) };
}
const LEAST_FILLING_MIN = 3;

const LOOKED_AHEAD = 8;
const MOST_MOVES = 12;
/** One pause fewer is worth so much. */
const PAUSE_WORTH_MIN = 2;
/**
 * The same lesson with fewer pauses: where one waits, a later step that may come sooner is done first, if that ends hardly later.
 */
export function withOtherWorkFirst(lesson: Lesson): Lesson {
  let now = lesson;
  for (let round = 0; round < MOST_MOVES; round++) {
    const better = withOneMoved(now);
    if (!better) return now;
    now = better;
  }
  return now;
}

function withOneMoved(lesson: Lesson): Lesson | null {
  const { plan } = planLesson(lesson);
  const ordered = orderProblem(lesson).constraints.filter((one) => one.type !== 'either');
  const isHeld = (from: Step, to: Step) =>
    (isHairPass(lesson, from) && isHairPass(lesson, to)) || ordered.some((one) => one.from === from.id && one.to === to.id);
  const was = waitsOf(plan);
  for (const [i, item] of plan.items.entries()) {
    if (item.kind !== 'pause' || item.endMin - item.startMin < 1) continue;
    const place = lesson.steps.findIndex((step) => step.id === plan.items[i + 1]?.stepId);
    for (let from = place + 1; place >= 0 && from < Math.min(lesson.steps.length, place + LOOKED_AHEAD); from++) {
      const moved = lesson.steps[from] as Step;
      if (lesson.steps.slice(place, from).some((step) => isHeld(step, moved))) continue;
      const ids = lesson.steps.map((step) => step.id).filter((id) => id !== moved.id);
      ids.splice(place, 0, moved.id);
      const other = inOrderOf(lesson, ids);
      const next = planLesson(other).plan;
      const { pauses, waitMin } = waitsOf(next);
      const isLess = pauses < was.pauses || (pauses === was.pauses && waitMin < was.waitMin - 0.5);
      const mostLater = pauses < was.pauses ? PAUSE_WORTH_MIN : 0;
      if (next.endMin <= plan.endMin + mostLater + 1e-6 && isLess) return other;
    }
  }
  return null;
}

/** Pauses of a minute and more, and all waiting. */
const waitsOf = ({ items, waitMin }: Plan): { pauses: number; waitMin: number } => ({
  pauses: items.filter((item) => item.kind === 'pause' && item.endMin - item.startMin >= 1).length,
  waitMin,
});
