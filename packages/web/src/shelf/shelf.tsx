import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { FoundLesson, LessonCard } from '@viaticum/contract';
import { Button, Empty, Input, Segmented, Select } from 'antd';
import { startTransition, useDeferredValue, useEffect, useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { call } from '../api/http.js';
import { lessonsQuery, useShelf, useSignOut } from '../api/queries.js';
import { NewLesson } from '../begin/begin.js';
import { LinkKey } from '../ui/link-key.js';
import { useRemembered } from '../ui/use-remembered.js';
import { shelfWords as w } from '../words/shelf.js';
import { words } from '../words/words.js';
import { BackedUp } from './backed-up.js';
import { Bin } from './bin.js';
import { BringIn } from './bring-in.js';
import { Courses, NewCourse } from './courses.js';
import { Due } from './due.js';
import css from './shelf.module.css';
import { Standing } from './standing.js';

/** Pixels per mm: the tallest canvas of the shelf stands at most this high. */
const TALLEST_PX = 330;
const MOST_PX_PER_MM = 0.62;
/** A shelf of fewer needs neither search nor order. */
const FEW = 5;
/** So many canvases fill more than a screen. */
const AT_ONCE = 40;

type Sort = keyof typeof w.sorts;
const area = ({ card }: LessonCard) => card.widthMm * card.heightMm;
const orders: Record<Sort, (one: LessonCard, other: LessonCard) => number> = {
  changed: () => 0,
  title: (one, other) => one.title.localeCompare(other.title),
  size: (one, other) => area(one) - area(other),
  time: (one, other) => (one.card.endMin ?? Number.MAX_VALUE) - (other.card.endMin ?? Number.MAX_VALUE),
};

/** The lessons as canvases in true proportion, small against large, standing on a shelf. */
export default function Shelf() {
  const { data: all, error } = useQuery(lessonsQuery);
  const [isNew, setNew] = useState(false);
  const [isLooking, setLooking] = useState(false);
  const signOut = useSignOut();
  // Of the whole shelf: what is said about a lesson is said after it has gone from it, too.
  const acts = useShelf();
  const navigate = useNavigate();
  const seen = useSeen(all);
  const board = useInTurn(seen.lessons);
  const tallest = Math.max(1, ...(all ?? []).map(({ card }) => card.heightMm));
  const scale = Math.min(MOST_PX_PER_MM, TALLEST_PX / tallest);
  return (
    <main className={css.shelf}>
      <header>
        <h1>{words.shelf.title}</h1>
        <Button type="primary" onClick={() => setNew(true)}>
          {words.shelf.fresh}
        </Button>
        {all && all.length > 1 && <NewCourse />}
        <BringIn />
        <Button type="text" onClick={() => setLooking(true)}>
          {words.shelf.bin}
        </Button>
        <LinkKey type="text" to="/account">
          {words.shelf.account}
        </LinkKey>
        <Button type="text" onClick={() => signOut.mutate(undefined, { onSuccess: () => navigate('/sign-in') })}>
          {words.shelf.signOut}
        </Button>
      </header>
      <BackedUp />
      <Due />
      {error && <p role="alert">{error.message}</p>}
      {all?.length === 0 && (
        <Empty className={css.shelfEmpty} image={false} description={words.shelf.empty}>
          <Button type="primary" onClick={() => setNew(true)}>
            {words.shelf.fresh}
          </Button>
        </Empty>
      )}
      <Courses />
      {seen.isLarge && <Seeking {...seen} />}
      {all && all.length > 0 && seen.lessons.length === 0 && !seen.isSeeking && (
        <p className="quiet">{seen.isAway && seen.sought === '' ? w.noneAway : w.none}</p>
      )}
      <ul className={css.shelfBoard}>
        {board.map((lesson) => (
          <Standing
            key={lesson.id}
            lesson={lesson}
            scale={scale}
            acts={acts}
            labels={seen.labels}
            places={seen.places.get(lesson.id)}
          />
        ))}
      </ul>
      {isLooking && <Bin restore={acts.restore.mutateAsync} onClose={() => setLooking(false)} />}
      {isNew && <NewLesson onClose={() => setNew(false)} />}
    </main>
  );
}

/** The first of a long list at once, the rest as soon as they stand. */
function useInTurn<T>(list: readonly T[]): readonly T[] {
  const [isWhole, setWhole] = useState(false);
  useEffect(() => {
    if (list.length > 0) startTransition(() => setWhole(true));
  }, [list.length]);
  return isWhole ? list : list.slice(0, AT_ONCE);
}

const nowhere: FoundLesson[] = [];

/** Which lessons are seen, in which order: what is sought, by label, on the shelf or put away. */
function useSeen(all: readonly LessonCard[] | undefined) {
  const [sought, setSought] = useState('');
  const [sort, setSort] = useRemembered<Sort>('viaticum-shelf-order', 'changed');
  const [label, setLabel] = useState<string | null>(null);
  const [isAway, setAway] = useState(false);
  const asked = useDeferredValue(sought.trim());
  const { data: found, isFetching } = useQuery({
    queryKey: ['lessons', 'found', asked],
    queryFn: () => call<FoundLesson[]>('GET', `/api/shelf/found?words=${encodeURIComponent(asked)}`),
    enabled: asked !== '',
    placeholderData: keepPreviousData,
  });
  const hits = asked === '' ? null : (found ?? nowhere);
  const places = useMemo(() => new Map(hits?.map((one) => [one.id, one.places])), [hits]);
  const labels = useMemo(() => [...new Set((all ?? []).flatMap((one) => one.labels))].sort(), [all]);
  const isLabel = label !== null && labels.includes(label);
  const lessons = useMemo(
    () =>
      (all ?? [])
        .filter((one) => one.isArchived === isAway && (!isLabel || one.labels.includes(label)))
        .filter((one) => hits === null || places.has(one.id))
        // The server gives the last changed first; what is alike stays so.
        .sort(orders[sort] ?? orders.changed),
    [all, isAway, isLabel, label, hits, places, sort],
  );
  const isLarge = (all?.length ?? 0) > FEW || labels.length > 0 || (all ?? []).some((one) => one.isArchived);
  return {
    ...{ lessons, places, labels, isLarge, isSeeking: isFetching && found === undefined },
    ...{ sought, setSought, sort, setSort, label: isLabel ? label : null, setLabel, isAway, setAway },
  };
}

function Seeking(seen: ReturnType<typeof useSeen>) {
  const { sought, setSought, sort, setSort, label, setLabel, labels, isAway, setAway, lessons } = seen;
  return (
    <section aria-label={w.find} className={css.seeking}>
      <Input.Search
        allowClear
        aria-label={w.find}
        placeholder={w.findAbout}
        maxLength={120}
        value={sought}
        className={css.sought}
        onChange={(event) => setSought(event.target.value)}
      />
      <Segmented
        aria-label={w.which}
        value={isAway ? 'away' : 'there'}
        options={[
          { value: 'there', label: w.there },
          { value: 'away', label: w.away },
        ]}
        onChange={(which) => setAway(which === 'away')}
      />
      {labels.length > 0 && (
        <Select
          allowClear
          aria-label={w.label}
          placeholder={w.anyLabel}
          value={label}
          style={{ minWidth: 150 }}
          options={labels.map((one) => ({ value: one, label: one }))}
          onChange={(one) => setLabel(one ?? null)}
        />
      )}
      <Select
        aria-label={w.sort}
        value={sort}
        style={{ minWidth: 190 }}
        options={Object.entries(w.sorts).map(([value, said]) => ({ value, label: said }))}
        onChange={(one) => setSort(one as Sort)}
      />
      <span className="quiet small">{w.count(lessons.length)}</span>
    </section>
  );
}
