import type { Corners, Point } from '@viaticum/core/transfer';
import { type KeyboardEvent, type PointerEvent, useRef } from 'react';
import { useBlobUrl } from '../lesson/laid.js';
import { words } from '../words/words.js';
import css from './corner-picker.module.css';
import { arrowStep } from './point.js';

const w = words.corners;

/** A photograph, and the corners of what lies in it. */
export type CorneredPhoto = { blob: Blob; widthPx: number; heightPx: number; corners: Corners; wasFound: boolean };

/** A photograph with the corners that were found in it, or with four to be put in their places. */
export function cornered(blob: Blob, found: { widthPx: number; heightPx: number; corners: Corners | null }): CorneredPhoto {
  const { widthPx: x, heightPx: y, corners } = found;
  const usual: Corners = [
    [x * 0.15, y * 0.15],
    [x * 0.85, y * 0.15],
    [x * 0.85, y * 0.85],
    [x * 0.15, y * 0.85],
  ];
  return { blob, widthPx: x, heightPx: y, corners: corners ?? usual, wasFound: corners !== null };
}

/** The photograph with its four corners, moved by hand or by the arrow keys. */
export function CornerPicker({ photo, onCorners }: { photo: CorneredPhoto; onCorners: (corners: Corners) => void }) {
  const { widthPx, heightPx, corners } = photo;
  const url = useBlobUrl(photo.blob);
  const svg = useRef<SVGSVGElement>(null);
  const dragged = useRef<number | null>(null);
  const put = (i: number, [x, y]: Point) =>
    onCorners(
      corners.map((p, k) => (k === i ? [Math.max(0, Math.min(widthPx, x)), Math.max(0, Math.min(heightPx, y))] : p)) as Corners,
    );
  const at = (event: PointerEvent): Point => {
    const matrix = svg.current?.getScreenCTM();
    if (!matrix) return [0, 0];
    const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    return [x, y];
  };
  const onKey = (event: KeyboardEvent, i: number) => {
    const by = arrowStep(event, Math.max(1, widthPx / 400), widthPx / 40);
    if (!by) return;
    event.preventDefault();
    const [x, y] = corners[i] as Point;
    put(i, [x + by[0], y + by[1]]);
  };
  const r = widthPx / 45;
  return (
    <svg
      ref={svg}
      className={css.cornerPicker}
      viewBox={`0 0 ${widthPx} ${heightPx}`}
      aria-label={w.cornerHelp}
      onPointerMove={(event) => dragged.current !== null && put(dragged.current, at(event))}
      onPointerUp={() => {
        dragged.current = null;
      }}
    >
      {url && <image href={url} width={widthPx} height={heightPx} preserveAspectRatio="none" />}
      <path d={`M${corners.map((p) => p.join(' ')).join('L')}Z`} fill="none" stroke="var(--white)" strokeWidth={r * 0.35} />
      <path d={`M${corners.map((p) => p.join(' ')).join('L')}Z`} fill="none" stroke="var(--grey-12)" strokeWidth={r * 0.16} />
      {corners.map(([x, y], i) => (
        // biome-ignore lint/a11y/useSemanticElements: a handle in a drawing
        <circle
          // biome-ignore lint/suspicious/noArrayIndexKey: corners have nothing but their order
          key={i}
          cx={x}
          cy={y}
          r={r}
          className={css.cornerHandle}
          role="button"
          tabIndex={0}
          aria-label={w.corner(i + 1)}
          strokeWidth={r * 0.25}
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            dragged.current = i;
          }}
          onKeyDown={(event) => onKey(event, i)}
        />
      ))}
    </svg>
  );
}
