import type { Lesson, PlanItem } from '@viaticum/contract';
import { looksOf } from '@viaticum/core/lesson';
import { type LessonPlan, rungWord, zoneRung } from '@viaticum/core/plan';
import { hourMinute, waitInWords } from '@viaticum/core/units';
import { memo, type PointerEvent, useId, useMemo, useState } from 'react';
import { words } from '../words.js';
import { type FilmSlice, zoneSection } from './ribbon-film.js';
import { TexturePattern } from './textures.js';
import { useWidth } from './use-width.js';
import './ribbon.css';

const LABEL_PX = 116;
const HANDS_PX = 36;
const AXIS_PX = 26;
const RIGHT_PX = 18;

type Props = {
  lesson: Lesson;
  plan: LessonPlan;
  minute: number;
  onMinute: (minute: number) => void;
  selectedStep: string | null;
  onStep: (stepId: string) => void;
};

/** The section through the paint: brush tracks of the hands above, one cut through its film a zone below, a light across. */
export function Ribbon({ lesson, plan, minute, onMinute, selectedStep, onStep }: Props) {
  const [frame, width] = useWidth<HTMLDivElement>(890);
  const [folded, setFolded] = useState(false);
  const [asTable, setAsTable] = useState(false);
  const endMin = plan.plan.endMin;
  if (lesson.steps.length === 0 || endMin === 0) return <p className="ribbon-empty quiet">{words.ribbon.empty}</p>;
  const inner = Math.max(200, width - LABEL_PX - RIGHT_PX);
  const lane = folded ? 0 : lesson.zones.length > 8 ? 23 : 27;
  const height = AXIS_PX + HANDS_PX + lane * lesson.zones.length + 6;
  const toMinute = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    return Math.min(
      endMin,
      Math.max(0, Math.round((((event.clientX - box.left) * (width / box.width) - LABEL_PX) / inner) * endMin)),
    );
  };
  return (
    <section className="ribbon" aria-label={words.ribbon.label} ref={frame}>
      <div className="ribbon-bar">
        <span className="quiet small">{words.ribbon.scale}</span>
        <button type="button" className="key bare small" onClick={() => setFolded(!folded)} aria-expanded={!folded}>
          {folded ? words.ribbon.unfold : words.ribbon.fold}
        </button>
        <button type="button" className="key bare small" onClick={() => setAsTable(!asTable)} aria-pressed={asTable}>
          {words.ribbon.table}
        </button>
      </div>
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
            onPointerDown={(event) => {
              event.currentTarget.setPointerCapture(event.pointerId);
              onMinute(toMinute(event));
            }}
            onPointerMove={(event) => event.buttons > 0 && onMinute(toMinute(event))}
          >
            <Section lesson={lesson} plan={plan} width={width} lane={lane} height={height} selectedStep={selectedStep} />
            <RakingLight minute={minute} height={height} plan={plan} lesson={lesson} lane={lane} inner={inner} />
          </svg>
          <input
            className="visually-hidden ribbon-slider"
            type="range"
            min={0}
            max={Math.ceil(endMin)}
            step={1}
            value={Math.round(minute)}
            aria-label={words.ribbon.light}
            aria-valuetext={minuteInWords(lesson, plan, minute)}
            onChange={(event) => onMinute(Math.min(endMin, Number(event.target.value)))}
          />
          <p className="visually-hidden" aria-live="polite">
            {minuteInWords(lesson, plan, minute)}
          </p>
        </>
      )}
    </section>
  );
}

/** "0:53, near ridge damp, paint over in 9 min": what is wet at a minute. */
export function minuteInWords(lesson: Lesson, { plan }: LessonPlan, minute: number): string {
  const wet = lesson.zones.flatMap((zone) => {
    const { rung, nextMin } = zoneRung(plan.coats, zone.id, minute);
    if (rung !== 'workable' && rung !== 'damp') return [];
    const next = rung === 'workable' ? rungWord.damp : 'paint over';
    return [`${zone.name} ${rungWord[rung]}${nextMin === null ? '' : `, ${next} ${words.ribbon.in(waitInWords(nextMin))}`}`];
  });
  const item = plan.items.find((one) => minute >= one.startMin && minute < one.endMin);
  return [hourMinute(minute), item?.title, ...wet].filter(Boolean).join(', ');
}

