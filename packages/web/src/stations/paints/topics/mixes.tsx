import type { Lesson, Mix } from '@viaticum/contract';
import { coveringOf, looksOf } from '@viaticum/core/derived';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { nanoid } from 'nanoid';
import { useMemo } from 'react';
import { useLesson, useSession, useWorkedOut } from '../../../lesson/context.js';
import { FoundHere } from '../../../lesson/found-here.js';
import { useNewHere } from '../../../lesson/keys.js';
import { seenOutlines, useJob } from '../../../lesson/laid.js';
import { wholeOf } from '../../../lesson/lay-args.js';
import { groundRgb, MixSample } from '../../../lesson/mix-sample.js';
import { RecipeBar } from '../../../ui/swatch.js';
import { words } from '../../../words/words.js';
import { MixEditor } from '../mix-editor.js';
import { useBench } from '../paint-context.js';
import { TubeList } from '../tube-list.js';
import css from './mixes.module.css';

const w = words.paints;

/** The mixes of the palette, and the one at hand against its target. */
export function MixesTopic() {
  const lesson = useLesson();
  const session = useSession();
  const { selected: mixId, select } = useBench();
  const looks = looksOf(lesson);
  const selected = lesson.mixes.find((mix) => mix.id === mixId) ?? lesson.mixes[0];
  const covering = useMemo(() => (selected ? coveringOf(lesson, selected) : null), [lesson, selected]);
  const once = lesson.mixes.filter((mix) => lesson.steps.filter((step) => step.mixIds.includes(mix.id)).length === 1);
  const add = () => {
    const mix: Mix = { id: nanoid(8), name: w.mixName(lesson.mixes.length + 1), recipe: [] };
    if (session.do('addMix', { mix })) select(mix.id);
  };
  useNewHere(add);
  return (
    <div className={css.paints}>
      <TubeList lesson={lesson} />
      <section className={css.mixes}>
        <h2>{w.mixes}</h2>
        {lesson.mixes.length === 0 && <p className="quiet">{lesson.tubes.length === 0 ? w.empty : w.noMixes}</p>}
        <ul>
          {[...looks.values()].map((look) => (
            <li key={look.mix.id} className={clsx(look.mix.id === selected?.id && css.selected)}>
              <Button
                type="text"
                className={clsx('plain', css.mix)}
                data-testid="mix"
                aria-pressed={look.mix.id === selected?.id}
                onClick={() => select(look.mix.id)}
              >
                <MixSample lesson={lesson} mix={look.mix} />
                <span>
                  <b>{look.mix.name}</b>
                  {look.off && <span className="small quiet"> {look.off}</span>}
                  <RecipeBar parts={look.parts} words={look.words} />
                  <FoundHere mixId={look.mix.id} />
                </span>
              </Button>
            </li>
          ))}
        </ul>
        {once.length > 0 && <p className={clsx('small quiet', css.mixesOnce)}>{w.usedOnce(once.map((mix) => mix.name))}</p>}
        <p className={css.mixKeys}>
          <Button onClick={add} aria-keyshortcuts="N">
            {w.newMix}
          </Button>
          <FromAreas lesson={lesson} />
        </p>
      </section>
      {selected && (
        <MixEditor key={selected.id} lesson={lesson} mix={selected} ground={groundRgb(lesson, selected.id)} covering={covering} />
      )}
    </div>
  );
}

/** One mix for every area that has none yet, with the area's colour as target. */
function FromAreas({ lesson }: { lesson: Lesson }) {
  const session = useSession();
  const worked = useWorkedOut();
  const areas = useMemo(() => seenOutlines(worked), [worked]);
  const bare = worked.areas.filter((area) => !lesson.mixes.some((mix) => mix.areaId === area.id));
  const { answer } = useJob('means', wholeOf(lesson) && bare.length > 0 ? { areas } : null, 200);
  const aims = bare.flatMap((area) => {
    const lab = area.targetLab ?? answer?.[worked.areas.indexOf(area)];
    return lab ? [{ area, lab }] : [];
  });
  if (aims.length === 0 || lesson.tubes.length === 0) return null;
  const add = () =>
    session.do('addMixes', {
      mixes: aims.map(({ area, lab }): Mix => ({ id: nanoid(8), name: area.name, recipe: [], areaId: area.id, targetLab: lab })),
    });
  return (
    <Button type="text" onClick={add}>
      {w.fromAreas}
    </Button>
  );
}
