import { CodedError, type Command, classErrors, type EventBody, type Plan } from '@viaticum/contract';
import type { AirRows } from './air-rows.js';
import { coatUnder } from './drying.js';
import { mustNameGroup, partsOf, smallestGroup, viewFor, viewOf } from './groups.js';
import type { ClassState } from './shape.js';
import { currentItem } from './timing.js';
import type { Said } from './when-said.js';

export type Actor = { kind: 'instructor' | 'co' | 'assistant' | 'sensor' | 'guest' } | { kind: 'student'; id: string };
/** What the server worked out beforehand for a command that needs it. */
export type WorkedOut = {
  plan?: Plan;
  air?: AirRows;
  real?: number;
  /** When it was said, where it was kept without a network. */
  said?: Said | null;
};

/** A command that the class does not carry out: a stable code and a sentence. */
export class Refusal extends CodedError {}

export const TAKE_BACK_MS = 5000;
/** Taking back travels too: the server grants the journey on top of the five seconds. */
const GRACE_MS = 1500;
const MOST_STUDENTS = 1200;

/** Looks back are told at most so often. */
const LOOK_EVERY_MS = 120_000;

type Phase = ClassState['phase'];
const going: readonly Phase[] = ['open', 'running', 'held'];
const inside: readonly Phase[] = ['running', 'held'];
const allowedIn: Record<Command['type'], readonly Phase[]> = {
  join: going,
  kit: going,
  rename: going,
  seat: going,
  remove: going,
  goOn: going,
  goTo: going,
  paintOn: inside,
  takeBack: going,
  hold: inside,
  resume: inside,
  extend: inside,
  done: inside,
  notYet: inside,
  answer: inside,
  look: inside,
  seen: inside,
  hand: going,
  handDown: going,
  touchTest: inside,
  touchBack: inside,
  climate: inside,
  replan: inside,
  divide: going,
  together: going,
  move: going,
  say: going,
  film: going,
  speed: going,
  end: going,
};
const forSelf = new Set<Command['type']>(['rename', 'kit', 'done', 'notYet', 'answer', 'look', 'hand', 'handDown']);
const forInstructor = new Set<Command['type']>([
  'seat',
  'remove',
  'goOn',
  'goTo',
  'paintOn',
  'takeBack',
  'hold',
  'resume',
  'extend',
  'replan',
  'say',
  'film',
  'speed',
  'divide',
  'together',
  'move',
  'seen',
  'end',
]);
/** Who teaches beside the instructor does all but this. */
const forOwner = new Set<Command['type']>(['remove', 'end', 'divide', 'together', 'move', 'speed']);
/** An assistant walks the room: hands, and whether it is dry. A sensor only tells the air. */
const forAssistant = new Set<Command['type']>(['hand', 'handDown', 'touchTest', 'touchBack', 'done', 'notYet', 'answer', 'seen']);

/** Who may say what: throws a {@link Refusal} where this actor may not give this command now. */
export function may(state: ClassState, actor: Actor, command: Command, said?: Said | null): void {
  const isOfBefore = state.phase === 'ended' && isOfClass(state, command, said);
  if (state.phase === 'ended' && !isOfBefore) throw new Refusal(classErrors.ended);
  if (!isOfBefore && !allowedIn[command.type].includes(state.phase)) {
    throw new Refusal(
      state.phase === 'planned' ? classErrors.notOpen : state.phase === 'open' ? classErrors.notStarted : classErrors.notNow,
    );
  }
  if (command.type === 'join') {
    if (actor.kind !== 'guest') throw new Refusal(classErrors.joinedAlready);
    return;
  }
  if (actor.kind === 'instructor') return;
  if (actor.kind === 'co') {
    if (forOwner.has(command.type)) throw new Refusal(classErrors.instructorOnly);
    return;
  }
  if (actor.kind === 'sensor' && command.type === 'climate') return;
  if (actor.kind === 'assistant' && forAssistant.has(command.type)) return;
  if (actor.kind === 'assistant' || actor.kind === 'sensor' || ['climate', 'touchTest', 'touchBack'].includes(command.type))
    throw new Refusal(classErrors.instructorOnly);
  if (forInstructor.has(command.type)) throw new Refusal(classErrors.instructorOnly);
  if (actor.kind !== 'student') throw new Refusal(classErrors.joinFirst);
  if (!state.students[actor.id]) throw new Refusal(classErrors.removed);
  if (forSelf.has(command.type) && 'studentId' in command && command.studentId !== actor.id) {
    throw new Refusal(classErrors.selfOnly);
  }
}

