import { useInfiniteQuery } from '@tanstack/react-query';
import { canvasWhen, creditOf, type FinishDate, finishOf } from '@viaticum/core/finish';
import { minutesInWords } from '@viaticum/core/units';
import { App, Button, Checkbox, DatePicker } from 'antd';
import { clsx } from 'clsx';
import dayjs from 'dayjs';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { logQuery, useRemind } from '../../api/log-queries.js';
import { useLesson, useSession, useWorkedOut } from '../../lesson/context.js';
import { clockFields, dayAndTime, dayOf } from '../../ui/clock.js';
import { CopyKey } from '../../ui/copy-key.js';
import { saveFile } from '../../ui/save-file.js';
import { logWords } from '../../words/log.js';
import css from './log.module.css';

const w = logWords.finish;
const HOUR_MS = 3_600_000;
const DAY_MS = 24 * HOUR_MS;

/** Whether to stop, the last look, when a canvas may be handled, and whom the picture is owed to. */
export function Finish() {
  const lesson = useWorkedOut();
  const { id } = useSession();
  const { data } = useInfiniteQuery({ ...logQuery(id, ''), staleTime: 0 });
  const last = data?.pages.flat().find(({ log }) => log.kind !== 'takes') ?? null;
  const { stop, open, optional, last: looks, varnish } = useMemo(() => finishOf(lesson, last?.log ?? null), [lesson, last]);
  return (
    <section aria-label={w.title}>
      <h2>{w.title}</h2>
      <h3>{w.stop}</h3>
      <p className="quiet">{w.stopAbout}</p>
      <Ticks of={stop} />
      {open.length > 0 && (
        <p>
          {w.open} {open.map(({ title, minutes }) => w.item(title, minutesInWords(minutes))).join(', ')}.
        </p>
      )}
      {optional.length > 0 && (
        <p>
          {w.optional}{' '}
          {optional.map(({ title, minutes }) => (minutes > 0 ? w.item(title, minutesInWords(minutes)) : title)).join(', ')}.
        </p>
      )}
      <h3>{w.look}</h3>
      <Ticks of={looks} />
      <Dates ended={last ? new Date(last.log.at).getTime() + last.log.actualMin * 60_000 : null} />
      <h3>{w.varnish}</h3>
      <ul className={css.plain}>
        {varnish.map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ul>
      <Credits />
    </section>
  );
}

const Ticks = ({ of }: { of: readonly string[] }) => (
  <ul className={css.ticks}>
    {of.map((words) => (
      <li key={words}>
        <Checkbox>{words}</Checkbox>
      </li>
    ))}
  </ul>
);

/** Dates from the end of the class on, as letters to oneself and as a file for calendars. */
function Dates({ ended }: { ended: number | null }) {
  const lesson = useWorkedOut();
  const { message } = App.useApp();
  const remind = useRemind();
  const [typed, setTyped] = useState<number | null>(null);
  const [now] = useState(() => Math.round(Date.now() / HOUR_MS) * HOUR_MS);
  const end = typed ?? ended ?? now;
  const dates = useMemo(() => canvasWhen(lesson, end), [lesson, end]);
  const later = dates.filter(({ kind }) => kind === 'varnish' || kind === 'pack');
  const reminders = later.map(({ kind, atMs }) => ({
    dueAt: Math.round(atMs),
    subject: w.subject(w.kinds[kind], lesson.title),
    text: `${w.kindAbout[kind]}\n${w.label}`,
  }));
  const calendar = async () => {
    const { toIcs } = await import('@viaticum/core/format');
    const entry = ({ kind, atMs }: FinishDate) => ({
      ...{ id: `${kind}-${Math.round(atMs)}@viaticum`, title: w.subject(w.kinds[kind], lesson.title) },
      ...{ startMs: atMs, endMs: atMs + HOUR_MS, place: '', words: `${w.kindAbout[kind]}\n${w.label}` },
    });
    return toIcs(lesson.title, later.map(entry), Date.now());
  };
  const write = async () => {
    const { written } = await remind.mutateAsync({ reminders, ics: await calendar() });
    void message.success(w.written(written));
  };
  return (
    <>
      <h3>{w.when}</h3>
      <div className="field">
        <span>{w.ended}</span>
        <DatePicker
          aria-label={w.ended}
          showTime={{ format: clockFields().format, use12Hours: clockFields().use12Hours ?? false }}
          format={`YYYY-MM-DD ${clockFields().format}`}
          allowClear={false}
          value={dayjs(end)}
          onChange={(day) => day && setTyped(day.valueOf())}
        />
      </div>
      {dates.length === 0 ? (
        <p>{w.noDates}</p>
      ) : (
        <table className={css.items} data-testid="finish-dates">
          <tbody>
            {dates.map(({ kind, atMs }) => (
              <tr key={kind}>
                <th scope="row">{w.kinds[kind]}</th>
                <td className={clsx('numbers', css.oneLine)}>{w.from(atMs - end > DAY_MS ? dayOf(atMs) : dayAndTime(atMs))}</td>
                <td className="quiet small">{w.kindAbout[kind]}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="small quiet">{w.label}</p>
      {remind.error && (
        <p className="signal" role="alert">
          {remind.error.message}
        </p>
      )}
      {later.length > 0 && (
        <p className={css.keys}>
          <Button loading={remind.isPending} onClick={() => void write()}>
            {w.remind}
          </Button>
          <Button
            onClick={() =>
              void calendar().then((ics) => saveFile(`${lesson.title}.ics`, new Blob([ics], { type: 'text/calendar' })))
            }
          >
            {w.calendar}
          </Button>
        </p>
      )}
    </>
  );
}

/** Whose the references are, and how they are credited where the picture is shown. */
function Credits() {
  const { references } = useLesson();
  const { id } = useSession();
  if (references.length === 0) return null;
  return (
    <>
      <h3>{w.credit}</h3>
      <ul className={css.plain}>
        {references.map((reference, k) => {
          const credit = creditOf(reference);
          return (
            <li key={reference.id} className={css.keys}>
              {credit ? (
                <>
                  <span>{credit}</span>
                  <CopyKey text={credit} label={w.copy} done={w.copied} />
                </>
              ) : (
                <>
                  <span>{w.noCredit(k + 1)}</span>
                  <Link to={`/lesson/${id}/picture/source`}>{w.sayIt}</Link>
                </>
              )}
            </li>
          );
        })}
      </ul>
    </>
  );
}
