import type { Lesson } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { minutesOf } from '../../plan/index.js';
import { mixedSeconds } from './doing.js';
import { filmPlan } from './film-plan.js';
import type { Take } from './takes.js';

/** What filming tells of a step's minutes: planned for the lesson's students, and what the filmed seconds make of it. */
export type FilmedMinutes = {
  stepId: string;
  title: string;
  slate: string;
  planned: number;
  suggested: number;
  filmedS: number;
  words: string;
};

/** Differences smaller than this, in minutes and as a share, are chance. */
const LEAST_MIN = 1;
const LEAST_SHARE = 0.2;
const half = (minutes: number): number => Math.max(0.5, Math.round(minutes * 2) / 2);
const clockOf = (seconds: number): string => `${Math.floor(seconds / 60)}:${String(Math.round(seconds) % 60).padStart(2, '0')}`;

/**
 * Takes whose noted time is another than planned, as suggestions for the minutes of their step: filmed work against the same work as the
 * experienced hand was planned to do it, in the same proportion for the lesson's students. Takes of several steps tell of none of them.
 */
export function filmedMinutes(lesson: Lesson, takes: readonly Take[]): FilmedMinutes[] {
  return takes.flatMap((take): FilmedMinutes[] => {
    const [stepId] = take.stepIds;
    if (take.kind !== 'canvas' || take.rawFrom !== 'noted' || take.stepIds.length !== 1) return [];
    const step = lesson.steps.find(({ id }) => id === stepId);
    if (!step) return [];
    const worked = take.pieces
      .filter(({ kind }) => kind !== 'speech' && kind !== 'result')
      .reduce((sum, { rawS }) => sum + rawS, 0);
    const minutes = filmPlan(lesson).minutes.get(step.id);
    if (!minutes) return [];
    const plannedS = minutes.doMin * 60;
    const planned = minutesOf(lesson).get(step.id)?.doMin ?? 0;
    // Mixing was filmed in takes of its own.
    const suggested = half((planned * (worked + mixedSeconds(lesson, step, minutes))) / Math.max(1, plannedS));
    const off = Math.abs(suggested - planned);
    if (off < LEAST_MIN || off < LEAST_SHARE * planned) return [];
    return [
      {
        stepId: step.id,
        title: step.title,
        slate: take.slate,
        planned,
        suggested,
        filmedS: worked,
        words: say`You took ${clockOf(worked)} for “${step.title}”; the lesson plans ${planned} min for its students. ${suggested} min would fit.`,
      },
    ];
  });
}
