import type { Thing } from '@viaticum/contract';
import { outlinePath } from '@viaticum/core/area';
import { lengthNumber, MM_PER_INCH } from '@viaticum/core/units';
import { Button, Checkbox, Select } from 'antd';
import { clsx } from 'clsx';
import { nanoid } from 'nanoid';
import { useEffect, useRef, useState } from 'react';
import { useLesson, useSession, useView } from '../../../lesson/context.js';
import { useLaying } from '../../../lesson/laid.js';
import { wholeOf } from '../../../lesson/lay-args.js';
import { CommitInput } from '../../../ui/commit-input.js';
import type { Point } from '../../../ui/point.js';
import { words } from '../../../words/words.js';
import { useEasel, useHint } from '../easel-context.js';
import { OnCanvas } from '../on-canvas.js';
import pictureCss from '../picture.module.css';
import css from './things.module.css';

const w = words.picture.things;

/** Things made of areas: kept, dropped, moved, resized or added; what lies behind a dropped one comes through. */
export function ThingsTopic() {
  const lesson = useLesson();
  const session = useSession();
  const view = useView();
  const { fault, patterned } = useLaying();
  const [chosen, setChosen] = useState<string | null>(null);
  const [picked, setPicked] = useState<string[]>([]);
  const [from, setFrom] = useState('');
  useHint(chosen ? w.hint : '');
  const thing = lesson.things.find((one) => one.id === chosen);
  const free = lesson.areas.filter((area) => !area.thingId);
  const whole = wholeOf(lesson);
  const others = lesson.references.filter((reference) => reference.id !== whole?.id);
  const make = (fate: Thing['fate']) => {
    const id = nanoid(8);
    const name = lesson.areas.find((area) => area.id === picked[0])?.name ?? w.thing;
    const fresh: Thing = { id, name, fate, ...(fate === 'added' && from ? { fromReferenceId: from } : {}) };
    if (session.do('addThing', { thing: fresh, areaIds: picked })) {
      setChosen(id);
      setPicked([]);
    }
  };
  return (
    <>
      <p className="quiet small">{w.about}</p>
      {fault && <p className="signal">{fault}</p>}
      {patterned.length > 0 && (
        <p className="signal">
          {w.patterned(lesson.areas.filter((area) => patterned.includes(area.id)).map((area) => area.name))}
        </p>
      )}
      <ul className={css.things}>
        {lesson.things.map((one) => (
          <li key={one.id} className={clsx(one.id === chosen && css.selected)}>
            <span className={pictureCss.areaLineRow}>
              <CommitInput
                wraps
                className={pictureCss.areaName}
                value={one.name}
                label={w.nameOf(one.name)}
                onFocus={() => {
                  setChosen(one.id);
                  view.selectArea(null);
                }}
                onCommit={(name, burst) => session.do('renameThing', { id: one.id, name }, burst)}
              />
              <span className="quiet">{w.fates[one.fate]}</span>
            </span>
            {one.id === chosen && <ThingFields thing={one} />}
          </li>
        ))}
      </ul>
      {lesson.areas.length === 0 ? (
        <p className="quiet">{w.needsAreas}</p>
      ) : (
        free.length > 0 && (
          <fieldset className={pictureCss.thingNew}>
            <legend>{w.fresh}</legend>
            {free.map((area) => (
              <Checkbox
                key={area.id}
                checked={picked.includes(area.id)}
                onChange={(event) =>
                  setPicked(event.target.checked ? [...picked, area.id] : picked.filter((id) => id !== area.id))
                }
              >
                {area.name}
              </Checkbox>
            ))}
            <p className={pictureCss.pictureToggles}>
              <Button disabled={picked.length === 0} onClick={() => make('kept')}>
                {w.make}
              </Button>
              <Button disabled={picked.length === 0} onClick={() => make('added')}>
                {w.makeAdded}
              </Button>
            </p>
            {others.length > 0 && (
              <div className="field">
                <span>{w.cutFrom}</span>
                <Select
                  aria-label={w.cutFrom}
                  value={from}
                  onChange={(given) => setFrom(given)}
                  options={[
                    { value: '', label: w.ownColours },
                    ...others.map((reference, i) => ({
                      value: reference.id,
                      label: words.picture.referenceName(words.picture.roles[reference.role], i + 2),
                    })),
                  ]}
                />
              </div>
            )}
          </fieldset>
        )
      )}
      {thing && thing.fate !== 'dropped' && <MoveThing thing={thing} />}
    </>
  );
}

