import { pieceRules, reachOfPiece, type Shot, type Take } from '@viaticum/core/film';
import { Button, Slider } from 'antd';
import { useSession } from '../../lesson/context.js';
import { clockOf, filmWords } from '../../words/film.js';
import type { Filmed } from './use-film.js';
import css from './video.module.css';

const w = filmWords.length;

/** The piece that is looked at: how it runs, and held to a length. */
export function Chosen({
  film,
  shot,
  onTry,
  onHold,
}: {
  film: Filmed;
  shot: Shot;
  onTry: (sec: number) => void;
  onHold: (sec: number) => void;
}) {
  const { cut, timeline } = film;
  const session = useSession();
  const { piece } = shot;
  if (!piece) return null;
  const take = timeline.takes.find(({ id }) => id === shot.takeId) as Take;
  const [least, most] = reachOfPiece(piece);
  const seconds = (shot.to - shot.from) / timeline.fps;
  const isHeld = cut.fixed?.some(({ pieceId }) => pieceId === piece.id) ?? false;
  return (
    <div className={css.chosen} data-testid="piece">
      <b>
        {take.slate} {take.title}: {pieceRules[piece.kind].name}
      </b>
      <span className="numbers">
        {w.shown} {seconds.toFixed(1)} s, {w.filmed(clockOf(piece.rawS))}, {shot.isJump ? w.jumped : w.speed(shot.speed)}
        {isHeld && `, ${w.held}`}
      </span>
      {most - least < 0.2 && <span className="small quiet">{w.asItIs}</span>}
      <Slider
        ariaLabelForHandle={w.shown}
        min={Math.round(least * 10) / 10}
        max={Math.round(most * 10) / 10}
        step={0.1}
        value={Math.round(seconds * 10) / 10}
        style={most - least < 0.2 ? { display: 'none' } : undefined}
        onChange={(value: number) => onTry(value)}
        onChangeComplete={(value: number) => onHold(value)}
      />
      {most - least >= 0.2 && <span className="small quiet">{w.reach(`${least.toFixed(1)} s`, `${most.toFixed(1)} s`)}</span>}
      <span className={css.keys}>
        {isHeld && (
          <Button
            size="small"
            onClick={() => session.do('dragPieces', { cutId: cut.id, pieces: [{ pieceId: piece.id, sec: null }] })}
          >
            {w.free}
          </Button>
        )}
        <Button size="small" onClick={() => session.do('leaveOutTake', { cutId: cut.id, takeId: take.id, isOut: true })}>
          {w.leaveOut}
        </Button>
      </span>
    </div>
  );
}
