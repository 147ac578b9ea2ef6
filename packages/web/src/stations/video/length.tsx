import type { Lesson } from '@viaticum/contract';
import {
  type CutFinding,
  captionsOf,
  cardsOf,
  cutFindings,
  edlOf,
  jumpsOf,
  meantLength,
  partsOf,
  pressInWords,
  reachOfPiece,
  type Shot,
  timelineOf,
} from '@viaticum/core/film';
import { Button } from 'antd';
import { useMemo, useState } from 'react';
import { useSession } from '../../lesson/context.js';
import { Fold } from '../../ui/fold.js';
import { filmWords } from '../../words/film.js';
import { Animatic } from './animatic.js';
import { Chosen } from './chosen.js';
import { EditCut, NewCut } from './cut-keys.js';
import { Parts } from './parts.js';
import { saveText } from './save-text.js';
import { ShotTable } from './shot-table.js';
import { Track } from './track.js';
import { type Filmed, pieces, withFilm } from './use-film.js';
import css from './video.module.css';
import { Wish } from './wish.js';

const w = filmWords.length;
type Trial = { pieceId: string; sec: number };

/** How long the film shall be, how fast each piece runs for it, and how it will look. */
export function LengthTopic({ film }: { film: Filmed }) {
  const { lesson, cut, noted, setCutId } = film;
  const session = useSession();
  const [frame, setFrame] = useState(0);
  const [chosen, setChosen] = useState<string | null>(null);
  // What is dragged is tried out: the rest gives way at once, and it is kept when it is let go.
  const [trial, setTrial] = useState<Trial | null>(null);
  const timeline = useMemo(
    () => (trial ? timelineOf(tried(lesson, film.cuts, cut.id, trial), cut.id, noted) : film.timeline),
    [trial, lesson, film.cuts, film.timeline, cut.id, noted],
  );
  const shown = { ...film, timeline };
  const cards = useMemo(() => cardsOf(lesson, timeline), [lesson, timeline]);
  const { cues } = useMemo(() => captionsOf(lesson, timeline), [lesson, timeline]);
  const parts = useMemo(() => (cut.partSec ? partsOf(lesson, timeline, cut.partSec) : []), [cut.partSec, lesson, timeline]);
  const shot = timeline.shots.find(({ piece }) => piece && piece.id === chosen);
  const hold = (sec: number) => {
    setTrial(null);
    if (shot?.piece) session.do('dragPieces', { cutId: cut.id, pieces: [{ pieceId: shot.piece.id, sec: reached(shot, sec) }] });
  };
  return (
    <>
      <section aria-label={w.title}>
        <Wish film={shown} />
        <Findings film={shown} />
        <Track
          timeline={timeline}
          cards={cards}
          cues={cues}
          parts={parts}
          frame={frame}
          chosen={chosen}
          onChoose={(id, at) => {
            setChosen(id);
            setFrame(at);
          }}
          onDrag={(seconds, isDone) => {
            if (!shot?.piece) return;
            if (isDone) hold(seconds);
            else setTrial({ pieceId: shot.piece.id, sec: reached(shot, seconds) });
          }}
        />
        <p className="small quiet">{w.trackHelp}</p>
      </section>
      <div className={css.two}>
        <div className={css.beside}>
          {shot?.piece ? (
            <Chosen
              film={shown}
              shot={shot}
              onTry={(sec) => setTrial({ pieceId: shot.piece?.id as string, sec: reached(shot, sec) })}
              onHold={hold}
            />
          ) : (
            <p className={css.chosen}>{w.choose}</p>
          )}
          <p className="small">
            {w.press}: {pressInWords(timeline)}.
          </p>
        </div>
        <Animatic film={shown} frame={frame} onFrame={setFrame} />
      </div>
      <Jumps film={film} />
      <Parts film={film} parts={parts} />
      <Left film={film} />
      <div className={css.keys}>
        <Button
          onClick={() => {
            for (const own of pieces({ lesson, timeline, cut }))
              for (const [i, text] of edlOf(lesson, own).entries())
                saveText(`${lesson.title}, ${own.cut.name}${i > 0 ? ` ${i + 1}` : ''}.edl`, text, 'text/plain');
          }}
        >
          {w.edl}
        </Button>
        <NewCut onMade={setCutId} />
        <EditCut film={film} />
      </div>
      <Fold head={w.table}>
        <ShotTable timeline={timeline} lesson={lesson} />
      </Fold>
    </>
  );
}

