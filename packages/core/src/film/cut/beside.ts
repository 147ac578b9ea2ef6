import type { JoinedFilm, Lesson } from '@viaticum/contract';
import { chaptersOf } from './chapters.js';
import type { Timeline } from './cuts.js';

/** The chapters and strokes of a cut, stretched to a film's length. */
export function placesIn(lesson: Lesson, timeline: Timeline, durationMs: number): Pick<JoinedFilm, 'chapters' | 'strokes'> {
  const by = durationMs / Math.max(1, timeline.frames / timeline.fps);
  const at = (seconds: number) => Math.min(durationMs, Math.round(seconds * by));
  return {
    chapters: chaptersOf(lesson, timeline).flatMap(({ stepId, from, to }) =>
      stepId === null || at(to) <= at(from) ? [] : [{ stepId, fromMs: at(from), toMs: at(to) }],
    ),
    strokes: timeline.shots.flatMap(({ piece, stepId, from }) =>
      piece?.kind === 'key' && stepId ? [{ stepId, atMs: at(from / timeline.fps) }] : [],
    ),
  };
}
