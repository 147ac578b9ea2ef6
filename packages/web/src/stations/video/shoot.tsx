import { filmedMinutes, lostEdits, type ShootingList, shootCsv, takesCsv } from '@viaticum/core/film';
import { minutesInWords } from '@viaticum/core/units';
import { Button, Input, Popover, Select, Statistic } from 'antd';
import { nanoid } from 'nanoid';
import { useMemo, useState } from 'react';
import { useSession } from '../../lesson/context.js';
import { filmWords } from '../../words/film.js';
import type { PlanJobs } from '../../workers/plan-jobs.js';
import { planWorker } from '../../workers/plan-worker.js';
import { useJobOf, useWorker } from '../../workers/use-job.js';
import { Camera } from './camera.js';
import { PhoneLink } from './phone-link.js';
import { saveText } from './save-text.js';
import { TakeTable } from './take-table.js';
import type { Filmed } from './use-film.js';
import css from './video.module.css';

const w = filmWords.shoot;

/** What to film, in the order of filming, with what it takes; and what filming has told. */
export function Shoot({ film }: { film: Filmed }) {
  const { takes, states, lesson } = film;
  const list = useList(film);
  const used = takes.filter(({ isLeftOut }) => !isLeftOut);
  const good = used.filter(({ id }) => states.get(id)?.goodS != null).length;
  if (!list) return <p className="quiet">{w.order.looking}</p>;
  const cards = lesson.film?.cardGb ? Math.ceil(list.cardGb / lesson.film.cardGb) : 0;
  const batteries = lesson.film?.batteryMin ? Math.ceil(list.batteryMin / lesson.film.batteryMin) : 0;
  return (
    <>
      <section aria-label={w.title}>
        <p className={css.lead}>
          {good === 0 ? w.nothing(used.length, minutesInWords(list.endMin), w.gb(list.cardGb)) : w.done(good, used.length)}
        </p>
        <div className={css.sums}>
          <Statistic title={w.takes} value={used.length} />
          <Statistic title={w.time} value={minutesInWords(list.endMin)} />
          <Statistic title={w.card} value={cards > 1 ? `${w.gb(list.cardGb)}, ${w.tooSmall(cards)}` : w.gb(list.cardGb)} />
          <Statistic
            title={w.battery}
            value={
              batteries > 1 ? `${minutesInWords(list.batteryMin)}, ${w.batteries(batteries)}` : minutesInWords(list.batteryMin)
            }
          />
          <Statistic title={w.changes} value={list.changes} />
        </div>
        <OrderWords list={list} />
        <Camera film={film} />
        <TakeTable film={film} list={list} />
        <div className={css.keys}>
          <Button onClick={() => saveText(`${lesson.title}, takes.csv`, takesCsv(lesson, takes, list, states))}>{w.csv}</Button>
          {states.size > 0 && (
            <Button onClick={() => saveText(`${lesson.title}, noted.csv`, shootCsv(takes, states))}>{w.shotCsv}</Button>
          )}
          <OwnTake />
        </div>
      </section>
      <Lost film={film} />
      <Back film={film} />
      <PhoneLink id={film.id} />
    </>
  );
}

/** The order of filming: at once one that is good, then the best there is. */
function useList({ lesson, notes }: Filmed): ShootingList | null {
  const worker = useWorker(planWorker);
  const [version, setVersion] = useState({ lesson, notes, n: 0 });
  if (version.lesson !== lesson || version.notes.length !== notes.length) setVersion({ lesson, notes, n: version.n + 1 });
  const options = { version: version.n, afterMs: 0 };
  const quick = useJobOf<PlanJobs, 'filming'>(worker, 'filming', { lesson, notes, isNarrow: true }, options);
  const best = useJobOf<PlanJobs, 'filming'>(
    worker,
    'filming',
    quick.isDone ? { lesson, notes, isNarrow: false } : null,
    options,
  );
  return best.answer?.isProven && quick.answer && best.answer.order.length === quick.answer.order.length
    ? best.answer
    : quick.answer;
}

function OrderWords({ list }: { list: ShootingList }) {
  const session = useSession();
  const less = list.plainMin - list.endMin;
  const { order } = w;
  return (
    <div className={css.words}>
      <p>
        {list.isPinned
          ? order.pinned(list.pinCostMin >= 1 ? minutesInWords(list.pinCostMin) : '')
          : list.isProven
            ? order.proven
            : order.found}{' '}
        {less >= 1 && order.plain(minutesInWords(less))}{' '}
        {list.isPinned && (
          <Button size="small" onClick={() => session.do('pinFilming', { order: null })}>
            {order.letGo}
          </Button>
        )}
      </p>
      {list.notes.map((note) => (
        <p key={note}>{note}</p>
      ))}
    </div>
  );
}

function OwnTake() {
  const session = useSession();
  const [title, setTitle] = useState('');
  return (
    <Popover
      trigger="click"
      content={
        <div className={css.fields}>
          <Input
            aria-label={w.own.title}
            placeholder={w.own.title}
            value={title}
            onChange={(event) => setTitle(event.target.value)}
          />
          <Button
            disabled={!title.trim()}
            onClick={() => {
              if (session.do('addOwnTake', { take: { id: nanoid(8), title, place: 'wide', rawSec: 30 } })) setTitle('');
            }}
          >
            {w.own.add}
          </Button>
        </div>
      }
    >
      <Button>{w.own.add}</Button>
    </Popover>
  );
}

/** Decisions about takes whose step is gone. */
function Lost({ film: { lesson, takes } }: { film: Filmed }) {
  const session = useSession();
  const lost = useMemo(() => lostEdits(lesson), [lesson]);
  if (lost.length === 0) return null;
  return (
    <section aria-label={w.lost.title}>
      <h2>{w.lost.title}</h2>
      <ul>
        {lost.map((edit) => (
          <li key={edit.takeId}>
            {w.lost.words(edit.mustSee ?? edit.mustSay ?? w.places[edit.place ?? 'canvas'])}{' '}
            <Select
              size="small"
              aria-label={w.lost.join}
              placeholder={w.lost.join}
              style={{ minWidth: 240 }}
              options={takes.map(({ id, slate, title }) => ({ value: id, label: `${slate} ${title}` }))}
              onChange={(toTakeId: string) => session.do('joinTake', { takeId: edit.takeId, toTakeId })}
            />{' '}
            <Button
              size="small"
              onClick={() =>
                session.do('setTake', {
                  takeId: edit.takeId,
                  edit: {},
                  clear: ['place', 'voice', 'rawSec', 'mustSee', 'mustSay', 'leftOut'],
                })
              }
            >
              {w.lost.away}
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What filming tells of the lesson's minutes, taken one by one. */
function Back({ film: { lesson, takes } }: { film: Filmed }) {
  const session = useSession();
  const found = useMemo(() => filmedMinutes(lesson, takes), [lesson, takes]);
  if (found.length === 0) return null;
  return (
    <section aria-label={w.back.title} data-testid="filmed-minutes">
      <h2>{w.back.title}</h2>
      <p>{w.back.about}</p>
      <ul>
        {found.map(({ stepId, words, suggested }) => (
          <li key={stepId}>
            {words}{' '}
            <Button size="small" onClick={() => session.do('editStep', { id: stepId, step: { doMin: suggested } })}>
              {w.back.take(suggested)}
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
