import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import type { ClassAnswer, Invite as InviteData } from '@viaticum/contract';
import { namesIn, readRoster, toRoster } from '@viaticum/core/format';
import { bringFor } from '@viaticum/core/kit';
import { minutesInWords } from '@viaticum/core/units';
import { Button, DatePicker, Input } from 'antd';
import { clsx } from 'clsx';
import dayjs from 'dayjs';
import { useMemo, useState } from 'react';
import { classesQuery, lettersQuery, usePlanClass, useSaveInvite, useWriteLetters } from '../../api/class-queries.js';
import { useSession, useWorkedOut } from '../../lesson/context.js';
import { clockFields, dayAndTime, dayOf } from '../../ui/clock.js';
import { FileKey } from '../../ui/file-key.js';
import { Fold } from '../../ui/fold.js';
import { saveFile } from '../../ui/save-file.js';
import { WholeField } from '../../ui/whole-field.js';
import { inviteWords as w } from '../../words/class.js';
import type { PlanJobs } from '../../workers/plan-jobs.js';
import { planWorker } from '../../workers/plan-worker.js';
import { useJobOf, useWorker } from '../../workers/use-job.js';
import classCss from './class.module.css';
import css from './invite.module.css';
import { Opened } from './teach.js';

const rightNow = () => Date.now();
const timeZone = Intl.DateTimeFormat().resolvedOptions().timeZone;
/** A time as a date field of this machine takes it. */
const asLocal = (iso: string): string => {
  const at = new Date(iso);
  return new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
};
/** A list of names as it is typed, one a line; a name with a comma in quotes. */
const asList = (names: readonly string[]): string => names.map((name) => (name.includes(',') ? `"${name}"` : name)).join('\n');

/** A date, a room and a list of first names; a code from now on, a file for calendars, letters to the outbox stand-in. */
export function Invite() {
  const { id } = useSession();
  const { data } = useInfiniteQuery(classesQuery);
  if (!data) return null;
  const planned = data.filter((one) => one.lessonId === id && one.state === 'planned');
  return (
    <>
      <Form key={planned[0]?.id ?? 'new'} planned={planned[0] ?? null} />
      <div className={css.classRight}>
        {planned.length > 0 && (
          <section aria-label={w.planned}>
            <h2>{w.planned}</h2>
            <ul className={classCss.classList} data-testid="class-list">
              {planned.map((one, i) => (
                <Opened key={one.id} one={one} isNewest={i === 0} />
              ))}
            </ul>
            <p className="small quiet">{w.early}</p>
          </section>
        )}
        {planned[0] && <Outbox planned={planned[0]} />}
      </div>
    </>
  );
}

