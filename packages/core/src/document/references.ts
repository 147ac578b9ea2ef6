import type { Lesson, Step } from '@viaticum/contract';
import { say, worded } from '@viaticum/contract';

/** The lists of a lesson whose entries are named from elsewhere by their id. */
export type Named =
  | 'areas'
  | 'things'
  | 'tubes'
  | 'mixes'
  | 'stages'
  | 'steps'
  | 'marks'
  | 'references'
  | 'passages'
  | 'variants';

type Reference = {
  /** Where the id (or a list of ids) stands; `*` is every entry of a list. */
  path: string;
  to: Named;
  /**
   * What happens when the one it names goes: the name is taken out (`clear`), the entry that holds it goes too (`drop`; for a list of ids
   * `drop-when-empty`: once it names nobody), or it may not go at all (`refuse`).
   */
  onRemoval: 'clear' | 'drop' | 'drop-when-empty' | 'refuse';
  /** Whether the one that it was joined into takes its place. */
  inherits: boolean;
  /** What is wrong where it names something that is not there. */
  fault: string;
};

const kinds: Record<Named, string> = worded({
  areas: 'an area',
  things: 'a thing',
  tubes: 'a tube',
  mixes: 'a mix',
  stages: 'a stage',
  steps: 'a step',
  marks: 'a mark',
  references: 'a picture',
  passages: 'a passage',
  variants: 'a variant',
});
const row = (
  path: string,
  to: Named,
  onRemoval: Reference['onRemoval'],
  inherits: boolean,
  fault: () => string = () => say`it names ${kinds[to]} that is not in the lesson`,
): Reference => ({
  path,
  to,
  onRemoval,
  inherits,
  get fault() {
    return fault();
  },
});

/** Every reference within a lesson. Removing, joining, copying between lessons and {@link lessonFaults} all go by this table. */
export const references: readonly Reference[] = [
  row('areas.*.thingId', 'things', 'clear', true, () => say('it belongs to a thing that is not in the lesson')),
  row('areas.*.twinOfId', 'areas', 'drop', false, () => say('it follows an area that is not in the lesson')),
  row('areas.*.edges.*.with', 'areas', 'drop', false),
  row('areas.*.keepFreeUntil', 'steps', 'clear', true),
  row('things.*.twinOf.thingId', 'things', 'drop', false, () => say('it follows a thing that is not in the lesson')),
  row('things.*.twinOf.onAreaId', 'areas', 'clear', true),
  row('things.*.twinOf.bankAreaIds', 'areas', 'clear', true),
  row('things.*.fromReferenceId', 'references', 'clear', false),
  row('subjectAreaId', 'areas', 'clear', true),
  row('mixes.*.recipe.*.tubeId', 'tubes', 'drop', false, () => say('its recipe names a tube that is not in the lesson')),
  row('mixes.*.mixedFrom.*.mixId', 'mixes', 'refuse', true, () => say('it is mixed from a mix that is not in the lesson')),
  row('mixes.*.areaId', 'areas', 'clear', true),
  row('mixes.*.alsoAreaIds', 'areas', 'clear', true),
  row('support.groundCoats.*.mixId', 'mixes', 'drop', true),
  row('marks.*.areaId', 'areas', 'drop', true, () => say('its area is not in the lesson')),
  row('marks.*.protectIds', 'areas', 'clear', true),
  row('steps.*.stageId', 'stages', 'refuse', true, () => say('its stage is not in the lesson')),
  row('steps.*.areaIds', 'areas', 'clear', true),
  row('steps.*.mixIds', 'mixes', 'clear', true),
  row('steps.*.markIds', 'marks', 'clear', true),
  row('steps.*.passageId', 'passages', 'clear', false),
  row('passages.*.areaIds', 'areas', 'drop-when-empty', true),
  row('passages.*.places.*.mixId', 'mixes', 'drop', true),
  row('passages.*.places.*.areaId', 'areas', 'drop', true),
  row('steps.*.coatOf', 'steps', 'clear', true),
  row('leftOut.*.afterId', 'steps', 'clear', false),
  row('leftOut.*.step.stageId', 'stages', 'drop', true),
  row('leftOut.*.step.areaIds', 'areas', 'drop-when-empty', true),
  row('leftOut.*.step.mixIds', 'mixes', 'clear', true),
  row('leftOut.*.step.markIds', 'marks', 'drop-when-empty', true),
  row('leftOut.*.step.passageId', 'passages', 'clear', false),
  row('leftOut.*.step.coatOf', 'steps', 'clear', true),
  row('planning.pins.*.stepId', 'steps', 'drop', false),
  row('planning.pins.*.firstId', 'steps', 'drop', false),
  row('planning.pins.*.thenId', 'steps', 'drop', false),
  row('planning.waived.*.fromStepId', 'steps', 'drop', false),
  row('planning.waived.*.toStepId', 'steps', 'drop', false),
  row('planning.waived.*.areaId', 'areas', 'drop', true),
  row('planning.cutsBefore', 'steps', 'clear', false),
  row('samples.*.afterStepId', 'steps', 'drop', true, () => say('its step is not in the lesson')),
  row('drawing.own.*.areaId', 'areas', 'clear', true),
  row('drawing.own.*.stepId', 'steps', 'clear', true),
  row('drawing.edits.*.areas', 'areas', 'drop', false),
  row('drawing.edits.*.stepId', 'steps', 'clear', true),
  row('drawing.constructions.*.areaIds', 'areas', 'drop-when-empty', true),
  row('drawing.constructions.*.shadowIds', 'areas', 'clear', true),
  row('drawing.constructions.*.stepId', 'steps', 'clear', true),
  row('film.films.*.chapters.*.stepId', 'steps', 'drop', false),
  row('film.films.*.strokes.*.stepId', 'steps', 'drop', false),
  row('kit.premix.*.mixId', 'mixes', 'drop', true),
  row('kit.others.*.variantId', 'variants', 'drop', false),
  row('kit.sharing.*.tubeId', 'tubes', 'drop', false),
  row('variants.*.withoutTubeIds', 'tubes', 'clear', false),
  row('variants.*.leaveOutStepIds', 'steps', 'clear', false),
  row('variants.*.changes.*.stepId', 'steps', 'drop', false),
  row('variants.*.changes.*.step.stageId', 'stages', 'clear', true),
  row('variants.*.changes.*.step.areaIds', 'areas', 'clear', true),
  row('variants.*.changes.*.step.mixIds', 'mixes', 'clear', true),
  row('variants.*.changes.*.step.markIds', 'marks', 'clear', true),
  row('variants.*.changes.*.step.passageId', 'passages', 'clear', false),
  row('variants.*.changes.*.step.coatOf', 'steps', 'clear', true),
];

