import { useInfiniteQuery } from '@tanstack/react-query';
import type { LessonCard } from '@viaticum/contract';
import { planInWords } from '@viaticum/core/plan';
import { sizeInWords } from '@viaticum/core/units';
import { Button } from 'antd';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { finishedUrl, lessonsQuery, pictureUrl, useSignOut } from '../api/queries.js';
import { Themed } from '../ui/themed.js';
import { words } from '../words/words.js';
import { NewLesson } from './new-lesson.js';
import './shelf.css';

/** Pixels per mm: the tallest canvas of the shelf stands at most this high. */
const TALLEST_PX = 330;
const MOST_PX_PER_MM = 0.62;

/** The lessons as canvases in true proportion, small against large, standing on a shelf. */
export default function Shelf() {
  const { data: lessons, error, hasNextPage, isFetchingNextPage, fetchNextPage } = useInfiniteQuery(lessonsQuery);
  const [isNew, setNew] = useState(false);
  const signOut = useSignOut();
  const navigate = useNavigate();
  const tallest = Math.max(1, ...(lessons ?? []).map(({ card }) => card.heightMm));
  const scale = Math.min(MOST_PX_PER_MM, TALLEST_PX / tallest);
  return (
    <main className="shelf">
      <header>
        <h1>{words.shelf.title}</h1>
        <button type="button" className="key main" onClick={() => setNew(true)}>
          {words.shelf.fresh}
        </button>
        <button
          type="button"
          className="key bare"
          onClick={() => signOut.mutate(undefined, { onSuccess: () => navigate('/sign-in') })}
        >
          {words.shelf.signOut}
        </button>
      </header>
      {error && <p role="alert">{error.message}</p>}
      {lessons?.length === 0 && <p className="quiet shelf-empty">{words.shelf.empty}</p>}
      <ul className="shelf-board">
        {lessons?.map((lesson) => (
          <Standing key={lesson.id} lesson={lesson} scale={scale} />
        ))}
      </ul>
      {hasNextPage && (
        <Themed>
          <Button loading={isFetchingNextPage} onClick={() => void fetchNextPage()}>
            {words.shelf.older}
          </Button>
        </Themed>
      )}
      {isNew && <NewLesson onClose={() => setNew(false)} />}
    </main>
  );
}

function Standing({ lesson, scale }: { lesson: LessonCard; scale: number }) {
  const { id, title, revision, card } = lesson;
  const size = { width: card.widthMm * scale, height: card.heightMm * scale };
  return (
    <li style={{ width: Math.max(size.width, 132) }}>
      <Link to={`/lesson/${id}`} className="standing" aria-label={words.shelf.open(title)}>
        <span className="standing-canvas" style={size}>
          <Shown
            first={card.pictureSha256 && pictureUrl(card.pictureSha256, 'thumb')}
            then={card.lastStepId && finishedUrl(id, revision)}
          />
        </span>
      </Link>
      <div className="standing-words">
        <h2>{title}</h2>
        <p className="quiet small">
          {sizeInWords(card.widthMm, card.heightMm, card.units)}, {words.shelf.steps(card.steps)}
          {card.endMin !== null && <br />}
          {card.endMin !== null && planInWords({ endMin: card.endMin, waitMin: card.waitMin })}
        </p>
      </div>
    </li>
  );
}

/** The picture that is painted from, at once; over it the finished painting, when it has been painted. */
function Shown({ first, then }: { first: string | null; then: string | null }) {
  const [isThere, setThere] = useState(false);
  return (
    <>
      {first && !isThere && <img src={first} alt="" loading="lazy" />}
      {then && <img src={then} alt="" hidden={!isThere} onLoad={() => setThere(true)} />}
    </>
  );
}
