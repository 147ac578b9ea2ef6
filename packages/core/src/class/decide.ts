import type { Command, EventBody } from '@viaticum/contract';
import { coatUnder } from './drying.js';
import type { ClassState } from './state.js';
import { currentItem } from './timing.js';

export type Actor = { kind: 'instructor' } | { kind: 'student'; id: string } | { kind: 'guest' };

/** A command that the class does not carry out: a stable code and a sentence. */
export class Refusal extends Error {
  constructor(
    readonly code: string,
    message: string,
  ) {
    super(message);
  }
}

export const TAKE_BACK_MS = 5000;
/** Taking back travels too: the server grants the journey on top of the five seconds. */
const GRACE_MS = 1500;
const MOST_STUDENTS = 500;

type Phase = ClassState['phase'];
const going: readonly Phase[] = ['open', 'running', 'held'];
const inside: readonly Phase[] = ['running', 'held'];
const allowedIn: Record<Command['type'], readonly Phase[]> = {
  join: going,
  rename: going,
  remove: going,
  goOn: going,
  takeBack: going,
  hold: inside,
  resume: inside,
  extend: inside,
  done: inside,
  notYet: inside,
  hand: going,
  handDown: going,
  touchTest: inside,
  end: going,
};
const forSelf = new Set<Command['type']>(['rename', 'done', 'notYet', 'hand', 'handDown']);
const forInstructor = new Set<Command['type']>(['remove', 'goOn', 'takeBack', 'hold', 'resume', 'extend', 'touchTest', 'end']);

/** Who may say what: throws a {@link Refusal} where this actor may not give this command now. */
export function may(state: ClassState, actor: Actor, command: Command): void {
  if (state.phase === 'ended') throw new Refusal('ended', 'This class has ended. Nothing more can be changed.');
  if (!allowedIn[command.type].includes(state.phase)) {
    throw new Refusal(
      'not-now',
      state.phase === 'open'
        ? 'The class has not started yet. Go on to the first step first.'
        : 'This cannot be done at this point of the class.',
    );
  }
  if (command.type === 'join') {
    if (actor.kind !== 'guest') throw new Refusal('joined', 'This phone has joined already.');
    return;
  }
  if (actor.kind === 'instructor') return;
  if (forInstructor.has(command.type)) throw new Refusal('forbidden', 'Only the instructor can do this.');
  if (actor.kind !== 'student') throw new Refusal('join-first', 'Join the class with your first name first.');
  if (!state.students[actor.id])
    throw new Refusal('removed', 'You are no longer in this class. Join again with your first name.');
  if (forSelf.has(command.type) && 'studentId' in command && command.studentId !== actor.id) {
    throw new Refusal('forbidden', 'You can only do this for yourself.');
  }
}

/**
 * The events that a command leads to in a state at a server time (ms); none where it changes nothing. Throws a
 * {@link Refusal}. `newId` makes the id of a student who joins.
 */
export function decide(state: ClassState, actor: Actor, command: Command, now: number, newId: () => string): EventBody[] {
  may(state, actor, command);
  switch (command.type) {
    case 'join': {
      if (Object.keys(state.students).length >= MOST_STUDENTS)
        throw new Refusal('full', 'This class is full. Speak to the instructor.');
      return [{ type: 'joined', v: 1, studentId: newId(), firstName: command.firstName.trim(), kit: command.kit }];
    }
    case 'rename':
      present(state, command.studentId);
      return [{ type: 'renamed', v: 1, studentId: command.studentId, firstName: command.firstName.trim() }];
    case 'remove':
      present(state, command.studentId);
      return [{ type: 'removed', v: 1, studentId: command.studentId }];
    case 'goOn': {
      const at = state.current?.index ?? -1;
      if (command.from !== at) throw new Refusal('moved', 'The class has moved on meanwhile. Look again before you go on.');
      if (at + 1 >= (state.plan?.items.length ?? 0))
        throw new Refusal('last', 'This is the last step. End the class when everyone is done.');
      return [{ type: 'itemStarted', v: 1, index: at + 1 }];
    }
    case 'takeBack': {
      if (!state.current) throw new Refusal('nothing', 'There is nothing to take back.');
      if (now - state.current.startedAt > TAKE_BACK_MS + GRACE_MS)
        throw new Refusal('too-late', 'Going on can be taken back for five seconds only.');
      return [{ type: 'itemTakenBack', v: 1, index: state.current.index - 1 }];
    }
    case 'hold':
      return state.phase === 'held' ? [] : [{ type: 'held', v: 1 }];
    case 'resume':
      return state.phase === 'running' ? [] : [{ type: 'resumed', v: 1 }];
    case 'extend':
      return [{ type: 'extended', v: 1, minutes: command.minutes }];
    case 'done': {
      const student = present(state, command.studentId);
      const step = reachedStep(state, command.stepId);
      return student.doneAt[step] !== undefined ? [] : [{ type: 'stepDone', v: 1, studentId: student.id, stepId: step }];
    }
    case 'notYet': {
      const student = present(state, command.studentId);
      const doneAt = student.doneAt[command.stepId];
      if (doneAt === undefined) return [];
      if (actor.kind === 'student' && now - doneAt > TAKE_BACK_MS + GRACE_MS) {
        throw new Refusal('too-late', 'Done can be taken back for five seconds only. Tell your instructor.');
      }
      return [{ type: 'stepUndone', v: 1, studentId: student.id, stepId: command.stepId }];
    }
    case 'hand':
      return present(state, command.studentId).hand
        ? []
        : [{ type: 'handRaised', v: 1, studentId: command.studentId, reason: command.reason }];
    case 'handDown':
      return present(state, command.studentId).hand ? [{ type: 'handLowered', v: 1, studentId: command.studentId }] : [];
    case 'touchTest':
      if (!coatUnder(state, command.zoneId, now))
        throw new Refusal('no-coat', 'Nothing that dries lies there yet. Touch an area that was painted.');
      return [{ type: 'touchTested', v: 1, zoneId: command.zoneId, dry: command.dry }];
    case 'end':
      return [{ type: 'ended', v: 1 }];
  }
}

function present(state: ClassState, studentId: string) {
  const student = state.students[studentId];
  if (!student) throw new Refusal('unknown-student', 'This student is not in the class.');
  return student;
}

/** A step that the class has come to, by id. */
function reachedStep(state: ClassState, stepId: string): string {
  const at = state.plan?.items.findIndex((item) => item.stepId === stepId) ?? -1;
  if (at < 0) throw new Refusal('unknown-step', 'This step is not in the lesson.');
  if (!currentItem(state) || at > (state.current?.index ?? -1))
    throw new Refusal('not-yet', 'The class has not come to this step yet.');
  return stepId;
}
