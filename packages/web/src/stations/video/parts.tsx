import type { FilmPart } from '@viaticum/core/film';
import { useMemo } from 'react';
import { useSession } from '../../lesson/context.js';
import { useReadStages } from '../../read/read-stages.js';
import { NumberField } from '../../ui/number-field.js';
import { clockOf, filmWords } from '../../words/film.js';
import type { Filmed } from './use-film.js';
import css from './video.module.css';

const w = filmWords.length;

/** The film in parts, each with the canvas that it begins with and what it needs. */
export function Parts({ film: { lesson, cut, timeline }, parts }: { film: Filmed; parts: readonly FilmPart[] }) {
  const session = useSession();
  const wanted = useMemo(() => parts.flatMap(({ recapStepId }) => recapStepId ?? []), [parts]);
  const pictures = useReadStages(lesson, wanted);
  if (cut.isShort) return null;
  const titleOf = (stepId: string | null) => lesson.steps.find(({ id }) => id === stepId)?.title ?? '';
  return (
    <section aria-label={w.parts.title} data-testid="parts">
      <h3>{w.parts.title}</h3>
      <p>{w.parts.about}</p>
      <div className={css.asked}>
        <span>
          {w.parts.wanted}
          <NumberField
            label={w.parts.wanted}
            value={cut.partSec === undefined ? undefined : Math.round(cut.partSec / 6) / 10}
            placeholder={w.parts.none}
            onValue={(min) => session.do('editCut', { id: cut.id, cut: { partSec: min * 60 } })}
            onClear={() => session.do('editCut', { id: cut.id, cut: {}, clear: ['partSec'] })}
          />
        </span>
      </div>
      {parts.length > 1 && (
        <ul>
          {parts.map((part) => (
            <li key={part.number} className={css.part}>
              {part.recapStepId && pictures.has(part.recapStepId) && (
                <img className={css.thumb} src={pictures.get(part.recapStepId)} alt="" />
              )}
              <span>
                <b>{w.parts.part(part.number, part.of, clockOf((part.to - part.from) / timeline.fps))}</b>
                {part.recapStepId && `, ${w.parts.begins(titleOf(part.recapStepId))}`}
                <br />
                {part.transferStepId && <>{w.parts.transfer(titleOf(part.transferStepId))}. </>}
                <span className="small">
                  {w.parts.needs}: {[...part.brushes, ...part.mixes].join('; ')}.{part.next && ` ${w.parts.next(part.next)}.`}
                </span>
              </span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
