import type { Lesson, Plan, Step } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { findings } from '../check/index.js';
import { type CommandArgs, type CommandName, carryOut, startHistory } from '../document/index.js';
import { planLesson } from '../plan/index.js';
import { otherWords } from '../text/index.js';
import { asDrafted, type Draft, empty } from './shape.js';

const LONGEST_STRETCH_MIN = 75;
const BREAK_MIN = 10;
const NEARLY_OVER_MIN = 10;

/** Findings of which the fix is taken where a draft fails in its room. */
export const fixable = new Set(['blend-outlasts', 'window-missed', 'contradiction', 'mist-runs']);
/** What is only to be said. */
export const voiced = new Set(['brush-hardens', 'water-change', 'rough-unannounced']);
const MOST_MENDS = 40;

/** Takes the fixes of the checks for what fails in this room: mist or retarder for a long blend, dry paint where wet cannot be. */
export function fixed(lesson: Lesson, draft: Draft, ids: () => string, rules: ReadonlySet<string>): Draft {
  let now = asDrafted(lesson, draft);
  const tried = new Set<string>();
  for (let round = 0; round < MOST_MENDS; round++) {
    const found = findings(now, planLesson(now)).find(
      (one) => rules.has(one.rule) && one.fix && !tried.has(one.id + one.fix.words),
    );
    if (!found?.fix) break;
    tried.add(found.id + found.fix.words);
    const { command, args } = found.fix;
    const withIds =
      command === 'divideStep'
        ? { ...(args as { parts: number }), ids: Array.from({ length: (args as { parts: number }).parts - 1 }, ids) }
        : args;
    now = carryOut(startHistory(now), command as CommandName, withIds as CommandArgs<CommandName>).lesson;
  }
  const why = new Map(draft.steps.map((one) => [one.step.id, one.why]));
  return {
    stages: draft.stages,
    passages: now.passages,
    steps: now.steps.map((step) => ({
      step,
      why: why.get(step.id) ?? [say('In parts, so that each is blended while it is wet.')],
    })),
  };
}

/** Why a break stands in a lesson. */
export const RESTED = () => say('Eyes, backs and attention last about an hour.');

/** A draft with its breaks, each with its reason. */
export function rested(lesson: Lesson, draft: Draft, ids: () => string): Draft {
  const why = new Map(draft.steps.map((one) => [one.step.id, one.why]));
  const { steps } = withBreaks(asDrafted(lesson, draft), ids);
  return { ...draft, steps: steps.map((step) => ({ step, why: why.get(step.id) ?? [RESTED()] })) };
}

/** So soon after the beginning nobody needs a break. */
const FRESH_MIN = 25;
/** A pause of so many minutes is worth a break. */
const WORTH_RESTING_MIN = 6;
/**
 * A lesson that needs a break has it where everybody waits for paint anyway: in the longest pause that is neither soon after the
 * beginning, nor so late that one was needed before, nor shortly before the end.
 */
export function withBreakInPause(lesson: Lesson, ids: () => string): Lesson {
  const { plan } = planLesson(lesson);
  if (plan.endMin <= (lesson.method?.breakEveryMin ?? LONGEST_STRETCH_MIN) || lesson.planning.sessions) return lesson;
  const length = ({ startMin, endMin }: Plan['items'][number]) => endMin - startMin;
  const pauses = plan.items.filter(
    (item) =>
      item.kind === 'pause' &&
      length(item) >= WORTH_RESTING_MIN &&
      item.startMin >= FRESH_MIN &&
      plan.endMin - item.endMin > NEARLY_OVER_MIN,
  );
  for (const pause of pauses.sort((one, other) => length(other) - length(one))) {
    const next = plan.items[plan.items.indexOf(pause) + 1]?.stepId;
    const at = lesson.steps.findIndex((step) => step.id === next);
    const before = lesson.steps[at];
    if (!before || before.needs === 'wet' || before.needs === 'damp') continue;
    const made = { ...lesson, steps: [...lesson.steps.slice(0, at), rest(before.stageId, ids()), ...lesson.steps.slice(at)] };
    // So late that another is needed before it, it would be the second within the hour.
    if (withBreaks(made, ids).steps.length === made.steps.length) return made;
  }
  return lesson;
}

