import type { Command } from '@viaticum/contract';
import type { ClassState, Student } from './shape.js';
import { classTime } from './state.js';

/** When a key was pressed, as its screen knew it: its own clock (ms), how far the server's is ahead of that, and how wrong this may be. */
export type Pressed = { wall: number; offset: number; bound: number; seenSeq: number };
/** A command that the server has not answered yet. */
export type Kept = { id: string; command: Command; pressed: Pressed };

/** So many commands are on their way at once; the others follow as these are answered. */
export const WINDOW = 16;

/** What one says of oneself keeps its worth without a network. What moves the class does not: it is said again when one is back. */
const keeping: ReadonlySet<Command['type']> = new Set([
  'join',
  'rename',
  'kit',
  'done',
  'notYet',
  'answer',
  'look',
  'hand',
  'handDown',
]);
export const isKept = ({ type }: Command): boolean => keeping.has(type);

/** Whether a command undoes one that was kept before it: neither of them needs to be said. */
function undoes(later: Command, earlier: Command): boolean {
  if (later.type === 'handDown') return earlier.type === 'hand' && earlier.studentId === later.studentId;
  return (
    later.type === 'notYet' && earlier.type === 'done' && earlier.stepId === later.stepId && earlier.studentId === later.studentId
  );
}

/**
 * Puts a command to those that wait. A hand taken down takes the kept hand with it, and Done taken back the kept Done, as long as neither is
 * on its way (`sent`). Gives what waits now, and the ids that need no answer any more.
 */
export function putKept(rows: readonly Kept[], row: Kept, sent: ReadonlySet<string>): { rows: Kept[]; settled: string[] } {
  const undone = rows.filter((one) => !sent.has(one.id) && undoes(row.command, one.command)).at(-1);
  return undone
    ? { rows: rows.filter((one) => one !== undone), settled: [undone.id, row.id] }
    : { rows: [...rows, row], settled: [] };
}

/** What goes on its way now, in the order in which it was said. */
export const nextKept = (rows: readonly Kept[], sent: ReadonlySet<string>): Kept[] =>
  rows.filter((one) => !sent.has(one.id)).slice(0, Math.max(0, WINDOW - sent.size));

/** A student as they are with what they have said and the server has not answered yet: their own screen shows this. */
export function asKept(state: ClassState, student: Student, rows: readonly Kept[]): Student {
  let own = student;
  for (const { command, pressed } of rows) {
    if (!('studentId' in command) || command.studentId !== student.id) continue;
    const at = classTime(state, pressed.wall + pressed.offset);
    if (command.type === 'done') own = { ...own, doneAt: { ...own.doneAt, [command.stepId]: at } };
    if (command.type === 'notYet') {
      const { [command.stepId]: _, ...doneAt } = own.doneAt;
      own = { ...own, doneAt };
    }
    if (command.type === 'answer' && command.is === 'now') own = { ...own, doneAt: { ...own.doneAt, [command.stepId]: at } };
    if (command.type === 'kit') own = { ...own, kit: command.kit, has: command.has ?? own.has };
    if (command.type === 'hand') own = { ...own, hand: { reason: command.reason, at } };
    if (command.type === 'handDown') own = { ...own, hand: null };
  }
  return own;
}
