import type { Lesson } from '@viaticum/contract';
import {
  type Act,
  type CommandArgs,
  CommandError,
  type CommandName,
  carryOutAll,
  type History,
  redo,
  startHistory,
  undo,
} from '@viaticum/core/document';
import { createStore } from 'zustand/vanilla';
import type { LessonSession, Snapshot } from './store.js';

/**
 * A session on a copy of a lesson, in which changes are tried out: the same commands and refusals, and nothing is kept or sent. What
 * shall hold is carried out on the lesson's own session afterwards.
 */
export function trialSession(id: string, lesson: Lesson): LessonSession {
  const store = createStore<Snapshot>(() => ({
    history: startHistory(lesson),
    revision: 0,
    save: { kind: 'waiting' },
    fault: null,
  }));
  const { getState: now, setState: set } = store;
  const become = (history: History): void => set({ history, fault: null });
  const doAll = (acts: readonly Act[], burst?: string): boolean => {
    try {
      become(carryOutAll(now().history, acts, burst));
      return true;
    } catch (error) {
      if (!(error instanceof CommandError)) throw error;
      set({ fault: error.message });
      return false;
    }
  };
  return {
    id,
    get: now,
    subscribe: store.subscribe,
    do: <N extends CommandName>(name: N, args: CommandArgs<N>, burst?: string) => doAll([[name, args] as unknown as Act], burst),
    doAll,
    undo: () => become(undo(now().history)),
    redo: () => become(redo(now().history)),
    clearFault: () => set({ fault: null }),
    take() {
      const { fault } = now();
      set({ fault: null });
      return fault;
    },
    resolve: () => undefined,
    flush: () => undefined,
    close: () => undefined,
  };
}
