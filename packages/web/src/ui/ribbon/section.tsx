import type { Lesson } from '@viaticum/contract';
import { type ChainLink, criticalChain } from '@viaticum/core/advice';
import { looksOf } from '@viaticum/core/derived';
import type { LessonPlan } from '@viaticum/core/plan';
import { memo, useId, useMemo } from 'react';
import { words } from '../../words/words.js';
import { TexturePattern } from '../textures.js';
import { AXIS_PX, type Axis, HANDS_PX, LABEL_PX, ticksOf } from './axis.js';
import { areaSection, type FilmSlice } from './film.js';
import type { Lane } from './lanes.js';
import ribbonCss from './ribbon.module.css';
import css from './section.module.css';
import { Track } from './track.js';

const laneBase = (i: number, lane: number) => AXIS_PX + HANDS_PX + (i + 1) * lane - 4;
const BARE = 'rgb(190 190 190)';

/** The films of all lanes on an axis; a lane of several areas holds theirs one over the other. */
export function useFilms(plan: LessonPlan, lanes: readonly Lane[], axis: Axis, lane: number) {
  const scale = useFilmScale(plan, lane);
  const { fromMin, toMin, inner } = axis;
  return useMemo(() => {
    if (lane === 0) return [];
    const toX = (at: number) => LABEL_PX + ((at - fromMin) / (toMin - fromMin)) * inner;
    return lanes.map((one, i) => ({
      lane: one,
      base: laneBase(i, lane),
      slices: one.areaIds.flatMap((areaId) => areaSection(plan, areaId, toMin, toX, laneBase(i, lane), scale)),
    }));
  }, [plan, lanes, fromMin, toMin, inner, lane, scale]);
}

/** Pixels per √µm so that the thickest pile of a lesson just fits its lane. */
function useFilmScale(plan: LessonPlan, lane: number): number {
  return useMemo(() => {
    const pile = new Map<string, number>();
    let most = 40;
    for (const coat of plan.coats) {
      const below = pile.get(coat.areaId) ?? 0;
      most = Math.max(most, below + coat.wetUm * coat.coverShare);
      pile.set(coat.areaId, below + coat.dryUm * coat.coverShare);
    }
    return Math.max(0, lane - 7) / Math.sqrt(most);
  }, [plan, lane]);
}

type Props = {
  lesson: Lesson;
  plan: LessonPlan;
  axis: Axis;
  width: number;
  height: number;
  lane: number;
  lanes: readonly Lane[];
  selectedStep: string | null;
  withChain: boolean;
  /** Whether the lane of the hands is named. */
  withHands: boolean;
};

