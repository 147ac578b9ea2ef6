import { type ClassState, newClass } from '@viaticum/core/class';

/** What a phone keeps in its own storage; unreadable or of another version it is as if nothing were kept. */
export function remembered<T>(key: string): T | null {
  try {
    return JSON.parse(localStorage.getItem(key) ?? 'null') as T | null;
  } catch {
    return null;
  }
}

/** Keeps something; a full storage is no reason to stop a class. */
export function remember(key: string, value: unknown): void {
  try {
    if (value === null) localStorage.removeItem(key);
    else localStorage.setItem(key, JSON.stringify(value));
  } catch {
    /* nothing is lost but the comfort of a reload without network */
  }
}

/** A class state that was kept, if it has all that a state has today. */
export function rememberedState<T extends { state: ClassState }>(key: string): T | null {
  const kept = remembered<T>(key);
  const isWhole = kept?.state && Object.keys(newClass()).every((field) => field in kept.state);
  return isWhole ? kept : null;
}

/** A phone forgets a class after so long. */
const FORGET_MS = 30 * 86_400_000;
const SEEN_KEY = 'viaticum-seen';
/** What is kept of a class, or of a lesson that is painted alone, under a name that goes on with its code. */
const ofClass = [
  /^viaticum-(?:sheet|class|student|out|recipes|offered)-(\w+)/,
  /^viaticum-alone(?:-class)?-([\w-]+)$/,
  /^viaticum-film-.*\/([\w-]+)$/,
];
const codeIn = (key: string): string | undefined => ofClass.flatMap((pattern) => pattern.exec(key)?.[1] ?? [])[0];

/** Notes that a class was looked at now, and takes away what is kept of those that were not for thirty days. */
export function forgetOld(code: string, now = Date.now()): void {
  try {
    const seen = { ...remembered<Record<string, number>>(SEEN_KEY), ...(code ? { [code]: now } : {}) };
    const kept = Object.keys(localStorage).flatMap((key) => {
      const of = codeIn(key);
      return of === undefined ? [] : [{ key, of }];
    });
    // What was kept before anything was noted counts from now on.
    for (const { of } of kept) seen[of] ??= now;
    for (const { key, of } of kept) if (now - (seen[of] ?? now) > FORGET_MS) localStorage.removeItem(key);
    for (const [of, at] of Object.entries(seen)) if (now - at > FORGET_MS) delete seen[of];
    remember(SEEN_KEY, seen);
  } catch {
    /* a phone that keeps nothing has nothing to forget */
  }
}
