import type { Lesson, Level, Step, Technique } from '@viaticum/contract';
import { brushOf } from '../brush/index.js';
import {
  bordersBetween,
  drawsLines,
  extentsOf,
  handPace,
  isOnlyMarks,
  learntPace,
  markMinutes,
  marksOf,
  placedLines,
  surfaceMinutes,
} from '../derived/index.js';
import { heapMinutes } from './heap-minutes.js';

/** Rates of the experienced hand; from memory. Tracks in m of brush stroke a minute. */
const tracks: Record<Technique, { mPerMin: number; passes: number }> = {
  wash: { mPerMin: 4, passes: 2 },
  glaze: { mPerMin: 4, passes: 2 },
  'dry-brush': { mPerMin: 4, passes: 1 },
  scumble: { mPerMin: 3, passes: 2 },
  'block-in': { mPerMin: 4, passes: 2 },
  blend: { mPerMin: 3, passes: 2 },
  loaded: { mPerMin: 4, passes: 2 },
  gesso: { mPerMin: 4, passes: 2 },
  impasto: { mPerMin: 3, passes: 1 },
  'under-film': { mPerMin: 4, passes: 1 },
  spatter: { mPerMin: 4, passes: 0.2 },
};
const EDGE_M_PER_MIN = 1;
const SET_UP_MIN = 0.5;
const levels = handPace;
const NARROW_MM = 6;
/** Going over the whole surface, one looks for one's place again with every step. */
const NEW_PLACE_MIN = 0.3;
/** Painted along with the instructor everybody waits for the next stroke. */
const ALONG = 1.15;
/** A further coat over the same shapes takes so much of the first, its edges being found already. */
const COAT_AGAIN = 0.7;
/** A knife lays 5 cm² in 3 s and is loaded again for 5 s. */
const KNIFE_MIN_PER_M2 = (1e4 / 5) * (8 / 60);
/** What is looked at first is painted slowly: so much more for each (our judgement). */
const FEATURE_MIN = 2.5;

/** Minutes of a step; of those of doing, `leadMin` at the start go into setting up and mixing new heaps, `edgeMin` into its edges. */
export type StepMinutes = { showMin: number; doMin: number; proposedDoMin: number | null; leadMin: number; edgeMin: number };

/** How much longer than the experienced hand a lesson's students take. */
export const paceOf = (lesson: Pick<Lesson, 'level'>): number => levels[lesson.level];

/**
 * Minutes to show and to do of a step: what the instructor typed, otherwise proposed as set-up + painted area (with what runs past the edge) over brush track ×
 * passes + borders for narrow brushes + `fresh` mixes, times the level's factor, to half a minute (rates: see the constants).
 */
export function stepMinutes(lesson: Lesson, step: Step, fresh: readonly string[]): StepMinutes {
  const proposed = proposeDoMinutes(lesson, step, heapMinutes(lesson, step, fresh));
  const doMin = step.doMin ?? proposed?.doMin ?? 2;
  // A further coat was shown with the first.
  const isShown = step.kind === 'paint' && step.coatOf === undefined;
  const isAlong = lesson.school.teaching === 'paint-along';
  const showMin = step.showMin ?? (isShown && !isAlong ? Math.max(1, Math.round(doMin * 0.25)) : 0);
  // Minutes typed by the instructor are taken to part in the same way.
  const scale = proposed ? doMin / proposed.doMin : 0;
  const [leadMin, edgeMin] = [(proposed?.leadMin ?? 0) * scale, (proposed?.edgeMin ?? 0) * scale];
  return { showMin, doMin, proposedDoMin: proposed?.doMin ?? null, leadMin, edgeMin };
}

/** Minutes of a step of which the doing takes so much longer or shorter. */
export const stretched = (own: StepMinutes, by: number): StepMinutes => ({
  ...own,
  doMin: own.doMin * by,
  leadMin: own.leadMin * by,
  edgeMin: own.edgeMin * by,
});

/** A lesson with other students: minutes typed for its own are stretched or shortened by how the two levels differ. */
export function forStudents(lesson: Lesson, level: Level): Lesson {
  if (level === lesson.level) return lesson;
  const ratio = levels[level] / levels[lesson.level];
  const steps = lesson.steps.map((step) => {
    const isWork = step.doMin !== undefined && step.kind !== 'break' && step.kind !== 'look';
    return isWork ? { ...step, doMin: Math.round((step.doMin as number) * ratio * 4) / 4 } : step;
  });
  return { ...lesson, level, steps };
}

