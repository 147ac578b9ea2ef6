import { say } from '@viaticum/contract';
import type { FilmCue, FilmPart, Shot, Timeline } from '@viaticum/core/film';
import { type Card, pieceRules } from '@viaticum/core/film';
import { minutesInWords } from '@viaticum/core/units';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { useRef } from 'react';
import { clockOf, filmWords } from '../../words/film.js';
import css from './video.module.css';

const w = filmWords.length;

/** How dense strokes lie, by how fast a piece runs: none at real time. */
const strokesFor = (speed: number): number => (speed < 1.1 ? 0 : Math.min(5, Math.ceil(Math.log2(speed))));
const GAPS = [0, 16, 10, 7, 5, 3.5];

/** Slates so far apart that they can be read. */
function apart(starts: readonly Shot[], frames: number): Shot[] {
  const found: Shot[] = [];
  for (const shot of starts) {
    const last = found.at(-1);
    if (!last || (shot.from - last.from) / frames >= APART) found.push(shot);
  }
  return found;
}
const APART = 0.032;

type Props = {
  timeline: Timeline;
  cards: readonly Card[];
  cues: readonly FilmCue[];
  parts: readonly FilmPart[];
  frame: number;
  chosen: string | null;
  onChoose: (pieceId: string, frame: number) => void;
  /** The chosen piece dragged to so many seconds; `isDone` when it is let go. */
  onDrag: (seconds: number, isDone: boolean) => void;
};

/** The film laid out: each take a bar as wide as it is shown, stroked the denser the faster it runs; drying as a slit. */
export function Track({ timeline, cards, cues, parts, frame, chosen, onChoose, onDrag }: Props) {
  const { shots, frames, fps } = timeline;
  const share = (at: number) => `${(100 * at) / Math.max(1, frames)}%`;
  const lane = useRef<HTMLDivElement>(null);
  const own = shots.find(({ piece }) => piece && piece.id === chosen);
  const starts = shots.filter((shot, i) => shots[i - 1]?.takeId !== shot.takeId);
  const marks = apart(starts, frames);
  /** [ and ] go from piece to piece. */
  const walk = ({ key }: React.KeyboardEvent) => {
    const by = key === ']' ? 1 : key === '[' ? -1 : 0;
    const pieces = shots.filter(({ piece }) => piece);
    const next = by === 0 ? undefined : pieces[(own ? pieces.indexOf(own) : -1) + by];
    if (next?.piece) onChoose(next.piece.id, next.from);
  };
  const grab = (event: React.PointerEvent<HTMLElement>) => {
    if (!own) return;
    const target = event.currentTarget;
    const box = lane.current?.getBoundingClientRect();
    if (!box) return;
    target.setPointerCapture(event.pointerId);
    const secondsAt = (x: number) => Math.max(0, ((x - box.left) / box.width) * (frames / fps) - own.from / fps);
    const move = (next: PointerEvent) => onDrag(secondsAt(next.clientX), false);
    const done = (next: PointerEvent) => {
      target.removeEventListener('pointermove', move);
      target.removeEventListener('pointerup', done);
      onDrag(secondsAt(next.clientX), true);
    };
    target.addEventListener('pointermove', move);
    target.addEventListener('pointerup', done);
  };
  return (
    <figure className={css.track} aria-label={w.track} data-testid="track" onKeyDown={walk}>
      <div className={css.lane} ref={lane}>
        {shots.map((shot) =>
          shot.kind === 'dry' ? (
            <span
              key={`dry ${shot.takeId} ${shot.from}`}
              className={css.slit}
              style={{ left: share(shot.from), width: share(shot.to - shot.from) }}
              title={say`${minutesInWords(shot.dryMin ?? 0)} later, dry`}
            />
          ) : (
            <Bar
              key={shot.piece?.id ?? `hold ${shot.takeId}`}
              shot={shot}
              timeline={timeline}
              isChosen={shot === own}
              isFirst={own === undefined && shot === shots[0]}
              onChoose={onChoose}
            />
          ),
        )}
        {parts.slice(1).map(({ number, from }) => (
          <span key={number} className={css.partLine} style={{ left: share(from) }} />
        ))}
        {own && <span className={css.handle} style={{ left: share(own.to) }} onPointerDown={grab} data-testid="handle" />}
        <span className={css.needle} style={{ left: share(frame) }} />
        {marks.map(({ takeId, slate, from }) => (
          <span key={takeId} className={css.slateMark} style={{ left: share(from) }}>
            {slate.replace(/^S0*/, '')}
          </span>
        ))}
      </div>
      <div className={css.said} aria-hidden>
        {cues.map(({ key, from, to }) => (
          <i key={key} style={{ left: share(from * fps), width: share((to - from) * fps) }} />
        ))}
      </div>
      <div className={css.cardsLane} aria-hidden>
        {cards.map(
          ({ key, from, to, isHidden }) => isHidden || <i key={key} style={{ left: share(from), width: share(to - from) }} />,
        )}
      </div>
      <div className={css.scale}>
        <span>0:00</span>
        <span>{clockOf(frames / fps / 2)}</span>
        <span>{clockOf(frames / fps)}</span>
      </div>
    </figure>
  );
}

function Bar({
  shot,
  timeline,
  isChosen,
  isFirst,
  onChoose,
}: {
  shot: Shot;
  timeline: Timeline;
  isChosen: boolean;
  isFirst: boolean;
  onChoose: Props['onChoose'];
}) {
  const { frames } = timeline;
  const dense = strokesFor(shot.speed);
  const name = shot.piece ? pieceRules[shot.piece.kind].name : 'held';
  const label = `${w.piece(shot.slate, name)}, ${shot.isJump ? w.jumped : w.speed(shot.speed)}`;
  const id = `h${shot.from}`;
  return (
    <Button
      type="text"
      className={clsx('plain', css.piece)}
      style={{ left: `${(100 * shot.from) / frames}%`, width: `${(100 * (shot.to - shot.from)) / frames}%` }}
      aria-label={label}
      aria-pressed={isChosen}
      title={label}
      tabIndex={isChosen || isFirst ? 0 : -1}
      onClick={() => shot.piece && onChoose(shot.piece.id, shot.from)}
    >
      <svg aria-hidden="true" preserveAspectRatio="none">
        {dense > 0 && (
          <>
            <defs>
              <pattern id={id} width={GAPS[dense]} height="10" patternUnits="userSpaceOnUse" patternTransform="skewX(-18)">
                <rect width="1.3" height="10" fill="var(--grey-37)" />
              </pattern>
            </defs>
            <rect width="100%" height="100%" fill={`url(#${id})`} />
          </>
        )}
        {shot.piece?.kind === 'speech' && <rect y="44%" width="100%" height="12%" fill="var(--grey-25)" />}
        {shot.piece?.kind === 'result' && <rect width="100%" height="100%" fill="var(--grey-67)" />}
        {shot.piece?.kind === 'key' && <rect width="100%" height="8" fill="var(--ink)" />}
      </svg>
    </Button>
  );
}
