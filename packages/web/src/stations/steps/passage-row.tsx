import { type Passage, passageOrders, placements, type Step } from '@viaticum/contract';
import { areaName, looksOf } from '@viaticum/core/derived';
import { Button, Select } from 'antd';
import { nanoid } from 'nanoid';
import { useLesson, useSession } from '../../lesson/context.js';
import { passageWords as w } from '../../words/steps.js';
import css from './touches.module.css';

const ALL_OVER = 'all-over';

/** The colours of a wet passage in the order in which they are laid, each with its place on its area; and the way to part it. */
export function PassageRow({ step }: { step: Step }) {
  const lesson = useLesson();
  const session = useSession();
  const passage = lesson.passages.find((one) => one.id === step.passageId);
  if (!passage) return null;
  const looks = looksOf(lesson);
  const { id } = passage;
  const part = () => session.do('partPassage', { id, ids: passage.areaIds.slice(1).map(() => nanoid(8)) });
  const put = (k: number, at: string) => {
    const places = passage.places.map(({ at: was, ...place }, i) => {
      const next = i === k ? (at === ALL_OVER ? undefined : at) : was;
      return { ...place, ...(next ? { at: next as NonNullable<typeof was> } : {}) };
    });
    session.do('setPassage', { id, places });
  };
  return (
    <section className={css.passage} aria-label={w.label} data-testid="passage">
      <h3>{w.label}</h3>
      <p className="quiet">{w.about(w.orders[passage.order])}</p>
      <ol>
        {passage.places.map(({ mixId, areaId, at }, k) => {
          const look = looks.get(mixId);
          const name = w.at(look?.mix.name ?? '', areaName(lesson, areaId));
          return (
            <li key={`${mixId}/${areaId}`}>
              <span className={css.patch} style={{ background: look?.rgb }} aria-hidden="true" />
              {name}
              <Select
                size="small"
                aria-label={w.placeOf(name)}
                value={at ?? ALL_OVER}
                onChange={(place) => put(k, place)}
                options={[ALL_OVER, ...placements].map((place) => ({
                  value: place,
                  label: w.places[place as keyof typeof w.places],
                }))}
              />
            </li>
          );
        })}
      </ol>
      <p className={css.keys}>
        <Select<Passage['order']>
          size="small"
          aria-label={w.orderLabel}
          value={passage.order}
          onChange={(order) => session.do('setPassage', { id, order })}
          options={passageOrders.map((order) => ({ value: order, label: w.orders[order] }))}
        />
        <Select<Passage['soften']>
          size="small"
          aria-label={w.softenLabel}
          value={passage.soften}
          onChange={(soften) => session.do('setPassage', { id, soften })}
          options={(['whole', 'seams'] as const).map((soften) => ({ value: soften, label: w.softens[soften] }))}
        />
        <Button size="small" onClick={part}>
          {w.part}
        </Button>
      </p>
    </section>
  );
}
