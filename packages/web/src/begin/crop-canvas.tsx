import { type KeyboardEvent, type PointerEvent, useRef } from 'react';
import { arrowStep } from '../ui/point.js';
import { beginWords as w } from '../words/begin.js';
import css from './begin.module.css';
import { PlacedOnCanvas, type PlacedPicture } from './placed.js';

/** The canvas over its picture: the picture is dragged, or moved by the arrow keys, until the right part of it lies on the canvas. */
export function CropCanvas({
  picture,
  widthMm,
  heightMm,
  onMove,
}: {
  picture: PlacedPicture;
  widthMm: number;
  heightMm: number;
  onMove: (dxMm: number, dyMm: number) => void;
}) {
  const svg = useRef<SVGSVGElement>(null);
  const last = useRef<[number, number] | null>(null);
  const around = Math.max(widthMm, heightMm) * 0.08;
  const perPx = () => {
    const box = svg.current?.getBoundingClientRect();
    return box ? Math.max((widthMm + 2 * around) / box.width, (heightMm + 2 * around) / box.height) : 1;
  };
  const onPointerMove = (event: PointerEvent) => {
    if (!last.current) return;
    const unit = perPx();
    onMove((event.clientX - last.current[0]) * unit, (event.clientY - last.current[1]) * unit);
    last.current = [event.clientX, event.clientY];
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const by = arrowStep(event, 2, 12);
    if (!by) return;
    event.preventDefault();
    onMove(by[0], by[1]);
  };
  return (
    <div className={css.easel}>
      <PlacedOnCanvas picture={picture} widthMm={widthMm} heightMm={heightMm} aroundMm={around} svg={svg}>
        {/* biome-ignore lint/a11y/useSemanticElements: the canvas, under which hands move the picture */}
        <rect
          className={css.drag}
          x={-around}
          y={-around}
          width={widthMm + 2 * around}
          height={heightMm + 2 * around}
          role="button"
          tabIndex={0}
          aria-label={w.move}
          onKeyDown={onKeyDown}
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            last.current = [event.clientX, event.clientY];
          }}
          onPointerMove={onPointerMove}
          onPointerUp={() => {
            last.current = null;
          }}
          onPointerCancel={() => {
            last.current = null;
          }}
        />
      </PlacedOnCanvas>
    </div>
  );
}
