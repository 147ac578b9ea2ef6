import {
  type Act,
  type CommandArgs,
  CommandError,
  type CommandName,
  carryOutAll,
  type History,
  redo,
  undo,
} from '@viaticum/core/document';
import type { StoreApi } from 'zustand/vanilla';

/**
 * Carrying out, taking back and refusing on a store that holds a history; `become` is what a new history does beyond standing there.
 * Where `refused` gives a sentence nothing is changed at all.
 */
export function commandsOn<S extends { history: History; fault: string | null }>(
  store: StoreApi<S>,
  become: (history: History) => void,
  refused: string | null = null,
) {
  const { getState: now } = store;
  const setFault = (fault: string | null): void => {
    if (now().fault !== fault) store.setState({ fault } as Partial<S>);
  };
  /** Carries out several commands as one change: all of them or none. What is typed in one `burst` is one change as well. */
  const doAll = (acts: readonly Act[], burst?: string): boolean => {
    if (refused) {
      setFault(refused);
      return false;
    }
    try {
      become(carryOutAll(now().history, acts, burst));
      setFault(null);
      return true;
    } catch (error) {
      if (!(error instanceof CommandError)) throw error;
      setFault(error.message);
      return false;
    }
  };
  return {
    get: now,
    subscribe: store.subscribe,
    /** Carries out a command; one that cannot be done leaves its sentence in `fault` and returns false. */
    do: <N extends CommandName>(name: N, args: CommandArgs<N>, burst?: string): boolean =>
      doAll([[name, args] as unknown as Act], burst),
    doAll,
    undo: () => become(undo(now().history)),
    redo: () => become(redo(now().history)),
    clearFault: () => setFault(null),
    /** The sentence of the last refusal, for the field that shows it; then nobody else does. */
    take(): string | null {
      const { fault } = now();
      setFault(null);
      return fault;
    },
  };
}
