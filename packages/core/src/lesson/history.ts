import { type Lesson, sentenceFor } from '@viaticum/contract';
import { applyPatches, enablePatches, type Patch, produceWithPatches } from 'immer';
import { CommandError } from './command-tools.js';
import { type CommandArgs, type CommandName, commands } from './commands.js';
import { problemsAt } from './limits.js';
import { followTwins } from './twins.js';

enablePatches();

type Change = { name: CommandName; patches: Patch[]; inverse: Patch[] };

/** A lesson with all that was done to it since it was opened. Immutable: every call gives a new one. */
export type History = { lesson: Lesson; past: readonly Change[]; future: readonly Change[] };

const LONGEST = 500;

export const startHistory = (lesson: Lesson): History => ({ lesson, past: [], future: [] });

/** Carries out a command. Throws a CommandError and changes nothing where it cannot be done, or would leave a document that the
 * contract refuses; a command without effect leaves no trace. */
export function carryOut<N extends CommandName>(history: History, name: N, args: CommandArgs<N>): History {
  const apply = commands[name] as (draft: unknown, args: CommandArgs<N>) => void;
  const [lesson, patches, inverse] = produceWithPatches(history.lesson, (draft) => {
    apply(draft, args);
    followTwins(draft);
  });
  if (patches.length === 0) return history;
  // The contract is asked, of what was touched: what the server would refuse is refused here.
  const problems = problemsAt(
    lesson,
    patches.map((patch) => patch.path),
  );
  if (problems.length > 0)
    throw new CommandError(sentenceFor(problems).replace(' Nothing was stored.', ''), problems[0]?.instancePath);
  return { lesson, past: [...history.past, { name, patches, inverse }].slice(-LONGEST), future: [] };
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