/** What was said before the class ended belongs to it, whenever it is heard. */
const dated: ReadonlySet<Command['type']> = new Set(['done', 'notYet', 'answer', 'look']);
const isOfClass = ({ visits }: ClassState, { type }: Command, said?: Said | null): boolean =>
  dated.has(type) && said != null && said.saidAt <= (visits.at(-1)?.endedAt ?? Number.NEGATIVE_INFINITY);

/** The air is noted at most once a minute, and where it changed by 1 °C, 3 % or a draught. */
const CLIMATE = { everyMs: 60_000, airC: 1, humidity: 0.03, airSpeed: 0.1 };

/** The air that a note means: a draught that it does not name is as it was. */
export const notedAir = (state: ClassState, { airC, humidity, airSpeed }: Command & { type: 'climate' }) => ({
  airC,
  humidity,
  airSpeed: airSpeed ?? state.climate?.airSpeed ?? state.plan?.room.airSpeed ?? 0.1,
});

/** Whether a note of the air says anything new: drying need not be worked out for one that does not. */
export function isNewAir(state: ClassState, command: Command & { type: 'climate' }, now: number): boolean {
  const before = state.climate ?? state.plan?.room;
  if (!before) return false;
  if (state.climate && now - state.climate.at < CLIMATE.everyMs) return false;
  // Sums of hundredths are rarely exact.
  const moved = (a: number, b: number, least: number) => Math.abs(a - b) > least - 1e-9;
  return (
    moved(command.airC, before.airC, CLIMATE.airC) ||
    moved(command.humidity, before.humidity, CLIMATE.humidity) ||
    (command.airSpeed !== undefined && moved(command.airSpeed, before.airSpeed, CLIMATE.airSpeed))
  );
}

/**
 * The events that a command leads to in a state at a class time (ms); none where it changes nothing. Throws a
 * {@link Refusal}. `newId` makes the id of a student who joins; `worked` is what the server worked out for it.
 */
