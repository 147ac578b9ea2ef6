import type { Lesson } from '@viaticum/contract';
import { type History, startHistory, upgradeLesson } from '@viaticum/core/document';

/** A lesson that the server has not acknowledged, with the revision it was made from. */
export type Draft = { base: number; document: Lesson };
type Remembered = Pick<History, 'past' | 'future'> & { of: string };

const draftKey = (id: string) => `viaticum-draft-${id}`;
const unreadKey = (id: string) => `viaticum-unread-${id}`;
const historyKey = (id: string) => `viaticum-history-${id}`;
/** So many changes can be taken back after a reload, as far as they fit. */
const MOST_CHANGES = 100;
const MOST_LETTERS = 1_000_000;
const REMEMBER_MS = 400;

const put = (key: string, value: unknown): boolean => {
  try {
    localStorage.setItem(key, typeof value === 'string' ? value : JSON.stringify(value));
    return true;
  } catch {
    // The browser's store is full or switched off: the server still gets the lesson.
    return false;
  }
};

export type LessonCheck = (document: unknown) => document is Lesson;
/** What tells whether something is a lesson; it is brought only where this browser kept a draft, and null where it did not. */
export const lessonCheck = async (id: string): Promise<LessonCheck | null> =>
  localStorage.getItem(draftKey(id)) === null ? null : ((await import('../generated/validators.js')).isLesson as LessonCheck);

/**
 * What this browser keeps of a lesson that the server has not acknowledged, lifted to the present version; null where there is nothing.
 * What cannot be read is put beside, so that nothing is lost: see {@link unreadDraft}.
 */
export function readDraft(id: string, isLesson: LessonCheck): Draft | null {
  const text = localStorage.getItem(draftKey(id));
  if (text === null) return null;
  try {
    const { base, document } = JSON.parse(text) as { base: number; document: unknown };
    const lifted = upgradeLesson(document);
    if (Number.isInteger(base) && isLesson(lifted)) return { base, document: lifted };
  } catch {
    // Put beside below.
  }
  if (put(unreadKey(id), text)) localStorage.removeItem(draftKey(id));
  return null;
}
export const keepDraft = (id: string, draft: Draft): void => void put(draftKey(id), draft);
export const forgetDraft = (id: string): void => localStorage.removeItem(draftKey(id));

/** The text of changes that could not be read when the lesson was opened, for the person to keep as a file. */
export const unreadDraft = (id: string): string | null => localStorage.getItem(unreadKey(id));
export const forgetUnread = (id: string): void => localStorage.removeItem(unreadKey(id));

/** A short fingerprint of a document (FNV-1a of its JSON, and its length). */
function fingerprint(lesson: Lesson): string {
  const text = JSON.stringify(lesson);
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193) >>> 0;
  return `${text.length}-${hash.toString(36)}`;
}

/** Keeps what can be taken back and done again, for the lesson as it is now. */
export function keepHistory(id: string, { lesson, past, future }: History): void {
  for (let most = MOST_CHANGES; ; most = Math.floor(most / 2)) {
    const kept: Remembered = { of: fingerprint(lesson), past: most > 0 ? past.slice(-most) : [], future: future.slice(0, most) };
    const text = JSON.stringify(kept);
    if (text.length <= MOST_LETTERS || most === 0) {
      put(historyKey(id), text);
      return;
    }
  }
}

/** A lesson with what could be taken back when it was last kept; with nothing where it is another one by now. */
export function readHistory(id: string, lesson: Lesson): History {
  try {
    const kept = JSON.parse(localStorage.getItem(historyKey(id)) ?? 'null') as Remembered | null;
    if (kept?.of === fingerprint(lesson)) return { lesson, past: kept.past, future: kept.future };
  } catch {
    // Kept by another version: nothing can be taken back.
  }
  return startHistory(lesson);
}

/** Keeps a history a moment after it changed: `soon` after every change, `now` where the page may be gone in a moment. */
export function rememberedHistory(id: string, present: () => History) {
  let timer: ReturnType<typeof setTimeout> | null = null;
  const keepIt = (): void => {
    timer = null;
    keepHistory(id, present());
  };
  return {
    soon(): void {
      timer ??= setTimeout(keepIt, REMEMBER_MS);
    },
    now(): void {
      if (timer === null) return;
      clearTimeout(timer);
      keepIt();
    },
  };
}