/** Everything that does not move with the light: drawn again only when the plan or the width changes. */
const Section = memo(function Section({
  lesson,
  plan,
  width,
  lane,
  height,
  selectedStep,
}: {
  lesson: Lesson;
  plan: LessonPlan;
  width: number;
  lane: number;
  height: number;
  selectedStep: string | null;
}) {
  const id = useId().replace(/[^a-z0-9]/gi, '');
  const endMin = plan.plan.endMin;
  const inner = Math.max(200, width - LABEL_PX - RIGHT_PX);
  const toX = (at: number) => LABEL_PX + (at / endMin) * inner;
  const looks = looksOf(lesson);
  const scale = useFilmScale(plan, lane);
  const lanes = useMemo(
    () =>
      lane === 0
        ? []
        : lesson.zones.map((zone, i) => ({
            zone,
            base: laneBase(i, lane),
            slices: zoneSection(plan, zone.id, endMin, (at) => LABEL_PX + (at / endMin) * inner, laneBase(i, lane), scale),
          })),
    [lesson.zones, plan, endMin, inner, lane, scale],
  );
  const colours = (slice: FilmSlice) => slice.coat.mixIds.map((mixId) => looks.get(mixId)?.rgb ?? 'rgb(190 190 190)');
  const step = tickStep(endMin);
  return (
    <>
      <defs>
        <pattern id={`${id}linen`} width="4" height="4" patternUnits="userSpaceOnUse">
          <rect width="4" height="4" fill="#dededb" />
          <path d="M0 1h2M2 3h2" stroke="#cdcdc8" strokeWidth=".7" />
          <path d="M1 2v2M3 0v2" stroke="#e9e9e6" strokeWidth=".7" />
        </pattern>
        {lanes.flatMap(({ zone, slices }) =>
          slices.map((slice, i) => {
            const all = colours(slice);
            return (
              <g key={`${zone.id}${slice.coat.stepId}`}>
                {all.length > 1 && (
                  <linearGradient id={`${id}g${zone.id}${i}`} x1="0" y1="0" x2="0" y2="1">
                    {all.map((colour, k) => (
                      <stop key={colour} offset={k / (all.length - 1)} stopColor={colour} />
                    ))}
                  </linearGradient>
                )}
                <TexturePattern id={`${id}w${zone.id}${i}`} kind="gloss" rgb={all.at(-1) ?? 'rgb(190 190 190)'} />
                <TexturePattern id={`${id}d${zone.id}${i}`} kind="stipple" rgb={all.at(-1) ?? 'rgb(190 190 190)'} />
              </g>
            );
          }),
        )}
      </defs>
      <rect x={LABEL_PX} y={AXIS_PX} width={inner} height={height - AXIS_PX} fill={`url(#${id}linen)`} />
      {ticks(endMin, step).map((at) => (
        <g key={at}>
          <line x1={toX(at)} x2={toX(at)} y1={AXIS_PX - 5} y2={height} stroke="#bdbdb9" strokeWidth={0.7} />
          <text x={toX(at)} y={15} textAnchor="middle" className="ribbon-tick">
            {hourMinute(at)}
          </text>
        </g>
      ))}
      <text x={LABEL_PX - 10} y={AXIS_PX + HANDS_PX / 2 + 5} textAnchor="end" className="ribbon-label">
        {words.ribbon.hands}
      </text>
      {plan.plan.items.map((item, i) => (
        <Track
          key={`${item.stepId ?? 'pause'}${item.startMin}`}
          item={item}
          number={lesson.steps.findIndex((step) => step.id === item.stepId) + 1}
          x={toX(item.startMin)}
          width={toX(item.endMin) - toX(item.startMin)}
          seed={i}
          isSelected={item.stepId !== undefined && item.stepId === selectedStep}
        />
      ))}
      {lanes.map(({ zone, base, slices }) => (
        <g key={zone.id}>
          <line x1={0} x2={width} y1={base + 3.5} y2={base + 3.5} stroke="#c4c4c0" strokeWidth={0.7} />
          <text x={LABEL_PX - 10} y={base - 1} textAnchor="end" className="ribbon-label">
            {zone.name}
          </text>
          {slices.map((slice, i) => (
            <g key={slice.coat.stepId}>
              <path
                d={slice.path}
                fill={slice.coat.mixIds.length > 1 ? `url(#${id}g${zone.id}${i})` : (colours(slice)[0] ?? 'none')}
                stroke="#00000030"
                strokeWidth={0.5}
              />
              <path d={slice.wetPath} fill={`url(#${id}w${zone.id}${i})`} />
              <path d={slice.dampPath} fill={`url(#${id}d${zone.id}${i})`} />
            </g>
          ))}
          {plan.misses
            .filter((miss) => miss.zoneId === zone.id && miss.kind === 'blend-outlasts')
            .map((miss) => (
              <g key={miss.stepId}>
                <title>{words.ribbon.fails}</title>
                <path d={`M${toX(miss.atMin)} ${base + 2}v${-lane + 6}`} stroke="#a92f14" strokeWidth={2.5} />
              </g>
            ))}
        </g>
      ))}
    </>
  );
});