type Proposed = Pick<StepMinutes, 'doMin' | 'leadMin' | 'edgeMin'>;
function proposeDoMinutes(lesson: Lesson, step: Step, heapsMin: number): Proposed | null {
  const level = levels[lesson.level] * learntPace(lesson, step.technique);
  const around = lesson.school.order === 'whole-together' && step.kind === 'paint' ? NEW_PLACE_MIN : 0;
  const lead = SET_UP_MIN + around + heapsMin;
  const along = lesson.school.teaching === 'paint-along' ? ALONG : 1;
  const again = along * (step.coatOf === undefined ? 1 : COAT_AGAIN) * (step.repeat?.expected ?? 1);
  const proposed = (work: number, edges: number): Proposed => {
    const exact = (lead + (work + edges) * again) * level;
    const doMin = rounded(exact);
    const scale = (level * doMin) / exact;
    return { doMin, leadMin: lead * scale, edgeMin: edges * again * scale };
  };
  const brush = brushOf(step.brushId);
  const marks = marksOf(lesson, step).reduce((sum, mark) => sum + markMinutes(mark), 0);
  if (isOnlyMarks(step)) return proposed(marks, 0);
  if (drawsLines(step)) return drawing(lesson, step);
  // A look, a break and practice are no paint, whatever a step once was.
  if (step.kind !== 'paint' && step.kind !== 'prepare') return step.kind === 'practise' && heapsMin > 0 ? proposed(0, 0) : null;
  if (!step.technique || !brush) return null;
  const parts = extentsOf(lesson).filter((part) => step.wholeCanvas || step.areaIds.includes(part.id));
  const canvasM2 = (lesson.support.widthMm * lesson.support.heightMm) / 1e6;
  const areaM2 = step.wholeCanvas ? canvasM2 : parts.reduce((sum, part) => sum + part.areaCm2, 0) / 1e4;
  const track = tracks[step.technique];
  const cover = (areaM2 * (step.coverShare ?? 1)) / ((brush.widthMm / 1000) * track.mPerMin);
  const overSurfaces = surfaceMinutes(lesson, step);
  if (overSurfaces > 0) return proposed(overSurfaces + marks, 0);
  if (step.passageId !== undefined) return passageMinutes(lesson, step, areaM2, brush.widthMm, heapsMin, level);
  if (step.technique === 'impasto') return proposed(areaM2 * (step.coverShare ?? 1) * KNIFE_MIN_PER_M2 + marks, 0);
  const borderM = step.wholeCanvas ? 0 : edgesMm(lesson, step.areaIds) / 1000;
  const edges = brush.widthMm >= NARROW_MM && step.coverShare === undefined ? borderM / EDGE_M_PER_MIN : 0;
  const features = lesson.areas.filter((area) => area.feature && step.areaIds.includes(area.id)).length;
  return proposed(cover * track.passes + marks + features * FEATURE_MIN, edges);
}

/** Millimetres of edge to neighbours that a step cuts in along; where areas of one step meet there is none. */
function edgesMm(lesson: Lesson, areaIds: readonly string[]): number {
  const borders = bordersBetween(lesson);
  const own = new Set(areaIds);
  return areaIds.reduce((sum, id) => {
    for (const [beside, mm] of borders.get(id) ?? []) if (!own.has(beside)) sum += mm;
    return sum;
  }, 0);
}

/** Loading and wiping for each colour, laying once with some overlap, joining the transitions twice, one light pass over all. */
const passage = { startMin: 0.5, colourMin: 0.4, overlap: 1.15, transition: 0.5, layMPerMin: 4, joinMPerMin: 3, lastMPerMin: 6 };

