import { type Command, classErrors, type NumberedCommand } from '@viaticum/contract';
import { type ClassState, classTime, may, Refusal, type WorkedOut } from '@viaticum/core/class';
import type { PressedAt } from '../log/append.js';
import type { ClassLog } from '../log/log.js';
import { seal } from '../tokens.js';
import type { Door } from './door.js';
import type { FanOut } from './fan-out.js';
import { actorOf, type Seat } from './seat.js';

/** Works out what a command needs that takes long, on a thread of its own. */
export type WorkOut = (state: ClassState, command: Command, now: number, caller: string) => Promise<WorkedOut>;
type Parts = {
  log: ClassLog;
  lines: FanOut;
  entrance: Door;
  secret: string;
  workOut: WorkOut;
  /** For how many the class was planned. */
  planned: () => Promise<number>;
  onJoined: (seat: Seat, seq: number) => void;
};

/** When a command was pressed, where its screen says so. */
const pressedAt = ({ pressed, bound, seenSeq }: Omit<NumberedCommand, 'id' | 'command'>): PressedAt | undefined =>
  pressed === undefined ? undefined : { pressed, bound: bound ?? Number.POSITIVE_INFINITY, seenSeq: seenSeq ?? 0 };

/** What becomes of a command: asked whether it may be, worked out, carried out, answered; newcomers may have to wait at the door. */
export function reception({ log, lines, entrance, secret, workOut, planned, onJoined }: Parts) {
  const refuse = (seat: Seat, id: string, { code, message }: Refusal): void =>
    lines.send(seat, { type: 'refused', id, code, message });

  /** Carries a command out that this seat may give. */
  const obey = async (seat: Seat, { id, command, ...when }: NumberedCommand, worked: WorkedOut = {}): Promise<void> => {
    const result = await log.command(id, actorOf(seat), command, worked, pressedAt(when));
    if ('refused' in result) return refuse(seat, id, result.refused);
    if (result.studentId && command.type === 'join' && seat.role === 'phone') {
      seat.student = result.studentId;
      seat.eye = { sees: 'own', studentId: result.studentId };
      entrance.came(result.studentId, seat.address);
      onJoined(seat, result.seq);
    }
    lines.send(seat, {
      type: 'ack',
      id,
      seq: result.seq,
      ...(result.studentId ? { studentId: result.studentId, token: seal(secret, result.studentId) } : {}),
    });
  };
  /** Who may is asked before anything is worked out. */
  const workedOut = async (seat: Seat, numbered: NumberedCommand): Promise<void> => {
    const { id, command } = numbered;
    const actor = actorOf(seat);
    try {
      may(log.state, actor, command);
      return obey(seat, numbered, await workOut(log.state, command, classTime(log.state, Date.now()), actor.kind));
    } catch (error) {
      const refusal = error instanceof Refusal ? error : new Refusal(classErrors.notWorkedOut((error as Error).message));
      return refuse(seat, id, refusal);
    }
  };
  /** Lets a newcomer in, or to the door. */
  const comeIn = async (seat: Seat, id: string, command: Extract<Command, { type: 'join' }>): Promise<void> => {
    const numbered = { id, command };
    const why = entrance.reason(seat.address, seat.takenOut, await planned());
    if (!why || log.state.phase === 'ended' || log.state.phase === 'planned') {
      const over = entrance.coming(seat.address);
      return obey(seat, numbered).finally(over);
    }
    seat.leaveDoor?.();
    lines.send(seat, { type: 'waiting', id });
    seat.leaveDoor = entrance.wait({
      id,
      firstName: command.firstName.trim(),
      why,
      admit: () => void obey(seat, numbered).catch(() => seat.socket.terminate()),
      refuse: () => refuse(seat, id, new Refusal(classErrors.notAdmitted)),
    });
  };
  return {
    refuse,
    async consider(seat: Seat, numbered: NumberedCommand): Promise<void> {
      const { id, command } = numbered;
      if (command.type === 'replan' || command.type === 'climate') return workedOut(seat, numbered);
      // Who was taken out while the phone was on asks as somebody new.
      if (command.type === 'join' && seat.student && log.state.removed.includes(seat.student)) {
        seat.takenOut = true;
        seat.student = null;
      }
      // A phone that is in already, or has asked before, is answered by the log.
      const isNew = command.type === 'join' && seat.role === 'phone' && actorOf(seat).kind === 'guest';
      return isNew ? comeIn(seat, id, command) : obey(seat, numbered);
    },
  };
}
