import type { Area } from '@viaticum/contract';
import { outlineArea, outlinePath } from '@viaticum/core/area';
import type { Tap } from '@viaticum/core/picture';
import { cssRgb, labToSrgb } from '@viaticum/kernels/colour';
import { nanoid } from 'nanoid';
import { useState } from 'react';
import { useLesson, useSession, useView } from '../../../lesson/context.js';
import { seenOutlines, useJob, useLaying } from '../../../lesson/laid.js';
import { words } from '../../../words/words.js';
import { useEasel, useHiddenOutlines, useHint } from '../easel-context.js';
import { Face, OnCanvas } from '../on-canvas.js';
import type { Point } from '../point.js';

const w = words.picture.propose;
const STROKE_EVERY_MM = 5;

/** Areas proposed from the picture: a slider cuts them coarser or finer, taps and strokes say what belongs together. */
export function Propose({ onEnd }: { onEnd: () => void }) {
  const lesson = useLesson();
  const session = useSession();
  const view = useView();
  const { worker } = useLaying();
  const { unit } = useEasel();
  const { widthMm, heightMm } = lesson.support;
  const [count, setCount] = useState(Math.max(5, Math.min(15, lesson.areas.length || 10)));
  const [strokes, setStrokes] = useState<{ area: number; points: Point[] }[]>([]);
  const [mark, setMark] = useState<number | null>(null);
  const [stroke, setStroke] = useState<Point[]>([]);
  const [taking, setTaking] = useState<number | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const marks = strokes.reduce((most, one) => Math.max(most, one.area), -1) + 1;
  const taps = strokes.flatMap(({ area, points }) => points.map(([x, y]): Tap => ({ x: x / widthMm, y: y / heightMm, area })));
  const job = useJob('propose', { count, taps, refined: false }, 0);
  useHint(w.hint);
  useHiddenOutlines();
  const add = (points: Point[]) => {
    setStrokes([...strokes, { area: mark ?? marks, points }]);
    setStroke([]);
  };
  const onStroke = (points: Point[], done: boolean) => {
    if (!done) return setStroke(points);
    const spaced: Point[] = [];
    for (const point of points) {
      const last = spaced.at(-1);
      if (!last || Math.hypot(point[0] - last[0], point[1] - last[1]) >= STROKE_EVERY_MM) spaced.push(point);
    }
    add(spaced);
  };
  const areas = job.answer?.areas ?? [];
  const take = async () => {
    setTaking(0);
    setFault(null);
    try {
      const { answer } = worker.ask('propose', { count, taps, refined: true }, setTaking);
      const { areas: refined } = await answer;
      const { answer: known } = worker.ask('match', { areas: refined.map((area) => area.outline), old: seenOutlines(lesson) });
      const { stands, heirs } = await known;
      const fresh = refined.map((area, i): Area => {
        const old = stands[i] === null ? undefined : lesson.areas[stands[i] as number];
        return { ...(old ?? { id: nanoid(8), name: area.name }), outline: area.outline };
      });
      const passOn = lesson.areas.map(({ id }, o) => [id, (heirs[o] ?? []).map((z) => (fresh[z] as Area).id)] as const);
      if (session.do('replaceAreas', { areas: fresh, heirs: Object.fromEntries(passOn) })) {
        view.selectArea(null);
        onEnd();
      }
    } catch (error) {
      setFault((error as Error).message);
    }
    setTaking(null);
  };
  return (
    <>
      <h2>{w.title}</h2>
      <label className="field">
        <span>
          {w.count} <b className="numbers">{count}</b>
        </span>
        <input type="range" min={2} max={15} value={count} onChange={(event) => setCount(Number(event.target.value))} />
      </label>
      {(job.progress !== null || taking !== null) && (
        <p className="working" role="status">
          <progress value={taking ?? job.progress ?? 0} max={1} aria-label={w.working} />{' '}
          {taking !== null ? w.refining : w.working}
        </p>
      )}
      {(fault ?? job.fault) && <p className="signal">{fault ?? job.fault}</p>}
      {job.answer && job.answer.spread < 2 && <p className="signal">{w.even}</p>}
      <p className="quiet small">{w.about}</p>
      {marks > 0 && (
        <fieldset className="marks" aria-label={w.marks}>
          {[...Array(marks).keys()].map((i) => (
            <button
              key={i}
              type="button"
              className="key mark"
              aria-pressed={mark === i}
              onClick={() => setMark(mark === i ? null : i)}
            >
              {i + 1}
            </button>
          ))}
          <button type="button" className="key mark" aria-pressed={mark === null} onClick={() => setMark(null)}>
            {w.another}
          </button>
          <button type="button" className="key bare small" onClick={() => setStrokes(strokes.slice(0, -1))}>
            {w.takeBack}
          </button>
        </fieldset>
      )}
      <ol className="proposed" data-taps={job.answer?.taps}>
        {areas.map((area) => (
          <li key={area.region}>
            <span className="proposed-chip" style={{ background: cssRgb(labToSrgb(area.meanLab)) }} />
            <span>{area.name}</span>
            <span className="numbers quiet">{words.picture.area(outlineArea(area.seen) / 100)}</span>
          </li>
        ))}
      </ol>
      <p className="picture-toggles">
        <button type="button" className="key main" disabled={areas.length === 0 || taking !== null} onClick={take}>
          {w.take(areas.length)}
        </button>
        <button type="button" className="key" onClick={onEnd}>
          {w.cancel}
        </button>
      </p>
      {lesson.steps.some((step) => step.areaIds.length > 0) && <p className="quiet small">{w.steps}</p>}
      <OnCanvas>
        <g pointerEvents="none" clipPath="url(#easel-face)">
          {areas.map((area) => (
            <g key={area.region}>
              <path
                d={outlinePath(area.seen)}
                fill={cssRgb(labToSrgb(area.meanLab))}
                fillOpacity={0.35}
                fillRule="evenodd"
                stroke="#fff"
                strokeWidth={unit * 3.4}
              />
              <path d={outlinePath(area.seen)} fill="none" stroke="#1f1f1f" strokeWidth={unit * 1.5} />
            </g>
          ))}
          {stroke.length > 1 && (
            <path
              d={`M${stroke.map(([x, y]) => `${x} ${y}`).join('L')}`}
              fill="none"
              stroke="#1f1f1f"
              strokeWidth={unit * 4}
              strokeLinecap="round"
            />
          )}
          {strokes.map(({ area, points }, i) => {
            const [x, y] = points[0] as Point;
            return (
              // biome-ignore lint/suspicious/noArrayIndexKey: strokes are told apart by their order alone
              <g key={i}>
                {points.length > 1 && (
                  <g fill="none" strokeLinecap="round" strokeLinejoin="round">
                    <path d={`M${points.map((point) => point.join(' ')).join('L')}`} stroke="#1f1f1f" strokeWidth={unit * 6} />
                    <path d={`M${points.map((point) => point.join(' ')).join('L')}`} stroke="#fff" strokeWidth={unit * 3.4} />
                  </g>
                )}
                <circle
                  cx={x}
                  cy={y}
                  r={unit * 9}
                  fill={mark === area ? '#1f1f1f' : '#fff'}
                  stroke="#1f1f1f"
                  strokeWidth={unit * 1.4}
                />
                <text
                  x={x}
                  y={y + unit * 4.4}
                  fontSize={unit * 12.5}
                  textAnchor="middle"
                  fill={mark === area ? '#fff' : '#1f1f1f'}
                >
                  {area + 1}
                </text>
              </g>
            );
          })}
        </g>
        <Face label={w.hint} onTap={(at) => add([at])} onStroke={onStroke} />
      </OnCanvas>
    </>
  );
}
