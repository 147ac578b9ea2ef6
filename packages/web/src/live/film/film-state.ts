import type { FollowSheet, JoinedFilm } from '@viaticum/contract';

type Chapter = JoinedFilm['chapters'][number];
export type FilmOfStep = { film: JoinedFilm; chapter: Chapter };

/** The film of a step and its stretch in it: of several films the first that has it. */
export function filmOf(sheet: Pick<FollowSheet, 'films'>, stepId: string | undefined): FilmOfStep | null {
  for (const film of sheet.films ?? []) {
    const chapter = film.chapters.find((one) => one.stepId === stepId);
    if (chapter) return { film, chapter };
  }
  return null;
}

/** It stops so far before the end of a step's stretch, that nothing of the next is seen. */
export const END_MS = 100;
/** Going back: a stroke that began less long ago is not the one meant; pressed again within so long, the one before. */
const RECENT_MS = 1000;
const AGAIN_MS = 3000;
/** Without marked strokes it goes back so far. */
const BACK_MS = 8000;

export type Rewound = { toMs: number; at: number };

/**
 * Where "again from this stroke" goes: the last stroke marked a second ago or more; pressed twice within three seconds the one before it;
 * without strokes eight seconds back. Never before the step's own beginning. Times of the film in ms; `at` and `last.at` of the clock.
 */
export function strokeBefore({ film, chapter }: FilmOfStep, nowMs: number, at: number, last: Rewound | null): Rewound {
  const strokes = film.strokes.filter(({ atMs }) => atMs >= chapter.fromMs && atMs < chapter.toMs).map(({ atMs }) => atMs);
  const isAgain = last !== null && at - last.at < AGAIN_MS;
  const limit = isAgain ? last.toMs - 1 : nowMs - RECENT_MS;
  const found = strokes.filter((atMs) => atMs <= limit).at(-1);
  const toMs = found ?? (strokes.length > 0 ? chapter.fromMs : Math.max(chapter.fromMs, nowMs - BACK_MS));
  return { toMs, at };
}

export const speeds = [0.5, 0.75, 1, 1.25, 1.5, 2] as const;
/** What a phone keeps of a film: where it stood, and how fast it ran. */
export type KeptPlace = { filmId: string; ms: number; rate: number };
