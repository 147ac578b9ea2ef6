import type { ClassLog } from '@viaticum/contract';
import type { CommandArgs, CommandName } from '../document/index.js';

/** A class of the log under its id. */
export type Logged = { id: string; log: ClassLog };

export type Edit<N extends CommandName = CommandName> = N extends CommandName ? { command: N; args: CommandArgs<N> } : never;
/** Something that classes taught, as an edit of this lesson: what it is, from what it is known, what it costs or saves. */
export type Suggestion = {
  /** The same for the same matter; one that was refused comes back only when its evidence has doubled. */
  key: string;
  words: string;
  evidence: string;
  /** How much is known: classes, or coats. */
  weight: number;
  /** Minutes by which the lesson grows (above 0) or shrinks. */
  minutes: number;
  edit: Edit;
};
