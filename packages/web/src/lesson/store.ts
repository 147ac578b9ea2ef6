import type { ConflictAnswer, Lesson, LessonAnswer, SaveAnswer } from '@viaticum/contract';
import {
  type CommandArgs,
  CommandError,
  type CommandName,
  carryOut,
  type History,
  redo,
  startHistory,
  undo,
} from '@viaticum/core/lesson';
import { type ApiFailure, call } from '../api/http.js';
import { isLesson } from '../generated/validators.js';

const SAVE_AFTER_MS = 500;
const RETRY_MS = 3000;

export type SaveState =
  | { kind: 'saved'; at: string }
  | { kind: 'waiting' | 'saving' | 'offline' }
  | { kind: 'refused'; message: string }
  | { kind: 'conflict'; theirs: LessonAnswer };

export type Snapshot = { history: History; revision: number; save: SaveState; fault: string | null };

type Draft = { base: number; document: Lesson };
const draftKey = (id: string) => `viaticum-draft-${id}`;

/** What this browser keeps of a lesson that the server has not acknowledged; null where there is nothing sound. */
function readDraft(id: string): Draft | null {
  try {
    const draft = JSON.parse(localStorage.getItem(draftKey(id)) ?? 'null') as Draft | null;
    return draft && Number.isInteger(draft.base) && isLesson(draft.document) ? draft : null;
  } catch {
    return null;
  }
}

/**
 * The open lesson: its history of commands, and saving. Every change is written to this browser at once and sent to the
 * server half a second later, with the revision it was made from; what the server has not acknowledged survives a closed tab.
 */
export function lessonSession(opened: LessonAnswer) {
  const { id } = opened;
  const draft = readDraft(id);
  let snapshot: Snapshot = {
    history: startHistory(draft?.document ?? opened.document),
    revision: draft ? draft.base : opened.revision,
    save: draft ? { kind: 'waiting' } : { kind: 'saved', at: opened.savedAt },
    fault: null,
  };
  const listeners = new Set<() => void>();
  let acknowledged = draft ? null : opened.document;
  let timer: ReturnType<typeof setTimeout> | null = null;
  let sending = false;
  let closed = false;

  const set = (next: Partial<Snapshot>): void => {
    snapshot = { ...snapshot, ...next };
    for (const listener of listeners) listener();
  };
  const document = () => snapshot.history.lesson;
  const isDirty = () => document() !== acknowledged;
  const keep = (): void => {
    try {
      localStorage.setItem(draftKey(id), JSON.stringify({ base: snapshot.revision, document: document() } satisfies Draft));
    } catch {
      // The browser's store is full or switched off: the server still gets it.
    }
  };
  const schedule = (ms = SAVE_AFTER_MS): void => {
    if (timer) clearTimeout(timer);
    timer = setTimeout(send, ms);
  };
  const send = async (): Promise<void> => {
    timer = null;
    if (sending || !isDirty() || snapshot.save.kind === 'conflict') return;
    sending = true;
    const sent = document();
    set({ save: { kind: 'saving' } });
    try {
      const answer = await call<SaveAnswer>('PUT', `/api/lessons/${id}`, { baseRevision: snapshot.revision, document: sent });
      acknowledged = sent;
      set({ revision: answer.revision, save: isDirty() ? { kind: 'waiting' } : { kind: 'saved', at: answer.savedAt } });
      if (isDirty()) {
        keep();
        schedule();
      } else localStorage.removeItem(draftKey(id));
    } catch (error) {
      const failure = error as ApiFailure;
      if (failure.status === 409) {
        const { current } = failure.body as unknown as ConflictAnswer;
        // The answer to an earlier attempt may have been lost: then the server has this very document.
        if (JSON.stringify(current.document) === JSON.stringify(sent)) {
          acknowledged = sent;
          set({ revision: current.revision, save: { kind: 'saved', at: current.savedAt } });
          if (isDirty()) schedule();
          else localStorage.removeItem(draftKey(id));
        } else set({ save: { kind: 'conflict', theirs: current } });
      } else if (failure.status === 0 || failure.status >= 500) {
        set({ save: { kind: 'offline' } });
        if (!closed) schedule(RETRY_MS);
      } else set({ save: { kind: 'refused', message: failure.message } });
    } finally {
      sending = false;
    }
  };
  const become = (history: History): void => {
    if (history === snapshot.history) return;
    set({ history, fault: null, ...(snapshot.save.kind === 'conflict' ? {} : { save: { kind: 'waiting' } as const }) });
    keep();
    if (!sending) schedule();
  };
  if (draft) schedule(0);

  return {
    id,
    get: () => snapshot,
    subscribe(listener: () => void): () => void {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    /** Carries out a command; one that cannot be done leaves its sentence in `fault` and returns false. */
    do<N extends CommandName>(name: N, args: CommandArgs<N>): boolean {
      try {
        become(carryOut(snapshot.history, name, args));
        if (snapshot.fault) set({ fault: null });
        return true;
      } catch (error) {
        if (!(error instanceof CommandError)) throw error;
        set({ fault: error.message });
        return false;
      }
    },
    undo: () => become(undo(snapshot.history)),
    redo: () => become(redo(snapshot.history)),
    clearFault: () => set({ fault: null }),
    /** After a conflict: go on with this browser's version, saved over the other, or with the other. */
    resolve(which: 'mine' | 'theirs'): void {
      if (snapshot.save.kind !== 'conflict') return;
      const { theirs } = snapshot.save;
      if (which === 'theirs') {
        acknowledged = theirs.document;
        localStorage.removeItem(draftKey(id));
        set({ history: startHistory(theirs.document), revision: theirs.revision, save: { kind: 'saved', at: theirs.savedAt } });
      } else {
        acknowledged = theirs.document;
        set({ revision: theirs.revision, save: { kind: 'waiting' } });
        keep();
        schedule(0);
      }
    },
    /** Sends what is waiting at once, also while the page is being left. */
    flush(): void {
      if (!isDirty() || snapshot.save.kind === 'conflict') return;
      keep();
      if (timer) clearTimeout(timer);
      void send();
    },
    close(): void {
      closed = true;
      if (timer) clearTimeout(timer);
      if (isDirty()) void send();
    },
  };
}
export type LessonSession = ReturnType<typeof lessonSession>;
