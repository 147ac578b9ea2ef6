import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from 'react';
import { arrowStep, insideCanvas, type Point, type ToMm } from './point.js';
import css from './point-face.module.css';

export type Handlers = {
  label: string;
  onTap?: (at: Point) => void;
  /** A stroke as it grows (`done` with its last point). */
  onStroke?: (points: Point[], done: boolean) => void;
  onKey?: (event: KeyboardEvent, cross: Point) => boolean;
};
/** The canvas in mm, the mm that a screen pixel covers, and where on it a place of the screen lies. */
type Canvas = { support: { widthMm: number; heightMm: number }; unit: number; toMm: ToMm };

/**
 * The face of a canvas as something to tap or stroke: by mouse, pen or finger, or by keyboard with a cross that the arrow
 * keys move and Space sets down.
 */
export function PointFace({ label, onTap, onStroke, onKey, support, unit, toMm }: Handlers & Canvas) {
  const [cross, setCross] = useState<Point | null>(null);
  const face = useRef<SVGRectElement>(null);
  const stroke = useRef<Point[] | null>(null);
  useEffect(() => face.current?.focus({ preventScroll: true }), []);
  const { widthMm, heightMm } = support;
  const onKeyDown = (event: KeyboardEvent) => {
    const at = cross ?? [widthMm / 2, heightMm / 2];
    const by = arrowStep(event, 4, 20);
    if (by) setCross(insideCanvas([at[0] + by[0], at[1] + by[1]], support));
    else if (event.key === ' ' && onTap) {
      setCross(at);
      onTap(at);
    } else if (!onKey?.(event, at)) return;
    event.preventDefault();
    event.stopPropagation();
  };
  const onDown = (event: PointerEvent<SVGRectElement>) => {
    event.preventDefault();
    event.currentTarget.setPointerCapture(event.pointerId);
    face.current?.focus({ preventScroll: true });
    stroke.current = [toMm(event)];
  };
  const onMove = (event: PointerEvent<SVGRectElement>) => {
    if (!stroke.current) return;
    const at = toMm(event);
    const last = stroke.current.at(-1) as Point;
    if (Math.hypot(at[0] - last[0], at[1] - last[1]) < 3 * unit) return;
    stroke.current = [...stroke.current, at];
    onStroke?.(stroke.current, false);
  };
  const onUp = () => {
    const points = stroke.current;
    stroke.current = null;
    if (!points) return;
    if (points.length === 1 || !onStroke) {
      setCross(null);
      onTap?.(points.at(-1) as Point);
    } else onStroke(points, true);
  };
  return (
    <g>
      {/* biome-ignore lint/a11y/useSemanticElements: the face of the canvas, on which hands work */}
      <rect
        ref={face}
        className={css.face}
        data-testid="easel-face"
        width={widthMm}
        height={heightMm}
        fill="transparent"
        role="button"
        tabIndex={0}
        aria-label={label}
        onKeyDown={onKeyDown}
        onPointerDown={onDown}
        onPointerMove={onMove}
        onPointerUp={onUp}
        onPointerCancel={() => {
          stroke.current = null;
        }}
      />
      {cross && (
        <path
          d={`M${cross[0] - unit * 12} ${cross[1]}h${unit * 24}M${cross[0]} ${cross[1] - unit * 12}v${unit * 24}`}
          className={css.cross}
          strokeWidth={unit * 1.4}
          pointerEvents="none"
        />
      )}
    </g>
  );
}