const laneBase = (i: number, lane: number) => AXIS_PX + HANDS_PX + (i + 1) * lane - 4;

/** Pixels per √µm so that the thickest pile of a lesson just fits its lane. */
function useFilmScale(plan: LessonPlan, lane: number): number {
  return useMemo(() => {
    const pile = new Map<string, number>();
    let most = 40;
    for (const coat of plan.coats) {
      const below = pile.get(coat.zoneId) ?? 0;
      most = Math.max(most, below + coat.wetUm * coat.coverShare);
      pile.set(coat.zoneId, below + coat.dryUm * coat.coverShare);
    }
    return Math.max(0, lane - 7) / Math.sqrt(most);
  }, [plan, lane]);
}

/** A stretch of work as brush tracks, or bare linen with its length for a pause. */
function Track({
  item,
  number,
  x,
  width,
  seed,
  isSelected,
}: {
  item: PlanItem;
  number: number;
  x: number;
  width: number;
  seed: number;
  isSelected: boolean;
}) {
  const middle = AXIS_PX + HANDS_PX / 2;
  const length = waitInWords(item.endMin - item.startMin);
  if (item.kind !== 'step') {
    const minutes = Math.round(item.endMin - item.startMin);
    const labels = item.kind === 'break' ? [`${words.desk.break} ${length}`, words.desk.break, length] : [length];
    const label = [...labels, String(minutes)].find((one) => width > one.length * 6.6 + 4);
    return (
      <g data-pause={item.title}>
        <title>{`${item.title}: ${length}`}</title>
        <rect x={x} y={AXIS_PX} width={width} height={HANDS_PX} fill="#0000" />
        {label && (
          <text x={x + width / 2} y={middle + 4.5} textAnchor="middle" className="ribbon-pause">
            {label}
          </text>
        )}
      </g>
    );
  }
  const wobble = (k: number) => (((seed * 7 + k * 13) % 5) - 2) * 0.5;
  const [from, to] = [x + 1.5, x + Math.max(3, width - 1.5)];
  const label = fitting(item.title, width - 12) || (width > 13 ? String(number) : '');
  return (
    <g>
      {[-8, -4, 0, 4, 8].map((dy, k) => (
        <path
          key={dy}
          d={`M${(from + Math.abs(wobble(k)) * 1.6).toFixed(1)} ${middle + dy + wobble(k)}Q${((from + to) / 2).toFixed(1)} ${middle + dy + wobble(k + 1)} ${(to - Math.abs(wobble(k + 2)) * 2).toFixed(1)} ${middle + dy + wobble(k + 3)}`}
          stroke={isSelected ? '#111' : '#474747'}
          strokeWidth={4.3}
          strokeLinecap="round"
          fill="none"
        />
      ))}
      {isSelected && <path d={`M${from} ${AXIS_PX + 2.5}H${to}`} stroke="#111" strokeWidth={2.5} />}
      {label && (
        <text x={x + width / 2} y={middle + 4.3} textAnchor="middle" className="ribbon-track">
          {label}
        </text>
      )}
    </g>
  );
}

