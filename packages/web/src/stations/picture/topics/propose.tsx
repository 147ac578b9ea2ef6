import { outlineArea, outlinePath } from '@viaticum/core/area';
import type { Tap } from '@viaticum/core/picture';
import { cssRgb, labToSrgb } from '@viaticum/kernels/colour';
import { Button, Segmented } from 'antd';
import { useState } from 'react';
import { useLesson } from '../../../lesson/context.js';
import { useJob } from '../../../lesson/laid.js';
import type { Point } from '../../../ui/point.js';
import { TurnField } from '../../../ui/turn-field.js';
import { words } from '../../../words/words.js';
import type { ShownArea } from '../../../workers/picture-jobs.js';
import { useEasel, useHiddenOutlines, useHint } from '../easel-context.js';
import { Face, OnCanvas } from '../on-canvas.js';
import pictureCss from '../picture.module.css';
import { ByThings } from './by-things.js';
import css from './propose.module.css';
import { Progressing, type Taking, useTaking } from './taking.js';
import { WhatChanges } from './what-changes.js';

const w = words.picture.propose;
const STROKE_EVERY_MM = 5;

/** Areas proposed from the picture: parted by colours, or by the things that it is of. */
export function Propose({ onEnd }: { onEnd: () => void }) {
  const lesson = useLesson();
  const [by, setBy] = useState<'colours' | 'things'>('colours');
  const taking = useTaking(onEnd);
  useHiddenOutlines();
  return (
    <>
      <h2>{w.title}</h2>
      <Segmented<'colours' | 'things'>
        block
        size="small"
        aria-label={w.by}
        value={by}
        options={[
          { value: 'colours', label: w.byColours },
          { value: 'things', label: w.byThings },
        ]}
        onChange={setBy}
      />
      {by === 'colours' ? <ByColours taking={taking} onEnd={onEnd} /> : <ByThings taking={taking} onEnd={onEnd} />}
      {lesson.steps.some((step) => step.areaIds.length > 0) && <p className="quiet small">{w.steps}</p>}
      {taking.asked && <WhatChanges asked={taking.asked} onClose={taking.close} onTaken={taking.end} />}
    </>
  );
}

/** A slider cuts areas coarser or finer, taps and strokes say what belongs together. */
function ByColours({ taking: { share, fault, take }, onEnd }: { taking: Taking; onEnd: () => void }) {
  const lesson = useLesson();
  const { widthMm, heightMm } = lesson.support;
  const [count, setCount] = useState(Math.max(5, Math.min(15, lesson.areas.length || 10)));
  const [strokes, setStrokes] = useState<{ area: number; points: Point[] }[]>([]);
  const [mark, setMark] = useState<number | null>(null);
  const [stroke, setStroke] = useState<Point[]>([]);
  const marks = strokes.reduce((most, one) => Math.max(most, one.area), -1) + 1;
  const taps = strokes.flatMap(({ area, points }) => points.map(([x, y]): Tap => ({ x: x / widthMm, y: y / heightMm, area })));
  const job = useJob('propose', { count, taps, refined: false }, 0);
  useHint(w.hint);
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
  return (
    <>
      <TurnField label={w.count} said={count} min={2} max={15} value={count} onChange={setCount} />
      <Progressing share={share ?? job.progress} said={share !== null ? w.refining : w.working} />
      {(fault ?? job.fault) && <p className="signal">{fault ?? job.fault}</p>}
      {job.answer && job.answer.spread < 2 && <p className="signal">{w.even}</p>}
      <p className="quiet small">{w.about}</p>
      {marks > 0 && <Marks count={marks} mark={mark} onMark={setMark} onTakeBack={() => setStrokes(strokes.slice(0, -1))} />}
      <ol className={css.proposed} data-testid="proposed" data-taps={job.answer?.taps}>
        {areas.map((area) => (
          <li key={area.region}>
            <span className={css.proposedChip} style={{ background: cssRgb(labToSrgb(area.meanLab)) }} />
            <span>{area.name}</span>
            <span className="numbers quiet">{words.picture.area(outlineArea(area.seen) / 100)}</span>
          </li>
        ))}
      </ol>
      <p className={pictureCss.pictureToggles}>
        <Button type="primary" disabled={areas.length === 0 || share !== null} onClick={() => void take({ count, taps })}>
          {w.take(areas.length)}
        </Button>
        <Button onClick={onEnd}>{w.cancel}</Button>
      </p>
      <OnCanvas>
        <ProposedOnCanvas areas={areas} strokes={strokes} stroke={stroke} mark={mark} />
        <Face label={w.hint} onTap={(at) => add([at])} onStroke={onStroke} />
      </OnCanvas>
    </>
  );
}

type Stroke = { area: number; points: Point[] };
/** Which mark the next tap or stroke belongs to. */
function Marks({
  count,
  mark,
  onMark,
  onTakeBack,
}: {
  count: number;
  mark: number | null;
  onMark: (mark: number | null) => void;
  onTakeBack: () => void;
}) {
  return (
    <fieldset className={css.marks} aria-label={w.marks}>
      {[...Array(count).keys()].map((i) => (
        <Button
          type={mark === i ? 'primary' : 'default'}
          className={css.mark}
          data-testid="mark"
          key={i}
          aria-pressed={mark === i}
          onClick={() => onMark(mark === i ? null : i)}
        >
          {i + 1}
        </Button>
      ))}
      <Button
        type={mark === null ? 'primary' : 'default'}
        className={css.mark}
        data-testid="mark"
        aria-pressed={mark === null}
        onClick={() => onMark(null)}
      >
        {w.another}
      </Button>
      <Button type="text" size="small" onClick={() => onTakeBack()}>
        {w.takeBack}
      </Button>
    </fieldset>
  );
}

/** The proposed areas in their mean colours, and the strokes and taps that guide them. */
function ProposedOnCanvas({
  areas,
  strokes,
  stroke,
  mark,
}: {
  areas: readonly ShownArea[];
  strokes: readonly Stroke[];
  stroke: readonly Point[];
  mark: number | null;
}) {
  const { unit } = useEasel();
  return (
    <g pointerEvents="none" clipPath="url(#easel-face)">
      {areas.map((area) => (
        <g key={area.region}>
          <path
            d={outlinePath(area.seen)}
            fill={cssRgb(labToSrgb(area.meanLab))}
            fillOpacity={0.35}
            fillRule="evenodd"
            stroke="var(--white)"
            strokeWidth={unit * 3.4}
          />
          <path d={outlinePath(area.seen)} fill="none" stroke="var(--grey-12)" strokeWidth={unit * 1.5} />
        </g>
      ))}
      {stroke.length > 1 && (
        <path
          d={`M${stroke.map(([x, y]) => `${x} ${y}`).join('L')}`}
          fill="none"
          stroke="var(--grey-12)"
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
                <path d={`M${points.map((point) => point.join(' ')).join('L')}`} stroke="var(--grey-12)" strokeWidth={unit * 6} />
                <path d={`M${points.map((point) => point.join(' ')).join('L')}`} stroke="var(--white)" strokeWidth={unit * 3.4} />
              </g>
            )}
            <circle
              cx={x}
              cy={y}
              r={unit * 9}
              fill={mark === area ? 'var(--grey-12)' : 'var(--white)'}
              stroke="var(--grey-12)"
              strokeWidth={unit * 1.4}
            />
            <text
              x={x}
              y={y + unit * 4.4}
              fontSize={unit * 12.5}
              textAnchor="middle"
              fill={mark === area ? 'var(--white)' : 'var(--grey-12)'}
            >
              {area + 1}
            </text>
          </g>
        );
      })}
    </g>
  );
}