export function decide(
  whole: ClassState,
  actor: Actor,
  command: Command,
  now: number,
  newId: () => string,
  worked: WorkedOut = {},
): EventBody[] {
  const { said } = worked;
  const state = meantBy(whole, actor, command, now);
  may(state, actor, command, said);
  const of = 'group' in command && command.group !== undefined && whole.groups ? { group: command.group } : {};
  const date = said ? { v: 2 as const, ...said } : { v: 1 as const };
  const saidAt = said?.saidAt ?? now;
  switch (command.type) {
    case 'join': {
      const name = command.firstName.trim();
      if (Object.values(state.students).some((one) => one.firstName.toLowerCase() === name.toLowerCase()))
        throw new Refusal(classErrors.nameTaken(name));
      if (state.seats.length >= MOST_STUDENTS && !state.seats.includes(null)) throw new Refusal(classErrors.full);
      return [
        {
          type: 'joined',
          v: 1,
          studentId: newId(),
          firstName: name,
          kit: command.kit,
          ...(command.has && command.has.length > 0 && { has: command.has }),
          ...edgeFor(state, name),
          ...(state.groups && { group: smallestGroup(state) }),
        },
      ];
    }
    case 'kit': {
      const { id, kit, has } = present(state, command.studentId);
      const next = command.has ?? has;
      const isSame =
        String([...kit].sort()) === String([...command.kit].sort()) && String([...has].sort()) === String([...next].sort());
      return isSame ? [] : [{ type: 'kitChanged', v: 1, studentId: id, kit: command.kit, has: next }];
    }
    case 'seat':
      return present(state, command.studentId).seat === command.seat
        ? []
        : [{ type: 'seated', v: 1, studentId: command.studentId, seat: command.seat }];
    case 'rename':
      present(state, command.studentId);
      return [{ type: 'renamed', v: 1, studentId: command.studentId, firstName: command.firstName.trim() }];
    case 'remove':
      present(state, command.studentId);
      return [{ type: 'removed', v: 1, studentId: command.studentId }];
    case 'goOn': {
      const at = state.current?.index ?? -1;
      if (command.from !== at) throw new Refusal(classErrors.movedOn);
      if (at + 1 >= (state.plan?.items.length ?? 0)) throw new Refusal(classErrors.lastStep);
      return [{ type: 'itemStarted', v: 1, index: at + 1, ...of }];
    }
    case 'paintOn': {
      const at = state.current?.index ?? -1;
      if (command.from !== at) throw new Refusal(classErrors.movedOn);
      const [pause, next] = [currentItem(state), state.plan?.items[at + 1]];
      if (pause?.kind !== 'pause' || !next?.stepId) throw new Refusal(classErrors.notWaiting);
      const waited = (now - (state.current?.startedAt ?? now)) / 60_000;
      const leftMin = Math.max(0, pause.endMin - pause.startMin - waited);
      const paintedOn = { areaIds: pause.areaIds, leftMin: Math.round(leftMin * 10) / 10 };
      return [{ type: 'itemStarted', v: 1, index: at + 1, paintedOn, ...of }];
    }
    case 'goTo': {
      const at = state.current?.index ?? -1;
      if (command.from !== at) throw new Refusal(classErrors.movedOn);
      if (!state.plan?.items[command.to]) throw new Refusal(classErrors.unknownStep);
      return command.to === at ? [] : [{ type: 'itemStarted', v: 1, index: command.to, ...of }];
    }
    case 'replan': {
      if (command.from !== state.current?.index) throw new Refusal(classErrors.movedOnBeforeReplan);
      if (!worked.plan) throw new Refusal(classErrors.noReplan);
      return [{ type: 'replanned', v: 1, plan: worked.plan, ...of }];
    }
    case 'climate': {
      if (!isNewAir(state, command, now) || !worked.air) return [];
      return [{ type: 'climateNoted', v: 2, ...notedAir(state, command), ...worked.air }];
    }
    case 'divide': {
      const ids = command.groups.map(({ id }) => id);
      if (new Set(ids).size < ids.length || command.of.some(({ group }) => !ids.includes(group)))
        throw new Refusal(classErrors.unknownGroup);
      return [
        { type: 'divided', v: 1, groups: command.groups, of: command.of.filter(({ studentId }) => whole.students[studentId]) },
      ];
    }
    case 'together':
      if (!whole.groups?.[command.where]) throw new Refusal(classErrors.unknownGroup);
      return [{ type: 'joinedTogether', v: 1, where: command.where }];
    case 'move':
      if (!whole.groups?.[command.group]) throw new Refusal(classErrors.unknownGroup);
      return present(whole, command.studentId).group === command.group
        ? []
        : [{ type: 'movedTo', v: 1, studentId: command.studentId, group: command.group }];
    case 'film': {
      const { type: _, ...place } = command;
      return [{ type: 'filmSet', v: 1, ...place }];
    }
    case 'say':
      return [{ type: 'said', v: 1, text: command.text.trim() }];
    case 'speed':
      if (!state.rehearsal) throw new Refusal(classErrors.rehearsalOnly);
      return worked.real === undefined || (state.clock?.speed ?? 1) === command.speed
        ? []
        : [{ type: 'speedSet', v: 1, speed: command.speed, real: worked.real }];
    case 'takeBack': {
      if (!state.current) throw new Refusal(classErrors.nothingToTakeBack);
      if (now - state.current.startedAt > graceFor(state)) throw new Refusal(classErrors.goingOnTooLate);
      if (state.before.length === 0) throw new Refusal(classErrors.replannedMeanwhile);
      return [{ type: 'itemTakenBack', v: 1, index: state.before.at(-1)?.index ?? -1, ...of }];
    }
    case 'hold':
      return state.phase === 'held' ? [] : [{ type: 'held', v: 1, ...of }];
    case 'resume':
      return state.phase === 'running' ? [] : [{ type: 'resumed', v: 1, ...of }];
    case 'extend':
      return [{ type: 'extended', v: 1, minutes: command.minutes, ...of }];
    case 'done': {
      const student = present(state, command.studentId);
      const step = reachedStep(state, command.stepId);
      const by = actor.kind === 'student' ? {} : { by: 'desk' as const };
      // What a student said themselves, and is heard of late, tells more than that the desk saw it done.
      const isBetter = said != null && actor.kind === 'student' && student.doneBy?.[step] === 'desk';
      if (student.doneAt[step] !== undefined && !isBetter) return [];
      return [{ type: 'stepDone', studentId: student.id, stepId: step, ...by, ...date }];
    }
    case 'notYet': {
      const student = present(state, command.studentId);
      const doneAt = student.doneAt[command.stepId] ?? student.leftOut?.[command.stepId];
      // From the desk it is news also where nothing was said: what was assumed is not so.
      if (doneAt === undefined && actor.kind === 'student') return [];
      if (doneAt === undefined) reachedStep(state, command.stepId);
      else if (actor.kind === 'student' && saidAt - doneAt > graceFor(state)) {
        throw new Refusal(classErrors.doneTooLate);
      }
      return [{ type: 'stepUndone', studentId: student.id, stepId: command.stepId, ...date }];
    }
    case 'answer': {
      const student = present(state, command.studentId);
      const stepId = reachedStep(state, command.stepId);
      const isSaid = student.doneAt[stepId] !== undefined || student.leftOut?.[stepId] !== undefined;
      return isSaid ? [] : [{ type: 'answered', studentId: student.id, stepId, is: command.is, ...date }];
    }
    case 'look': {
      const student = present(state, command.studentId);
      const stepId = reachedStep(state, command.stepId);
      const last = student.signs?.filter((sign) => sign.is === 'look').at(-1);
      const isNews = student.doneAt[stepId] === undefined && (!last || Math.abs(saidAt - last.at) >= LOOK_EVERY_MS);
      return isNews ? [{ type: 'lookedBack', studentId: student.id, stepId, ...date }] : [];
    }
    case 'seen':
      return [{ type: 'seen', v: 1, studentId: present(state, command.studentId).id }];
    case 'hand':
      return present(state, command.studentId).hand
        ? []
        : [{ type: 'handRaised', studentId: command.studentId, reason: command.reason, ...date }];
    case 'handDown':
      return present(state, command.studentId).hand ? [{ type: 'handLowered', studentId: command.studentId, ...date }] : [];
    case 'touchTest': {
      const under = coatUnder(state, command.areaId, now);
      if (!under) throw new Refusal(classErrors.noCoatToTouch);
      return [{ type: 'touchTested', v: 2, areaId: command.areaId, dry: command.dry, stepId: under.coat.stepId, ...of }];
    }
    case 'touchBack':
      return state.touches.some((test) => test.at === command.at) ? [{ type: 'touchTakenBack', v: 1, at: command.at }] : [];
    case 'end':
      return [{ type: 'ended', v: 1 }];
  }
}

