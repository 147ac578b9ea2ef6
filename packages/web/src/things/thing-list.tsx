import { DeleteOutlined } from '@ant-design/icons';
import type { AreaRole, Surface } from '@viaticum/contract';
import { outlineArea } from '@viaticum/core/area';
import { guessByLook, type Look } from '@viaticum/core/picture';
import { percentInWords } from '@viaticum/core/units';
import { cssRgb, labToSrgb } from '@viaticum/kernels/colour';
import { Button, Input, type InputRef, Select } from 'antd';
import { clsx } from 'clsx';
import { useEffect, useRef } from 'react';
import { thingWords as w } from '../words/things.js';
import type { ShownArea } from '../workers/picture-jobs.js';
import css from './thing-list.module.css';
import { PLAIN, roleOptions, surfaceOptions } from './thing-options.js';
import type { Telling, Things } from './use-things.js';

/** The things in the picture: which one is marked next, each one's name, what it is, and what it is made of. */
export function ThingList({
  things,
  areas,
  looks,
  canvasMm2,
}: {
  things: Things;
  areas: readonly ShownArea[];
  looks: readonly (Look | null)[];
  canvasMm2: number;
}) {
  const shown = new Map(areas.map((area) => [area.region, area]));
  return (
    <ul className={css.things} aria-label={w.list} data-testid="things">
      {things.things.map((thing, i) => {
        const name = things.names[i] as string;
        const area = shown.get(i);
        const isChosen = things.chosen === i;
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: things are told apart by their number
          <li key={i} className={clsx(isChosen && css.chosen)}>
            <Button
              type="text"
              size="small"
              className={css.chip}
              aria-pressed={isChosen}
              aria-label={w.choose(name)}
              style={{ background: area ? cssRgb(labToSrgb(area.meanLab)) : 'none' }}
              onClick={() => things.choose(isChosen ? null : i)}
            />
            <NameOf
              name={thing.name}
              placeholder={name}
              isFresh={isChosen && thing.hint === null}
              label={w.nameOf(name)}
              onFocus={() => things.choose(i)}
              onName={(next) => things.rename(i, next)}
            />
            <span className="numbers quiet small">{area ? percentInWords(outlineArea(area.seen) / canvasMm2) : ''}</span>
            <Button
              type="text"
              size="small"
              icon={<DeleteOutlined />}
              aria-label={w.remove(name)}
              onClick={() => things.remove(i)}
            />
            {isChosen && (
              <div className={css.what}>
                <Select
                  size="small"
                  aria-label={w.roleOf(name)}
                  value={thing.role}
                  options={roleOptions}
                  onChange={(role: AreaRole) => things.setRole(i, role)}
                />
                <Select
                  size="small"
                  aria-label={w.surfaceOf(name)}
                  value={thing.surface ?? PLAIN}
                  options={surfaceOptions}
                  onChange={(surface: string) => things.setSurface(i, surface === PLAIN ? null : (surface as Surface))}
                />
                <LookOf name={name} thing={thing} look={looks[i] ?? null} onTake={(surface) => things.setSurface(i, surface)} />
              </div>
            )}
          </li>
        );
      })}
    </ul>
  );
}

/** From so much on a guess is worth saying, and worth saying plainly. */
const WORTH_SAYING = 0.4;
const SURE = 0.7;
/** What a thing may be made of by its look, as long as nothing was said of it: one key takes it. */
function LookOf({
  name,
  thing: { role, surface },
  look,
  onTake,
}: {
  name: string;
  thing: Telling;
  look: Look | null;
  onTake: (surface: Surface) => void;
}) {
  const guess = guessByLook(role, look);
  if (!look || surface || !guess.surface || guess.sure < WORTH_SAYING) return null;
  const own = guess.surface;
  const said = w.surfaces[own];
  return (
    <Button size="small" type="dashed" className={css.look} aria-label={w.takeLook(name, said)} onClick={() => onTake(own)}>
      {w.looksLike(said, guess.sure >= SURE)}
    </Button>
  );
}

export function NameOf({
  name,
  placeholder,
  label,
  isFresh,
  onFocus,
  onName,
}: {
  name: string;
  placeholder: string;
  label: string;
  isFresh: boolean;
  onFocus: () => void;
  onName: (name: string) => void;
}) {
  const field = useRef<InputRef>(null);
  // After the first mark of a thing one types its name at once.
  useEffect(() => {
    if (isFresh) field.current?.focus({ preventScroll: true });
  }, [isFresh]);
  return (
    <Input
      ref={field}
      size="small"
      variant="borderless"
      aria-label={label}
      placeholder={placeholder}
      maxLength={120}
      value={name}
      onFocus={onFocus}
      onChange={(event) => onName(event.target.value)}
    />
  );
}
