import type { Area } from '@viaticum/contract';
import { outlinePath } from '@viaticum/core/area';
import { lengthNumber } from '@viaticum/core/units';
import { type KeyboardEvent, memo, type PointerEvent, type RefObject, useState } from 'react';
import { useSession } from '../../lesson/context.js';
import { arrowStep, type Point, type ToMm } from '../../ui/point.js';
import { useLatest } from '../../ui/use-latest.js';
import { words } from '../../words/words.js';
import css from './edit-area.module.css';
import pictureCss from './picture.module.css';

type At = { polygon: number; ring: number; point: number };
type Props = { area: Area; unit: number; toMm: ToMm; units: 'in' | 'cm' };

const withPoint = (outline: Area['outline'], at: At, change: (ring: Point[]) => Point[]): Area['outline'] =>
  outline.map((polygon, p) => (p === at.polygon ? polygon.map((ring, r) => (r === at.ring ? change(ring) : ring)) : polygon));

/** Handles on every point of an outline: dragged, moved by arrow keys, added on an edge, taken away. One drag is one change. */
export function EditArea({ area, unit, toMm, units }: Props) {
  const session = useSession();
  const [moving, setMoving] = useState<{ at: At; to: Point } | null>(null);
  const commit = (next: Area['outline']) => session.do('setOutline', { id: area.id, outline: next });
  const moved = (at: At, to: Point) =>
    withPoint(area.outline, at, (ring) => ring.map((point, i) => (i === at.point ? to : point)));
  // The handles are drawn once; while one is dragged only the preview above them changes.
  const act = useLatest<Actions>({
    down: (at, point) => setMoving({ at, to: point }),
    move: (event) => moving && setMoving({ ...moving, to: toMm(event) }),
    up: () => {
      if (moving) {
        const was = area.outline[moving.at.polygon]?.[moving.at.ring]?.[moving.at.point];
        if (was && (was[0] !== moving.to[0] || was[1] !== moving.to[1])) commit(moved(moving.at, moving.to));
      }
      setMoving(null);
    },
    leave: () => setMoving(null),
    key: (event, at, [x, y]) => {
      const arrow = arrowStep(event, 1, 10);
      if (arrow) commit(moved(at, [x + arrow[0], y + arrow[1]]));
      else if (event.key === 'Delete' || event.key === 'Backspace') {
        const ring = area.outline[at.polygon]?.[at.ring] ?? [];
        if (ring.length > 3) commit(withPoint(area.outline, at, (points) => points.filter((_, i) => i !== at.point)));
      } else return;
      event.preventDefault();
      event.stopPropagation();
    },
    add: (event, at) =>
      commit(withPoint(area.outline, at, (ring) => [...ring.slice(0, at.point + 1), toMm(event), ...ring.slice(at.point + 1)])),
  });
  return (
    <g className={css.editArea}>
      <Handles outline={area.outline} unit={unit} units={units} act={act} />
      {moving && (
        <g pointerEvents="none">
          <path
            d={outlinePath(moved(moving.at, moving.to))}
            fill="none"
            stroke="var(--grey-12)"
            strokeDasharray={`${unit * 5} ${unit * 3}`}
            strokeWidth={unit * 1.5}
          />
          <circle cx={moving.to[0]} cy={moving.to[1]} r={unit * 7} className={pictureCss.editPoint} strokeWidth={unit * 1.5} />
        </g>
      )}
    </g>
  );
}

type Actions = {
  down: (at: At, point: Point) => void;
  move: (event: PointerEvent) => void;
  up: () => void;
  leave: () => void;
  key: (event: KeyboardEvent, at: At, point: Point) => void;
  add: (event: PointerEvent, at: At) => void;
};

const Handles = memo(function Handles({
  outline,
  unit,
  units,
  act,
}: {
  outline: Area['outline'];
  unit: number;
  units: 'in' | 'cm';
  act: RefObject<Actions>;
}) {
  const places = allPoints(outline);
  return (
    <>
      {places.map(({ at, point: [x, y], next }) => (
        <line
          key={keyOf(at)}
          x1={x}
          y1={y}
          x2={next[0]}
          y2={next[1]}
          stroke="transparent"
          strokeWidth={unit * 9}
          className={css.editEdge}
          onPointerDown={(event) => {
            event.stopPropagation();
            act.current.add(event, at);
          }}
        />
      ))}
      {places.map(({ at, point }) => (
        // biome-ignore lint/a11y/useSemanticElements: a point in a drawing
        <circle
          key={keyOf(at)}
          cx={point[0]}
          cy={point[1]}
          r={unit * 4.6}
          className={pictureCss.editPoint}
          strokeWidth={unit * 1.5}
          role="button"
          tabIndex={0}
          aria-label={words.picture.point(at.point + 1, lengthNumber(point[0], units), lengthNumber(point[1], units))}
          onKeyDown={(event) => act.current.key(event, at, point)}
          onPointerDown={(event) => {
            event.stopPropagation();
            event.currentTarget.setPointerCapture(event.pointerId);
            act.current.down(at, point);
          }}
          onPointerMove={(event) => act.current.move(event)}
          onPointerUp={() => act.current.up()}
          onPointerCancel={() => act.current.leave()}
        />
      ))}
    </>
  );
});

const keyOf = (at: At) => `${at.polygon}.${at.ring}.${at.point}`;

/** Every point of an outline with its place and the one after it. */
function allPoints(outline: Area['outline']): { at: At; point: Point; next: Point }[] {
  return outline.flatMap((polygon, p) =>
    polygon.flatMap((ring, r) =>
      ring.map((point, i) => ({ at: { polygon: p, ring: r, point: i }, point, next: ring[(i + 1) % ring.length] as Point })),
    ),
  );
}
