import { useQuery } from '@tanstack/react-query';
import type { LessonCard } from '@viaticum/contract';
import { followSheet } from '@viaticum/core/lesson';
import { planInWords, planLesson } from '@viaticum/core/plan';
import { sizeInWords } from '@viaticum/core/units';
import { useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { lessonsQuery, pictureUrl, useSignOut } from '../api/queries.js';
import { StageCanvas } from '../ui/stage-canvas.js';
import { layersAt } from '../ui/stage-layers.js';
import { words } from '../words.js';
import { NewLesson } from './new-lesson.js';
import './shelf.css';

/** Pixels per mm: the tallest canvas of the shelf stands at most this high. */
const TALLEST_PX = 330;
const MOST_PX_PER_MM = 0.62;

/** The lessons as canvases in true proportion, small against large, standing on a shelf. */
export default function Shelf() {
  const { data: lessons, error } = useQuery(lessonsQuery);
  const [isNew, setNew] = useState(false);
  const signOut = useSignOut();
  const navigate = useNavigate();
  const tallest = Math.max(1, ...(lessons ?? []).map((card) => card.document.support.heightMm));
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
        {lessons?.map((card) => (
          <Standing key={card.id} card={card} scale={scale} />
        ))}
      </ul>
      {isNew && <NewLesson onClose={() => setNew(false)} />}
    </main>
  );
}

function Standing({ card, scale }: { card: LessonCard; scale: number }) {
  const { document } = card;
  const { widthMm, heightMm } = document.support;
  const [reference] = document.references;
  const { plan, sheet } = useMemo(() => ({ plan: planLesson(document).plan, sheet: followSheet(document) }), [document]);
  const style = { width: widthMm * scale, height: heightMm * scale };
  const painted = document.steps.length > 0;
  return (
    <li style={{ width: Math.max(style.width, 132) }}>
      <Link to={`/lesson/${card.id}`} className="standing" aria-label={words.shelf.open(card.title)}>
        <span className="standing-canvas" style={style}>
          {painted || !reference ? (
            <StageCanvas sheet={sheet} layers={layersAt(sheet, plan, Number.POSITIVE_INFINITY)} label="" shownPx={style.width} />
          ) : (
            <img src={pictureUrl(reference.pictureSha256, 'thumb')} alt="" />
          )}
        </span>
      </Link>
      <div className="standing-words">
        <h2>{card.title}</h2>
        <p className="quiet small">
          {sizeInWords(widthMm, heightMm, document.units)}, {words.shelf.steps(document.steps.length)}
          {painted && <br />}
          {painted && planInWords(plan)}
        </p>
      </div>
    </li>
  );
}
