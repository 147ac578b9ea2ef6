import type { Lesson } from '@viaticum/contract';
import type { LessonPlan } from '@viaticum/core/plan';
import { areaRung, rungWord } from '@viaticum/core/step';
import { hourMinute, waitInWords } from '@viaticum/core/units';
import { type PointerEvent, useMemo, useRef, useState } from 'react';
import { words } from '../../words/words.js';
import { useWidth } from '../use-width.js';
import { AXIS_PX, axisFor, farthest, HANDS_PX, nearest } from './axis.js';
import { lanesOf } from './lanes.js';
import { RakingLight } from './raking-light.js';
import { Section } from './section.js';
import { RibbonTable } from './table.js';
import './ribbon.css';

const DRAG_PX = 5;

type Props = {
  lesson: Lesson;
  plan: LessonPlan;
  minute: number;
  onMinute: (minute: number) => void;
  selectedStep: string | null;
  onStep: (stepId: string) => void;
  zoom: number;
  onZoom: (zoom: number) => void;
  withChain: boolean;
  onChain: () => void;
  /** A step is being dragged to a time (null: no longer), and let go there. */
  onDrag: (to: { stepId: string; startMin: number } | null) => void;
  onPin: (stepId: string, startMin: number) => void;
};

/** The section through the paint: brush tracks of the hands above, one cut through its film a lane below, a light across. */
export function Ribbon(props: Props) {
  const { lesson, plan, minute, onMinute, selectedStep, onStep, zoom, onZoom, withChain, onChain, onDrag, onPin } = props;
  const [frame, width] = useWidth<HTMLDivElement>(890);
  const [folded, setFolded] = useState(false);
  const [unfolded, setUnfolded] = useState<ReadonlySet<string>>(new Set());
  const [asTable, setAsTable] = useState(false);
  const drag = useRef<{ stepId: string; grabMin: number; x: number; startMin: number | null } | null>(null);
  const [heldEnd, setHeldEnd] = useState<number | null>(null);
  const planEndMin = plan.plan.endMin;
  // While a step is dragged the time shown stands still under the hand, however the plan grows.
  const endMin = heldEnd ?? planEndMin;
  const lanes = useMemo(() => lanesOf(lesson, unfolded), [lesson, unfolded]);
  // While the light moves within the time shown, the section stays where it is.
  const [stands, setStands] = useState(minute);
  const kept = axisFor(endMin, zoom, stands, width);
  const anchor = minute < kept.fromMin || minute > kept.toMin ? minute : stands;
  if (anchor !== stands) setStands(anchor);
  const axis = useMemo(() => axisFor(endMin, zoom, anchor, width), [endMin, zoom, anchor, width]);
  if (lesson.steps.length === 0 || endMin === 0) return <p className="ribbon-empty quiet">{words.ribbon.empty}</p>;
  const lane = folded ? 0 : lanes.length > 8 ? 23 : 27;
  const height = AXIS_PX + HANDS_PX + lane * lanes.length + 6;
  const groups = lesson.things.filter((one) => lanes.some((shown) => shown.id === one.id) || unfolded.has(one.id));
  const minuteAt = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    return axis.toMinute((event.clientX - box.left) * (width / box.width));
  };
  const light = (event: PointerEvent<SVGSVGElement>) =>
    onMinute(Math.min(Math.max(endMin, zoom < 0 ? axis.toMin : 0), Math.max(0, Math.round(minuteAt(event)))));
  const down = (event: PointerEvent<SVGSVGElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    const stepId = (event.target as Element).closest('[data-step]')?.getAttribute('data-step');
    const start = plan.solution.items.find((item) => item.step === stepId)?.start;
    drag.current =
      stepId && start !== undefined ? { stepId, grabMin: minuteAt(event) - start, x: event.clientX, startMin: null } : null;
    if (drag.current) setHeldEnd(endMin);
    light(event);
  };
  const moved = (event: PointerEvent<SVGSVGElement>) => {
    if (event.buttons === 0) return;
    const held = drag.current;
    if (!held) return light(event);
    if (held.startMin === null && Math.abs(event.clientX - held.x) < DRAG_PX) return;
    const startMin = Math.max(0, Math.round(minuteAt(event) - held.grabMin));
    if (startMin === held.startMin) return;
    held.startMin = startMin;
    onDrag({ stepId: held.stepId, startMin });
  };
  const up = () => {
    const held = drag.current;
    drag.current = null;
    setHeldEnd(null);
    if (!held) return;
    if (held.startMin === null) onStep(held.stepId);
    else onPin(held.stepId, held.startMin);
    onDrag(null);
  };
  const cancel = () => {
    drag.current = null;
    setHeldEnd(null);
    onDrag(null);
  };
  return (
    <section className="ribbon" aria-label={words.ribbon.label} ref={frame}>
      <div className="ribbon-bar">
        <span className="quiet small">{words.ribbon.scale}</span>
        <button type="button" className="key bare small" aria-pressed={withChain} onClick={onChain}>
          {words.ribbon.chain}
        </button>
        <span className="ribbon-zoom">
          <button type="button" className="key bare small" disabled={zoom <= farthest(endMin)} onClick={() => onZoom(zoom - 1)}>
            {words.ribbon.farther}
          </button>
          <button type="button" className="key bare small" disabled={zoom >= nearest(endMin)} onClick={() => onZoom(zoom + 1)}>
            {words.ribbon.closer}
          </button>
          {zoom !== 0 && (
            <button type="button" className="key bare small" onClick={() => onZoom(0)}>
              {words.ribbon.whole}
            </button>
          )}
        </span>
        {groups.map((one) => (
          <button
            key={one.id}
            type="button"
            className="key bare small"
            aria-expanded={unfolded.has(one.id)}
            onClick={() => {
              const next = new Set(unfolded);
              if (!next.delete(one.id)) next.add(one.id);
              setUnfolded(next);
            }}
          >
            {unfolded.has(one.id) ? words.ribbon.together(one.name) : words.ribbon.apart(one.name)}
          </button>
        ))}
        <button type="button" className="key bare small" onClick={() => setFolded(!folded)} aria-expanded={!folded}>
          {folded ? words.ribbon.unfold : words.ribbon.fold}
        </button>
        <button type="button" className="key bare small" onClick={() => setAsTable(!asTable)} aria-pressed={asTable}>
          {words.ribbon.table}
        </button>
        <button type="button" className="key bare small" onClick={() => globalThis.print()}>
          {words.ribbon.print}
        </button>
      </div>
      <h2 className="print-only">{lesson.title}</h2>
      {asTable ? (
        <RibbonTable plan={plan} onStep={onStep} />
      ) : (
        <>
          {/* The slider beneath it is the keyboard's way; the drawing answers to the pointer. */}
          <svg
            className="ribbon-section"
            width={width}
            height={height}
            viewBox={`0 0 ${width} ${height}`}
            aria-hidden="true"
            onPointerDown={down}
            onPointerMove={moved}
            onPointerUp={up}
            onPointerCancel={cancel}
          >
            <Section
              lesson={lesson}
              plan={plan}
              axis={axis}
              width={width}
              lane={lane}
              lanes={lanes}
              height={height}
              selectedStep={selectedStep}
              withChain={withChain}
            />
            <RakingLight minute={minute} height={height} plan={plan} axis={axis} lanes={lanes} lane={lane} />
          </svg>
          <input
            className="visually-hidden ribbon-slider"
            type="range"
            min={0}
            max={Math.ceil(Math.max(endMin, zoom < 0 ? axis.toMin : 0))}
            step={1}
            value={Math.round(minute)}
            aria-label={words.ribbon.light}
            aria-valuetext={minuteInWords(lesson, plan, minute)}
            onChange={(event) => onMinute(Number(event.target.value))}
          />
          <p className="visually-hidden" aria-live="polite">
            {minuteInWords(lesson, plan, minute)}
          </p>
          <div className="print-only">
            <RibbonTable plan={plan} onStep={onStep} />
          </div>
        </>
      )}
    </section>
  );
}

/** "0:53, near ridge damp, paint over in 9 min": what is wet at a minute. */
function minuteInWords(lesson: Lesson, { plan }: LessonPlan, minute: number): string {
  const wet = lesson.areas.flatMap((area) => {
    const { rung, nextMin } = areaRung(plan.coats, area.id, minute);
    if (rung !== 'workable' && rung !== 'damp') return [];
    const next = rung === 'workable' ? rungWord.damp : 'paint over';
    return [`${area.name} ${rungWord[rung]}${nextMin === null ? '' : `, ${next} ${words.ribbon.in(waitInWords(nextMin))}`}`];
  });
  const item = plan.items.find((one) => minute >= one.startMin && minute < one.endMin);
  return [hourMinute(minute), item?.title, ...wet].filter(Boolean).join(', ');
}
