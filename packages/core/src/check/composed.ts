import type { Lab, Lesson } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { labelSheets, outlineArea } from '../area/index.js';
import { bordersBetween, memo, visibleOf } from '../derived/index.js';
import { type CompositionNote, compositionNotes } from '../picture/index.js';
import { uncapital } from '../units/index.js';
import { relationsOf } from '../value-relations/index.js';
import type { Finding } from './finding.js';

const WIDTH_PX = 150;
const BARE: Lab = [94, 0, 2];
/** A line that climbs by more than this share of the width is no level line. */
const LEVEL = 0.05;

const notesOf = memo(
  (
    areas: Lesson['areas'],
    parts: ReturnType<typeof visibleOf>,
    things: Lesson['things'],
    support: Lesson['support'],
    subject: string,
    colours: string,
  ): CompositionNote[] => {
    const mmPerPx = support.widthMm / WIDTH_PX;
    const height = Math.max(1, Math.round(support.heightMm / mmPerPx));
    const map = labelSheets(
      parts.map((part) => part.outline),
      WIDTH_PX,
      height,
      mmPerPx,
    );
    const labs = JSON.parse(colours) as Lab[];
    const plane = (c: 0 | 1 | 2) => {
      const out = new Float32Array(map.data.length);
      for (let at = 0; at < out.length; at++) out[at] = (labs[map.data[at] as number] ?? BARE)[c];
      return out;
    };
    const thing = new Map(things.map((one) => [one.id, one]));
    const composed = parts.map((part, i) => {
      const area = areas[i];
      const own = area?.thingId ? thing.get(area.thingId) : undefined;
      return {
        id: part.id,
        name: area?.name ?? '',
        outline: part.outline,
        sheet: area?.outline,
        facing: own?.facing,
        thingName: own?.name,
      };
    });
    return compositionNotes(
      { width: WIDTH_PX, height, l: plane(0), a: plane(1), b: plane(2) },
      map,
      composed,
      mmPerPx,
      subject || undefined,
    ).filter((note) => note.worth && (note.slope ?? 0) <= LEVEL);
  },
  3,
);

const idOf = (rule: string, { kind, areaIds }: Pick<CompositionNote, 'kind' | 'areaIds'>): string =>
  `${rule}/${kind}/${areaIds.join('+') || 'canvas'}`;
/** The rule that finds each kind of note, where one does. */
const ruleOf: Partial<Record<CompositionNote['kind'], string>> = {
  'subject-centre': 'subject-place',
  'subject-edge': 'subject-place',
  horizon: 'horizon-in-middle',
  'even-count': 'even-count',
  'unbroken-line': 'unbroken-line',
  'bright-edge': 'contrast-at-edge',
  tangent: 'touching-edges',
  facing: 'faces-out',
  lean: 'faces-out',
};
/** The finding under which a note may be set aside as meant; null where no rule finds it. */
export function findingOfNote(note: Pick<CompositionNote, 'kind' | 'areaIds'>): string | null {
  const rule = ruleOf[note.kind];
  return rule ? idOf(rule, note) : null;
}

/** Measures of the composition as findings, taken on the areas in the colours that the steps give them. */
export function compositionFindings(lesson: Lesson, rule: string, kinds: readonly CompositionNote['kind'][]): Finding[] {
  if (lesson.areas.length < 2 || lesson.steps.length === 0 || isOrnament(lesson)) return [];
  const relations = new Map(relationsOf(lesson).areas.map((area) => [area.areaId, area]));
  const colours = lesson.areas.map((area) => {
    const own = relations.get(area.id);
    return (own?.last ?? own?.target ?? BARE).map((value) => Math.round(value));
  });
  const notes = notesOf(
    lesson.areas,
    visibleOf(lesson),
    lesson.things,
    lesson.support,
    lesson.subjectAreaId ?? '',
    JSON.stringify(colours),
  );
  return notes
    .filter((note) => kinds.includes(note.kind) && isWorthTelling(lesson, note))
    .map((note): Finding => {
      const [areaId] = note.areaIds;
      return {
        id: idOf(rule, note),
        rule,
        about: lesson.areas.find((area) => area.id === areaId)?.name ?? say('Composition'),
        words: note.text,
        reason: say`Common practice: ${uncapital(note.reason)}`,
        serious: false,
        place: { station: 'picture', ...(areaId ? { areaId } : {}) },
      };
    });
}

/** A figure that is constructed round a middle keeps rules of its own: it is centred, even, and runs to the edge. */
export const isOrnament = ({ drawing, marks }: Lesson): boolean =>
  drawing.constructions.some(({ kind }) => kind === 'radial' || kind === 'motif') ||
  marks.filter(({ round }) => round).length > 1;

/** Whether common practice would change what a note tells, in this lesson: not an ornament, a pattern on its thing, or things that are unlike. */
export const isWorthTelling = (lesson: Lesson, note: CompositionNote): boolean =>
  note.worth && !isOrnament(lesson) && !isOneThing(lesson, note) && !isUnlike(lesson, note);

const LONG_EDGE_MM = 25;
/** Two areas that share a long edge belong together: a pattern and what it lies on do not just touch. */
const isOneThing = (lesson: Lesson, { kind, areaIds: [one, other] }: CompositionNote): boolean =>
  kind === 'tangent' &&
  one !== undefined &&
  other !== undefined &&
  (bordersBetween(lesson).get(one)?.get(other) ?? 0) > LONG_EDGE_MM;

/** Things count as like where the smallest is not much smaller than the largest. */
const LIKE = 0.4;
const isUnlike = (lesson: Lesson, { kind, areaIds: [id] }: CompositionNote): boolean => {
  if (kind !== 'even-count') return false;
  const areas = (visibleOf(lesson).find((part) => part.id === id)?.outline ?? []).map((polygon) => outlineArea([polygon]));
  const largest = Math.max(...areas);
  const counted = areas.filter((area) => area > largest / 8);
  return Math.min(...counted) < LIKE * largest;
};