function ThingFields({ thing }: { thing: Thing }) {
  const lesson = useLesson();
  const session = useSession();
  const isMm = lesson.units === 'in' ? MM_PER_INCH / 8 : 5;
  const size = (scale: number) => session.do('moveThing', { id: thing.id, dxMm: 0, dyMm: 0, scale });
  const areas = lesson.areas.filter((area) => area.thingId === thing.id);
  return (
    <div className={pictureCss.areaMore}>
      <p className="small quiet">{areas.map((area) => area.name).join(', ')}</p>
      <p className={pictureCss.areaKeys}>
        <Button
          type={thing.fate === 'dropped' ? 'primary' : 'default'}
          size="small"
          aria-pressed={thing.fate === 'dropped'}
          onClick={() => session.do('setFate', { id: thing.id, fate: thing.fate === 'dropped' ? 'kept' : 'dropped' })}
        >
          {thing.fate === 'dropped' ? w.bringBack : w.drop}
        </Button>
        {thing.fate !== 'dropped' && (
          <>
            <Button size="small" onClick={() => size(1.1)}>
              {w.larger}
            </Button>
            <Button size="small" onClick={() => size(1 / 1.1)}>
              {w.smaller}
            </Button>
          </>
        )}
      </p>
      {thing.fate === 'dropped' && <p className="small">{w.shadow}</p>}
      {thing.move && thing.fate === 'moved' && (
        <p className="small">
          {w.movedBy(lengthNumber(Math.hypot(thing.move.dxMm, thing.move.dyMm), lesson.units), lesson.units)}
        </p>
      )}
      <div className="field">
        <span>{w.facing}</span>
        <Select
          aria-label={w.facing}
          value={thing.facing ?? ''}
          onChange={(given) => session.do('setFacing', { id: thing.id, facing: (given || null) as 'left' | 'right' | null })}
          options={[
            { value: '', label: w.facingNot },
            { value: 'left', label: w.left },
            { value: 'right', label: w.right },
          ]}
        />
      </div>
      {thing.fate === 'added' && !thing.fromReferenceId && <p className="small">{w.colours}</p>}
      <p className={pictureCss.areaKeys}>
        {(
          [
            [w.toLeft, -1, 0],
            [w.toRight, 1, 0],
            [w.up, 0, -1],
            [w.down, 0, 1],
          ] as const
        ).map(([label, dx, dy]) => (
          <Button
            type="text"
            size="small"
            key={label}
            disabled={thing.fate === 'dropped'}
            onClick={() => session.do('moveThing', { id: thing.id, dxMm: dx * isMm, dyMm: dy * isMm, scale: 1 })}
          >
            {label}
          </Button>
        ))}
        {!thing.move && (
          <Button type="text" size="small" onClick={() => session.do('removeThing', { id: thing.id })}>
            {w.apart}
          </Button>
        )}
      </p>
    </div>
  );
}

/** The thing's outline on the easel, to be dragged to where it shall stand. */
function MoveThing({ thing }: { thing: Thing }) {
  const lesson = useLesson();
  const session = useSession();
  const { unit, toMm, setMode } = useEasel();
  const [by, setBy] = useState<Point>([0, 0]);
  const start = useRef<Point | null>(null);
  useEffect(() => {
    setMode('place');
    return () => setMode('look');
  }, [setMode]);
  const paths = lesson.areas.filter((area) => area.thingId === thing.id).map((area) => outlinePath(area.outline));
  return (
    <OnCanvas>
      <g
        className={css.thingDrag}
        transform={`translate(${by[0]} ${by[1]})`}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          start.current = toMm(event);
        }}
        onPointerMove={(event) => {
          if (!start.current) return;
          const at = toMm(event);
          setBy([at[0] - start.current[0], at[1] - start.current[1]]);
        }}
        onPointerUp={() => {
          start.current = null;
          if (by[0] !== 0 || by[1] !== 0) session.do('moveThing', { id: thing.id, dxMm: by[0], dyMm: by[1], scale: 1 });
          setBy([0, 0]);
        }}
        onPointerCancel={() => {
          start.current = null;
          setBy([0, 0]);
        }}
      >
        {paths.map((path) => (
          <g key={path}>
            <path d={path} fill="transparent" fillRule="evenodd" stroke="var(--white)" strokeWidth={unit * 4} />
            <path
              d={path}
              fill="none"
              stroke="var(--grey-12)"
              strokeWidth={unit * 2}
              strokeDasharray={`${unit * 7} ${unit * 4}`}
            />
          </g>
        ))}
      </g>
    </OnCanvas>
  );
}
