import type { ConflictAnswer, Lesson, LessonAnswer, SaveAnswer } from '@viaticum/contract';
import { carryOut, type History } from '@viaticum/core/document';
import { type Difference, differences, type Merged, mergeLessons, type Side } from '@viaticum/core/versions';
import { createStore } from 'zustand/vanilla';
import { type ApiFailure, call } from '../api/http.js';
import { sharingWords } from '../words/sharing.js';
import { commandsOn } from './commands.js';
import { forgetDraft, keepDraft, type LessonCheck, readDraft, readHistory, rememberedHistory } from './kept.js';

const SAVE_AFTER_MS = 500;
const RETRY_MS = 3000;
/** A browser sends no more than this when its page is gone already. */
const MOST_LEAVING = 60_000;

export type SaveState =
  | { kind: 'saved'; at: string }
  | { kind: 'waiting' | 'saving' | 'offline' }
  | { kind: 'refused'; message: string }
  /** `base`: what both were made from, where this browser still has it. */
  | { kind: 'conflict'; theirs: LessonAnswer; base: Lesson | null };
/** What the person goes on with; `both`: the two brought together, with a side for each part that both changed. */
export type Choice = Side | { both: (path: string) => Side };

export type Snapshot = {
  history: History;
  revision: number;
  save: SaveState;
  fault: string | null;
  /** What came in from elsewhere and was joined with this browser's changes by itself, until it has been said; `by`: from whom. */
  joined: { by: string | null; said: Difference[] } | null;
};

/**
 * The open lesson: its history of commands, and saving. Every change is written to this browser at once and sent to the
 * server half a second later, with the revision it was made from; what the server has not acknowledged survives a closed tab.
 */