/** Everything that does not move with the light: drawn again only when the plan, the width or the zoom changes. */
export const Section = memo(function Section(props: Props) {
  const { lesson, plan, axis, width, height, lane, lanes, selectedStep, withChain, withHands } = props;
  const id = useId().replace(/[^a-z0-9]/gi, '');
  const looks = looksOf(lesson);
  const films = useFilms(plan, lanes, axis, lane);
  const colours = (slice: FilmSlice) => slice.coat.mixIds.map((mixId) => looks.get(mixId)?.rgb ?? BARE);
  const { toX, inner } = axis;
  const pinned = new Set(lesson.planning.pins.flatMap((pin) => ('stepId' in pin ? [pin.stepId] : [])));
  const laneOf = (areaId: string) => lanes.findIndex((one) => one.areaIds.includes(areaId));
  return (
    <>
      <defs>
        <clipPath id={`${id}frame`}>
          <rect x={LABEL_PX} y={0} width={inner} height={height} />
        </clipPath>
        <pattern id={`${id}linen`} width="4" height="4" patternUnits="userSpaceOnUse">
          <rect width="4" height="4" fill="var(--grey-87)" />
          <path d="M0 1h2M2 3h2" stroke="var(--grey-82)" strokeWidth=".7" />
          <path d="M1 2v2M3 0v2" stroke="var(--grey-91)" strokeWidth=".7" />
        </pattern>
        {films.flatMap(({ lane: one, slices }) =>
          slices.map((slice, i) => {
            const all = colours(slice);
            return (
              <g key={`${one.id}${slice.coat.stepId}${slice.coat.areaId}`}>
                {all.length > 1 && (
                  <linearGradient id={`${id}g${one.id}${i}`} x1="0" y1="0" x2="0" y2="1">
                    {all.map((colour, k) => (
                      <stop key={colour} offset={k / (all.length - 1)} stopColor={colour} />
                    ))}
                  </linearGradient>
                )}
                <TexturePattern id={`${id}w${one.id}${i}`} kind="gloss" rgb={all.at(-1) ?? BARE} />
                <TexturePattern id={`${id}d${one.id}${i}`} kind="stipple" rgb={all.at(-1) ?? BARE} />
              </g>
            );
          }),
        )}
      </defs>
      <rect x={LABEL_PX} y={AXIS_PX} width={inner} height={height - AXIS_PX} fill={`url(#${id}linen)`} />
      {ticksOf(axis).map(({ at, label }) => (
        <g key={at}>
          <line x1={toX(at)} x2={toX(at)} y1={AXIS_PX - 5} y2={height} stroke="var(--grey-76)" strokeWidth={0.7} />
          <text x={toX(at)} y={15} textAnchor="middle" className={css.ribbonTick} data-testid="ribbon-tick">
            {label}
          </text>
        </g>
      ))}
      {withHands && (
        <text x={LABEL_PX - 10} y={AXIS_PX + HANDS_PX / 2 + 5} textAnchor="end" className={ribbonCss.ribbonLabel}>
          {words.ribbon.hands}
        </text>
      )}
      <g clipPath={`url(#${id}frame)`}>
        {plan.plan.items.map((item, i) => (
          <Track
            key={`${item.stepId ?? item.kind}${item.startMin}`}
            item={item}
            number={lesson.steps.findIndex((step) => step.id === item.stepId) + 1}
            x={toX(item.startMin)}
            width={toX(item.endMin) - toX(item.startMin)}
            seed={i}
            isSelected={item.stepId !== undefined && item.stepId === selectedStep}
            isPinned={item.stepId !== undefined && pinned.has(item.stepId)}
          />
        ))}
      </g>
      {films.map(({ lane: one, base, slices }) => (
        <g key={one.id}>
          <line x1={0} x2={width} y1={base + 3.5} y2={base + 3.5} stroke="var(--grey-76)" strokeWidth={0.7} />
          <text x={LABEL_PX - 10} y={base - 1} textAnchor="end" className={ribbonCss.ribbonLabel}>
            <title>{one.name}</title>
            {shortened(one.name)}
          </text>
          <g clipPath={`url(#${id}frame)`}>
            {slices.map((slice, i) => (
              <g key={slice.coat.stepId + slice.coat.areaId}>
                <path
                  d={slice.path}
                  fill={slice.coat.mixIds.length > 1 ? `url(#${id}g${one.id}${i})` : (colours(slice)[0] ?? 'none')}
                  stroke="var(--shade)"
                  strokeWidth={0.5}
                />
                <path d={slice.wetPath} fill={`url(#${id}w${one.id}${i})`} />
                <path d={slice.dampPath} fill={`url(#${id}d${one.id}${i})`} />
                {slice.curedTop && (
                  <g fill="none" stroke="var(--grey-12)" strokeWidth={0.7}>
                    <path d={slice.curedTop} transform="translate(0 -1.2)" />
                    <path d={slice.curedTop} transform="translate(0 -3.2)" />
                  </g>
                )}
              </g>
            ))}
            {plan.misses
              .filter((miss) => one.areaIds.includes(miss.areaId) && miss.kind === 'blend-outlasts')
              .map((miss) => (
                <g key={miss.stepId}>
                  <title>{words.ribbon.fails}</title>
                  <path d={`M${toX(miss.atMin)} ${base + 2}v${-lane + 6}`} stroke="var(--signal)" strokeWidth={2.5} />
                </g>
              ))}
          </g>
        </g>
      ))}
      <Dusk lesson={lesson} axis={axis} height={height} />
      {withChain && (
        <g clipPath={`url(#${id}frame)`}>
          <Chain
            links={criticalChain(plan)}
            toX={toX}
            yOf={(areaId) => (lane === 0 ? null : laneBase(laneOf(areaId), lane) - lane / 2 + 2)}
          />
        </g>
      )}
    </>
  );
});

/** After the light has gone the section darkens. */
function Dusk({ lesson: { room }, axis, height }: { lesson: Lesson; axis: Axis; height: number }) {
  if (room.startAtMin === undefined || room.lightUntilMin === undefined) return null;
  const from = Math.max(axis.fromMin, room.lightUntilMin - room.startAtMin);
  if (from >= axis.toMin) return null;
  const x = axis.toX(from);
  return (
    <g>
      <rect x={x} y={AXIS_PX} width={LABEL_PX + axis.inner - x} height={height} fill="var(--grey-12)" opacity={0.32} />
      <text x={x + 5} y={height - 7} className={css.ribbonDusk}>
        {words.ribbon.dusk}
      </text>
    </g>
  );
}

/** What sets the end: a thread under the tracks of its steps that goes down into a film for as long as it is waited for. */
function Chain({
  links,
  toX,
  yOf,
}: {
  links: ChainLink[];
  toX: (minute: number) => number;
  yOf: (areaId: string) => number | null;
}) {
  const y = AXIS_PX + HANDS_PX - 3;
  let work = '';
  let threads = '';
  links.forEach((link, k) => {
    const before = links[k - 1];
    const down = link.reason.kind === 'dry' ? yOf(link.reason.areaId) : null;
    const from = toX(link.startMin);
    if (before && down !== null) {
      const left = toX(before.endMin);
      work += `M${left} ${down}H${from}`;
      threads += `M${left} ${y}V${down}M${from} ${down}V${y}`;
    } else if (before) work += `M${toX(before.endMin)} ${y}H${from}`;
    work += `M${from} ${y}H${toX(link.endMin)}`;
  });
  return (
    <g data-testid="ribbon-chain" fill="none" strokeLinecap="round">
      <path d={work} stroke="var(--white)" strokeWidth={5} opacity={0.85} />
      <path d={threads} stroke="var(--grey-0)" strokeWidth={1} strokeDasharray="1 3" />
      <path d={work} stroke="var(--grey-0)" strokeWidth={2.4} />
    </g>
  );
}

const LABEL_LETTERS = 15;
/** A lane's name as far as there is room for it; whole when it is pointed at. */
const shortened = (name: string): string =>
  name.length > LABEL_LETTERS ? `${name.slice(0, LABEL_LETTERS - 1).trimEnd()}…` : name;
