import { useQuery } from '@tanstack/react-query';
import type { Lesson } from '@viaticum/contract';
import {
  cutsOf,
  notedSeconds,
  partsOf,
  partTimeline,
  shootState,
  type Take,
  type Timeline,
  takesOf,
  timelineOf,
} from '@viaticum/core/film';
import { useMemo } from 'react';
import { useParams } from 'react-router';
import { shootQuery } from '../../api/film-queries.js';
import { useLesson, useWorkedOut } from '../../lesson/context.js';
import { useRemembered } from '../../ui/use-remembered.js';

/** The film of the lesson that is open: its takes, the cut that is looked at, and what was noted while filming. */
export function useFilm() {
  const { id = '' } = useParams();
  const worked = useWorkedOut();
  const own = useLesson();
  // What is said of the film counts at once, also while areas are still worked out.
  const lesson = useMemo((): Lesson => (worked.film === own.film ? worked : withFilm(worked, own.film)), [worked, own.film]);
  const { data: notes } = useQuery(shootQuery(id));
  const states = useMemo(() => shootState(notes ?? []), [notes]);
  const noted = useMemo(() => notedSeconds(states), [states]);
  const takes = useMemo((): Take[] => takesOf(lesson, noted), [lesson, noted]);
  const cuts = cutsOf(lesson);
  const [chosen, setCutId] = useRemembered<string>(`viaticum-cut-${id}`, 'full');
  const cut = cuts.find((one) => one.id === chosen) ?? (cuts[0] as (typeof cuts)[number]);
  const timeline = useMemo((): Timeline => timelineOf(lesson, cut.id, noted), [lesson, cut.id, noted]);
  return { id, lesson, notes: notes ?? [], states, noted, takes, cuts, cut, setCutId, timeline };
}
export type Filmed = ReturnType<typeof useFilm>;

export function withFilm(lesson: Lesson, film: Lesson['film']): Lesson {
  const { film: _, ...rest } = lesson;
  return film ? { ...rest, film } : rest;
}

/** What is saved of a cut: the whole, or each of its parts as a film of its own. */
export function pieces({ lesson, timeline, cut }: Pick<Filmed, 'lesson' | 'timeline' | 'cut'>): Timeline[] {
  const parts = cut.partSec && !cut.isShort ? partsOf(lesson, timeline, cut.partSec) : [];
  return parts.length > 1 ? parts.map((part) => partTimeline(timeline, part)) : [timeline];
}
