import type { School } from '@viaticum/contract';
import { groundsAt, momentsOf, type Way, waysOnto } from '@viaticum/core/transfer';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { useSession, useWorkedOut } from '../../../lesson/context.js';
import { Fold } from '../../../ui/fold.js';
import { transferWords } from '../../../words/transfers.js';
import { useDrawing } from '../drawing-context.js';
import css from './ways.module.css';

const w = transferWords.ways;
const media: Partial<Record<Way['id'], School['transferMedium']>> = {
  'transfer-paper': 'transfer-paper',
  'light-paper': 'light-paper',
  graphite: 'graphite',
  charcoal: 'charcoal',
  chalk: 'chalk',
};
const drawings: Partial<Record<Way['id'], School['drawing']>> = { grid: 'grid', envelope: 'envelope', freehand: 'thin-paint' };

/** For every time of drawing the ways onto the canvas: how well each shows on what lies there, and how long it takes. */
export function WaysTopic() {
  const lesson = useWorkedOut();
  const session = useSession();
  const { placed } = useDrawing();
  const { school } = lesson;
  const isChosen = ({ id }: Way) =>
    media[id]
      ? school.drawing === 'tracing' && school.transferMedium === media[id]
      : drawings[id] !== undefined && school.drawing === drawings[id];
  const take = ({ id }: Way) => {
    const medium = media[id];
    const drawing = drawings[id];
    if (medium) session.do('setSchool', { school: { drawing: 'tracing', transferMedium: medium } });
    else if (drawing) session.do('setSchool', { school: { drawing } });
  };
  return (
    <>
      <p className="quiet small">{w.about}</p>
      {momentsOf(lesson).map((moment) => {
        const own = placed.filter((one) => one.moment.stepId === moment.stepId);
        const areaIds = [...new Set(own.flatMap(({ line }) => line.areaIds))];
        const ways = waysOnto(
          groundsAt(lesson, moment.at, areaIds),
          own.reduce((sum, { line }) => sum + line.lengthMm, 0),
        );
        return (
          <section key={moment.stepId ?? 'first'} className={css.ways}>
            <h3>{w.on(moment.title)}</h3>
            <ul>
              {ways.map((way) => (
                <li key={way.id} className={clsx(isChosen(way) && css.chosen)}>
                  <Fold
                    head={
                      <span className={css.wayHead}>
                        <b>{w.names[way.id]}</b>
                        <span className={clsx('numbers small', way.contrast.isHard && 'signal')}>
                          {w.contrast(way.contrast.least, way.contrast.isHard)}
                        </span>
                        <span className="numbers small">{w.minutes(way.minutes)}</span>
                      </span>
                    }
                  >
                    <p className="small">{w.how[way.id]}</p>
                    <p className="small">{w.stays[way.id]}</p>
                    {(media[way.id] || drawings[way.id]) && !isChosen(way) && (
                      <Button size="small" onClick={() => take(way)}>
                        {w.take}
                      </Button>
                    )}
                    {isChosen(way) && <span className="small quiet">{w.chosen}</span>}
                  </Fold>
                </li>
              ))}
            </ul>
          </section>
        );
      })}
      <p className="small quiet">
        {w.under} {w.mirrored}
      </p>
    </>
  );
}