/** Minutes of a wet passage by its area, its colours and its brush; its heaps are mixed before the first stroke (our judgement from the rates). */
function passageMinutes(lesson: Lesson, step: Step, areaM2: number, widthMm: number, heapsMin: number, level: number): Proposed {
  const w = widthMm / 1000;
  const isWhole = lesson.passages.find((one) => one.id === step.passageId)?.soften !== 'seams';
  const work =
    passage.startMin +
    passage.colourMin * step.mixIds.length +
    (passage.overlap * areaM2) / (passage.layMPerMin * w) +
    (2 * passage.transition * areaM2) / (passage.joinMPerMin * w) +
    (isWhole ? areaM2 / (passage.lastMPerMin * w) : 0);
  const lead = heapsMin;
  const doMin = rounded((lead + work) * level);
  return { doMin, leadMin: (lead * doMin) / (lead + work), edgeMin: 0 };
}

/** How much longer than the experienced hand students take along lines; less than for paint. */
const alongLines: Record<Level, number> = { beginner: 1.5, improver: 1.2, experienced: 1 };
/** Minutes before a line is drawn, and metres of line a minute, by the way of drawing (common practice, no published source). */
const drawn: Record<Lesson['school']['drawing'], { start: number; mPerMin: number }> = {
  tracing: { start: 3, mPerMin: 0.6 },
  direct: { start: 1, mPerMin: 0.4 },
  grid: { start: 1, mPerMin: 0.4 },
  envelope: { start: 4, mPerMin: 0.8 },
  'thin-paint': { start: 1, mPerMin: 0.6 },
  none: { start: 1, mPerMin: 0.4 },
};
/** The dust of a rubbed back is wiped off the canvas. */
const WIPING_MIN: Record<Lesson['school']['transferMedium'], number> = {
  'transfer-paper': 0,
  'light-paper': 0,
  graphite: 0,
  charcoal: 1,
  chalk: 1,
};
const GRID = { cellMm: 38, lineMin: 0.25, cellMin: 0.35 };

/** Minutes of drawing or tracing by the length of the lines that come onto the canvas with a step, and of ruling its grid. */
function drawing(lesson: Lesson, step: Step): Proposed {
  const { start, mPerMin } = drawn[step.kind === 'transfer' ? 'tracing' : lesson.school.drawing];
  const isFirst = lesson.steps.find(drawsLines) === step;
  const inkM = (inkOf(lesson, step.id) + (isFirst ? constructedMm(lesson) : 0)) / 1000;
  const isGrid = step.kind === 'draw' && lesson.school.drawing === 'grid';
  const [across, down] = [lesson.support.widthMm, lesson.support.heightMm].map((mm) => Math.ceil(mm / GRID.cellMm)) as [
    number,
    number,
  ];
  const ruling = isGrid ? (across + down - 2) * GRID.lineMin : 0;
  // A line of some length meets 4/π times as many cells as fit into it (Buffon's needle).
  const cells = Math.min(across * down, (4 / Math.PI) * inkM * (1000 / GRID.cellMm)) * GRID.cellMin;
  const work = (isGrid ? cells : inkM / mPerMin) * alongLines[lesson.level];
  const wiping = step.kind === 'transfer' ? WIPING_MIN[lesson.school.transferMedium] : 0;
  return { doMin: rounded(start + ruling + work + wiping), leadMin: 0, edgeMin: 0 };
}

/** Millimetres of line that are ruled or drawn for marks set round a point; what lies on the same places counts once. */
function constructedMm(lesson: Lesson): number {
  const lines = new Map<string, number>();
  for (const { kind, round, count, lengthMm } of lesson.marks)
    if (round && (kind === 'lines' || kind === 'unit')) lines.set(JSON.stringify([round, count, lengthMm]), count * lengthMm);
  return [...lines.values()].reduce((sum, mm) => sum + mm, 0);
}

/** Millimetres of border that a drawing step brings onto the canvas: those of all areas that no other step does. */
function inkOf(lesson: Lesson, stepId: string): number {
  const borders = bordersBetween(lesson);
  const pairs = lesson.areas.flatMap((one, i) =>
    lesson.areas.slice(i + 1).map((other) => ({ kind: 'border' as const, areaIds: [other.id, one.id] })),
  );
  return placedLines(lesson, pairs).reduce((sum, { line, moment }) => {
    const [one, other] = line.areaIds as [string, string];
    return moment.stepId === stepId ? sum + (borders.get(one)?.get(other) ?? 0) : sum;
  }, 0);
}

const rounded = (minutes: number): number => Math.max(0.5, Math.round(minutes * 2) / 2);