export function lessonSession(opened: LessonAnswer, isLesson: LessonCheck | null = null) {
  const { id } = opened;
  const isReader = opened.role === 'reader';
  const draft = isLesson && readDraft(id, isLesson);
  const store = createStore<Snapshot>(() => ({
    history: readHistory(id, draft?.document ?? opened.document),
    revision: draft ? draft.base : opened.revision,
    save: draft ? { kind: 'waiting' } : { kind: 'saved', at: opened.savedAt },
    fault: null,
    joined: null,
  }));
  const { getState: now, setState: set } = store;
  let acknowledged = draft ? null : opened.document;
  let timer: ReturnType<typeof setTimeout> | null = null;
  let sending = false;
  let closed = false;

  const document = () => now().history.lesson;
  const isDirty = () => document() !== acknowledged;
  const keep = (): void => keepDraft(id, { base: now().revision, document: document() });
  const memory = rememberedHistory(id, () => now().history);
  const schedule = (ms = SAVE_AFTER_MS): void => {
    if (timer) clearTimeout(timer);
    timer = setTimeout(() => void send(), ms);
  };
  /** The server has this document. */
  const stored = (sent: Lesson, revision: number, at: string): void => {
    acknowledged = sent;
    set({ revision, save: isDirty() ? { kind: 'waiting' } : { kind: 'saved', at } });
    if (isDirty()) {
      keep();
      schedule();
    } else forgetDraft(id);
  };
  /** Saved elsewhere meanwhile: what lies apart is joined at once; where the two changed one part the person is asked. */
  const meet = (theirs: LessonAnswer, by: string | null = null): void => {
    const base = acknowledged;
    const merged = base && mergeLessons(base, document(), theirs.document);
    if (!merged || merged.clashes.length > 0 || merged.fault) {
      set({ save: { kind: 'conflict', theirs, base } });
      return;
    }
    const said = differences(document(), merged.lesson);
    goOn(theirs, [merged.lesson]);
    if (said.length > 0) set({ joined: { by, said } });
  };
  /** Goes on from what the server has, with these versions one after the other: each can be taken back. */
  const goOn = (theirs: LessonAnswer, versions: readonly Lesson[]): void => {
    acknowledged = theirs.document;
    const history = versions.reduce((was, version) => carryOut(was, 'takeVersion', { version }), now().history);
    const isTheirs = JSON.stringify(history.lesson) === JSON.stringify(theirs.document);
    if (isTheirs) acknowledged = history.lesson;
    set({ history, revision: theirs.revision, save: isTheirs ? { kind: 'saved', at: theirs.savedAt } : { kind: 'waiting' } });
    memory.soon();
    if (isTheirs) forgetDraft(id);
    else {
      keep();
      schedule(0);
    }
  };
  const notStored = (failure: ApiFailure, sent: Lesson): void => {
    if (failure.status === 409) {
      const { current } = failure.body as unknown as ConflictAnswer;
      // The answer to an earlier attempt may have been lost: then the server has this very document.
      if (JSON.stringify(current.document) === JSON.stringify(sent)) stored(sent, current.revision, current.savedAt);
      else meet(current);
    } else if (failure.status === 0 || failure.status >= 500) {
      set({ save: { kind: 'offline' } });
      if (!closed) schedule(RETRY_MS);
    } else {
      set({ save: { kind: 'refused', message: failure.message } });
      // What was changed meanwhile may be what mends it.
      if (document() !== sent && !closed) schedule();
    }
  };
  const send = async (isLeaving = false): Promise<void> => {
    timer = null;
    if (sending || !isDirty() || now().save.kind === 'conflict') return;
    sending = true;
    const sent = document();
    set({ save: { kind: 'saving' } });
    try {
      const body = { baseRevision: now().revision, document: sent };
      const keepalive = isLeaving && JSON.stringify(body).length < MOST_LEAVING;
      const answer = await call<SaveAnswer>('PUT', `/api/lessons/${id}`, body, keepalive ? { keepalive } : {});
      stored(sent, answer.revision, answer.savedAt);
    } catch (error) {
      notStored(error as ApiFailure, sent);
    } finally {
      sending = false;
    }
  };
  const become = (history: History): void => {
    if (history === now().history) return;
    set({ history, fault: null, ...(now().save.kind === 'conflict' ? {} : { save: { kind: 'waiting' } as const }) });
    keep();
    memory.soon();
    if (!sending) schedule();
  };
  if (draft) schedule(0);

  return {
    id,
    role: opened.role,
    ...commandsOn(store, become, isReader ? sharingWords.readOnly : null),
    /** What somebody else has saved meanwhile: what lies apart from this browser's changes is joined with them. */
    hear(theirs: LessonAnswer, by: string | null): void {
      if (sending || closed || theirs.revision <= now().revision || now().save.kind === 'conflict') return;
      if (isDirty()) {
        meet(theirs, by);
        return;
      }
      const said = differences(document(), theirs.document);
      goOn(theirs, [theirs.document]);
      if (said.length > 0) set({ joined: { by, said } });
    },
    /** How the two versions of a conflict come together, with a side for each part that both changed; null where nobody can tell. */
    merged(take: (path: string) => Side): Merged | null {
      const { save } = now();
      return save.kind === 'conflict' && save.base ? mergeLessons(save.base, document(), save.theirs.document, take) : null;
    },
    /** After a conflict: go on with this browser's version, with the other, or with both brought together. It can be taken back. */
    resolve(which: Choice): void {
      const { save } = now();
      if (save.kind !== 'conflict') return;
      const { theirs } = save;
      const mine = which === 'mine' ? document() : which !== 'theirs' && this.merged(which.both)?.lesson;
      goOn(theirs, mine ? [theirs.document, mine] : [theirs.document]);
    },
    /** What was joined has been said. */
    saidJoined: () => set({ joined: null }),
    /** Sends what is waiting at once, also while the page is being left. */
    flush(): void {
      memory.now();
      if (!isDirty() || now().save.kind === 'conflict') return;
      keep();
      if (timer) clearTimeout(timer);
      void send(true);
    },
    close(): void {
      closed = true;
      memory.now();
      if (timer) clearTimeout(timer);
      if (isDirty()) void send();
    },
  };
}
export type LessonSession = ReturnType<typeof lessonSession>;
