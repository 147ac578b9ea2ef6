import { type Lesson, noWords } from '@viaticum/contract';
import { createContext, type ReactNode, useContext, useMemo, useState } from 'react';
import type { PaintJobs } from '../../workers/paint-jobs.js';
import { type PaintWorker, paintWorker } from '../../workers/paint-worker.js';
import { type Job, useJobOf, useWorker } from '../../workers/use-job.js';

type Bench = { worker: PaintWorker | null; selected: string | null; select: (mixId: string | null) => void };
const BenchContext = createContext<Bench | null>(null);

/** What the topics of this station share: the worker that searches recipes, and the mix at hand. */
export function BenchProvider({ first, children }: { first: string | null; children: ReactNode }) {
  const worker = useWorker(paintWorker);
  const [selected, select] = useState(first);
  const value = useMemo(() => ({ worker, selected, select }), [worker, selected]);
  return <BenchContext.Provider value={value}>{children}</BenchContext.Provider>;
}

export function useBench(): Bench {
  const bench = useContext(BenchContext);
  if (!bench) throw new Error('outside of the paints station');
  return bench;
}

export const usePaintJob = <N extends keyof PaintJobs>(
  name: N,
  args: PaintJobs[N]['args'] | null,
  afterMs = 60,
): Job<PaintJobs[N]['answer']> => useJobOf<PaintJobs, N>(useBench().worker, name, args, { afterMs });

/** A lesson as far as paints depend on it, so that writing a step does not ask the worker again. */
export const paintSide = (lesson: Lesson): Lesson => ({
  ...lesson,
  areas: [],
  things: [],
  references: [],
  setAside: [],
  steps: lesson.steps.map((step) => ({ ...step, areaIds: [], ...noWords })),
});
