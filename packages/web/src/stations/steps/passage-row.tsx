import type { Step } from '@viaticum/contract';
import { areaName, looksOf } from '@viaticum/core/derived';
import { Button } from 'antd';
import { nanoid } from 'nanoid';
import { useLesson, useSession } from '../../lesson/context.js';
import { passageWords as w } from '../../words/steps.js';
import css from './touches.module.css';

/** The colours of a wet passage in the order in which they are laid, each with its place; and the way to part it. */
export function PassageRow({ step }: { step: Step }) {
  const lesson = useLesson();
  const session = useSession();
  const passage = lesson.passages.find((one) => one.id === step.passageId);
  if (!passage) return null;
  const looks = looksOf(lesson);
  const part = () => session.do('partPassage', { id: passage.id, ids: passage.areaIds.slice(1).map(() => nanoid(8)) });
  return (
    <section className={css.passage} aria-label={w.label} data-testid="passage">
      <h3>{w.label}</h3>
      <p className="quiet">{w.about(w.orders[passage.order])}</p>
      <ol>
        {passage.places.map(({ mixId, areaId }) => {
          const look = looks.get(mixId);
          return (
            <li key={`${mixId}/${areaId}`}>
              <span className={css.patch} style={{ background: look?.rgb }} aria-hidden="true" />
              {w.at(look?.mix.name ?? '', areaName(lesson, areaId))}
            </li>
          );
        })}
      </ol>
      <Button size="small" onClick={part}>
        {w.part}
      </Button>
    </section>
  );
}
