import type { Lesson } from '@viaticum/contract';
import equal from 'fast-deep-equal';
import { lessonFaults } from '../document/index.js';

export type Side = 'mine' | 'theirs';
/** A part that both changed, each in another way: what it is, by its place in the document and its id. */
export type Clash = { path: string; part: string };
export type Merged = {
  lesson: Lesson;
  clashes: Clash[];
  /** Why the two cannot stand in one lesson although no part clashes: one took away what the other uses. */
  fault: string | null;
};

/** Objects whose fields are parts of their own; all others are one part, because their fields only make sense together. */
const opened = new Set(['', 'drawing', 'kit', 'planning', 'film']);
type Fields = Record<string, unknown>;

const isFields = (value: unknown): value is Fields => typeof value === 'object' && value !== null && !Array.isArray(value);

/** By what an element of a list is known; null where it has nothing of its own. */
function keyOf(element: unknown): string | null {
  if (!isFields(element)) return null;
  const { id, finding, step } = element as { id?: unknown; finding?: unknown; step?: { id?: unknown } };
  const key = id ?? finding ?? step?.id;
  return typeof key === 'string' ? key : null;
}
/** A list whose elements are known one by one; null where they are not. */
function keyed(value: unknown): Map<string, unknown> | null {
  if (!Array.isArray(value)) return null;
  const entries = value.map((element) => [keyOf(element), element] as const);
  const map = new Map(entries.filter((entry): entry is [string, unknown] => entry[0] !== null));
  return map.size === value.length ? map : null;
}

/**
 * Brings two versions of a lesson together that were made from one. A part that one of them changed is taken from that one; a part that
 * both changed in different ways is a clash, for which `take` names a side. Parts are the fields of the document, and in lists that have
 * ids each element and the order. Pure; the three are left as they are. The classical three-way merge, by parts in place of lines.
 */
export function mergeLessons(base: Lesson, mine: Lesson, theirs: Lesson, take: (path: string) => Side = () => 'mine'): Merged {
  const clashes: Clash[] = [];
  const decide = (path: string, b: unknown, m: unknown, t: unknown): unknown => {
    if (equal(m, t) || equal(t, b)) return m;
    if (equal(m, b)) return t;
    clashes.push({ path, part: path.split('/').at(-1) as string });
    return take(path) === 'mine' ? m : t;
  };
  const fields = (path: string, b: Fields, m: Fields, t: Fields): Fields => {
    const found: Fields = {};
    for (const key of new Set([...Object.keys(m), ...Object.keys(t)])) {
      const value = merge(path ? `${path}/${key}` : key, b[key], m[key], t[key]);
      if (value !== undefined) found[key] = value;
    }
    return found;
  };
  const merge = (path: string, b: unknown, m: unknown, t: unknown): unknown => {
    if (equal(m, t) || equal(t, b)) return m;
    if (equal(m, b)) return t;
    if (opened.has(path) && isFields(b) && isFields(m) && isFields(t)) return fields(path, b, m, t);
    const [kb, km, kt] = [keyed(b ?? []), keyed(m ?? []), keyed(t ?? [])];
    return kb && km && kt ? list(path, kb, km, kt) : decide(path, b, m, t);
  };
  const list = (path: string, b: Map<string, unknown>, m: Map<string, unknown>, t: Map<string, unknown>): unknown[] => {
    const found = new Map<string, unknown>();
    for (const id of new Set([...m.keys(), ...t.keys()])) {
      const value = decide(`${path}/${id}`, b.get(id), m.get(id), t.get(id));
      if (value !== undefined) found.set(id, value);
    }
    return order(path, [...b.keys()], [...m.keys()], [...t.keys()], found).map((id) => found.get(id));
  };
  /** The order of who moved something; what the other added stands after what it stood after there. */
  const order = (path: string, b: string[], m: string[], t: string[], found: ReadonlyMap<string, unknown>): string[] => {
    const common = (ids: string[]) => ids.filter((id) => b.includes(id) && m.includes(id) && t.includes(id));
    const lead = decide(`${path}/order`, common(b), common(m), common(t)) as string[];
    const isTheirs = !equal(lead, common(m));
    const [first, second] = isTheirs ? [t, m] : [m, t];
    const ids = first.filter((id) => found.has(id));
    second.forEach((id, at) => {
      if (!found.has(id) || ids.includes(id)) return;
      const after = second
        .slice(0, at)
        .filter((one) => ids.includes(one))
        .at(-1);
      ids.splice(after === undefined ? 0 : ids.indexOf(after) + 1, 0, id);
    });
    return ids;
  };
  const lesson = merge('', base, mine, theirs) as Lesson;
  return { lesson, clashes, fault: lessonFaults(lesson)[0] ?? null };
}
