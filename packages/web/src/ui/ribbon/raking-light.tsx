import type { LessonPlan } from '@viaticum/core/plan';
import { useId } from 'react';
import { AXIS_PX, type Axis, LABEL_PX, timeLabel } from './axis.js';
import type { Lane } from './lanes.js';
import css from './raking-light.module.css';
import { useFilms } from './section.js';

/** The present minute as a low light: a narrow bright band in which wet film glints. */
export function RakingLight({
  minute,
  height,
  plan,
  axis,
  lanes,
  lane,
}: {
  minute: number;
  height: number;
  plan: LessonPlan;
  axis: Axis;
  lanes: readonly Lane[];
  lane: number;
}) {
  const x = axis.toX(minute);
  const id = useId().replace(/[^a-z0-9]/gi, '');
  const films = useFilms(plan, lanes, axis, lane);
  const label = timeLabel(minute);
  return (
    <g className={css.rakingLight}>
      <defs>
        <linearGradient id={`${id}beam`}>
          <stop offset="0" stopColor="var(--white)" stopOpacity="0" />
          <stop offset=".5" stopColor="var(--white)" stopOpacity=".95" />
          <stop offset="1" stopColor="var(--white)" stopOpacity="0" />
        </linearGradient>
        <clipPath id={`${id}wet`}>
          {films.flatMap(({ slices }) =>
            slices.map(({ wetPath, coat }) => (wetPath ? <path key={coat.stepId + coat.areaId} d={wetPath} /> : null)),
          )}
        </clipPath>
      </defs>
      <rect x={x - 9} y={AXIS_PX - 4} width={18} height={height} fill={`url(#${id}beam)`} opacity={0.55} />
      <rect x={x - 13} y={AXIS_PX} width={26} height={height} fill={`url(#${id}beam)`} clipPath={`url(#${id}wet)`} />
      <line x1={x} x2={x} y1={AXIS_PX - 4} y2={height} stroke="var(--white)" strokeWidth={1.6} />
      <g transform={`translate(${Math.min(Math.max(x, LABEL_PX + 22), LABEL_PX + axis.inner - 22)} 0)`}>
        <rect x={-38} y={0} width={76} height={21} fill="var(--grey-91)" />
        <text y={16} textAnchor="middle" className={css.ribbonMinute}>
          {label}
        </text>
      </g>
    </g>
  );
}
