import { type Area, type AreaRole, limits, type Surface } from '@viaticum/contract';
import { surfaces } from '@viaticum/core/surface';
import { Button, Select } from 'antd';
import { useState } from 'react';
import { useSession } from '../../../lesson/context.js';
import { PLAIN, roleOptions, surfaceOptions } from '../../../things/thing-options.js';
import type { Point } from '../../../ui/point.js';
import { thingWords as w } from '../../../words/things.js';
import { useEasel, useHint } from '../easel-context.js';
import { Face, OnCanvas } from '../on-canvas.js';
import pictureCss from '../picture.module.css';
import css from './nature.module.css';

const UNSAID = 'unsaid' as const;

/** What an area is in the picture and what it is made of; a surface that runs somewhere can be combed. */
export function AreaNature({ area, onComb }: { area: Area; onComb: () => void }) {
  const session = useSession();
  const runs = area.surface && surfaces[area.surface].run === 'along';
  return (
    <>
      <div className={css.nature}>
        <Select
          size="small"
          aria-label={w.roleOf(area.name)}
          value={area.role ?? UNSAID}
          options={[{ value: UNSAID as AreaRole | typeof UNSAID, label: w.unsaid }, ...roleOptions]}
          onChange={(role: AreaRole | typeof UNSAID) =>
            session.do('setRole', { id: area.id, role: role === UNSAID ? null : role })
          }
        />
        <Select
          size="small"
          aria-label={w.surfaceOf(area.name)}
          value={area.surface ?? PLAIN}
          options={surfaceOptions}
          onChange={(surface) =>
            session.do('setSurface', { id: area.id, surface: surface === PLAIN ? null : (surface as Surface) })
          }
        />
      </div>
      {runs && (
        <p className={pictureCss.areaKeys}>
          <Button type="text" size="small" onClick={onComb}>
            {w.comb(area.combed?.length ?? 0)}
          </Button>
        </p>
      )}
    </>
  );
}

/** Points of a combing stroke lie at least so far apart, mm. */
const EVERY_MM = 4;

/** How a surface runs, combed by a few strokes over it. */
export function Comb({ area, onEnd }: { area: Area; onEnd: () => void }) {
  const session = useSession();
  const { unit } = useEasel();
  const [growing, setGrowing] = useState<Point[]>([]);
  const combed = area.combed ?? [];
  const isFull = combed.length >= limits.combed;
  useHint(w.combHint);
  const set = (next: [number, number][][]) => session.do('setCombed', { id: area.id, combed: next });
  const add = (points: Point[]) => {
    const spaced = points.filter(([x, y], i) => {
      const before = points[i - 1];
      return !before || i === points.length - 1 || Math.hypot(x - before[0], y - before[1]) >= EVERY_MM;
    });
    const every = Math.ceil(spaced.length / limits.combedPoints);
    const few = spaced.filter((_, i) => i % every === 0 || i === spaced.length - 1).slice(0, limits.combedPoints);
    if (few.length >= 2) set([...combed, few]);
  };
  return (
    <>
      <h2>{w.combTitle(area.name)}</h2>
      <p className="quiet small">{isFull ? w.combFull(limits.combed) : w.combAbout}</p>
      <p className={pictureCss.pictureToggles}>
        <Button type="primary" onClick={onEnd}>
          {w.combDone}
        </Button>
        <Button disabled={combed.length === 0} onClick={() => set(combed.slice(0, -1))}>
          {w.takeBack}
        </Button>
        <Button disabled={combed.length === 0} onClick={() => set([])}>
          {w.combClear}
        </Button>
      </p>
      <OnCanvas>
        <g pointerEvents="none" className={css.combed}>
          {[...combed, ...(growing.length > 1 ? [growing] : [])].map((line) => {
            const path = `M${line.map((point) => point.join(' ')).join('L')}`;
            return (
              <g key={path}>
                <path d={path} className={css.under} strokeWidth={unit * 5.5} />
                <path d={path} className={css.over} strokeWidth={unit * 3} />
              </g>
            );
          })}
        </g>
        {!isFull && (
          <Face
            label={w.combHint}
            onStroke={(points, isDone) => {
              setGrowing(isDone ? [] : points);
              if (isDone) add(points);
            }}
          />
        )}
      </OnCanvas>
    </>
  );
}
