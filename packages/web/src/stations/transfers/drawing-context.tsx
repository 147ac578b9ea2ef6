import type { Construction, Lesson } from '@viaticum/contract';
import { emptyDrawing } from '@viaticum/core/document';
import {
  type Constructed,
  construct,
  type DrawnLine,
  decidedLines,
  type Line,
  type PlacedLine,
  type Point,
  placedLines,
  upToAmount,
} from '@viaticum/core/transfer';
import { createContext, type ReactNode, useContext, useMemo, useState } from 'react';
import { useWorkedOut } from '../../lesson/context.js';
import { useJob } from '../../lesson/laid.js';
import { transferWords } from '../../words/transfers.js';
import type { JobKeys } from '../../workers/use-job.js';

const w = transferWords.lines;

/** Asks for places on the canvas: what to say, and what to do with each. */
export type Asking = { label: string; onPoint: (at: Point) => void; onEnter?: () => void; onEscape: () => void };

export type Drawing = {
  /** All computed lines with what was decided, and those that the amount shows. */
  lines: Line[];
  shown: Line[];
  placed: PlacedLine<Line>[];
  constructed: { construction: Construction; result: Constructed }[];
  progress: number | null;
  /** Lines are being worked out for the first time. */
  isDrawing: boolean;
  job: JobKeys;
  fault: string | null;
  picked: string | null;
  pick: (id: string | null) => void;
  /** Lines of one moment alone, or of all. */
  moment: string | null | 'all';
  setMoment: (moment: string | null | 'all') => void;
  withPicture: boolean;
  setWithPicture: (on: boolean) => void;
  asking: Asking | null;
  ask: (asking: Asking | null) => void;
};
const DrawingContext = createContext<Drawing | null>(null);
export function useDrawing(): Drawing {
  const drawing = useContext(DrawingContext);
  if (!drawing) throw new Error('outside of the Transfers station');
  return drawing;
}

const none: DrawnLine[] = [];

/** What the lines stand on: steps, words and the drawing's own decisions do not change them. */
export const asDrawn = (lesson: Lesson): Lesson => ({
  ...lesson,
  drawing: emptyDrawing,
  steps: [],
  marks: [],
  planning: { pins: [] },
  samples: [],
  variants: [],
  setAside: [],
});

/** The lines of the lesson, worked out in the picture worker whenever areas or picture change. */
export function DrawingProvider({ children }: { children: ReactNode }) {
  const lesson = useWorkedOut();
  const { areas, things, support, references, mixes, tubes, subjectAreaId } = lesson;
  // biome-ignore lint/correctness/useExhaustiveDependencies: only these parts of the lesson change the lines
  const args = useMemo(
    () => (areas.length === 0 ? null : { lesson: asDrawn(lesson), withPicture: references.length > 0 }),
    [areas, things, support, references, mixes, tubes, subjectAreaId],
  );
  const job = useJob('lines', args, 150);
  const { answer, progress, fault } = job;
  const computed = args ? (answer ?? none) : none;
  const lines = useMemo(() => decidedLines(lesson, computed), [lesson, computed]);
  const shown = useMemo(() => upToAmount(lines, lesson.drawing.amount) as Line[], [lines, lesson.drawing.amount]);
  const placed = useMemo(() => placedLines(lesson, shown), [lesson, shown]);
  const constructed = useMemo(
    () => lesson.drawing.constructions.map((construction) => ({ construction, result: construct(lesson, construction) })),
    [lesson],
  );
  const [picked, pick] = useState<string | null>(null);
  const [moment, setMoment] = useState<string | null | 'all'>('all');
  const [withPicture, setWithPicture] = useState(false);
  const [asking, ask] = useState<Asking | null>(null);
  const isDrawing = args !== null && answer === null;
  const value = useMemo(
    (): Drawing => ({
      lines,
      shown,
      placed,
      constructed,
      progress: progress ?? (isDrawing ? 0 : null),
      isDrawing,
      job,
      fault,
      picked,
      pick,
      moment,
      setMoment,
      withPicture,
      setWithPicture,
      asking,
      ask,
    }),
    [lines, shown, placed, constructed, progress, isDrawing, job, fault, picked, moment, withPicture, asking],
  );
  return <DrawingContext.Provider value={value}>{children}</DrawingContext.Provider>;
}

/** How a line is named: yours by number, borders by their two areas. */
export function useLineName(): (line: Line) => string {
  const lesson = useWorkedOut();
  return (line) => nameOf(lesson, line);
}
function nameOf(lesson: Lesson, line: Line): string {
  const area = (id: string | undefined) => lesson.areas.find((one) => one.id === id)?.name ?? '';
  if (line.kind === 'own') return line.name ?? w.own(lesson.drawing.own.findIndex((one) => one.id === line.id) + 1);
  const [front, back] = line.areaIds;
  return line.kind === 'border'
    ? w.border(area(front), area(back))
    : w.inner(area(front), Number(line.id.split('~')[2]?.split('.')[0] ?? 0) + 1);
}
