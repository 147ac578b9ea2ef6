import type { SheetTake, ShootAnswer, ShootNote } from '@viaticum/contract';
import { shootState } from '@viaticum/core/film';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { useEffect, useMemo, useState } from 'react';
import { call } from '../../api/http.js';
import { clockOf, filmWords, shootWords as w } from '../../words/film.js';
import followCss from '../follow/follow.module.css';
import { useSentLater } from '../use-sent-later.js';
import css from './shoot.module.css';

const AGAIN_MS = 5000;
const FLASH_MS = 220;
const newId = (): string =>
  Array.from(crypto.getRandomValues(new Uint8Array(9)), (byte) => 'abcdefghijklmnopqrstuvwxyz012345'[byte & 31]).join('');

/** The slate: one take a screen, read by the camera, started and stopped by one tap; with or without a network. */
export default function Shoot() {
  const token = /^\/shoot\/([\w-]+)/.exec(location.pathname)?.[1] ?? '';
  const { answer, notes, note, fault, isOffline } = useNotes(token);
  const [at, setAt] = useState<number | null>(null);
  const [isListing, setListing] = useState(false);
  const states = useMemo(() => shootState(notes), [notes]);
  const takes = answer?.sheet.takes ?? [];
  if (!answer)
    return (
      <main className={followCss.followPage}>{fault ? <p role="alert">{fault}</p> : <p className="quiet">{w.loading}</p>}</main>
    );
  if (takes.length === 0)
    return (
      <main className={followCss.followPage}>
        <p>{w.none}</p>
      </main>
    );
  const isGood = ({ id }: SheetTake) => states.get(id)?.goodS != null;
  const first = takes.findIndex((take) => !isGood(take));
  const shown = Math.max(0, Math.min(takes.length - 1, at ?? first));
  const take = takes[shown] as SheetTake;
  if (isListing)
    return (
      <main className={followCss.followPage} data-testid="shoot-list">
        <Button type="text" className={clsx('plain', followCss.bigKey)} onClick={() => setListing(false)}>
          {w.close}
        </Button>
        <ol className={css.list}>
          {takes.map((one, i) => (
            <li key={one.id}>
              <Button
                type="text"
                className={clsx('plain', css.row)}
                onClick={() => {
                  setAt(i);
                  setListing(false);
                }}
              >
                <b className="numbers">{one.slate}</b> {one.title} {isGood(one) && <i>✓</i>}
              </Button>
            </li>
          ))}
        </ol>
      </main>
    );
  return (
    <main className={clsx(followCss.followPage, followCss.followStep, css.page)} data-testid="shoot">
      <header>
        <Button
          type="text"
          className={clsx('plain', css.look)}
          disabled={shown === 0}
          aria-label={w.before}
          onClick={() => setAt(shown - 1)}
        >
          ‹
        </Button>
        <span className="numbers">{w.of(shown + 1, takes.length)}</span>
        <Button
          type="text"
          className={clsx('plain', css.look)}
          disabled={shown + 1 >= takes.length}
          aria-label={w.next}
          onClick={() => setAt(shown + 1)}
        >
          ›
        </Button>
        <Button type="text" className={clsx('plain', css.all)} onClick={() => setListing(true)}>
          {w.list}
        </Button>
      </header>
      {isOffline && (
        <p className={followCss.followLost} role="status">
          {w.offline}
        </p>
      )}
      <Slate
        key={take.id}
        take={take}
        next={takes[shown + 1]}
        state={states.get(take.id)}
        onNote={(kind) => note(take.id, kind)}
        onNext={() => setAt(Math.min(takes.length - 1, shown + 1))}
      />
      {first < 0 && <p role="status">{w.all}</p>}
    </main>
  );
}

type SlateProps = {
  take: SheetTake;
  next: SheetTake | undefined;
  state: ReturnType<typeof shootState> extends Map<string, infer S> ? S | undefined : never;
  onNote: (kind: ShootNote['kind']) => void;
  onNext: () => void;
};

