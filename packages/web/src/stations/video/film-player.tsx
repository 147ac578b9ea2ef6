import { Button, Slider } from 'antd';
import { type RefObject, useState } from 'react';
import { clockOf, filmWords } from '../../words/film.js';
import css from './video.module.css';

const w = filmWords.films;

/** A film with its keys: play, and where it stands. S marks a stroke. */
export function FilmPlayer({
  ref,
  src,
  label,
  onStroke,
}: {
  ref: RefObject<HTMLVideoElement | null>;
  src: string;
  label: string;
  onStroke: () => void;
}) {
  const [at, setAt] = useState(0);
  const [length, setLength] = useState(0);
  const [isPlaying, setPlaying] = useState(false);
  const seek = (seconds: number) => {
    if (ref.current) ref.current.currentTime = seconds;
    setAt(seconds);
  };
  const toggle = () => {
    if (ref.current?.paused) void ref.current.play();
    else ref.current?.pause();
  };
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: keys for what its buttons do
    <div
      className={css.player}
      onKeyDown={({ key, target }) => {
        if (key.toLowerCase() === 's') onStroke();
        if (key === ' ' && target === ref.current) toggle();
      }}
    >
      {/* biome-ignore lint/a11y/useMediaCaption: its captions stand beside it where it has any */}
      <video
        ref={ref}
        className={css.filmPlayer}
        src={src}
        preload="metadata"
        playsInline
        aria-label={label}
        onLoadedMetadata={({ currentTarget }) => setLength(Number.isFinite(currentTarget.duration) ? currentTarget.duration : 0)}
        onDurationChange={({ currentTarget }) => setLength(Number.isFinite(currentTarget.duration) ? currentTarget.duration : 0)}
        onTimeUpdate={({ currentTarget }) => setAt(currentTarget.currentTime)}
        onPlay={() => setPlaying(true)}
        onPause={() => setPlaying(false)}
      />
      <div className={css.playLine}>
        <Button type="primary" onClick={toggle}>
          {isPlaying ? w.pause : w.play}
        </Button>
        <Slider
          ariaLabelForHandle={w.place}
          min={0}
          max={Math.max(0.1, length)}
          step={0.1}
          value={Math.min(at, length)}
          tooltip={{ formatter: (value) => clockOf(value ?? 0) }}
          onChange={seek}
        />
        <span className="numbers small">
          {clockOf(at)} / {clockOf(length)}
        </span>
      </div>
    </div>
  );
}
