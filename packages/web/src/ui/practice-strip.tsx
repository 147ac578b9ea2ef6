import type { SurfaceStrokes } from '@viaticum/core/derived';
import css from './practice-strip.module.css';

const WIDE_MM = 110;
const ROWS = 3;
/** Strokes lean, so that they stand side by side as one pulls them. */
const LEAN_DEG = -62;
const LONGEST_MM = 24;

/** Strokes of a pass over a surface as they are practised on scrap: three rows, each stroke as wide, as long and as tapered as it is. */
export function PracticeStrip({ strokes, label }: { strokes: SurfaceStrokes; label: string }) {
  const { widthMm, lengthMm, pass } = strokes;
  const long = Math.min(lengthMm, LONGEST_MM);
  const every = Math.max(widthMm * 2.2, long * 0.3);
  const rowMm = Math.max(8, long * 0.9 + widthMm + 2);
  const highMm = ROWS * rowMm;
  const count = Math.max(2, Math.floor((WIDE_MM - long * 0.6) / every));
  const lines = Array.from({ length: ROWS * count }, (_, k) => {
    const [row, i] = [Math.floor(k / count), k % count];
    // Wavers as a hand does, the same each time.
    const waver = Math.sin(k * 12.9898) * Math.min(pass.jitterDeg, 35);
    const [x, y] = [4 + i * every + (row % 2) * every * 0.5, rowMm * (row + 1) - widthMm / 2 - 1];
    const [half, end] = [widthMm / 2, (widthMm / 2) * (1 - pass.taper)];
    return {
      key: k,
      turn: `translate(${x.toFixed(1)} ${y.toFixed(1)}) rotate(${(LEAN_DEG + waver).toFixed(1)})`,
      path: `M0 ${-half}Q${long * 0.6} ${-half * 1.1} ${long} ${-end}A${end || 0.05} ${end || 0.05} 0 0 1 ${long} ${end}Q${long * 0.6} ${half * 1.1} 0 ${half}A${half} ${half} 0 0 1 0 ${-half}Z`,
    };
  });
  return (
    <svg className={css.strip} viewBox={`0 0 ${WIDE_MM} ${highMm}`} role="img" aria-label={label}>
      <rect className={css.scrap} width={WIDE_MM} height={highMm} />
      {lines.map(({ key, turn, path }) => (
        <path key={key} className={css.stroke} transform={turn} d={path} />
      ))}
    </svg>
  );
}
