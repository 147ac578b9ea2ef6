import type { Lesson, Room } from '@viaticum/contract';
import { workOutFindings } from '@viaticum/core/check';
import { followSheet, sameAreas, workOutAreas } from '@viaticum/core/derived';
import { carryOut, startHistory } from '@viaticum/core/document';
import { type LessonPlan, planOf } from '@viaticum/core/plan';
import type { AreaOff } from '@viaticum/core/stage';
import { forStudents } from '@viaticum/core/step';
import { createContext, useContext, useEffect, useMemo, useState, useSyncExternalStore } from 'react';
import { placeAt } from '../ui/ribbon/lanes.js';
import type { LessonSession, Snapshot } from './store.js';

/** What the workbench shows beside the lesson itself: the minute of the raking light, what is selected, what is switched on. */
export type View = {
  minute: number;
  setMinute: (minute: number) => void;
  stepId: string | null;
  selectStep: (stepId: string | null) => void;
  areaId: string | null;
  selectArea: (areaId: string | null) => void;
  squint: boolean;
  outlines: boolean;
  /** What sets the end, drawn into the section. */
  chain: boolean;
  toggle: (what: 'squint' | 'outlines' | 'chain') => void;
  /** How near the section is looked at: 0 the whole lesson. */
  zoom: number;
  setZoom: (zoom: number) => void;
  /** Another air or other students, tried out without changing the lesson. */
  whatIf: WhatIf | null;
  setWhatIf: (whatIf: WhatIf | null) => void;
  /** A step on its way to a time. */
  drag: { stepId: string; startMin: number } | null;
  /** How the last stage lies from the picture, area by area, as far as it was painted. */
  seen: readonly AreaOff[];
  setSeen: (seen: readonly AreaOff[]) => void;
  setDrag: (drag: View['drag']) => void;
};
export type WhatIf = Pick<Room, 'airC' | 'humidity' | 'airSpeed'> & { level: Lesson['level'] };

export const SessionContext = createContext<LessonSession | null>(null);
export const ViewContext = createContext<View | null>(null);

export function useSession(): LessonSession {
  const session = useContext(SessionContext);
  if (!session) throw new Error('no lesson is open');
  return session;
}

export function useView(): View {
  const view = useContext(ViewContext);
  if (!view) throw new Error('no lesson is open');
  return view;
}

export function useSnapshot(): Snapshot {
  const session = useSession();
  return useSyncExternalStore(session.subscribe, session.get);
}

export const useLesson = (): Lesson => useSnapshot().history.lesson;
/**
 * The lesson with areas that are worked out. After an edit of an outline the old areas stand for some frames, while the new ones
 * are worked out piece by piece; everything else is always the newest.
 */
export const WorkedOutContext = createContext<Lesson | null>(null);
export function useWorkedOut(): Lesson {
  const lesson = useContext(WorkedOutContext);
  if (!lesson) throw new Error('no lesson is open');
  return lesson;
}

/** Keeps {@link WorkedOutContext} up to date. */
export function useWorkingOut(): Lesson {
  const lesson = useLesson();
  const [done, setDone] = useState(lesson);
  const isDone = sameAreas(lesson, done);
  useEffect(() => {
    if (isDone) return;
    const work = workOut(lesson);
    let timer = setTimeout(function step() {
      if (work.next().done) setDone(lesson);
      else timer = setTimeout(step);
    });
    return () => clearTimeout(timer);
  }, [lesson, isDone]);
  return useMemo(() => {
    if (isDone) return lesson;
    const { areas, things, overlapMm, support } = done;
    const shown: Lesson = { ...lesson, areas, things, overlapMm, support };
    // Where nothing but areas has changed, all that was worked out for the old ones stands.
    return (Object.keys(shown) as (keyof Lesson)[]).every((key) => shown[key] === done[key]) ? done : shown;
  }, [lesson, done, isDone]);
}

/** Areas, plan and findings of a lesson in pieces short enough that the page answers in between; afterwards all of them are at hand. */
function* workOut(lesson: Lesson): Generator<void, void> {
  yield* workOutAreas(lesson);
  yield;
  const plan = planOf(lesson);
  yield;
  yield* workOutFindings(lesson, plan);
}

/** What the workbench shows of a worked-out lesson: with what is tried out, and with a step where it is being dragged to. */
export function useTriedOut(lesson: Lesson): Lesson {
  const { whatIf, drag } = useView();
  return useMemo(() => {
    let shown = lesson;
    if (whatIf) {
      const { level, ...air } = whatIf;
      shown = forStudents({ ...shown, room: { ...shown.room, ...air } }, level);
    }
    if (!drag || !shown.steps.some((step) => step.id === drag.stepId)) return shown;
    const to = placeAt(planOf(shown), drag.stepId, drag.startMin);
    return carryOut(startHistory(shown), 'pinAt', { id: drag.stepId, startMin: drag.startMin, to }).lesson;
  }, [lesson, whatIf, drag]);
}

/** The plan and the sheet are memoised in core by the document's parts; asking again costs nothing. */
export const usePlan = (): LessonPlan => planOf(useWorkedOut());
export const useSheet = () => followSheet(useWorkedOut());
