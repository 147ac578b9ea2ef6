import { Button, Input, Slider } from 'antd';
import { useState } from 'react';
import { useSession } from '../../lesson/context.js';
import { clockOf, filmWords, readClock } from '../../words/film.js';
import type { Filmed } from './use-film.js';
import css from './video.module.css';

const w = filmWords.length;

const LONG = 2.4;
/** The wished length, and between what it can lie. */
export function Wish({ film: { cut, timeline, takes } }: { film: Filmed }) {
  const session = useSession();
  const { allocation, wishS, frames, fps } = timeline;
  const set = (lengthSec: number) => session.do('editCut', { id: cut.id, cut: { lengthSec } });
  const [drawn, setDrawn] = useState<number | null>(null);
  const { leastS, mostS } = allocation;
  // Longer than twice its least few films are; the field takes any length.
  const most = Math.ceil(Math.max(wishS, Math.min(mostS, leastS * LONG)));
  const spoken = timeline.shots.reduce((sum, { piece, from, to }) => sum + (piece?.kind === 'speech' ? to - from : 0), 0) / fps;
  return (
    <>
      <h2>{w.title}</h2>
      <div className={css.wish}>
        <Slider
          ariaLabelForHandle={w.wanted}
          min={Math.max(5, Math.floor(leastS))}
          max={most}
          step={5}
          value={drawn ?? Math.round(wishS)}
          tooltip={{ formatter: (value) => clockOf(value ?? 0) }}
          onChange={(value: number) => setDrawn(value)}
          onChangeComplete={(value: number) => {
            setDrawn(null);
            set(value);
          }}
        />
        <ClockField label={w.wanted} seconds={wishS} onSeconds={set} />
        {cut.lengthSec !== undefined && (
          <Button size="small" onClick={() => session.do('editCut', { id: cut.id, cut: {}, clear: ['lengthSec'] })}>
            {w.back}
          </Button>
        )}
      </div>
      <p className="numbers">
        {cut.isShort
          ? w.shortShows(clockOf(frames / fps), timeline.takes.length, takes.filter(({ isLeftOut }) => !isLeftOut).length)
          : w.shows(clockOf(spoken), clockOf(frames / fps))}
        ; {w.between(clockOf(leastS), clockOf(mostS))}
      </p>
    </>
  );
}

/** A length as "12:30" (or seconds, or "12 min"). */
function ClockField({ label, seconds, onSeconds }: { label: string; seconds: number; onSeconds: (seconds: number) => boolean }) {
  const [turn, setTurn] = useState(0);
  return (
    <Input
      key={`${seconds} ${turn}`}
      aria-label={label}
      defaultValue={clockOf(seconds)}
      style={{ width: 92 }}
      onPressEnter={(event) => (event.target as HTMLInputElement).blur()}
      onBlur={({ target }) => {
        const next = readClock(target.value);
        if (next !== null && Math.abs(next - seconds) > 0.5) onSeconds(next);
        setTurn(turn + 1);
      }}
    />
  );
}