type Holder = Record<string, unknown>;
/** A field that holds an id or ids, the innermost list entry that it belongs to, and the name of the outermost. */
type Place = { owner: Holder; key: string; list: Holder[]; entry: Holder; within: Holder; listKey: string; name: string };

/** All places of a path in a lesson where something stands. */
function placesOf(lesson: object, path: string): Place[] {
  const out: Place[] = [];
  const none: Holder[] = [];
  const walk = (at: Holder, parts: readonly string[], last: Omit<Place, 'owner' | 'key'>): void => {
    const [part, ...rest] = parts as [string, ...string[]];
    const value = at[part];
    if (value === undefined || value === null) return;
    if (rest.length === 0) {
      out.push({ ...last, owner: at, key: part });
      return;
    }
    if (rest[0] !== '*') {
      walk(value as Holder, rest, last);
      return;
    }
    const list = value as Holder[];
    for (const entry of list) {
      const name = last.name || String(entry.name ?? entry.title ?? '');
      walk(entry, rest.slice(1), { list, entry, within: at, listKey: part, name });
    }
  };
  walk(lesson as Holder, path.split('.'), { list: none, entry: {}, within: {}, listKey: '', name: '' });
  return out;
}

const idsAt = ({ owner, key }: Place): string[] => {
  const value = owner[key];
  return Array.isArray(value) ? (value as string[]) : [value as string];
};
const isList = ({ owner, key }: Place): boolean => Array.isArray(owner[key]);
const namedLists = new Set<string>(references.map((one) => one.to));

/**
 * Takes the id of what was removed out of all that names it, by the table; with heirs those take its place where the table says so. Changes
 * the lesson in place. What is dropped on the way is let go as well. Refusals are asked for before ({@link heldBy}).
 */