function Form({ planned }: { planned: ClassAnswer | null }) {
  const lesson = useWorkedOut();
  const { id } = useSession();
  const make = usePlanClass();
  const change = useSaveInvite();
  const before = planned?.invite;
  const [when, setWhen] = useState(before ? asLocal(before.startsAt) : '');
  const [place, setPlace] = useState(before?.place ?? lesson.room.name);
  const [seats, setSeats] = useState(before?.seats ?? lesson.room.seats ?? 12);
  const [names, setNames] = useState(asList(before?.roster.map((one) => one.firstName) ?? []));
  const [fault, setFault] = useState<string | null>(null);
  const { names: roster, noNames } = namesIn(names);
  // What the list was before it was replaced.
  const [replaced, setReplaced] = useState<string | null>(null);
  const [brought, setBrought] = useState<string[] | null>(null);
  const bring = bringFor(lesson);
  const startMs = new Date(when).getTime();
  const worker = useWorker(planWorker);
  const args = useMemo(() => (lesson.steps.length === 0 ? null : { lesson, students: seats }), [lesson, seats]);
  const { answer: expected } = useJobOf<PlanJobs, 'forecast'>(worker, 'forecast', args, { afterMs: 300 });

  const invite = (): InviteData | null => {
    if (!Number.isFinite(startMs)) {
      setFault(w.needWhen);
      return null;
    }
    setFault(null);
    const known = new Map(before?.roster.map((one) => [one.firstName, one]));
    return {
      startsAt: new Date(startMs).toISOString(),
      timeZone,
      place,
      seats,
      roster: roster.map((firstName) => known.get(firstName) ?? { firstName }),
    };
  };
  const store = () => {
    const given = invite();
    if (!given) return;
    if (planned) change.mutate({ code: planned.code, invite: given });
    else make.mutate({ lessonId: id, invite: given });
  };
  const saveIcs = async () => {
    if (!invite() || !expected) return;
    const { toIcs } = await import('@viaticum/core/format');
    const entry = {
      id: planned?.id ?? `${id}-${when.replace(/\D/g, '')}`,
      title: lesson.title,
      startMs,
      endMs: startMs + expected.bookedMin * 60_000,
      place,
      words: bring,
      ...(planned?.addresses[0] && { url: planned.addresses[0] }),
    };
    saveFile(`${lesson.title}.ics`, new Blob([toIcs(lesson.title, [entry], rightNow())], { type: 'text/calendar' }));
  };
  const readCsv = async (file: File) => {
    try {
      const found = readRoster(await file.text());
      setFault(found.noNames.length > 0 ? w.noNames(found.noNames) : null);
      // A list that is there is never lost to a file: one says whether it is added or takes its place.
      if (names.trim() === '') setNames(asList(found.names));
      else setBrought(found.names);
    } catch (error) {
      setFault(error instanceof RangeError ? error.message : w.noFile);
    }
  };
  const saveCsv = () => {
    saveFile(`${lesson.title}.csv`, new Blob([toRoster(roster)], { type: 'text/csv' }));
  };
  const refused = make.error ?? change.error;
  return (
    <section className={classCss.invite} aria-label={w.title}>
      <h2>{w.title}</h2>
      <div className={classCss.paceGroup}>
        <div className="field">
          <span>{w.when}</span>
          <DatePicker
            aria-label={w.when}
            showTime={{ ...clockFields(), minuteStep: 5 }}
            format={`D MMM YYYY ${clockFields().format}`}
            needConfirm={false}
            allowClear={false}
            value={when === '' ? null : dayjs(when)}
            onChange={(day) => day && setWhen(day.format('YYYY-MM-DDTHH:mm'))}
          />
        </div>
        <label className="field">
          <span>{w.place}</span>
          <Input value={place} maxLength={120} onChange={(event) => setPlace(event.target.value)} />
        </label>
        <WholeField label={w.seats} value={seats} least={1} most={300} onValue={setSeats} />
        <span className="small quiet">{w.timeZone(timeZone)}</span>
      </div>
      <label className="field">
        <span>{w.roster}</span>
        <Input.TextArea
          rows={6}
          value={names}
          aria-label={w.names}
          onChange={(event) => setNames(event.target.value)}
          spellCheck={false}
        />
      </label>
      <p className={clsx('small', roster.length > seats ? 'signal' : 'quiet')}>{w.count(roster.length, seats)}</p>
      {noNames.length > 0 && <p className="small signal">{w.noNames(noNames)}</p>}
      <p className="small quiet">{w.rosterAbout}</p>
      {brought && (
        <p className={css.inviteKeys} role="status">
          <span className="small">{w.brought(brought.length)}</span>
          <Button
            size="small"
            onClick={() => {
              setNames(asList([...roster, ...brought.filter((name) => !roster.includes(name))]));
              setBrought(null);
            }}
          >
            {w.addThem}
          </Button>
          <Button
            size="small"
            onClick={() => {
              setReplaced(names);
              setNames(asList(brought));
              setBrought(null);
            }}
          >
            {w.replaceList}
          </Button>
          <Button size="small" onClick={() => setBrought(null)}>
            {w.leaveList}
          </Button>
        </p>
      )}
      {replaced !== null && (
        <p className={css.inviteKeys}>
          <Button
            size="small"
            onClick={() => {
              setNames(replaced);
              setReplaced(null);
            }}
          >
            {w.listBack}
          </Button>
        </p>
      )}
      <div className={css.inviteKeys}>
        <FileKey label={w.bring} accept=".csv,text/csv,text/plain" onFile={(file) => void readCsv(file)} />
        <Button size="small" disabled={roster.length === 0} onClick={saveCsv}>
          {w.take}
        </Button>
      </div>
      <p className={clsx('small quiet', css.inviteBring)}>{bring}</p>
      {expected && (
        <p className="small" data-testid="expected-end">
          {w.expected(minutesInWords(expected.aboutMin), minutesInWords(expected.bookedMin))}
        </p>
      )}
      <p className={css.inviteKeys}>
        <Button type="primary" disabled={make.isPending || change.isPending} onClick={store}>
          {planned ? w.change : w.plan}
        </Button>
        <Button disabled={!expected} onClick={() => void saveIcs()}>
          {w.save}
        </Button>
      </p>
      {(fault || refused) && (
        <p className="signal small" role="alert">
          {fault ?? refused?.message}
        </p>
      )}
    </section>
  );
}

function Outbox({ planned }: { planned: ClassAnswer }) {
  const { data: letters } = useQuery(lettersQuery);
  const write = useWriteLetters();
  return (
    <section aria-label={w.outbox}>
      <h2>{w.outbox}</h2>
      <p className="small quiet">{w.outboxAbout}</p>
      <Button disabled={write.isPending} onClick={() => write.mutate(planned.code)}>
        {w.write}
      </Button>
      {write.error && (
        <p className="signal small" role="alert">
          {write.error.message}
        </p>
      )}
      {write.data && (
        <p className="small" role="status">
          {w.written(write.data.written)}
        </p>
      )}
      {letters?.length === 0 && <p className="small quiet">{w.noLetters}</p>}
      <ul className={clsx(css.letters, 'small')}>
        {letters?.slice(0, 40).map((letter) => (
          <li key={letter.id}>
            <Fold
              head={
                <>
                  {letter.to}: {letter.subject},{' '}
                  <span className="quiet">{letter.dueAt ? w.due(dayOf(letter.dueAt)) : dayAndTime(letter.at)}</span>
                </>
              }
            >
              <p className={css.inviteBring}>{letter.text}</p>
            </Fold>
          </li>
        ))}
      </ul>
    </section>
  );
}
