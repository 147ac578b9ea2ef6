import type { Area } from '@viaticum/contract';
import { outlinePath, united } from '@viaticum/core/area';
import { Button } from 'antd';
import { nanoid } from 'nanoid';
import { useState } from 'react';
import { useLesson, useSession, useView } from '../../../lesson/context.js';
import { useJob } from '../../../lesson/laid.js';
import type { Point } from '../../../ui/point.js';
import { TurnField } from '../../../ui/turn-field.js';
import { words } from '../../../words/words.js';
import { useEasel, useHint } from '../easel-context.js';
import { Face, OnCanvas } from '../on-canvas.js';
import pictureCss from '../picture.module.css';

const w = words.picture;

/** Escape leaves. */
function leaves(event: { key: string }, onEnd: () => void): boolean {
  if (event.key !== 'Escape') return false;
  onEnd();
  return true;
}

/** Divides an area by a line drawn across it: by a stroke, or by two taps. */
export function Split({ area, onEnd }: { area: Area; onEnd: () => void }) {
  const session = useSession();
  const view = useView();
  const { unit } = useEasel();
  const [line, setLine] = useState<Point[]>([]);
  useHint(w.split.hint);
  const cut = (from: Point, to: Point) => {
    const id = nanoid(8);
    if (session.do('splitArea', { id: area.id, line: [from, to], area: { id, name: w.split.second(area.name) } })) {
      view.selectArea(id);
      onEnd();
    } else setLine([]);
  };
  return (
    <>
      <h2>{w.split.title(area.name)}</h2>
      <p className="quiet">{w.split.hint}</p>
      <Button onClick={onEnd}>{w.propose.cancel}</Button>
      <OnCanvas>
        {line.length > 0 && (
          <path
            pointerEvents="none"
            d={`M${line[0]?.join(' ')}L${line.at(-1)?.join(' ')}`}
            stroke="var(--grey-12)"
            strokeWidth={unit * 2}
            strokeDasharray={`${unit * 6} ${unit * 4}`}
          />
        )}
        <Face
          label={w.split.hint}
          onTap={(at) => (line[0] ? cut(line[0], at) : setLine([at]))}
          onStroke={(points, done) =>
            done ? cut(points[0] as Point, points.at(-1) as Point) : setLine([points[0] as Point, points.at(-1) as Point])
          }
          onKey={(event) => leaves(event, onEnd)}
        />
      </OnCanvas>
    </>
  );
}

/** A patch of one colour grown from a place, with a tolerance: added to an area, or made one. For small touch-ups. */
export function Grow({ area, onEnd }: { area: Area | null; onEnd: () => void }) {
  const lesson = useLesson();
  const session = useSession();
  const view = useView();
  const { unit } = useEasel();
  const [at, setAt] = useState<Point | null>(null);
  const [tolerance, setTolerance] = useState(10);
  const { answer } = useJob('region', at && { at, tolerance }, 20);
  useHint(w.grow.hint);
  const found = answer && answer.length > 0 ? answer : null;
  return (
    <>
      <h2>{w.grow.title}</h2>
      <p className="quiet">{w.grow.hint}</p>
      <TurnField label={w.grow.tolerance} said={tolerance} min={2} max={40} value={tolerance} onChange={setTolerance} />
      {at && !found && <p className="quiet">{w.grow.small}</p>}
      <p className={pictureCss.pictureToggles}>
        <Button
          type="primary"
          disabled={!found}
          onClick={() => {
            const id = nanoid(8);
            if (found && session.do('addArea', { area: { id, name: w.newArea(lesson.areas.length + 1), outline: found } })) {
              view.selectArea(id);
              onEnd();
            }
          }}
        >
          {w.grow.make}
        </Button>
        {area && (
          <Button
            disabled={!found}
            onClick={() => found && session.do('setOutline', { id: area.id, outline: united(area.outline, found) }) && onEnd()}
          >
            {w.grow.add(area.name)}
          </Button>
        )}
        <Button onClick={onEnd}>{w.propose.cancel}</Button>
      </p>
      <OnCanvas>
        {found && (
          <g pointerEvents="none">
            <path
              d={outlinePath(found)}
              fill="var(--white)"
              fillOpacity={0.35}
              fillRule="evenodd"
              stroke="var(--white)"
              strokeWidth={unit * 3.4}
            />
            <path d={outlinePath(found)} fill="none" stroke="var(--grey-12)" strokeWidth={unit * 1.5} />
          </g>
        )}
        <Face label={w.grow.hint} onTap={setAt} onKey={(event) => leaves(event, onEnd)} />
      </OnCanvas>
    </>
  );
}