export function letGo(lesson: object, to: Named, id: string, heirs: readonly string[] = []): void {
  for (const reference of references) {
    if (reference.to !== to) continue;
    // An heir may have gone with it: a mirror goes with its thing.
    const heirsHere = reference.inherits ? heirs.filter((heir) => isThere(lesson, to, heir)) : [];
    for (const place of placesOf(lesson, reference.path)) {
      if (!idsAt(place).includes(id)) continue;
      const { owner, key } = place;
      if (isList(place)) {
        const next = [...new Set(idsAt(place).flatMap((one) => (one === id ? heirsHere : [one])))];
        const goes = reference.onRemoval === 'drop' ? heirsHere.length === 0 : next.length === 0;
        if (reference.onRemoval !== 'clear' && goes) drop(lesson, place);
        else owner[key] = next;
      } else if (heirsHere[0] !== undefined) owner[key] = heirsHere[0];
      else if (reference.onRemoval === 'clear') delete owner[key];
      else drop(lesson, place);
    }
  }
}

const isThere = (lesson: object, to: Named, id: string): boolean =>
  (((lesson as Holder)[to] ?? []) as { id: string }[]).some((one) => one.id === id);

/** Takes the entry that a place belongs to out of its list, and lets go of it. */
function drop(lesson: object, { entry, within, listKey }: Place): void {
  const list = within[listKey] as Holder[];
  if (!list.includes(entry)) return;
  within[listKey] = list.filter((one) => one !== entry);
  if (namedLists.has(listKey) && within === (lesson as Holder)) letGo(lesson, listKey as Named, entry.id as string);
}

/** The name of what holds on to an entry so that it may not be removed; null where nothing does. */
export function heldBy(lesson: object, to: Named, id: string): string | null {
  for (const reference of references) {
    if (reference.to !== to || reference.onRemoval !== 'refuse') continue;
    const place = placesOf(lesson, reference.path).find((one) => idsAt(one).includes(id));
    if (place) return place.name;
  }
  return null;
}

const known = (lesson: object): Record<Named, Set<string>> =>
  Object.fromEntries(
    [...namedLists].map((to) => [to, new Set((((lesson as Holder)[to] ?? []) as { id: string }[]).map((one) => one.id))]),
  ) as Record<Named, Set<string>>;

/** Sentences about every reference that names what is not in the lesson; empty where all is there. */
export function danglingReferences(lesson: Lesson): string[] {
  const there = known(lesson);
  return references.flatMap((reference) =>
    placesOf(lesson, reference.path).flatMap((place) =>
      idsAt(place).every((id) => there[reference.to].has(id)) ? [] : [`${place.name || say('The lesson')}: ${reference.fault}.`],
    ),
  );
}

/** Lets go of all that is named and not there, in place; only in what lies under `within`, where it is given. */
export function letGoOfMissing(lesson: object, within = ''): void {
  const there = known(lesson);
  for (const { path, to } of references)
    if (path.startsWith(within))
      for (const place of placesOf(lesson, path)) for (const id of idsAt(place)) if (!there[to].has(id)) letGo(lesson, to, id);
}

/** A step of another lesson as it can be put into this one: what it names is left out where this lesson does not have it. */
export function fittingStep(lesson: Lesson, step: Step): Step {
  const there = known(lesson);
  const own = { steps: [structuredClone(step)] };
  for (const { path, to, onRemoval } of references) {
    if (!path.startsWith('steps.') || onRemoval === 'refuse') continue;
    for (const place of placesOf(own, path)) {
      const kept = idsAt(place).filter((id) => there[to].has(id));
      if (isList(place)) place.owner[place.key] = kept;
      else if (kept.length === 0) delete place.owner[place.key];
    }
  }
  return own.steps[0] as Step;
}

/** The steps that would lose something if an entry were removed, in their order; for a tube those that use a mix of it. */
export function stepsUsing(lesson: Lesson, to: Named, id: string): Step[] {
  if (to === 'tubes') {
    const mixes = lesson.mixes.filter((mix) => mix.recipe.some((part) => part.tubeId === id));
    const ids = new Set(mixes.flatMap((mix) => stepsUsing(lesson, 'mixes', mix.id)).map((step) => step.id));
    return lesson.steps.filter((step) => ids.has(step.id));
  }
  const own = references.filter((one) => one.to === to && one.path.startsWith('steps.'));
  return lesson.steps.filter((step) =>
    own.some(({ path }) => placesOf({ steps: [step] }, path).some((place) => idsAt(place).includes(id))),
  );
}
