import type { Mix } from '@viaticum/contract';
import { looksOf } from '@viaticum/core/lesson';
import { nanoid } from 'nanoid';
import { useState } from 'react';
import { useLesson, useSession } from '../../lesson/context.js';
import { useNewHere } from '../../lesson/keys.js';
import { BrushOut, RecipeBar } from '../../ui/swatch.js';
import { words } from '../../words.js';
import { MixEditor } from './mix-editor.js';
import { TubeList } from './tube-list.js';
import './paints.css';

const w = words.paints;

/** Tubes, the heaps mixed from them, and one heap's recipe against its target. */
export default function PaintsStation() {
  const lesson = useLesson();
  const session = useSession();
  const [mixId, setMixId] = useState<string | null>(lesson.mixes[0]?.id ?? null);
  const looks = looksOf(lesson);
  const selected = lesson.mixes.find((mix) => mix.id === mixId) ?? lesson.mixes[0];
  const add = () => {
    const mix: Mix = { id: nanoid(8), name: w.mixName(lesson.mixes.length + 1), recipe: [] };
    if (session.do('addMix', { mix })) setMixId(mix.id);
  };
  useNewHere(add);
  const ground = looks.get(lesson.steps.find((step) => step.kind === 'prepare')?.mixIds[0] ?? '')?.rgb ?? 'rgb(240 238 232)';
  return (
    <div className="paints">
      <TubeList lesson={lesson} />
      <section className="heaps">
        <h2>{w.mixes}</h2>
        {lesson.mixes.length === 0 && <p className="quiet">{lesson.tubes.length === 0 ? w.empty : w.noMixes}</p>}
        <ul>
          {[...looks.values()].map((look) => (
            <li key={look.mix.id} className={look.mix.id === selected?.id ? 'selected' : ''}>
              <button
                type="button"
                className="heap"
                aria-pressed={look.mix.id === selected?.id}
                onClick={() => setMixId(look.mix.id)}
              >
                <BrushOut
                  rgb={look.rgb}
                  wetRgb={look.wetRgb}
                  groundRgb={ground}
                  label={`${look.mix.name}, ${w.wet} and ${w.dry}`}
                />
                <span>
                  <b>{look.mix.name}</b>
                  {look.off && <span className="small quiet"> {look.off}</span>}
                  <RecipeBar parts={look.parts} words={look.words} />
                </span>
              </button>
            </li>
          ))}
        </ul>
        <button type="button" className="key" onClick={add} aria-keyshortcuts="N">
          {w.newMix}
        </button>
      </section>
      {selected && <MixEditor key={selected.id} lesson={lesson} mix={selected} ground={ground} />}
    </div>
  );
}
