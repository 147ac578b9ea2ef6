import type { ClassLog, Lesson, LoggedItem } from '@viaticum/contract';
import { type ShootEvent, shootState, takesOf } from '../film/index.js';
import { namesIn } from './summary.js';

const MINUTE_S = 60;
const rounded = (minutes: number): number => Math.round(minutes * 10) / 10;

/**
 * What was filmed of a lesson in one day, as it is logged: the good take of each slate against its planned seconds, once; null where nothing
 * was said to be good. The hand before the camera is an experienced one.
 */
export function logOfTakes(lesson: Lesson, notes: readonly ShootEvent[]): ClassLog | null {
  const states = shootState(notes);
  const items = takesOf(lesson).flatMap((take): LoggedItem[] => {
    const goodS = states.get(take.id)?.goodS ?? null;
    if (goodS === null) return [];
    const [stepId] = take.stepIds;
    const step = take.stepIds.length === 1 ? lesson.steps.find(({ id }) => id === stepId) : undefined;
    return [
      {
        kind: 'step',
        stepId: take.kind === 'canvas' ? (step?.id ?? null) : null,
        title: `${take.slate} ${take.title}`.slice(0, 120),
        technique: step?.technique ?? null,
        planned: rounded(take.rawS / MINUTE_S),
        actual: rounded(goodS / MINUTE_S),
        present: 1,
        done: 1,
        assumed: 0,
        asks: 0,
        reasons: [],
      },
    ];
  });
  const begun = Math.min(...notes.map(({ at }) => at));
  if (items.length === 0) return null;
  const sum = (of: 'planned' | 'actual') => rounded(items.reduce((all, item) => all + (item[of] ?? 0), 0));
  return {
    kind: 'takes',
    title: lesson.title,
    lessonId: '',
    at: new Date(begun).toISOString(),
    room: lesson.room.name,
    air: null,
    students: 1,
    level: 'experienced',
    plannedMin: sum('planned'),
    actualMin: sum('actual'),
    finished: 1,
    items,
    touches: [],
    paces: [],
    note: '',
    names: namesIn(lesson),
  };
}
