import type { Lesson } from '@viaticum/contract';
import { nanoid } from 'nanoid';
import { useEffect, useRef, useState } from 'react';
import { useSession, useView } from '../../lesson/context.js';
import { focusSoon } from '../../ui/focus-soon.js';
import { arrowStep, type Point, type ToMm } from '../../ui/point.js';
import { words } from '../../words/words.js';
import css from './draw-area.module.css';
import pictureCss from './picture.module.css';

type Props = { lesson: Lesson; unit: number; toMm: ToMm; onEnd: () => void };

/** A new outline, point by point: by click, or by keyboard with a cross that the arrow keys move. */
export function DrawArea({ lesson, unit, toMm, onEnd }: Props) {
  const { widthMm, heightMm } = lesson.support;
  const session = useSession();
  const view = useView();
  const [points, setPoints] = useState<Point[]>([]);
  const [cross, setCross] = useState<Point>([widthMm / 2, heightMm / 2]);
  const face = useRef<SVGRectElement>(null);
  useEffect(() => face.current?.focus(), []);
  const finish = () => {
    const area = { id: nanoid(8), name: words.picture.newArea(lesson.areas.length + 1), outline: [[points]] };
    if (!session.do('addArea', { area })) return;
    view.selectArea(area.id);
    onEnd();
    focusSoon(`[data-area="${area.id}"] textarea`);
  };
  const onKey = (event: React.KeyboardEvent) => {
    const move = arrowStep(event, 4, 20);
    if (move) setCross(([x, y]) => [Math.min(widthMm, Math.max(0, x + move[0])), Math.min(heightMm, Math.max(0, y + move[1]))]);
    else if (event.key === ' ') setPoints([...points, cross]);
    else if (event.key === 'Backspace') setPoints(points.slice(0, -1));
    else if (event.key === 'Enter') finish();
    else if (event.key === 'Escape') {
      onEnd();
      focusSoon('[data-testid="area-draw"]');
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const line = points.map(([x, y]) => `${x} ${y}`).join('L');
  return (
    <g className={css.drawArea}>
      {/* biome-ignore lint/a11y/useSemanticElements: the face of the canvas, on which points are set */}
      <rect
        ref={face}
        x={0}
        y={0}
        width={widthMm}
        height={heightMm}
        fill="transparent"
        role="button"
        tabIndex={0}
        aria-label={`${words.picture.drawFace}. ${words.picture.drawingKeys}`}
        onKeyDown={onKey}
        onPointerDown={(event) => {
          event.preventDefault();
          face.current?.focus();
          const at = toMm(event);
          setCross(at);
          setPoints([...points, at]);
        }}
      />
      {points.length > 0 && (
        <path
          d={`M${line}${points.length > 2 ? 'Z' : ''}`}
          className={css.drawLine}
          strokeWidth={unit * 2}
          fill="var(--veil-thin)"
          pointerEvents="none"
        />
      )}
      {points.map(([x, y]) => (
        <circle
          key={`${x},${y}`}
          cx={x}
          cy={y}
          r={unit * 4}
          className={pictureCss.editPoint}
          strokeWidth={unit * 1.5}
          pointerEvents="none"
        />
      ))}
      <path
        d={`M${cross[0] - unit * 12} ${cross[1]}h${unit * 24}M${cross[0]} ${cross[1] - unit * 12}v${unit * 24}`}
        className={pictureCss.drawCross}
        strokeWidth={unit * 1.2}
        pointerEvents="none"
      />
      {points.length > 2 && (
        <g className={css.drawFinish} onPointerDown={finish} transform={`translate(${points[0]?.[0]} ${points[0]?.[1]})`}>
          <circle r={unit * 9} strokeWidth={unit * 2} />
          <title>{words.picture.finish}</title>
        </g>
      )}
    </g>
  );
}
