import { useQuery } from '@tanstack/react-query';
import type { Lesson } from '@viaticum/contract';
import { decidedLines, type Line, pathData, upToAmount } from '@viaticum/core/transfer';
import { Button } from 'antd';
import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from 'react';
import { useParams } from 'react-router';
import { readLesson } from '../api/queries.js';
import { layArgs } from '../lesson/lay-args.js';
import { asDrawn } from '../stations/transfers/drawing-context.js';
import { LinkKey } from '../ui/link-key.js';
import { TurnField } from '../ui/turn-field.js';
import { transferWords } from '../words/transfers.js';
import { words } from '../words/words.js';
import { pictureWorker } from '../workers/picture-worker.js';
import css from './trace.module.css';

const w = transferWords.tablet;
/** A bank card (ISO/IEC 7810 ID-1). */
const CARD = { widthMm: 85.6, heightMm: 53.98 };
const KEY = 'viaticum-px-per-mm';
/** CSS takes 96 px for an inch; screens hold to it only by chance. */
const USUAL = 96 / 25.4;

/** The template at true size on this screen, to trace from: measured once by a bank card, then held still. */
export default function Trace() {
  const { id = '' } = useParams();
  const { data, error } = useQuery({ queryKey: ['lesson', id], queryFn: () => readLesson(id), gcTime: 0 });
  const [pxPerMm, setPxPerMm] = useState(() => Number(localStorage.getItem(KEY)) || USUAL);
  const [isMeasured, setMeasured] = useState(() => localStorage.getItem(KEY) !== null);
  if (error) throw error;
  if (!data) return <p className="opening quiet">{words.lesson.loading}</p>;
  return isMeasured ? (
    <Sheet id={id} lesson={data.document} pxPerMm={pxPerMm} onMeasure={() => setMeasured(false)} />
  ) : (
    <Measure
      pxPerMm={pxPerMm}
      onSize={setPxPerMm}
      onDone={() => {
        localStorage.setItem(KEY, String(pxPerMm));
        setMeasured(true);
      }}
    />
  );
}

function Measure({ pxPerMm, onSize, onDone }: { pxPerMm: number; onSize: (size: number) => void; onDone: () => void }) {
  return (
    <main className={css.traceMeasure}>
      <h1>{w.title}</h1>
      <p>{w.card}</p>
      <div
        className={css.traceCard}
        data-testid="trace-card"
        style={{ width: CARD.widthMm * pxPerMm, height: CARD.heightMm * pxPerMm }}
      />
      <TurnField
        label={w.size}
        said={w.sizeSaid(pxPerMm)}
        min={2}
        max={14}
        step={0.01}
        value={pxPerMm}
        onChange={(given) => onSize(given)}
      />
      <p>
        <Button type="primary" onClick={onDone}>
          {w.done}
        </Button>
      </p>
    </main>
  );
}

/** The lines of a lesson, worked out once. */
function useLines(lesson: Lesson): Line[] {
  const [lines, setLines] = useState<Line[]>([]);
  useEffect(() => {
    const worker = pictureWorker();
    const withPicture = lesson.references.length > 0;
    const ready: Promise<unknown> = withPicture ? worker.ask('lay', layArgs(lesson)).answer : Promise.resolve();
    ready
      .then(() => worker.ask('lines', { lesson: asDrawn(lesson), withPicture }).answer)
      .then((found) => setLines(upToAmount(decidedLines(lesson, found), lesson.drawing.amount) as Line[]))
      .catch(() => setLines([]));
    return () => worker.end();
  }, [lesson]);
  return lines;
}

/** Keeps the screen on where the browser does that. */
function useAwake(): boolean {
  const [isAwake, setAwake] = useState(false);
  useEffect(() => {
    let lock: WakeLockSentinel | null = null;
    let gone = false;
    navigator.wakeLock?.request('screen').then(
      (found) => {
        if (gone) return void found.release();
        lock = found;
        setAwake(true);
      },
      () => setAwake(false),
    );
    return () => {
      gone = true;
      void lock?.release();
    };
  }, []);
  return isAwake;
}

const arrows: Record<string, [number, number]> = { ArrowLeft: [1, 0], ArrowRight: [-1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };
function Sheet({ id, lesson, pxPerMm, onMeasure }: { id: string; lesson: Lesson; pxPerMm: number; onMeasure: () => void }) {
  const { widthMm, heightMm } = lesson.support;
  const lines = useLines(lesson);
  const isAwake = useAwake();
  const [[x, y], setPlace] = useState<[number, number]>([8, 8]);
  const [isMirrored, setMirrored] = useState(false);
  const [isHeld, setHeld] = useState(false);
  const from = useRef<{ at: [number, number]; place: [number, number] } | null>(null);
  const onMove = (event: PointerEvent) => {
    if (!from.current || isHeld) return;
    const { at, place } = from.current;
    setPlace([place[0] + event.clientX - at[0], place[1] + event.clientY - at[1]]);
  };
  const onKey = (event: KeyboardEvent) => {
    const arrow = arrows[event.key];
    if (!arrow || isHeld) return;
    event.preventDefault();
    const by = event.shiftKey ? 120 : 24;
    setPlace(([px, py]) => [px + arrow[0] * by, py + arrow[1] * by]);
  };
  return (
    <main className={css.trace}>
      <h1 className="visually-hidden">
        {w.title}: {lesson.title}
      </h1>
      <div
        className={css.traceFace}
        role="application"
        aria-label={`${w.title}: ${lesson.title}. ${w.move}`}
        // biome-ignore lint/a11y/noNoninteractiveTabindex: moved by the arrow keys
        tabIndex={0}
        onKeyDown={onKey}
        onPointerDown={(event) => {
          from.current = { at: [event.clientX, event.clientY], place: [x, y] };
        }}
        onPointerMove={onMove}
        onPointerUp={() => {
          from.current = null;
        }}
      >
        <svg
          className={css.traceSheet}
          data-testid="trace-sheet"
          width={widthMm * pxPerMm}
          height={heightMm * pxPerMm}
          viewBox={`0 0 ${widthMm} ${heightMm}`}
          style={{ transform: `translate(${x}px, ${y}px)${isMirrored ? ' scaleX(-1)' : ''}` }}
          aria-hidden="true"
        >
          <rect width={widthMm} height={heightMm} fill="#fff" stroke="#000" strokeWidth={0.5} />
          <path d={lines.map(({ curve }) => pathData(curve)).join('')} fill="none" stroke="#000" strokeWidth={0.6} />
        </svg>
      </div>
      <p className={css.traceKeys}>
        <LinkKey to={`/lesson/${id}/transfers`}>{w.back}</LinkKey>
        <Button type={isHeld ? 'primary' : 'default'} aria-pressed={isHeld} onClick={() => setHeld(!isHeld)}>
          {isHeld ? w.unlock : w.lock}
        </Button>
        <Button type={isMirrored ? 'primary' : 'default'} aria-pressed={isMirrored} onClick={() => setMirrored(!isMirrored)}>
          {w.mirror}
        </Button>
        <Button onClick={() => void document.documentElement.requestFullscreen?.().catch(() => {})}>{w.full}</Button>
        <Button onClick={onMeasure}>{w.again}</Button>
        <span className="small quiet">
          {isAwake ? w.awake : w.notAwake} {w.bright}
        </span>
      </p>
    </main>
  );
}
