import type { EdgeWish, Lesson, Need, Step } from '@viaticum/contract';
import { drawsLines, edgeBetween } from '../derived/index.js';

/** How a step touches paint that lies there: it lies on it, cuts in beside it, or its marks run across a mirror that was softened there. */
export type ContactKind = 'over' | 'edge' | 'crossing';
/** The rung that an act asks of the paint it touches; `byNature`: the mark itself fails on wet paint, however little it would hurt the colour. */
export type Asked = { need: Need; byNature: boolean };

const TOUCHES_SHARE = 0.35;

/**
 * What a step asks of paint that it touches, by its technique, its marks and what is wished of the border (common practice, no
 * published source). What the instructor typed is asked wherever the step lies on paint.
 */
export function askedOf(step: Step, kind: ContactKind, wish: EdgeWish, isMarks: boolean): Asked {
  if (step.needs !== 'auto') return { need: step.needs, byNature: kind !== 'edge' };
  if (drawsLines(step)) return { need: 'touchDry', byNature: true };
  if (kind === 'crossing') return { need: 'touchDry', byNature: true };
  const isClean = wish === 'clean';
  if (kind === 'edge') return { need: isClean ? 'paintOver' : 'any', byNature: false };
  const { technique } = step;
  if (technique === 'glaze' || technique === 'wash') return { need: 'touchDry', byNature: true };
  if (technique === 'scumble' || step.stroke === 'circle') return { need: 'touchDry', byNature: true };
  if (technique === 'dry-brush') return { need: 'paintOver', byNature: true };
  if (isMarks || technique === 'spatter') return { need: isClean ? 'paintOver' : 'damp', byNature: true };
  return { need: isClean ? 'paintOver' : 'damp', byNature: false };
}

/** Share of the wet paint that a stroke lifts into its own at once, by what it does (our judgement, adjustable). */
export function pickUp(step: Step, kind: ContactKind): number {
  const { technique } = step;
  if (technique === 'blend') return kind === 'edge' ? CUT_IN : 0.5;
  if (technique === 'scumble' || technique === 'glaze' || technique === 'wash') return 0.35;
  if (technique === 'dry-brush') return 0.25;
  if (kind === 'edge') return CUT_IN;
  const isPlaced = technique === 'loaded' || technique === 'impasto' || (step.coverShare ?? 1) <= TOUCHES_SHARE;
  return isPlaced ? 0.1 : 0.2;
}
const CUT_IN = 0.15;

const LIMIT = { usual: 6, close: 4, soft: 10 };
/** How far (ΔE00) wet paint may change a colour there: less on what is looked at closely, more where the border may soften. */
export function harmLimit(lesson: Lesson, areaId: string, wish: EdgeWish): number {
  if (wish !== 'clean') return LIMIT.soft;
  const area = lesson.areas.find((one) => one.id === areaId);
  const isClose = lesson.school.fidelity === 'true' || area?.feature === true || areaId === lesson.subjectAreaId;
  const usual = lesson.planning.harmLimit ?? LIMIT.usual;
  return isClose ? Math.min(LIMIT.close, usual) : usual;
}

/** What is wished of the border between two areas: what was set, otherwise clean for a hard one and that it may soften for the others. */
export function wishOf(lesson: Lesson, one: string, other: string): EdgeWish {
  const edge = edgeBetween(lesson, one, other);
  if (!edge) return 'clean';
  return edge.wish ?? (edge.kind === 'hard' ? 'clean' : 'may-soften');
}
