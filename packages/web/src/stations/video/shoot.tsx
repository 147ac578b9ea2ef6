import { useQuery } from '@tanstack/react-query';
import {
  type CameraPlace,
  cameraPlaces,
  type FilmLight,
  filmLights,
  frameRates,
  type TakeEdit,
  type Voice,
  voices,
} from '@viaticum/contract';
import {
  filmDefaults,
  filmedMinutes,
  lostEdits,
  type ShootingList,
  shootCsv,
  type Take,
  type TakeState,
  takesCsv,
} from '@viaticum/core/film';
import { minutesInWords } from '@viaticum/core/units';
import { Button, Input, Popover, QRCode, Select, Statistic, Table, Tag } from 'antd';
import { clsx } from 'clsx';
import { nanoid } from 'nanoid';
import { useMemo, useState } from 'react';
import { shootLinkQuery, useMakeShootLink } from '../../api/film-queries.js';
import { useSession } from '../../lesson/context.js';
import { useReadStages } from '../../read/read-stages.js';
import { CopyKey } from '../../ui/copy-key.js';
import { Fold } from '../../ui/fold.js';
import { NumberField } from '../../ui/number-field.js';
import { saveFile } from '../../ui/save-file.js';
import { clockOf, filmWords } from '../../words/film.js';
import type { PlanJobs } from '../../workers/plan-jobs.js';
import { planWorker } from '../../workers/plan-worker.js';
import { useJobOf, useWorker } from '../../workers/use-job.js';
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
      <Phone id={film.id} />
    </>
  );
}

export const saveText = (name: string, text: string, type = 'text/csv'): void => saveFile(name, new Blob([text], { type }));

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

type Row = { take: Take; move: CameraPlace | null; at: number };

function TakeTable({ film, list }: { film: Filmed; list: ShootingList }) {
  const { takes, states, lesson } = film;
  const session = useSession();
  const byId = new Map(takes.map((take) => [take.id, take]));
  const inOrder = list.order.flatMap(({ takeId }) => byId.get(takeId) ?? []);
  const left = takes.filter(({ isLeftOut }) => isLeftOut);
  const rows = [...inOrder, ...left].map(
    (take, at, all): Row => ({ take, at, move: all[at - 1]?.place === take.place || take.isLeftOut ? null : take.place }),
  );
  const wanted = useMemo(() => [...new Set(takes.flatMap(({ afterStepId }) => afterStepId ?? []))], [takes]);
  const pictures = useReadStages(lesson, wanted);
  const ids = inOrder.map(({ id }) => id);
  const swap = (at: number, by: 1 | -1) => {
    const order = [...ids];
    [order[at], order[at + by]] = [order[at + by] as string, order[at] as string];
    session.do('pinFilming', { order });
  };
  return (
    <Table<Row>
      size="small"
      pagination={false}
      rowKey={({ take }) => take.id}
      dataSource={rows}
      data-testid="takes"
      rowClassName={({ take, move }) => clsx(move && css.moved, take.isLeftOut && css.out)}
      columns={[
        {
          title: w.columns.slate,
          width: 76,
          render: (_, { take, move }) => (
            <>
              {move && <span className={css.move}>{w.places[move]}</span>}
              <b className={css.slate}>{take.slate}</b>
            </>
          ),
        },
        {
          title: w.columns.start,
          width: 72,
          render: (_, { take }) => {
            // The canvas is not seen beside a palette or a tool.
            if (take.kind === 'palette' || take.kind === 'tool') return null;
            const url = take.afterStepId ? pictures.get(take.afterStepId) : undefined;
            return url ? (
              <img className={css.thumb} src={url} alt="" />
            ) : (
              <span className={css.bare}>{take.afterStepId ? '' : w.bare}</span>
            );
          },
        },
        {
          title: w.columns.take,
          render: (_, { take }) => (
            <>
              <span className={css.takeTitle}>{take.title}</span>
              {take.notes.map((note) => (
                <span key={note} className="small quiet">
                  {' '}
                  {note}
                </span>
              ))}
            </>
          ),
        },
        { title: w.columns.see, render: (_, { take }) => <Lines lines={take.mustSee} /> },
        { title: w.columns.say, render: (_, { take }) => <Lines lines={take.mustSay} /> },
        {
          title: w.columns.min,
          align: 'right',
          render: (_, { take }) => <span className="numbers">{clockOf(take.rawS)}</span>,
        },
        {
          title: w.columns.done,
          width: 190,
          render: (_, { take, at }) => (
            <div className={css.rowKeys}>
              <RunTag state={states.get(take.id)} isLeftOut={take.isLeftOut} />
              {!take.isLeftOut && (
                <>
                  <Button
                    size="small"
                    type="text"
                    aria-label={w.earlier(take.slate)}
                    disabled={at === 0}
                    onClick={() => swap(at, -1)}
                  >
                    ↑
                  </Button>
                  <Button
                    size="small"
                    type="text"
                    aria-label={w.later(take.slate)}
                    disabled={at >= ids.length - 1}
                    onClick={() => swap(at, 1)}
                  >
                    ↓
                  </Button>
                </>
              )}
              <TakeFields take={take} />
            </div>
          ),
        },
      ]}
    />
  );
}

const Lines = ({ lines }: { lines: readonly string[] }) => (
  <>
    {lines.map((line) => (
      <span key={line} className={css.line}>
        {line}
      </span>
    ))}
  </>
);