/** As many whole words of a title as fit into so many pixels; none rather than a stump. */
function fitting(title: string, px: number): string {
  const most = Math.floor(px / 6.3);
  if (title.length <= most) return title;
  const parts = title.replace(/,.*$/, '').split(' ');
  while (parts.length > 0 && (parts.join(' ').length > most || /^(the|a|in|on|and|of|from|the whole)$/i.test(parts.at(-1) ?? '')))
    parts.pop();
  return parts.join(' ').length >= 3 ? parts.join(' ') : '';
}

/** The present minute as a low light: a narrow bright band in which wet film glints. */
function RakingLight({
  minute,
  height,
  plan,
  lesson,
  lane,
  inner,
}: {
  minute: number;
  height: number;
  plan: LessonPlan;
  lesson: Lesson;
  lane: number;
  inner: number;
}) {
  const { endMin } = plan.plan;
  const x = LABEL_PX + (minute / endMin) * inner;
  const id = useId().replace(/[^a-z0-9]/gi, '');
  const scale = useFilmScale(plan, lane);
  const glints = useMemo(
    () =>
      lane === 0
        ? []
        : lesson.zones.flatMap((zone, i) =>
            zoneSection(plan, zone.id, endMin, (at) => LABEL_PX + (at / endMin) * inner, laneBase(i, lane), scale).map(
              (slice) => slice.wetPath,
            ),
          ),
    [lesson.zones, plan, endMin, inner, lane, scale],
  );
  return (
    <g className="raking-light">
      <defs>
        <linearGradient id={`${id}beam`}>
          <stop offset="0" stopColor="#fff" stopOpacity="0" />
          <stop offset=".5" stopColor="#fff" stopOpacity=".95" />
          <stop offset="1" stopColor="#fff" stopOpacity="0" />
        </linearGradient>
        <clipPath id={`${id}wet`}>{glints.map((path) => (path ? <path key={path.slice(0, 60)} d={path} /> : null))}</clipPath>
      </defs>
      <rect x={x - 9} y={AXIS_PX - 4} width={18} height={height} fill={`url(#${id}beam)`} opacity={0.55} />
      <rect x={x - 13} y={AXIS_PX} width={26} height={height} fill={`url(#${id}beam)`} clipPath={`url(#${id}wet)`} />
      <line x1={x} x2={x} y1={AXIS_PX - 4} y2={height} stroke="#fff" strokeWidth={1.6} />
      <g transform={`translate(${Math.min(Math.max(x, LABEL_PX + 22), LABEL_PX + inner - 22)} 0)`}>
        <rect x={-38} y={0} width={76} height={21} fill="#e7e7e7" />
        <text y={16} textAnchor="middle" className="ribbon-minute">
          {hourMinute(minute)}
        </text>
      </g>
    </g>
  );
}

const tickStep = (endMin: number) => [5, 10, 15, 30, 60, 120, 240, 720, 1440].find((step) => endMin / step <= 11) ?? 2880;
const ticks = (endMin: number, step: number) => Array.from({ length: Math.floor(endMin / step) + 1 }, (_, i) => i * step);

function RibbonTable({ plan, onStep }: { plan: LessonPlan; onStep: (stepId: string) => void }) {
  return (
    <div className="ribbon-table">
      <table>
        <thead>
          <tr>
            {words.ribbon.columns.map((column) => (
              <th key={column}>{column}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {plan.plan.items.map((item) => (
            <tr key={`${item.stepId ?? 'pause'}${item.startMin}`}>
              <td className="numbers">{hourMinute(item.startMin)}</td>
              <td className="numbers">{hourMinute(item.endMin)}</td>
              <td>
                {item.stepId ? (
                  <button type="button" className="key bare" onClick={() => onStep(item.stepId as string)}>
                    {item.title}
                  </button>
                ) : (
                  item.title
                )}
              </td>
              <td>
                {item.kind === 'pause'
                  ? `${waitInWords(item.endMin - item.startMin)}. ${item.reason ?? ''}`
                  : coatsInWords(plan, item)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function coatsInWords(plan: LessonPlan, item: PlanItem): string {
  const coat = plan.plan.coats.find((one) => one.stepId === item.stepId);
  if (!coat || coat.openMin === null || coat.paintOverMin === null) return '';
  return `workable ${waitInWords(coat.openMin)}, paint over after ${waitInWords(coat.paintOverMin)}`;
}