const EDGES = [1, 2, 3, 4] as const;
const firstWord = (name: string): string => name.toLowerCase().split(/\s+/)[0] ?? '';
/** The edge of an easel whose painter shares a first name: one that no namesake has, as long as there are any. */
function edgeFor({ students }: ClassState, name: string): { edge?: number } {
  const namesakes = Object.values(students).filter((one) => firstWord(one.firstName) === firstWord(name));
  if (namesakes.length === 0) return {};
  return { edge: EDGES.find((edge) => namesakes.every((one) => one.edge !== edge)) ?? 1 };
}

/** The part of a class that a command is about: the group that it names, that of the student, or all. */
function meantBy(state: ClassState, actor: Actor, command: Command, now: number): ClassState {
  if (!state.groups || ['join', 'seat', 'rename', 'remove', 'divide', 'together', 'move'].includes(command.type)) return state;
  if ('group' in command && command.group !== undefined) {
    if (!state.groups[command.group]) throw new Refusal(classErrors.unknownGroup);
    return viewOf(state, command.group);
  }
  if (mustNameGroup.has(command.type)) throw new Refusal(classErrors.unknownGroup);
  // Whoever touches need not know of groups: it is the first that painted there.
  if (command.type === 'touchTest') return partsOf(state).find(({ view }) => coatUnder(view, command.areaId, now))?.view ?? state;
  if ('studentId' in command) return viewFor(state, command.studentId);
  return actor.kind === 'student' ? viewFor(state, actor.id) : state;
}

/** In a rehearsal that runs faster the hands do not: five real seconds are more of the class's. */
const graceFor = (state: ClassState): number => (TAKE_BACK_MS + GRACE_MS) * (state.clock?.speed ?? 1);

function present(state: ClassState, studentId: string) {
  const student = state.students[studentId];
  if (!student) throw new Refusal(classErrors.unknownStudent);
  return student;
}

/** A step that the class has come to, by id. */
function reachedStep(state: ClassState, stepId: string): string {
  if (!state.plan?.items.some((item) => item.stepId === stepId)) throw new Refusal(classErrors.unknownStep);
  const furthest = Math.max(-1, ...state.visits.map((visit) => visit.index));
  if (!currentItem(state) || state.plan.items.findIndex((item) => item.stepId === stepId) > furthest)
    throw new Refusal(classErrors.stepNotReached);
  return stepId;
}
