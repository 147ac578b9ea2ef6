import { outlinePath } from '@viaticum/core/area';
import type { ThingMark } from '@viaticum/kernels/things';
import { clsx } from 'clsx';
import type { Point } from '../ui/point.js';
import type { ShownArea } from '../workers/picture-jobs.js';
import css from './marks-on-canvas.module.css';
import type { Lining } from './use-things.js';

const path = (points: readonly (readonly [number, number])[]) => `M${points.map((point) => point.join(' ')).join('L')}`;

/** Things as they are told apart, in outline, with the marks that do it; in mm of the canvas, `unit` mm a screen pixel. */
export function MarksOnCanvas({
  areas,
  marks,
  lines,
  growing,
  begun,
  chosen,
  chosenLine,
  doubt,
  doubtWords,
  support: { widthMm, heightMm },
  unit,
}: {
  areas: readonly ShownArea[];
  marks: readonly ThingMark[];
  /** Things of lines, in mm. */
  lines: readonly Lining[];
  /** The mark under the hand, and the end of a line of which the other is awaited. */
  growing: readonly Point[];
  begun: Point | null;
  chosen: number | null;
  chosenLine: number | null;
  doubt: readonly [number, number] | null;
  doubtWords: string;
  support: { widthMm: number; heightMm: number };
  unit: number;
}) {
  const inMm = ([x, y]: readonly [number, number]) => [x * widthMm, y * heightMm] as const;
  return (
    <g pointerEvents="none" className={css.marks}>
      {areas.map((area) => (
        <g key={area.region} className={clsx(area.region === chosen && css.chosen)}>
          <path className={css.halo} d={outlinePath(area.seen)} strokeWidth={unit * 3.4} />
          <path className={css.line} d={outlinePath(area.seen)} strokeWidth={unit * (area.region === chosen ? 2.4 : 1.3)} />
        </g>
      ))}
      {marks.map(({ thing, kind, points }, i) => {
        const isOwn = thing === chosen;
        const [x, y] = inMm(points[0] as readonly [number, number]);
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: marks are told apart by their order alone
          <g key={i} className={clsx(isOwn && css.own)}>
            {points.length > 1 ? (
              <>
                <path className={css.under} d={path(points.map(inMm)) + (kind === 'ring' ? 'Z' : '')} strokeWidth={unit * 6} />
                <path className={css.over} d={path(points.map(inMm)) + (kind === 'ring' ? 'Z' : '')} strokeWidth={unit * 3.2} />
              </>
            ) : (
              <circle className={css.tap} cx={x} cy={y} r={unit * 5} strokeWidth={unit * 1.5} />
            )}
          </g>
        );
      })}
      {lines.map(({ along, widthMm: wide }, i) => {
        const seen = Math.max(wide, unit * 1.4);
        const d = along.map(path).join('');
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: things of lines are told apart by their number
          <g key={i} className={clsx(i === chosenLine && css.own)} data-testid="drawn-line">
            <path className={css.under} d={d} strokeWidth={seen + unit * 2} />
            <path className={css.over} d={d} strokeWidth={seen} />
          </g>
        );
      })}
      {begun && <circle className={css.tap} cx={begun[0]} cy={begun[1]} r={unit * 4} strokeWidth={unit * 1.5} />}
      {growing.length > 1 && <path className={css.under} d={path(growing)} strokeWidth={unit * 4} />}
      {doubt && (
        <g transform={`translate(${doubt[0] * widthMm} ${doubt[1] * heightMm})`} data-testid="doubt">
          <title>{doubtWords}</title>
          <circle className={css.doubt} r={unit * 11} strokeWidth={unit * 1.5} />
          <text className={css.doubtMark} y={unit * 5.5} fontSize={unit * 16} textAnchor="middle">
            ?
          </text>
        </g>
      )}
    </g>
  );
}
