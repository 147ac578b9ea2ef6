import { commandErrors, type Lesson, sentenceFor } from '@viaticum/contract';
import { applyPatches, enablePatches, type Patch, produceWithPatches } from 'immer';
import { CommandError } from './command-tools.js';
import { type CommandArgs, type CommandName, commands } from './commands.js';
import { problemsAt } from './limits.js';
import { followTwins } from './twins.js';

enablePatches();

/** `burst`: what is typed in one go is one change. */
type Change = { name: CommandName; patches: Patch[]; inverse: Patch[]; burst?: string };

/** A lesson with all that was done to it since it was opened. Immutable: every call gives a new one. */
export type History = { lesson: Lesson; past: readonly Change[]; future: readonly Change[] };

const LONGEST = 500;

export const startHistory = (lesson: Lesson): History => ({ lesson, past: [], future: [] });

/** A command with what it needs. */
export type Act = { [N in CommandName]: readonly [name: N, args: CommandArgs<N>] }[CommandName];

/**
 * Carries out a command. Throws a CommandError and changes nothing where it cannot be done, or would leave a document that the
 * contract refuses; a command without effect leaves no trace.
 */
export function carryOut<N extends CommandName>(history: History, name: N, args: CommandArgs<N>): History {
  return carryOutAll(history, [[name, args] as unknown as Act]);
}

/**
 * Carries out several commands as one change, which is taken back as one. All of them or none. Changes of the same `burst` that follow
 * each other become one.
 */
export function carryOutAll(history: History, acts: readonly Act[], burst?: string): History {
  const [lesson, patches, inverse] = produceWithPatches(history.lesson, (draft) => {
    for (const [name, args] of acts) (commands[name] as (draft: unknown, args: unknown) => void)(draft, args);
    followTwins(draft);
  });
  const [first] = acts;
  if (patches.length === 0 || !first) return history;
  // The contract is asked, of what was touched: what the server would refuse is refused here.
  const problems = problemsAt(
    lesson,
    patches.map((patch) => patch.path),
  );
  if (problems.length > 0)
    throw new CommandError(
      commandErrors.beyondLimit(sentenceFor(problems).replace(' Nothing was stored.', '')),
      problems[0]?.instancePath,
    );
  const last = history.past.at(-1);
  const isSame = burst !== undefined && last?.burst === burst;
  const change: Change = {
    name: first[0],
    patches: isSame ? [...last.patches, ...patches] : patches,
    inverse: isSame ? [...inverse, ...last.inverse] : inverse,
    ...(burst !== undefined && { burst }),
  };
  const before = isSame ? history.past.slice(0, -1) : history.past;
  return { lesson, past: [...before, change].slice(-LONGEST), future: [] };
}

/** Takes the last change back; the same history where there is none. */
export function undo(history: History): History {
  const last = history.past.at(-1);
  if (!last) return history;
  return {
    lesson: applyPatches(history.lesson, last.inverse),
    past: history.past.slice(0, -1),
    future: [last, ...history.future],
  };
}

/** Does again what was taken back last; the same history where there is none. */
export function redo(history: History): History {
  const next = history.future[0];
  if (!next) return history;
  return {
    lesson: applyPatches(history.lesson, next.patches),
    past: [...history.past, next],
    future: history.future.slice(1),
  };
}
