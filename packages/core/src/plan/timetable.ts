import type { Lesson, PlanItem, Step } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import type { DryingConstraint, Solution } from '@viaticum/kernels/scheduling';
import { type Contact, contactInWords, needWords } from '../contact/index.js';
import type { StepMinutes } from '../step/index.js';
import { hourMinute, listInWords, the, verb, waitInWords } from '../units/index.js';
import { type Done, fillersFor, fillersInWords } from './fillers.js';

/** The items a class works through: steps, and between them breaks and pauses with what fills them. */
export function timetable(
  lesson: Lesson,
  solution: Solution,
  minutes: Map<string, StepMinutes>,
  constraints: DryingConstraint[],
  contacts: readonly Contact[],
): PlanItem[] {
  const items: PlanItem[] = [];
  const ends = new Map(solution.items.map((item) => [item.step, item.end]));
  const done: Done = { mixed: new Set(), words: new Set() };
  const cuts = new Set(lesson.planning.cutsBefore);
  let clock = 0;
  const places = new Map(lesson.steps.map((step, i) => [step.id, i]));
  for (const at of solution.items) {
    const i = places.get(at.step) as number;
    const step = lesson.steps[i] as Step;
    const empty = (title: string, startMin: number, endMin: number): PlanItem => ({
      kind: 'break',
      title,
      startMin,
      endMin,
      showMin: 0,
      areaIds: [],
    });
    if (cuts.has(step.id)) items.push(empty(say('End of the session: go on another day'), clock, clock));
    if (at.gapBefore === 'break' && lesson.planning.breaks) {
      const until = Math.min(at.start, clock + lesson.planning.breaks.lengthMin);
      items.push(empty('Break', clock, until));
      clock = until;
    }
    if (at.start > clock + 1e-9) {
      const from = clock;
      const binding = constraints.filter(
        (one) =>
          one.type === 'dry' && one.to === step.id && (ends.get(one.from) as number) + (one.minutes as number) > from + 1e-9,
      );
      items.push(pause(lesson, step, binding, from, at.start, fillersFor(lesson, i, at.start - from, done), contacts));
    }
    for (const id of step.mixIds) done.mixed.add(id);
    items.push({
      kind: step.kind === 'break' ? 'break' : 'step',
      stepId: step.id,
      title: step.title,
      startMin: at.start,
      endMin: at.end,
      showMin: (minutes.get(step.id) as StepMinutes).showMin,
      areaIds: step.areaIds,
    });
    clock = at.end;
  }
  return items;
}

/** The area whose coat a constraint waits for. */
export const areaOfConstraint = (one: DryingConstraint): string => one.source.split('/')[1] ?? '';

/** The wait before a step, named after the areas whose coats it waits for, with the slowest of them as its reason. */
function pause(
  lesson: Lesson,
  step: Step,
  binding: DryingConstraint[],
  startMin: number,
  endMin: number,
  { fillers, bareMin }: ReturnType<typeof fillersFor>,
  contacts: readonly Contact[],
): PlanItem {
  const areaIds = [...new Set(binding.map(areaOfConstraint))];
  const isWhole = areaIds.length > 2 && areaIds.length === lesson.areas.length;
  const name = (ids: string[]) =>
    isWhole
      ? say('whole canvas')
      : listInWords(ids.map((id) => lesson.areas.find((area) => area.id === id)?.name ?? say('area')));
  const isPinned = lesson.planning.pins.some((pin) => 'stepId' in pin && pin.stepId === step.id && pin.startMin === endMin);
  const [first, ...others] = binding;
  const slowest = others.reduce((most, one) => ((one.minutes as number) > (most?.minutes as number) ? one : most), first);
  const met = contacts.filter((one) => binding.some(({ source }) => source === one.id));
  const isEdge = met.length > 0 && met.every((one) => one.kind === 'edge');
  const of = slowest && met.find((one) => one.id === slowest.source);
  const isDried = met.length > 0 && met.every((one) => one.undriedMin !== undefined);
  const waitsFor = isDried
    ? say`Dry ${the(name(areaIds))} with the dryers`
    : isEdge
      ? say`Wait for the edge of ${the(name(areaIds))}`
      : say`Let ${the(name(areaIds))} dry`;
  return {
    kind: 'pause',
    title: areaIds.length > 0 ? waitsFor : isPinned ? say`Wait until ${hourMinute(endMin)}` : say('Wait'),
    startMin,
    endMin,
    showMin: 0,
    areaIds,
    meanwhile: fillersInWords(fillers),
    fillers,
    bareMin,
    ...(!slowest && isPinned ? { reason: say`The next step is pinned to ${hourMinute(endMin)}.` } : {}),
    ...(slowest
      ? {
          reason: of
            ? contactInWords(lesson, of)
            : takesInWords(name([areaOfConstraint(slowest)]), slowest.minutes as number, needWords.damp),
        }
      : {}),
  };
}

const takesInWords = (name: string, minutes: number, rung: string): string =>
  say`The ${name} ${verb(name, 'takes', 'take')} ${waitInWords(minutes)} to be ${rung}.`;