const reached = ({ piece }: Shot, sec: number): number => {
  const [least, most] = piece ? reachOfPiece(piece) : [0, sec];
  return Math.round(Math.max(least, Math.min(most, sec)) * 10) / 10;
};

/** The lesson with a piece held to a length, without changing it. */
function tried(lesson: Lesson, cuts: Filmed['cuts'], cutId: string, { pieceId, sec }: Trial): Lesson {
  const next = cuts.map((one) =>
    one.id === cutId
      ? { ...one, fixed: [...(one.fixed ?? []).filter((fixed) => fixed.pieceId !== pieceId), { pieceId, sec }] }
      : one,
  );
  return withFilm(lesson, { ...lesson.film, cuts: next });
}

function Findings({ film: { cut, timeline, takes } }: { film: Filmed }) {
  const session = useSession();
  const found = cutFindings(timeline);
  if (found.length === 0) return null;
  const mend = (kind: CutFinding['mends'][number]['kind'], seconds = 0) => {
    if (kind === 'length') session.do('editCut', { id: cut.id, cut: { lengthSec: seconds } });
    else if (kind === 'parts')
      session.do('editCut', { id: cut.id, cut: { partSec: Math.max(60, seconds) }, clear: ['lengthSec'] });
    else for (const { id, say } of takes) if (say) session.do('setTake', { takeId: id, edit: { voice: 'after' } });
  };
  return (
    <ul data-testid="cut-findings">
      {found.map(({ code, words, mends, pieceIds = [] }) => (
        <li key={code} className={code === 'too-short' ? 'signal' : ''}>
          {words}{' '}
          {mends.map(({ kind, words: says, seconds }) => (
            <Button key={says} size="small" onClick={() => mend(kind, seconds)}>
              {says}
            </Button>
          ))}
          {pieceIds.length > 0 && (
            <Button
              size="small"
              onClick={() => {
                const shots = timeline.shots.filter(({ piece }) => piece && pieceIds.includes(piece.id));
                const pieces = shots.map((shot) => ({ pieceId: shot.piece?.id as string, sec: meantLength(shot) }));
                session.do('dragPieces', { cutId: cut.id, pieces });
              }}
            >
              {w.meant}
            </Button>
          )}
        </li>
      ))}
    </ul>
  );
}

const JUMPS_SHOWN = 4;
function Jumps({ film: { cut, timeline } }: { film: Filmed }) {
  const session = useSession();
  const jumps = jumpsOf(timeline).slice(0, JUMPS_SHOWN);
  if (jumps.length === 0) return null;
  return (
    <section aria-label={w.jumps}>
      <h3>{w.jumps}</h3>
      <ul>
        {jumps.map(({ pieceId, words }) => (
          <li key={pieceId}>
            {words}{' '}
            <Button size="small" onClick={() => session.do('dragPieces', { cutId: cut.id, pieces: [{ pieceId, sec: 3 }] })}>
              {w.jump}
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Takes that this cut could show and does not. */
function Left({ film: { cut, timeline } }: { film: Filmed }) {
  const session = useSession();
  const out = new Set(cut.leaveOut);
  const { left } = timeline;
  if (left.length === 0) return null;
  return (
    <Fold head={w.left(left.length)}>
      <ul>
        {left.map(({ id, slate, title }) => (
          <li key={id}>
            {slate} {title}{' '}
            {out.has(id) && (
              <Button size="small" onClick={() => session.do('leaveOutTake', { cutId: cut.id, takeId: id, isOut: false })}>
                {w.bringBack}
              </Button>
            )}
          </li>
        ))}
      </ul>
    </Fold>
  );
}