function Slate({ take, next, state, onNote, onNext }: SlateProps) {
  const [isFlashing, setFlashing] = useState(false);
  const isRunning = state?.runningSince != null;
  const last = state?.runs.at(-1);
  const isToJudge = !isRunning && last !== undefined && last.said === null;
  const seconds = useRunning(state?.runningSince ?? null);
  const start = () => {
    onNote('started');
    // Seen and heard in the film, by which its beginning is found again.
    setFlashing(true);
    setTimeout(() => setFlashing(false), FLASH_MS);
    beep();
    navigator.vibrate?.(60);
  };
  return (
    <>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls can be scrolled by keyboard */}
      <section className={clsx(followCss.followWork, css.slate, isFlashing && css.flash)} aria-label={take.title} tabIndex={0}>
        <b className={css.number}>{take.slate}</b>
        <h1>{take.title}</h1>
        <p>
          {filmWords.shoot.places[take.place]}, {filmWords.shoot.lights[take.light]}.{' '}
          {take.place !== 'palette' && `${w.canvas(take.startsAfter)}.`}
        </p>
        {take.mustSee.length > 0 && (
          <p>
            <b>{w.see}:</b> {take.mustSee.join('; ')}
          </p>
        )}
        {take.mustSay.length > 0 && (
          <p>
            <b>{w.say}:</b> {take.mustSay.join('; ')}
          </p>
        )}
        {take.notes.map((one) => (
          <p key={one} className={followCss.followNote}>
            {one}
          </p>
        ))}
        {state?.goodS != null && <p role="status">{w.goodAt(clockOf(state.goodS))}</p>}
        {state && state.goodS === null && state.runs.length > 0 && <p className="quiet">{w.runs(state.runs.length)}</p>}
        {next && <p className="quiet">{w.nextIs(next.slate, next.title)}</p>}
      </section>
      <footer className={css.keys}>
        {isToJudge ? (
          <>
            <Button type="text" className={clsx('plain', followCss.bigKey)} onClick={() => onNote('again')}>
              {w.again}
            </Button>
            <Button
              type="text"
              className={clsx('plain', followCss.bigKey, followCss.main)}
              onClick={() => {
                onNote('good');
                onNext();
              }}
            >
              {w.good}
            </Button>
          </>
        ) : isRunning ? (
          <Button
            type="text"
            className={clsx('plain', followCss.bigKey, followCss.handUp, css.whole)}
            onClick={() => onNote('stopped')}
          >
            {w.stop} <span className="numbers">{clockOf(seconds)}</span>
          </Button>
        ) : (
          <Button type="text" className={clsx('plain', followCss.bigKey, followCss.main, css.whole)} onClick={start}>
            {w.start}
          </Button>
        )}
      </footer>
    </>
  );
}

/** Seconds since the camera runs. */
function useRunning(since: number | null): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (since === null) return;
    const timer = setInterval(() => setNow(Date.now()), 500);
    return () => clearInterval(timer);
  }, [since]);
  return since === null ? 0 : Math.max(0, (now - since) / 1000);
}

/** A short tone, where the phone lets a page make one. */
function beep(): void {
  try {
    const audio = new AudioContext();
    const tone = audio.createOscillator();
    tone.frequency.value = 1000;
    tone.connect(audio.destination);
    tone.start();
    tone.stop(audio.currentTime + 0.12);
    tone.onended = () => void audio.close();
  } catch {
    // The flash is enough.
  }
}

/** The list with what was noted: as it was last read where there is no network; what is noted then is told later. */
function useNotes(token: string) {
  const path = `/api/shoot/${encodeURIComponent(token)}`;
  const { answer, waiting, fault, isOffline, add } = useSentLater<ShootAnswer, ShootNote>({
    path,
    names: { answer: `viaticum-shoot-${token}`, waiting: `viaticum-shot-${token}` },
    send: async (mine) => ({ notes: await call<ShootNote[]>('POST', `${path}/notes`, { notes: mine }) }),
    most: 200,
    everyMs: AGAIN_MS,
  });
  const notes = useMemo(() => [...(answer?.notes ?? []), ...waiting], [answer, waiting]);
  return {
    answer,
    notes,
    fault,
    isOffline,
    note: (takeId: string, kind: ShootNote['kind']) =>
      add((before) => [...before, { id: newId(), at: Date.now(), takeId, kind }]),
  };
}
