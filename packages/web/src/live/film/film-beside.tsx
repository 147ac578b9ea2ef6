import type { JoinedFilm } from '@viaticum/contract';
import { readCaptions } from '@viaticum/core/captions';
import { filmPlaceAt, keepingUp } from '@viaticum/core/class';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { type ReactNode, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { filmWords as w } from '../../words/follow-film.js';
import type { LiveConnection, LiveSnapshot } from '../connection.js';
import followCss from '../follow/follow.module.css';
import { remember, remembered } from '../follow/remembered.js';
import css from './film.module.css';
import { END_MS, type FilmOfStep, type KeptPlace, type Rewound, speeds, strokeBefore } from './film-state.js';
import { canKeep, forgetFilm, keepFilm, keptFilm } from './kept-film.js';

const KEEP_EVERY_MS = 5000;
const FOLLOW_EVERY_MS = 500;
type Shown = 'still' | 'playing' | 'paused' | 'shown' | 'lost';

const clockOf = (ms: number): string => `${Math.floor(ms / 60_000)}:${String(Math.floor(ms / 1000) % 60).padStart(2, '0')}`;
const placeKey = (base: string) => `viaticum-film-${base}`;

type Props = {
  /** Where the films of this lesson or class are fetched. */
  base: string;
  of: FilmOfStep;
  connection: LiveConnection;
  live: LiveSnapshot;
  /** What is shown in its place while it is not watched. */
  children: ReactNode;
};

/** The film of a step: watched to its end, stroke by stroke, and never on into the next step by itself. */
export function FilmBeside({ base, of, connection, live, children }: Props) {
  const { film, chapter } = of;
  const video = useRef<HTMLVideoElement>(null);
  const kept = useMemo(() => remembered<KeptPlace>(placeKey(base)), [base]);
  const begins =
    kept?.filmId === film.id && kept.ms > chapter.fromMs && kept.ms < chapter.toMs - END_MS ? kept.ms : chapter.fromMs;
  const [shown, setShown] = useState<Shown>(begins > chapter.fromMs ? 'paused' : 'still');
  const [ms, setMs] = useState(begins);
  const [rate, setRate] = useState<number>(kept?.rate ?? 1);
  const source = useSource(base, film);
  const host = live.state.film?.filmId === film.id ? live.state.film : null;
  const isOpen = shown !== 'still';
  const keep = useCallback(
    (at: number, speed: number) =>
      remember(placeKey(base), { filmId: film.id, ms: Math.round(at), rate: speed } satisfies KeptPlace),
    [base, film.id],
  );
  const seek = useCallback((to: number) => {
    if (video.current) video.current.currentTime = to / 1000;
    setMs(to);
  }, []);
  const play = useCallback(async () => {
    const own = video.current;
    if (!own) return;
    own.playbackRate = rate;
    try {
      await own.play();
      setShown('playing');
    } catch {
      setShown((before) => (before === 'lost' ? before : 'paused'));
    }
  }, [rate]);
  const open = () => {
    setShown('paused');
    // The film is there with the next picture.
    requestAnimationFrame(() => {
      if (ms >= chapter.toMs - 2 * END_MS) seek(chapter.fromMs);
      void play();
    });
  };
  useKept(shown === 'playing', ms, rate, keep);
  const get = useCallback(() => video.current, []);
  useHost(get, host, connection, of, setShown);
  const moved = () => {
    const own = video.current;
    if (!own) return;
    const at = own.currentTime * 1000;
    setMs(at);
    if (at < chapter.toMs - END_MS) return;
    own.pause();
    setShown('shown');
    keep(at, rate);
  };
  const last = useRef<Rewound | null>(null);
  const again = () => {
    last.current = strokeBefore(of, ms, Date.now(), last.current);
    seek(last.current.toMs);
    void play();
  };
  const cue = useCue(film, ms);
  const length = chapter.toMs - chapter.fromMs;
  if (shown === 'lost')
    return (
      <>
        {children}
        <p className={followCss.followLost} role="status">
          {w.lost}{' '}
          <Button size="small" onClick={() => setShown('paused')}>
            {w.retry}
          </Button>
        </p>
      </>
    );
  return (
    <>
      {shown === 'still' && children}
      {shown === 'shown' && (
        <p className={css.turn} role="status">
          {w.turn}
        </p>
      )}
      {isOpen && source && (
        <div className={clsx(css.film, shown === 'shown' && css.small)} data-testid="film" data-state={shown}>
          <video
            ref={video}
            src={source}
            playsInline
            preload="auto"
            aria-label={w.film(film.name)}
            onLoadedMetadata={() => seek(ms)}
            onTimeUpdate={moved}
            onPause={() => setShown((before) => (before === 'playing' ? 'paused' : before))}
            onError={() => setShown('lost')}
          >
            <track kind="captions" />
          </video>
          {cue && <p className={css.cue}>{cue}</p>}
          <Scrubber of={of} ms={ms} onSeek={seek} isHeld={host !== null} />
          <div className={css.keys}>
            {shown === 'playing' ? (
              <Button className={css.key ?? ''} onClick={() => video.current?.pause()}>
                {w.pause}
              </Button>
            ) : (
              <Button
                className={css.key ?? ''}
                onClick={() => {
                  if (ms >= chapter.toMs - 2 * END_MS) seek(chapter.fromMs);
                  void play();
                }}
              >
                {shown === 'shown' ? w.watchAgain : w.play}
              </Button>
            )}
            <Button className={css.key ?? ''} onClick={again} disabled={host !== null}>
              {w.again}
            </Button>
            <Button
              className={css.key ?? ''}
              aria-label={w.speedIs(rate)}
              disabled={host !== null}
              onClick={() => {
                const next = speeds[(speeds.indexOf(rate as (typeof speeds)[number]) + 1) % speeds.length] ?? 1;
                setRate(next);
                if (video.current) video.current.playbackRate = next;
                keep(ms, next);
              }}
            >
              {w.speed(rate)}
            </Button>
          </div>
          {host && <p className="small">{w.hosted}</p>}
        </div>
      )}
      {shown === 'shown' && children}
      {!isOpen && (
        <Button type="text" className={clsx('plain', followCss.bigKey, css.open)} onClick={open}>
          {w.open(clockOf(length))}
        </Button>
      )}
      {isOpen && <Keep base={base} film={film} />}
    </>
  );
}

/** A film's address: from this phone where it was kept, else from the server. */
function useSource(base: string, film: JoinedFilm): string | null {
  const [source, setSource] = useState<string | null>(null);
  useEffect(() => {
    let gone = false;
    let made: string | null = null;
    void keptFilm(film.fileSha256, film.bytes).then((file) => {
      if (gone) return;
      made = file && URL.createObjectURL(file);
      setSource(made ?? `${base}/films/${film.fileSha256}`);
    });
    return () => {
      gone = true;
      if (made) URL.revokeObjectURL(made);
    };
  }, [base, film.fileSha256, film.bytes]);
  return source;
}

/** The place is kept now and then, and when the phone is put away. */
function useKept(isPlaying: boolean, ms: number, rate: number, keep: (ms: number, rate: number) => void): void {
  const now = useRef({ ms, rate });
  useEffect(() => {
    now.current = { ms, rate };
  }, [ms, rate]);
  useEffect(() => {
    if (!isPlaying) return;
    const put = () => keep(now.current.ms, now.current.rate);
    const timer = setInterval(put, KEEP_EVERY_MS);
    document.addEventListener('visibilitychange', put);
    return () => {
      put();
      clearInterval(timer);
      document.removeEventListener('visibilitychange', put);
    };
  }, [isPlaying, keep]);
}

type HostPlace = NonNullable<LiveSnapshot['state']['film']>;

/** Follows a host: within a twentieth of a second by running a little faster or slower, by a jump where it is far off. */
function useHost(
  get: () => HTMLVideoElement | null,
  host: HostPlace | null,
  connection: LiveConnection,
  of: FilmOfStep,
  setShown: (shown: Shown) => void,
): void {
  const isCatching = useRef(false);
  const key = host && JSON.stringify(host);
  const { film, chapter } = of;
  useEffect(() => {
    if (!key) return;
    const at = JSON.parse(key) as HostPlace;
    const follow = () => {
      const place = filmPlaceAt(at, connection.now(), film.durationMs);
      if (place < chapter.fromMs || place > chapter.toMs) return;
      const own = get();
      if (own) isCatching.current = steer(own, at, place, place >= chapter.toMs - END_MS, isCatching.current, setShown);
      else setShown('paused');
    };
    follow();
    const timer = setInterval(follow, FOLLOW_EVERY_MS);
    return () => clearInterval(timer);
  }, [key, get, connection, film.durationMs, chapter.fromMs, chapter.toMs, setShown]);
}

const NEAR_MS = 60;
/** Brings a film to the place where its host has it; says whether it is still catching up. */
function steer(
  video: HTMLVideoElement,
  { isPlaying, rate }: HostPlace,
  place: number,
  isOver: boolean,
  wasCatching: boolean,
  setShown: (shown: Shown) => void,
): boolean {
  const off = video.currentTime * 1000 - place;
  const step = keepingUp(off, rate, wasCatching);
  if (step.jump || (!isPlaying && Math.abs(off) > NEAR_MS)) video.currentTime = place / 1000;
  video.playbackRate = step.rate;
  const played = () => setShown('playing');
  if (isPlaying && !isOver && video.paused)
    void video.play().then(played, () => {
      // Sound needs a touch: it is watched without until then.
      video.muted = true;
      void video.play().then(played, () => undefined);
    });
  if ((!isPlaying || isOver) && !video.paused) video.pause();
  return step.isCatching;
}

/** What is said now. */
function useCue({ captions }: JoinedFilm, ms: number): string | null {
  const cues = useMemo(() => (captions ? readCaptions(captions).cues : []), [captions]);
  const cue = cues.find(({ from, to }) => ms >= from * 1000 && ms < to * 1000);
  return cue
    ? cue.text
        .replace(/<[^>]*>/g, '')
        .replace(/&lt;/g, '<')
        .replace(/&gt;/g, '>')
        .replace(/&amp;/g, '&')
    : null;
}

/** The stretch of the step with its strokes as ticks; touched or dragged it goes there. */
function Scrubber({
  of: { film, chapter },
  ms,
  onSeek,
  isHeld,
}: {
  of: FilmOfStep;
  ms: number;
  onSeek: (ms: number) => void;
  isHeld: boolean;
}) {
  const length = Math.max(1, chapter.toMs - chapter.fromMs);
  const share = (at: number) => `${Math.max(0, Math.min(100, (100 * (at - chapter.fromMs)) / length))}%`;
  const to = (event: React.PointerEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const at = chapter.fromMs + Math.max(0, Math.min(1, (event.clientX - box.left) / box.width)) * length;
    onSeek(Math.min(chapter.toMs - 2 * END_MS, at));
  };
  const by = (step: number) => onSeek(Math.max(chapter.fromMs, Math.min(chapter.toMs - 2 * END_MS, ms + step)));
  return (
    <div className={css.scrub}>
      <div
        className={css.line}
        role="slider"
        tabIndex={0}
        aria-label={w.place}
        aria-valuemin={0}
        aria-valuemax={Math.round(length / 1000)}
        aria-valuenow={Math.round((ms - chapter.fromMs) / 1000)}
        aria-valuetext={clockOf(ms - chapter.fromMs)}
        aria-disabled={isHeld}
        onPointerDown={(event) => {
          if (isHeld) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          to(event);
        }}
        onPointerMove={(event) => event.buttons > 0 && !isHeld && to(event)}
        onKeyDown={({ key }) => !isHeld && (key === 'ArrowRight' ? by(5000) : key === 'ArrowLeft' ? by(-5000) : undefined)}
      >
        <i className={css.gone} style={{ width: share(ms) }} />
        {film.strokes
          .filter(({ atMs }) => atMs >= chapter.fromMs && atMs < chapter.toMs)
          .map(({ atMs }) => (
            <i key={atMs} className={css.tick} style={{ left: share(atMs) }} />
          ))}
        <i className={css.knob} style={{ left: share(ms) }} />
      </div>
      <span className="numbers small">
        {clockOf(ms - chapter.fromMs)} / {clockOf(length)}
      </span>
    </div>
  );
}

/** Keeps the film on this phone, or takes it away. */
function Keep({ base, film }: { base: string; film: JoinedFilm }) {
  const [isKept, setKept] = useState<boolean | null>(null);
  const [share, setShare] = useState<number | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const stop = useRef<AbortController | null>(null);
  useEffect(() => {
    let gone = false;
    void keptFilm(film.fileSha256, film.bytes).then((file) => !gone && setKept(file !== null));
    return () => {
      gone = true;
      stop.current?.abort();
    };
  }, [film.fileSha256, film.bytes]);
  if (isKept === null) return null;
  if (!canKeep()) return <p className="small quiet">{w.cannotKeep}</p>;
  const start = async () => {
    stop.current = new AbortController();
    setShare(0);
    setSaid(null);
    try {
      await keepFilm(`${base}/films/${film.fileSha256}`, film.fileSha256, film.bytes, setShare, stop.current.signal);
      setKept(true);
    } catch (error) {
      if ((error as Error).name !== 'AbortError') setSaid((error as Error).message);
    }
    setShare(null);
  };
  return (
    <p className={css.keep}>
      {share !== null ? (
        <Button size="small" onClick={() => stop.current?.abort()}>
          {w.keeping(share)}
        </Button>
      ) : isKept ? (
        <Button size="small" onClick={() => void forgetFilm(film.fileSha256).then(() => setKept(false))}>
          {w.forget}
        </Button>
      ) : (
        <Button size="small" onClick={() => void start()}>
          {w.keep(film.bytes)}
        </Button>
      )}
      {said && <span role="alert"> {said}</span>}
    </p>
  );
}
