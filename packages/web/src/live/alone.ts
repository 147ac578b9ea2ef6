import type { AloneSheet, ClassEvent, Command } from '@viaticum/contract';
import { type Actor, type ClassState, decide, fold, newClass, Refusal } from '@viaticum/core/class';
import { createStore } from 'zustand/vanilla';
import { calm, type LiveConnection, type LiveSnapshot } from './connection.js';

export const ALONE_ID = 'me';
const instructor: Actor = { kind: 'instructor' };
const self: Actor = { kind: 'student', id: ALONE_ID };

/** What a phone keeps of a lesson that is painted alone: how it stands, and what happened since it was begun. */
export type KeptAlone = { state: ClassState; events: ClassEvent[] };

/** A class of one, without a server: the same commands, decided and folded on this phone, kept on it. */
export function aloneClass(
  { plan }: AloneSheet,
  memory: { kept: KeptAlone | null; keep: (kept: KeptAlone | null) => void },
): LiveConnection & { begin: () => void; forget: () => void; events: () => readonly ClassEvent[] } {
  const opened = (): ClassState => {
    const state = newClass();
    fold(state, { seq: 1, at: Date.now(), actor: 'instructor', body: { type: 'opened', v: 1, revision: 0, plan, code: '' } });
    return state;
  };
  let events: ClassEvent[] = memory.kept?.events ?? [];
  const store = createStore<LiveSnapshot>(() => ({
    version: 0,
    state: memory.kept?.state ?? opened(),
    online: true,
    ready: true,
    you: ALONE_ID,
    ...calm,
  }));
  const latest = store.getState;
  const set = (next: Partial<LiveSnapshot>): void => {
    store.setState({ ...next, version: latest().version + 1 });
  };
  const carryOut = (actor: Actor, command: Command): { ok: boolean; message?: string } => {
    const { state } = latest();
    try {
      const now = Math.max(state.at, Date.now());
      for (const body of decide(state, actor, command, now, () => ALONE_ID)) {
        const event: ClassEvent = { seq: state.seq + 1, at: now, actor: 'instructor', body };
        fold(state, event);
        events = [...events, event];
      }
      memory.keep({ state, events });
      set({ refusal: null });
      return { ok: true };
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      set({ refusal: error.message });
      return { ok: false, message: error.message };
    }
  };
  return {
    get: latest,
    subscribe: store.subscribe,
    now: () => Date.now(),
    async say(command) {
      return carryOut('studentId' in command ? self : instructor, command);
    },
    admit: () => undefined,
    clearRefusal: () => set({ refusal: null }),
    close: () => undefined,
    events: () => events,
    begin() {
      if (!latest().state.students[ALONE_ID]) carryOut({ kind: 'guest' }, { type: 'join', firstName: '·', kit: [] });
      if (!latest().state.current) carryOut(instructor, { type: 'goOn', from: -1 });
    },
    forget() {
      memory.keep(null);
      events = [];
      set({ state: opened(), refusal: null });
    },
  };
}
