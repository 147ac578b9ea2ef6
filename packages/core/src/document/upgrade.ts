import { type Lesson, SCHEMA_VERSION, say } from '@viaticum/contract';
import { letGoOfMissing } from './references.js';

type Versioned = { schemaVersion: number } & Record<string, unknown>;

/** One function for each earlier version; each lifts a document by one. Once released, a function never changes. */
const upgrades: Record<number, (old: Versioned) => Versioned> = {
  // Version 0, the first sketch: the room held humidity in percent and there was no list of set-aside findings.
  0: (old) => {
    const room = old.room as { humidityPercent: number } & Record<string, unknown>;
    const { humidityPercent, ...rest } = room;
    return { ...old, schemaVersion: 1, room: { ...rest, humidity: humidityPercent / 100 }, setAside: [] };
  },
  // Version 1 knew no elements and no overlap of painted zones.
  1: (old) => ({ ...old, schemaVersion: 2, elements: [], overlapMm: 6 }),
  // Version 2 knew no tubes of one's own, no heaps within heaps and no glazes; all of these may be absent.
  2: (old) => ({ ...old, schemaVersion: 3 }),
  // Version 3 held to nothing in the plan.
  3: (old) => ({ ...old, schemaVersion: 4, planning: { pins: [] } }),
  // Version 4 knew no marks, no samples and no variants.
  4: (old) => ({ ...old, schemaVersion: 5, marks: [], samples: [], variants: [] }),
  // Version 5 had nothing to say about the drawing.
  5: (old) => ({
    ...old,
    schemaVersion: 6,
    drawing: { amount: 0.65, own: [], edits: [], constructions: [], landmarks: [], toleranceMm: 4 },
  }),
  // Version 6 had other words for areas, things and mixes of mixes, and said “the whole canvas” by naming no area.
  6: (old) => {
    const lesson = { ...(renamed(old) as Versioned), schemaVersion: 7 } as Versioned & Partial<Version6>;
    for (const step of lesson.steps ?? []) if (isWhole(step)) step.wholeCanvas = true;
    for (const { changes } of lesson.variants ?? [])
      for (const { step } of changes) if (step.areaIds?.length === 0) step.wholeCanvas = true;
    for (const entry of lesson.setAside ?? []) entry.finding = entry.finding.replace(/^unpainted-zone/, 'unpainted-area');
    return lesson;
  },
  // Version 7 gave every tube a surface of its own, of which the first one's was taken, and knew an earlier table of pigments.
  7: (old) => {
    const tubes = (old.tubes ?? []) as Tube7[];
    const [first] = tubes;
    const isMixed = ((old.mixes ?? []) as { recipe: unknown[] }[]).some((mix) => mix.recipe.length > 0);
    return {
      ...old,
      schemaVersion: 8,
      finish: first?.finish ?? 'satin',
      ...(isMixed ? { formerPaint: true } : {}),
      tubes: tubes.map(({ finish, own, ...tube }) => ({ ...tube, ...(own ? { own: { ...own, finish } } : {}) })),
    };
  },
  // In version 8 a step waited for all paint on its areas and on those beside them, be it touched or not.
  8: (old) => {
    const lesson = { ...structuredClone(old), schemaVersion: 9, passages: [] } as Versioned & Partial<Version8>;
    if (lesson.school) lesson.school = { ...lesson.school, hardPart: 'as-they-come' };
    const last = lesson.steps?.at(-1);
    if (last?.kind === 'look' && /last look|sign/i.test(last.title ?? '')) last.role = 'last';
    let waited = false;
    for (const step of lesson.steps ?? []) waited = needsOfContacts(step) || waited;
    for (const { changes } of lesson.variants ?? []) for (const { step } of changes) needsOfContacts(step);
    return waited ? { ...lesson, formerWaits: true } : lesson;
  },
  // Version 9 forgot what it left out for a length, and its schools knew no sweep, no loaded brush and no picture put away.
  9: (old) => ({
    ...old,
    schemaVersion: 10,
    leftOut: [],
    ...(old.school ? { school: { ...old.school, sweep: 'far-to-near', loading: 'one', reference: 'in-sight' } } : {}),
  }),
  // Version 10 had no kit; nothing need be said of one.
  10: (old) => ({ ...old, schemaVersion: 11 }),
  // Version 11 was not filmed; nothing need be said of a film.
  11: (old) => ({ ...old, schemaVersion: 12 }),
};

/** What glazes, washes, scumbles and lines ask for by their nature: where a step said the same, it need not be said. */
const touchDryByNature = (step: Step8): boolean =>
  step.kind === 'transfer' || step.kind === 'draw' || ['glaze', 'wash', 'scumble'].includes(step.technique ?? '');

function needsOfContacts(step: Step8): boolean {
  const { needs, sharedEdgeLast } = step;
  const isAuto = needs === 'paintOver' || (needs === 'touchDry' && touchDryByNature(step));
  if (isAuto) step.needs = 'auto';
  delete step.sharedEdgeLast;
  if (sharedEdgeLast) step.laying = 'edges-last';
  return isAuto;
}
type Step8 = {
  title?: string;
  role?: string;
  kind?: string;
  technique?: string;
  needs?: string;
  sharedEdgeLast?: boolean;
  laying?: string;
};
type Version8 = { school: Record<string, string>; steps: Step8[]; variants: { changes: { step: Step8 }[] }[] };

type Tube7 = { finish: string; own?: Record<string, unknown> };

type Step6 = { kind: string; needs: string; areaIds?: string[]; markIds?: string[]; wholeCanvas?: true };
type Version6 = { steps: Step6[]; variants: { changes: { step: Step6 }[] }[]; setAside: { finding: string }[] };
/** What in version 6 worked on all areas; a break or a last look that waits for nothing did not. */
const isWhole = ({ kind, needs, areaIds = [], markIds = [] }: Step6): boolean =>
  areaIds.length === 0 && markIds.length === 0 && !(needs === 'any' && ['break', 'look', 'practise'].includes(kind));

/** Names of fields up to version 6, and since. Also in events of classes held before (see the server's migrations). */
const names: Record<string, string> = {
  zones: 'areas',
  zoneId: 'areaId',
  zoneIds: 'areaIds',
  subjectZoneId: 'subjectAreaId',
  alsoZoneIds: 'alsoAreaIds',
  onZoneId: 'onAreaId',
  elements: 'things',
  elementId: 'thingId',
  heaps: 'mixedFrom',
};
function renamed(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(renamed);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([key, inner]) => [names[key] ?? key, renamed(inner)]));
}

/**
 * A stored document lifted to the present version (not validated: do so afterwards). Throws a sentence where it comes from
 * a newer Viaticum or is no lesson.
 */
export function upgradeLesson(stored: unknown): Lesson {
  if (typeof stored !== 'object' || stored === null || typeof (stored as Versioned).schemaVersion !== 'number') {
    throw new TypeError(say('This is not a lesson: it has no schemaVersion.'));
  }
  let document = stored as Versioned;
  if (document.schemaVersion > SCHEMA_VERSION) {
    throw new RangeError(say('This lesson was written by a newer Viaticum. Update this one, then open it again.'));
  }
  const isOld = document.schemaVersion < SCHEMA_VERSION;
  while (document.schemaVersion < SCHEMA_VERSION) {
    const lift = upgrades[document.schemaVersion];
    if (!lift) throw new RangeError(say`Lessons of version ${document.schemaVersion} cannot be read.`);
    document = lift(document);
  }
  // Earlier versions left some names of what had been taken away behind.
  if (isOld) letGoOfMissing(document);
  return document as unknown as Lesson;
}