const rest = (stageId: string, id: string): Step => ({
  ...empty,
  ...otherWords.break,
  id,
  markIds: [],
  kind: 'break',
  title: say('Break, fresh water'),
  stageId,
  showMin: 0,
  doMin: BREAK_MIN,
});

/** Breaks before the step that would make a stretch longer than an hour and a quarter; a pause of five minutes is a break already. */
export function withBreaks(lesson: Lesson, ids: () => string): Lesson {
  let now = lesson;
  for (let round = 0; round < 8; round++) {
    const { plan } = planLesson(now);
    const cuts = new Set(now.planning.cutsBefore);
    // Shortly before everybody goes home nobody rests.
    const ends = [...plan.items.flatMap(({ stepId, startMin }) => (stepId && cuts.has(stepId) ? [startMin] : [])), plan.endMin];
    const isNearlyOver = (min: number) => (ends.find((end) => end > min + 1e-9) ?? 0) - min <= NEARLY_OVER_MIN;
    let from = 0;
    let at = -1;
    for (const item of plan.items) {
      const isRest = item.kind !== 'step' && item.endMin - item.startMin >= 5;
      if (isRest || (item.stepId && cuts.has(item.stepId))) from = isRest ? item.endMin : item.startMin;
      else if (
        item.endMin - from > (now.method?.breakEveryMin ?? LONGEST_STRETCH_MIN) &&
        item.startMin > from &&
        !isNearlyOver(item.startMin)
      ) {
        at = now.steps.findIndex((one) => one.id === item.stepId);
        break;
      }
    }
    const before = now.steps[at];
    // Into wet paint nothing may come between.
    if (!before || before.needs === 'wet' || before.needs === 'damp' || before.role === 'last') break;
    now = { ...now, steps: [...now.steps.slice(0, at), rest(before.stageId, ids()), ...now.steps.slice(at)] };
  }
  return now;
}

/** A draft dried with dryers where its school has them. */
export function dried(lesson: Lesson, draft: Draft): Draft {
  const steps = new Map(withDryers(asDrafted(lesson, draft)).steps.map((step) => [step.id, step]));
  return { ...draft, steps: draft.steps.map((one) => ({ ...one, step: steps.get(one.step.id) ?? one.step })) };
}

const WORTH_DRYING_MIN = 4;
const MOST_DRIED = 6;
/**
 * Where the school has hair dryers, pauses are replaced by a turn of them where that is shorter: never on thick paint, nor where something
 * still goes into that coat wet.
 */
export function withDryers(lesson: Lesson): Lesson {
  if (lesson.school.drying !== 'dryer' || !lesson.room.dryers?.count) return lesson;
  let now = lesson;
  for (let round = 0; round < MOST_DRIED; round++) {
    const { plan, contacts } = planLesson(now);
    const held = plan.items.flatMap((item, i) =>
      item.kind === 'pause' && item.endMin - item.startMin >= WORTH_DRYING_MIN ? (plan.items[i + 1]?.stepId ?? []) : [],
    );
    const better = held
      .map((id) => contacts.filter((one) => one.toStepId === id && one.waitMin > 0).map((one) => one.fromStepId))
      .map((ids) => ({
        ...now,
        steps: now.steps.map((step) => (ids.includes(step.id) && isDryable(step) ? { ...step, dryer: true } : step)),
      }))
      .find((other) => planLesson(other).plan.endMin < plan.endMin - 1);
    if (!better) break;
    now = better;
  }
  return now;
}

const isDryable = ({ technique, dryer, medium, paint }: Step): boolean =>
  technique !== 'impasto' && !dryer && medium === undefined && (paint ?? 'ordinary') === 'ordinary';
