import type { Lesson } from '@viaticum/contract';
import type { LessonPlan } from '@viaticum/core/plan';
import { areaRung, rungWord } from '@viaticum/core/step';
import { hourMinute, waitInWords } from '@viaticum/core/units';
import { clsx } from 'clsx';
import { type PointerEvent, useMemo, useRef, useState } from 'react';
import { words } from '../../words/words.js';
import { useWidth } from '../use-width.js';
import { AXIS_PX, axisFor, HANDS_PX } from './axis.js';
import { draggedTo, laneOf, type RibbonHeight } from './heights.js';
import { lanesOf } from './lanes.js';
import { RakingLight } from './raking-light.js';
import css from './ribbon.module.css';
import { Heights, Looks } from './ribbon-bar.js';
import { Section } from './section.js';
import { RibbonTable } from './table.js';
import { type StepDrag, useStepDrag } from './use-step-drag.js';

type Props = {
  lesson: Lesson;
  plan: LessonPlan;
  minute: number;
  onMinute: (minute: number) => void;
  selectedStep: string | null;
  zoom: number;
  onZoom: (zoom: number) => void;
  withChain: boolean;
  onChain: () => void;
  height: RibbonHeight;
  onHeight: (height: RibbonHeight) => void;
} & StepDrag;

/** The section through the paint: brush tracks of the hands above, one cut through its film a lane below, a light across. */
export function Ribbon(props: Props) {
  const { lesson, plan, minute, onMinute, selectedStep, onStep, zoom, onZoom, withChain, onChain, height, onHeight } = props;
  const [frame, width] = useWidth<HTMLDivElement>(1132);
  const [unfolded, setUnfolded] = useState<ReadonlySet<string>>(new Set());
  const [asTable, setAsTable] = useState(false);
  const drag = useStepDrag(plan, width, props);
  const endMin = drag.heldEnd ?? plan.plan.endMin;
  const lanes = useMemo(() => lanesOf(lesson, unfolded), [lesson, unfolded]);
  // While the light moves within the time shown, the section stays where it is.
  const [stands, setStands] = useState(minute);
  const kept = axisFor(endMin, zoom, stands, width);
  const anchor = minute < kept.fromMin || minute > kept.toMin ? minute : stands;
  if (anchor !== stands) setStands(anchor);
  const axis = useMemo(() => axisFor(endMin, zoom, anchor, width), [endMin, zoom, anchor, width]);
  if (lesson.steps.length === 0 || endMin === 0)
    return <p className={clsx(css.ribbonEmpty, 'quiet small')}>{words.ribbon.empty}</p>;
  const lane = laneOf(height, lanes.length);
  const heightPx = AXIS_PX + HANDS_PX + lane * lanes.length + (lane > 0 ? 6 : 2);
  const fold = (id: string) => {
    const next = new Set(unfolded);
    if (!next.delete(id)) next.add(id);
    setUnfolded(next);
  };
  const showsTable = asTable && height !== 'hands';
  return (
    <section className={clsx(css.ribbon, css[height])} data-testid="ribbon" aria-label={words.ribbon.label} ref={frame}>
      <Grip height={height} lanes={lanes.length} onHeight={onHeight} />
      <div className={css.ribbonBar}>
        <Heights height={height} onHeight={onHeight} />
        {height !== 'hands' && (
          <Looks
            {...{ endMin, zoom, onZoom, withChain, onChain, unfolded, asTable }}
            groups={lesson.things.filter((one) => lanes.some((shown) => shown.id === one.id) || unfolded.has(one.id))}
            onFold={fold}
            onTable={() => setAsTable(!asTable)}
          />
        )}
      </div>
      <h2 className={css.printOnly}>{lesson.title}</h2>
      {showsTable ? (
        <RibbonTable plan={plan} onStep={onStep} />
      ) : (
        <>
          {/* The slider beneath it is the keyboard's way; the drawing answers to the pointer. */}
          <svg
            className={css.ribbonSection}
            data-testid="ribbon-section"
            width={width}
            height={heightPx}
            viewBox={`0 0 ${width} ${heightPx}`}
            aria-hidden="true"
            {...drag.on(axis, zoom < 0 ? axis.toMin : endMin, onMinute)}
          >
            <Section
              {...{ lesson, plan, axis, width, lane, lanes, selectedStep, withChain }}
              height={heightPx}
              withHands={height !== 'hands'}
            />
            <RakingLight minute={minute} height={heightPx} plan={plan} axis={axis} lanes={lanes} lane={lane} />
          </svg>
          <input
            className={clsx('visually-hidden', css.ribbonSlider)}
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
          <div className={css.printOnly}>
            <RibbonTable plan={plan} onStep={onStep} />
          </div>
        </>
      )}
    </section>
  );
}

/** The upper edge, by which the section is made higher or lower; twice pressed it goes from lowest to highest and back. */
function Grip({ height, lanes, onHeight }: { height: RibbonHeight; lanes: number; onHeight: (height: RibbonHeight) => void }) {
  const from = useRef<number | null>(null);
  const px = (one: RibbonHeight) => AXIS_PX + HANDS_PX + laneOf(one, lanes) * lanes;
  const up = (event: PointerEvent) => {
    if (from.current === null) return;
    const moved = from.current - event.clientY;
    from.current = null;
    if (Math.abs(moved) > 8) onHeight(draggedTo(height, moved, { hands: px('hands'), half: px('half'), tall: px('tall') }));
  };
  return (
    // The keys beside it and R are the ways by keyboard.
    <div
      className={css.ribbonGrip}
      title={words.ribbon.grip}
      aria-hidden="true"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        from.current = event.clientY;
      }}
      onPointerUp={up}
      onPointerCancel={() => {
        from.current = null;
      }}
      onDoubleClick={() => onHeight(height === 'tall' ? 'hands' : 'tall')}
    />
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
