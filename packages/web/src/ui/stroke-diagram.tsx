import type { StrokeKind } from '@viaticum/contract';
import { clsx } from 'clsx';
import { markWords } from '../words/steps.js';
import css from './stroke-diagram.module.css';
import { strokeWays } from './stroke-ways.js';

const WIDE: Partial<Record<StrokeKind, number>> = { stamp: 9, drag: 9, feather: 3, 'cut-in': 4, circle: 3, flick: 3, tap: 6 };

/** A stroke as a small moving diagram: the hand's way, and what it leaves. Still where movement is not wanted. */
export function StrokeDiagram({ stroke, size = 60 }: { stroke: StrokeKind; size?: number }) {
  const { leaves, hand, seconds } = strokeWays[stroke];
  return (
    <svg
      className={clsx(css.strokeDiagram, css[stroke])}
      viewBox="0 0 100 60"
      width={size}
      height={size * 0.6}
      role="img"
      aria-label={`${markWords.strokes[stroke].name}: ${markWords.strokes[stroke].how}`}
    >
      {stroke === 'lift-off' && <rect x="8" y="30" width="84" height="16" className={css.strokeWet} />}
      {leaves.map((path) => (
        <path
          key={path}
          d={path}
          className={css.strokeLeaves}
          strokeWidth={WIDE[stroke] ?? 6}
          pathLength={1}
          style={{ animationDuration: `${seconds * 2}s` }}
        />
      ))}
      <path d={hand} className={css.strokeHand} />
      <circle r="3.4" className={css.strokeTip} style={{ offsetPath: `path("${hand}")`, animationDuration: `${seconds * 2}s` }} />
    </svg>
  );
}