function RunTag({ state, isLeftOut }: { state: TakeState | undefined; isLeftOut: boolean }) {
  if (isLeftOut) return <Tag>{w.leftOut}</Tag>;
  if (!state) return null;
  if (state.goodS !== null) return <Tag>{w.good(clockOf(state.goodS))}</Tag>;
  return state.runs.length > 0 ? <span className="small quiet">{w.runs(state.runs.length)}</span> : null;
}

/** What a person decides about a take. */
function TakeFields({ take }: { take: Take }) {
  const session = useSession();
  const set = (edit: Partial<TakeEdit>, clear?: (keyof TakeEdit)[]) =>
    session.do('setTake', { takeId: take.id, edit, ...(clear && { clear }) });
  const fields = (
    <div className={css.fields}>
      <Select<CameraPlace>
        aria-label={w.placeOf(take.slate)}
        value={take.place}
        options={cameraPlaces.map((value) => ({ value, label: w.places[value] }))}
        onChange={(place) => set({ place })}
      />
      {take.say && (
        <Select<Voice>
          aria-label={w.voiceOf(take.slate)}
          value={take.voice}
          options={voices.map((value) => ({ value, label: w.voices[value] }))}
          onChange={(voice) => set({ voice })}
        />
      )}
      <NumberField
        label={w.minutesOf(take.slate)}
        value={Math.round((take.rawS / 60) * 10) / 10}
        unit="min"
        onValue={(min) => set({ rawSec: min * 60 })}
      />
      {take.kind === 'own' ? (
        <Button size="small" onClick={() => session.do('removeOwnTake', { id: take.id })}>
          {w.own.remove}
        </Button>
      ) : take.isLeftOut ? (
        <Button size="small" onClick={() => set({}, ['leftOut'])}>
          {w.takeBack}
        </Button>
      ) : (
        <Button size="small" onClick={() => set({ leftOut: true })}>
          {w.leaveOut}
        </Button>
      )}
    </div>
  );
  return (
    <Popover trigger="click" content={fields} title={`${take.slate} ${take.title}`}>
      <Button size="small" type="text" aria-label={w.edit(take.slate)}>
        …
      </Button>
    </Popover>
  );
}

/** What the camera writes, what light there is, how fast one speaks. */
function Camera({ film: { lesson, takes } }: { film: Filmed }) {
  const session = useSession();
  const own = lesson.film ?? {};
  const set = (film: object) => session.do('editFilm', { film });
  const places = cameraPlaces.filter((place) => takes.some((take) => take.place === place));
  return (
    <Fold head={w.camera}>
      <div className={css.asked}>
        <span>
          {w.bitRate}
          <NumberField
            label={w.bitRate}
            value={own.bitRateMbps ?? filmDefaults.bitRateMbps}
            onValue={(n) => set({ bitRateMbps: n })}
          />
        </span>
        <span>
          {w.cardSize}
          <NumberField
            label={w.cardSize}
            value={own.cardGb}
            onValue={(n) => set({ cardGb: n })}
            onClear={() => session.do('editFilm', { film: {}, clear: ['cardGb'] })}
          />
        </span>
        <span>
          {w.batteryLasts}
          <NumberField
            label={w.batteryLasts}
            value={own.batteryMin}
            onValue={(n) => set({ batteryMin: n })}
            onClear={() => session.do('editFilm', { film: {}, clear: ['batteryMin'] })}
          />
        </span>
        <span>
          {w.perGood}
          <NumberField
            label={w.perGood}
            value={own.takesPerGood ?? filmDefaults.takesPerGood}
            onValue={(n) => set({ takesPerGood: n })}
          />
        </span>
        <span>
          {w.wpm}
          <NumberField
            label={w.wpm}
            value={own.wordsPerMinute ?? filmDefaults.wordsPerMinute}
            onValue={(n) => set({ wordsPerMinute: n })}
          />
        </span>
        <span>
          {w.fps}
          <Select
            aria-label={w.fps}
            value={own.fps ?? filmDefaults.fps}
            options={frameRates.map((value) => ({ value, label: value }))}
            onChange={(fps) => set({ fps })}
          />
        </span>
        {places.map((place) => (
          <span key={place}>
            {w.lightAt(w.places[place])}
            <Select<FilmLight>
              aria-label={w.lightAt(w.places[place])}
              value={own.lights?.find((one) => one.place === place)?.light ?? 'lamp'}
              style={{ minWidth: 140 }}
              options={filmLights.map((value) => ({ value, label: w.lights[value] }))}
              onChange={(light) => session.do('setFilmLight', { place, light: light === 'lamp' ? null : light })}
            />
          </span>
        ))}
      </div>
    </Fold>
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

function Phone({ id }: { id: string }) {
  const { data: link } = useQuery(shootLinkQuery(id));
  const { mutate, isPending } = useMakeShootLink(id);
  const p = filmWords.phone;
  return (
    <section aria-label={p.title}>
      <h2>{p.title}</h2>
      <p>{p.about}</p>
      {link?.address ? (
        <div className={css.link}>
          <QRCode value={link.address} size={132} bordered={false} />
          <div>
            <p className={css.address}>{link.address}</p>
            <CopyKey text={link.address} label={p.copy} done={p.copied} />{' '}
            <Button size="small" loading={isPending} onClick={() => mutate()}>
              {p.anew}
            </Button>
          </div>
        </div>
      ) : (
        <Button loading={isPending} onClick={() => mutate()}>
          {p.make}
        </Button>
      )}
    </section>
  );
}
