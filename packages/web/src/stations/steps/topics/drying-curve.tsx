import type { CoatRange, CoatTimes } from '@viaticum/core/coat';
import { Area, CartesianGrid, ComposedChart, Line, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { words } from '../../../words/words.js';
import stepsCss from '../steps.module.css';

const w = words.plan.drying;
const POINTS = 70;

/** What the film holds at a time, read off its curve. */
function at(curve: CoatTimes['curve'], minute: number): number {
  const next = curve.findIndex((moment) => moment.min >= minute);
  const total = (moment: CoatTimes['curve'][number]) => moment.water + moment.humectant + moment.solids;
  const last = curve.at(-1) as CoatTimes['curve'][number];
  if (next < 0) return total(last);
  const b = curve[next] as CoatTimes['curve'][number];
  const a = curve[Math.max(0, next - 1)] as CoatTimes['curve'][number];
  const share = b.min > a.min ? (minute - a.min) / (b.min - a.min) : 0;
  return total(a) + share * (total(b) - total(a));
}

/** Solids below, water and humectant above them, over minutes; the band is the likely range, the lines are the rungs. */
export function DryingCurve({ times, range }: { times: CoatTimes; range: CoatRange }) {
  const finite = [range.late.paintOverMin, times.touchDryMin * 1.15, times.openMin * 3].filter(Number.isFinite);
  const until = finite.length > 0 ? Math.max(...finite) : 120;
  const solids = times.curve[0]?.solids ?? 0;
  const rows = Array.from({ length: POINTS + 1 }, (_, i) => {
    const minute = (until * i) / POINTS;
    return {
      minute: Math.round(minute * 10) / 10,
      solids,
      total: at(times.curve, minute),
      band: [at(range.curves.early, minute), at(range.curves.late, minute)],
    };
  });
  const rungs = [
    [w.workable, times.openMin],
    [w.paintOver, times.paintOverMin],
    [w.touchDry, times.touchDryMin],
  ] as const;
  return (
    <figure className={stepsCss.dryingCurve}>
      <ResponsiveContainer width="100%" height={210}>
        <ComposedChart data={rows} margin={{ top: 26, right: 16, bottom: 4, left: 0 }}>
          <CartesianGrid stroke="var(--grey-87)" vertical={false} />
          <XAxis
            dataKey="minute"
            type="number"
            domain={[0, until]}
            tickFormatter={(value: number) => String(Math.round(value))}
          />
          <YAxis width={40} tick={{ fontSize: 12.5 }} tickFormatter={(value: number) => String(Math.round(value))} />
          <Tooltip
            isAnimationActive={false}
            formatter={(value) =>
              Array.isArray(value) ? value.map((one) => Math.round(Number(one))).join(' – ') : Math.round(Number(value))
            }
            labelFormatter={(value) => `${Math.round(Number(value))} ${w.minutes}`}
          />
          <Area dataKey="band" name={w.band} fill="var(--grey-76)" fillOpacity={0.45} stroke="none" isAnimationActive={false} />
          <Area dataKey="solids" name={w.solids} fill="var(--grey-45)" stroke="var(--grey-31)" isAnimationActive={false} />
          <Line dataKey="total" name={w.water} stroke="var(--grey-12)" strokeWidth={2.4} dot={false} isAnimationActive={false} />
          {rungs.map(([name, minute], k) =>
            Number.isFinite(minute) && minute <= until ? (
              <ReferenceLine
                key={name}
                x={minute}
                stroke="var(--grey-12)"
                strokeDasharray="2 3"
                label={{ value: name, position: 'top', fontSize: 12.5, fill: 'var(--grey-21)', dy: k === 1 ? -11 : 0 }}
              />
            ) : null,
          )}
        </ComposedChart>
      </ResponsiveContainer>
      <figcaption className="quiet small">{w.curve}</figcaption>
    </figure>
  );
}
