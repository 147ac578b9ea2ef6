import { type Coded, CodedError, commandErrors, type Lesson, letters } from '@viaticum/contract';
import type { Draft } from 'immer';

/** Thrown by a command that cannot be carried out; the message is a sentence for the instructor. */
export class CommandError extends CodedError {
  constructor(
    coded: Coded,
    /** The place in the document that is meant, as a JSON pointer, where one is. */
    readonly place?: string,
  ) {
    super(coded);
  }
}

export type D = Draft<Lesson>;

export function find<T extends { id: string }>(list: T[], id: string, what: string): T {
  const found = list.find((entry) => entry.id === id);
  if (!found) throw new CommandError(commandErrors.gone(what));
  return found;
}

export function insert<T extends { id: string }>(list: T[], entry: T, what: string, at?: number): void {
  if (list.some((other) => other.id === entry.id)) throw new CommandError(commandErrors.alreadyThere(what));
  list.splice(at ?? list.length, 0, entry);
}

export function take<T extends { id: string }>(list: T[], id: string, what: string): T {
  find(list, id, what);
  return list.splice(
    list.findIndex((entry) => entry.id === id),
    1,
  )[0] as T;
}

export function move<T extends { id: string }>(list: T[], id: string, to: number, what: string): void {
  const entry = take(list, id, what);
  list.splice(Math.max(0, Math.min(list.length, to)), 0, entry);
}

export function named(name: string, what: string): string {
  const clean = name.trim();
  if (!clean) throw new CommandError(commandErrors.nameless(what));
  if (clean.length > letters.name) throw new CommandError(commandErrors.nameTooLong(what, letters.name));
  return clean;
}

export const between = (value: number, low: number, high: number, otherwise: Coded): void => {
  if (!(value >= low && value <= high)) throw new CommandError(otherwise);
};

/** A value to set, or null to take it away. */
export function setOrClear<T extends object, K extends keyof T>(on: T, key: K, value: T[K] | null): void {
  if (value === null) delete on[key];
  else on[key] = value;
}

/** A list with one entry said anew, or taken out; an empty one is none. */
export function said<T extends object>(list: T[] | undefined, isIt: (one: T) => boolean, next: T | null): T[] | null {
  const rest = (list ?? []).filter((one) => !isIt(one));
  const all = next ? [...rest, next] : rest;
  return all.length > 0 ? all : null;
}
