import { lowered } from '@viaticum/core/units';
import { Button, Slider } from 'antd';
import { useEffect, useRef, useState } from 'react';
import { saveFile } from '../../ui/save-file.js';
import { clockOf, filmWords } from '../../words/film.js';
import { drawFrame, easelSeconds } from './film-picture.js';
import type { FilmSize } from './save-film.js';
import { useAnimatic } from './use-animatic.js';
import type { Filmed } from './use-film.js';
import css from './video.module.css';

const w = filmWords.play;

/** The film before it is filmed: stages, cards and captions in their time, and saved as a file. */
export function Animatic({ film, frame, onFrame }: { film: Filmed; frame: number; onFrame: (frame: number) => void }) {
  const parts = useAnimatic(film);
  const { timeline } = film;
  const canvas = useRef<HTMLCanvasElement>(null);
  const [isPlaying, setPlaying] = useState(false);
  const last = Math.max(0, timeline.frames - 1);
  const at = Math.min(frame, last);
  useEffect(() => {
    const ctx = canvas.current?.getContext('2d', { alpha: false });
    if (ctx) drawFrame(ctx, parts, at);
  }, [parts, at]);
  const latest = useRef(at);
  useEffect(() => {
    latest.current = at;
  }, [at]);
  useEffect(() => {
    if (!isPlaying) return;
    const begun = performance.now() - (latest.current / timeline.fps) * 1000;
    let handle = requestAnimationFrame(function step(now) {
      const next = Math.floor(((now - begun) / 1000) * timeline.fps);
      if (next >= last) {
        onFrame(last);
        setPlaying(false);
        return;
      }
      if (next !== latest.current) onFrame(next);
      handle = requestAnimationFrame(step);
    });
    return () => cancelAnimationFrame(handle);
  }, [isPlaying, timeline.fps, last, onFrame]);
  return (
    <section aria-label={w.title} className={css.player} data-testid="animatic">
      <canvas ref={canvas} className={css.screen} width={960} height={540} aria-label={w.title} />
      <Slider
        ariaLabelForHandle={w.place}
        min={0}
        max={last}
        value={at}
        tooltip={{ formatter: (value) => clockOf((value ?? 0) / timeline.fps) }}
        onChange={(value: number) => {
          setPlaying(false);
          onFrame(value);
        }}
      />
      <p className="numbers small">{w.clock(clockOf(at / timeline.fps), clockOf(easelSeconds(timeline, at)))}</p>
      <div className={css.playKeys}>
        <Button
          type="primary"
          onClick={() => {
            if (!isPlaying && at >= last) onFrame(0);
            setPlaying(!isPlaying);
          }}
        >
          {isPlaying ? w.pause : w.play}
        </Button>
        <Save parts={parts} name={`${film.lesson.title}, ${film.cut.name.toLowerCase()}.webm`} />
      </div>
      {!parts.isPainted && <p className="small quiet">{w.painting}</p>}
    </section>
  );
}

/** Saves the animatic; while it is written it can be broken off. */
function Save({ parts, name }: { parts: ReturnType<typeof useAnimatic>; name: string }) {
  const [share, setShare] = useState<number | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const stop = useRef<AbortController | null>(null);
  useEffect(() => () => stop.current?.abort(), []);
  const save = async (size: FilmSize) => {
    const own = new AbortController();
    stop.current = own;
    setShare(0);
    setSaid(null);
    try {
      const { animaticFile, canEncode, recordedFile } = await import('./save-film.js');
      const blob = await (canEncode() ? animaticFile : recordedFile)(parts, size, setShare, own.signal);
      if (blob) saveFile(name, blob);
      if (blob && !canEncode()) setSaid(w.recorded);
    } catch {
      setSaid(w.noEncoder);
    } finally {
      setShare(null);
    }
  };
  return (
    <>
      {share === null ? (
        <>
          <Button disabled={!parts.isPainted} onClick={() => void save('usual')}>
            {w.save}
          </Button>
          <Button type="text" disabled={!parts.isPainted} onClick={() => void save('small')}>
            {w.saveSmall}
          </Button>
        </>
      ) : (
        <Button onClick={() => stop.current?.abort()}>{`${w.saving(share)}: ${lowered(w.stop)}`}</Button>
      )}
      {said && (
        <span className="small" role="status">
          {said}
        </span>
      )}
    </>
  );
}
