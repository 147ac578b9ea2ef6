import { currentItem } from '@viaticum/core/class';
import { Button, Select } from 'antd';
import { clsx } from 'clsx';
import { useEffect, useRef, useState } from 'react';
import { deskWords as w } from '../../words/desk.js';
import { END_MS, filmOf, speeds } from '../film/film-state.js';
import deskCss from './desk.module.css';
import css from './near-film.module.css';
import type { DeskParts } from './parts.js';

const EVERY_MS = 1000;

/** The film of the step that the class is at, played for all: every phone follows, and all wait at the end of the step. */
export function HostFilm({ connection, live, sheet, code }: DeskParts) {
  const video = useRef<HTMLVideoElement>(null);
  const [rate, setRate] = useState(1);
  const item = currentItem(live.state);
  const own = filmOf(sheet, item?.stepId);
  const told = useRef({ at: 0, key: '' });
  const filmId = own?.film.id;
  const chapter = own?.chapter;
  const fromMs = chapter?.fromMs ?? 0;
  const toMs = chapter?.toMs ?? 0;
  useEffect(() => {
    if (video.current) video.current.currentTime = fromMs / 1000;
  }, [fromMs]);
  if (!own || !filmId) return null;
  const tell = (isPlaying: boolean) => {
    const node = video.current;
    if (!node) return;
    const atMs = Math.round(Math.max(fromMs, Math.min(toMs, node.currentTime * 1000)));
    const key = `${isPlaying} ${node.playbackRate}`;
    // Nothing new is told at most once a second; what is new at once.
    if (key === told.current.key && connection.now() - told.current.at < EVERY_MS) return;
    told.current = { at: connection.now(), key };
    void connection.say({ type: 'film', filmId, atMs, isPlaying, rate: node.playbackRate });
  };
  const moved = () => {
    const node = video.current;
    if (!node || node.paused || node.currentTime * 1000 < toMs - END_MS) return;
    node.pause();
  };
  const students = Object.values(live.state.students);
  const done = students.filter(({ doneAt }) => item?.stepId && doneAt[item.stepId] !== undefined).length;
  return (
    <section className={css.film} aria-label={w.film.title}>
      <h2>{w.film.title}</h2>
      {/* biome-ignore lint/a11y/useMediaCaption: phones show its captions */}
      <video
        ref={video}
        src={`/api/join/${encodeURIComponent(code)}/films/${own.film.fileSha256}`}
        preload="metadata"
        aria-label={own.film.name}
        onLoadedMetadata={(event) => {
          event.currentTarget.currentTime = fromMs / 1000;
        }}
        onTimeUpdate={moved}
        onPlay={() => tell(true)}
        onPause={() => tell(false)}
        onSeeked={() => tell(!(video.current?.paused ?? true))}
      />
      <div className={css.keys}>
        <Button
          type="text"
          className={clsx('plain', deskCss.deskKey, 'small')}
          onClick={() => (video.current?.paused ? void video.current.play() : video.current?.pause())}
        >
          {w.film.play}
        </Button>
        <Button
          type="text"
          className={clsx('plain', deskCss.deskKey, 'small')}
          onClick={() => {
            if (video.current) video.current.currentTime = Math.max(fromMs / 1000, video.current.currentTime - 8);
          }}
        >
          {w.film.back}
        </Button>
        <Button
          type="text"
          className={clsx('plain', deskCss.deskKey, 'small')}
          onClick={() => {
            if (video.current) video.current.currentTime = fromMs / 1000;
          }}
        >
          {w.film.again}
        </Button>
        <Select
          aria-label={w.film.speed}
          value={rate}
          options={speeds.map((value) => ({ value, label: `${value}×` }))}
          onChange={(value: number) => {
            setRate(value);
            if (video.current) {
              video.current.playbackRate = value;
              tell(!video.current.paused);
            }
          }}
        />
      </div>
      <p className={deskCss.deskQuiet}>{w.film.done(done, students.length)}</p>
    </section>
  );
}
