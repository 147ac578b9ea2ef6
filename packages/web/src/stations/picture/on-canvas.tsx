import { type KeyboardEvent, type PointerEvent, type ReactNode, useEffect, useRef, useState } from 'react';
import { createPortal } from 'react-dom';
import { useLesson } from '../../lesson/context.js';
import { insideCanvas, useEasel } from './easel-context.js';
import css from './on-canvas.module.css';
import pictureCss from './picture.module.css';
import { arrowStep, type Point } from './point.js';

/** Draws on the easel, in millimetres of the canvas. */
export function OnCanvas({ children }: { children: ReactNode }) {
  const { layer } = useEasel();
  return layer && createPortal(children, layer);
}

type Handlers = {
  label: string;
  onTap?: (at: Point) => void;
  /** A stroke as it grows (`done` with its last point). */
  onStroke?: (points: Point[], done: boolean) => void;
  onKey?: (event: KeyboardEvent, cross: Point) => boolean;
};

/**
 * The face of the canvas as something to tap or stroke: by mouse, pen or finger, or by keyboard with a cross that the arrow
 * keys move and Space sets down.
 */
export function Face({ label, onTap, onStroke, onKey }: Handlers) {
  const { support } = useLesson();
  const { unit, toMm } = useEasel();
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
        className={css.easelFace}
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
          className={pictureCss.drawCross}
          strokeWidth={unit * 1.4}
          pointerEvents="none"
        />
      )}
    </g>
  );
}
