import type { Lesson } from '@viaticum/contract';
import { startHistory } from '@viaticum/core/document';
import { createStore } from 'zustand/vanilla';
import { commandsOn } from './commands.js';
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
    joined: null,
  }));
  return {
    id,
    role: 'owner',
    ...commandsOn(store, (history) => store.setState({ history, fault: null })),
    hear: () => undefined,
    merged: () => null,
    resolve: () => undefined,
    saidJoined: () => undefined,
    flush: () => undefined,
    close: () => undefined,
  };
}
