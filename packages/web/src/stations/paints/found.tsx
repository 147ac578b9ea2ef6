import type { Lesson, Mix, RecipePart } from '@viaticum/contract';
import { outOfReach, pigmentName, recipeInWords, type Suggestion, shortTubeName, tubeRgb } from '@viaticum/core/mix';
import { cssRgb, labToSrgb } from '@viaticum/kernels/colour';
import { partsOf } from '@viaticum/kernels/mixing';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { nanoid } from 'nanoid';
import { useMemo, useState } from 'react';
import { useSession } from '../../lesson/context.js';
import { RecipeBar } from '../../ui/swatch.js';
import { words } from '../../words/words.js';
import css from './found.module.css';
import { paintSide, usePaintJob } from './paint-context.js';

const w = words.paints;
/** Chroma lost in a mix from which a painter says that its colours kill each other. */
const MUCH_KILLED = 18;

/** The recipes that the worker finds for this mix's target, best first, each with what it is good for. */
export function Found({ lesson, mix }: { lesson: Lesson; mix: Mix }) {
  const asked = useMemo(
    () => (mix.targetLab && lesson.tubes.length > 0 ? { lesson: paintSide(lesson), mixId: mix.id } : null),
    [lesson, mix],
  );
  const quick = usePaintJob('suggest', asked && { ...asked, quick: true });
  const full = usePaintJob('suggest', asked && { ...asked, quick: false });
  if (!asked) return null;
  const answer = full.answer && full.progress === null ? full.answer : (quick.answer ?? full.answer);
  const fault = full.fault ?? quick.fault;
  const [best] = answer?.found ?? [];
  return (
    <>
      <h3>{w.found}</h3>
      {fault && (
        <p className="signal" role="alert">
          {fault}
        </p>
      )}
      {full.progress !== null && full.progress < 1 && (
        <p className="small quiet" role="status">
          {w.seeking(full.progress)}
        </p>
      )}
      <ul className={css.found} data-testid="found">
        {answer?.found.map((one) => (
          <FoundRecipe key={JSON.stringify(one.parts)} lesson={lesson} mix={mix} found={one} />
        ))}
      </ul>
      {answer?.isWhole && <p className="small quiet">{w.wholeOnly}</p>}
      {best && outOfReach(best.deltaE) && mix.targetLab && <Reach lesson={lesson} target={mix.targetLab} />}
    </>
  );
}

/** A part that recipes name: a tube of the list, or a mix let down beforehand. */
function partOf(lesson: Lesson, id: string) {
  const tube = lesson.tubes.find((one) => one.id === id);
  if (tube) return { name: shortTubeName(tube), rgb: cssRgb(tubeRgb(tube, lesson.finish)) };
  const mix = lesson.mixes.find((one) => one.id === id);
  return { name: mix?.name ?? '', rgb: 'rgb(150 150 150)' };
}

/** How far it is thickly and laid once, unless that is what was said already. */
function apartToo({ off, deltaE, film }: Suggestion): string {
  const thick = w.thick(deltaE);
  const isSaid = thick === off && (!film || w.thick(film.deltaE) === off);
  if (isSaid) return '';
  return film ? ` ${thick}, ${w.onFilm(film.deltaE)}` : ` ${thick}`;
}

function FoundRecipe({ lesson, mix, found }: { lesson: Lesson; mix: Mix; found: Suggestion }) {
  const session = useSession();
  const recipe = found.parts.filter(({ id }) => lesson.tubes.some((tube) => tube.id === id));
  const mixes = found.parts.filter(({ id }) => lesson.mixes.some((one) => one.id === id));
  const told = (parts: readonly { id: string; parts: unknown }[]) =>
    parts
      .map(({ id, parts }) => `${id} ${parts}`)
      .sort()
      .join();
  const mine = [
    ...mix.recipe.map(({ tubeId, parts }) => ({ id: tubeId, parts })),
    ...(mix.mixedFrom ?? []).map(({ mixId, parts }) => ({ id: mixId, parts })),
  ];
  const inUse = told(mine) === told(found.parts);
  const bar = found.parts.map(({ id, parts }) => ({ ...partOf(lesson, id), weight: partsOf(parts) }));
  const said = recipeInWords(
    found.parts.map(({ id, parts }) => ({ tubeId: id, parts })),
    (id) => partOf(lesson, id).name,
  );
  return (
    <li>
      <p className={clsx(css.foundHead, 'small')}>
        <span>{found.reasons.map((reason) => w.reasons[reason]).join(', ')}</span>
        {inUse ? (
          <span className="quiet">{w.inUse}</span>
        ) : (
          <Button
            type="text"
            size="small"
            aria-label={`${w.use}: ${said}`}
            onClick={() =>
              session.do('setRecipe', {
                id: mix.id,
                recipe: recipe.map(({ id, parts }) => ({ tubeId: id, parts: parts as RecipePart['parts'] })),
                mixedFrom: mixes.map(({ id, parts }) => ({ mixId: id, parts: parts as RecipePart['parts'] })),
              })
            }
          >
            {w.use}
          </Button>
        )}
      </p>
      <div className={css.foundRow}>
        <i style={{ background: cssRgb(labToSrgb((found.film ?? found).lab)) }} />
        <RecipeBar parts={bar} words={said} />
      </div>
      <p className="small">
        {found.off}
        <span className="quiet numbers">{apartToo(found)}</span>
      </p>
      {found.killed > MUCH_KILLED && <p className="small quiet">{w.killed}</p>}
      {found.touchy.deltaE > 4 && (
        <p className="small quiet">{w.touchy(partOf(lesson, found.touchy.id).name, found.touchy.deltaE)}</p>
      )}
    </li>
  );
}

/** For a colour out of reach: the tubes of the table that would bring it nearer. */
function Reach({ lesson, target }: { lesson: Lesson; target: NonNullable<Mix['targetLab']> }) {
  const session = useSession();
  const [isAsked, setAsked] = useState(false);
  const { answer, progress } = usePaintJob('reach', isAsked ? { lesson: paintSide(lesson), target } : null);
  return (
    <div className={css.reach}>
      <p className="small">{w.outOfReach}</p>
      {!answer && (
        <Button size="small" disabled={isAsked} onClick={() => setAsked(true)}>
          {progress === null ? w.whichTube : w.searching(progress)}
        </Button>
      )}
      <ul>
        {answer?.slice(0, 3).map(({ pigment, deltaE }) => (
          <li key={pigment} className="small">
            {w.wouldReach(pigmentName(pigment), deltaE)}
            <Button
              type="text"
              size="small"
              onClick={() => session.do('addTube', { tube: { id: nanoid(8), pigment, grade: 'artist' } })}
            >
              {w.addIt(pigmentName(pigment))}
            </Button>
          </li>
        ))}
      </ul>
    </div>
  );
}
