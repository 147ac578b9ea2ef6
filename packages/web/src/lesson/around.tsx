import { useQuery } from '@tanstack/react-query';
import type { AroundAnswer, Around as Somebody } from '@viaticum/contract';
import { Tooltip } from 'antd';
import { nanoid } from 'nanoid';
import { useEffect } from 'react';
import { useLocation } from 'react-router';
import { call } from '../api/http.js';
import { readLesson } from '../api/queries.js';
import { sharingWords as w } from '../words/sharing.js';
import { words } from '../words/words.js';
import { useSession } from './context.js';
import css from './header.module.css';
import { isStation } from './rail.js';

const EVERY_MS = 1000;
const SEAT = 'viaticum-seat';
/**
 * This window, also after it has shown something else in between or was read anew. What is kept for that lies there only while no page is
 * shown: a window copied from this one finds nothing and takes a seat of its own.
 */
const seat = sessionStorage.getItem(SEAT) ?? nanoid(12);
sessionStorage.removeItem(SEAT);
addEventListener('pagehide', () => sessionStorage.setItem(SEAT, seat));
addEventListener('pageshow', () => sessionStorage.removeItem(SEAT));

/** Who else has this lesson open, where on the bench. What they save comes in here. */
export function Around() {
  const session = useSession();
  const [, , , place = ''] = useLocation().pathname.split('/');
  const { data } = useQuery({
    queryKey: ['around', session.id, seat, place],
    queryFn: () => call<AroundAnswer>('POST', `/api/lessons/${session.id}/here`, { seat, place }),
    refetchInterval: EVERY_MS,
    staleTime: 0,
    retry: false,
    placeholderData: (was) => was,
  });
  const isBehind = data !== undefined && data.revision > session.get().revision;
  useEffect(() => {
    if (!isBehind) return;
    let isOver = false;
    readLesson(session.id).then(
      (theirs) => !isOver && session.hear(theirs, data.savedBy),
      () => undefined,
    );
    return () => {
      isOver = true;
    };
  }, [isBehind, data, session]);
  if (!data || data.people.length === 0) return null;
  const [first, ...others] = data.people.map(sayOf);
  return (
    <Tooltip title={others.length > 0 ? [first, ...others].map((said) => <div key={said}>{said}</div>) : null}>
      <p className={css.around} role="status" data-testid="around">
        {first}
        {others.length > 0 && ` ${w.more(others.length)}`}
      </p>
    </Tooltip>
  );
}

function sayOf({ name, isYou, place, role }: Somebody): string {
  const where = isStation(place) ? w.at(words.stations[place]) : '';
  const said = isYou ? w.aroundYou(where) : role === 'reader' ? w.reads(name) : w.around(name, where);
  return said.replace(/, $/, '');
}
