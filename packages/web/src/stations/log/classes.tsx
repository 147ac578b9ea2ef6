import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import type { FoundLesson } from '@viaticum/contract';
import { Button, Input, Segmented } from 'antd';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../../api/http.js';
import { LOG_URL, logQuery } from '../../api/log-queries.js';
import { lessonsQuery } from '../../api/queries.js';
import { useSession } from '../../lesson/context.js';
import { logWords } from '../../words/log.js';
import css from './log.module.css';
import { Logged } from './logged.js';

const w = logWords.classes;
const SHOWN_LESSONS = 12;

/** Classes that were taught, the newest first: looked for, compared, noted. */
export function Classes() {
  const { id } = useSession();
  const [scope, setScope] = useState<'lesson' | 'all'>('lesson');
  const [words, setWords] = useState('');
  const { data, error, hasNextPage, fetchNextPage, isFetching } = useInfiniteQuery({
    ...logQuery(scope === 'lesson' ? id : null, words),
    staleTime: 0,
  });
  const all = data?.pages.flat() ?? [];
  return (
    <section aria-label={w.title}>
      <h2>{w.title}</h2>
      <div className={css.asked}>
        <Input.Search
          aria-label={w.find}
          placeholder={w.findLong}
          allowClear
          maxLength={120}
          onSearch={(text) => setWords(text.trim())}
        />
        <Segmented
          aria-label={w.which}
          value={scope}
          onChange={setScope}
          options={(['lesson', 'all'] as const).map((value) => ({ value, label: w.scopes[value] }))}
        />
        {all.length > 0 && (
          <Button href={LOG_URL} download>
            {w.save}
          </Button>
        )}
      </div>
      {error && (
        <p className="signal" role="alert">
          {error.message}
        </p>
      )}
      {data && all.length === 0 && <p>{words ? w.nothing : w.none}</p>}
      <ul className={css.classes} data-testid="logged">
        {all.map((one) => (
          <Logged key={one.id} one={one} />
        ))}
      </ul>
      {scope === 'all' && words !== '' && <InLessons words={words} />}
      {hasNextPage && (
        <Button loading={isFetching} onClick={() => void fetchNextPage()}>
          {w.older}
        </Button>
      )}
    </section>
  );
}

/** Lessons with these words, beside the classes: what is looked for may never have been taught. */
function InLessons({ words }: { words: string }) {
  const { data: found } = useQuery({
    queryKey: ['lessons', 'found', words],
    queryFn: () => call<FoundLesson[]>('GET', `/api/shelf/found?words=${encodeURIComponent(words)}`),
  });
  const { data: lessons } = useQuery(lessonsQuery);
  const rows = (found ?? []).flatMap((one) => {
    const title = lessons?.find(({ id }) => id === one.id)?.title;
    return title === undefined ? [] : [{ ...one, title }];
  });
  if (rows.length === 0) return null;
  return (
    <>
      <h3>{w.inLessons}</h3>
      <ul className={css.plain} data-testid="found-lessons">
        {rows.slice(0, SHOWN_LESSONS).map(({ id, title, places }) => (
          <li key={id}>
            <Link to={`/lesson/${id}`}>{title}</Link>{' '}
            <span className="quiet small">{[...new Set(places.map(({ name }) => name))].slice(0, 3).join(', ')}</span>
          </li>
        ))}
      </ul>
    </>
  );
}
