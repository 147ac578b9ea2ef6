import type { Lesson, Mix } from '@viaticum/contract';
import { coatTimes } from '@viaticum/core/coat';
import { filmOf, looksOf, type MixCovering, waterLimit } from '@viaticum/core/derived';
import { covering as coveringFor, glazeMedium, recipeParts } from '@viaticum/core/mix';
import { lowered, waitInWords } from '@viaticum/core/units';
import { cssRgb, labToSrgb } from '@viaticum/kernels/colour';
import { Input } from 'antd';
import { useMemo } from 'react';
import { useSession } from '../../lesson/context.js';
import { words } from '../../words/words.js';
import css from './covering-facts.module.css';

const w = words.paints;
/** A thin line is paint with much water, about as thick as a wash. */
const LINE = { technique: 'wash', waterShareOfMix: 0.3 } as const;

/** How many layers it takes, what one looks like, a thin line on the darkest mix, a glaze. */
export function CoveringFacts({ lesson, mix, covering }: { lesson: Lesson; mix: Mix; covering: MixCovering }) {
  const line = useMemo(() => {
    const parts = recipeParts(mix, lesson);
    const mixes = [...looksOf(lesson).values()].flatMap((look) => look.colour ?? []);
    const own = looksOf(lesson).get(mix.id)?.colour;
    const darkest = mixes.reduce((best, one) => (one.lab[0] < best.lab[0] ? one : best), mixes[0] as (typeof mixes)[number]);
    if (!parts || !own || own.lab[0] - darkest.lab[0] < 30) return null;
    return coveringFor(parts, coatTimes(LINE, lesson.room).dryUm, darkest.lab, lesson.finish).coats;
  }, [lesson, mix]);
  const technique = words.techniques[covering.technique as keyof typeof words.techniques];
  return (
    <>
      <h3>{w.covering}</h3>
      <p>{w.coats(covering.coats, technique)}</p>
      <p className="small quiet">
        {w.contrast(covering.contrastRatio, covering.chartCoats)}. {w.oneCoat(covering.oneCoat.deltaE)}
      </p>
      <p className={css.coverStrip} aria-hidden="true">
        <i style={{ background: cssRgb(labToSrgb(covering.ground)) }} />
        <i style={{ background: cssRgb(labToSrgb(covering.oneCoat.lab)) }} />
        {covering.glaze && <i style={{ background: cssRgb(labToSrgb(covering.glaze.lab)) }} />}
      </p>
      <p className="small quiet">
        {w.swatchOn}
        {covering.glaze && mix.mediumParts ? `; ${lowered(w.glaze(mix.mediumParts))}` : ''}
      </p>
      {line !== null && line !== undefined && <p className="small quiet">{w.line(line)}</p>}
    </>
  );
}

/** Water and medium in a mix, and what they do to its film, its cover and its times. */
export function Thinning({ lesson, mix }: { lesson: Lesson; mix: Mix }) {
  const session = useSession();
  const parts = recipeParts(mix, lesson);
  const { technique } = filmOf(lesson, mix.id);
  const share = mix.waterShareOfMix;
  const times = coatTimes({ technique, ...(share !== undefined && { waterShareOfMix: share }) }, lesson.room);
  const limit = waterLimit[lesson.school.thinning];
  const glaze = parts ? glazeMedium(parts, lesson.finish) : 4;
  const number = (text: string) => (text.trim() === '' ? null : Number(text.replace(',', '.')));
  return (
    <>
      <h3>{w.thinning}</h3>
      <p className={css.mixThinning}>
        <label className="small">
          {w.water}
          <Input
            key={`w${share}`}
            inputMode="numeric"
            defaultValue={share === undefined ? '' : Math.round(share * 100)}
            onBlur={(event) => {
              const value = number(event.target.value);
              session.do('setThinning', { id: mix.id, waterShareOfMix: value === null ? null : value / 100 });
            }}
          />
        </label>
        <label className="small">
          {w.medium}
          <Input
            key={`m${mix.mediumParts}`}
            inputMode="numeric"
            placeholder={String(glaze)}
            defaultValue={mix.mediumParts ?? ''}
            onBlur={(event) => session.do('setThinning', { id: mix.id, mediumParts: number(event.target.value) })}
          />
        </label>
      </p>
      <p className="small quiet">
        {w.thinned(Math.round(times.dryUm), waitInWords(times.openMin), waitInWords(times.paintOverMin))}
        {(share ?? 0) > limit && ` ${w.waterNote(Math.round(limit * 100))}`}
      </p>
    </>
  );
}
