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
