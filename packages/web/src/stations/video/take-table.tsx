import { type CameraPlace, cameraPlaces, type TakeEdit, type Voice, voices } from '@viaticum/contract';
import type { ShootingList, Take, TakeState } from '@viaticum/core/film';
import { Button, Popover, Select, Table, Tag } from 'antd';
import { clsx } from 'clsx';
import { useMemo } from 'react';
import { useSession } from '../../lesson/context.js';
import { useReadStages } from '../../read/read-stages.js';
import { NumberField } from '../../ui/number-field.js';
import { clockOf, filmWords } from '../../words/film.js';
import type { Filmed } from './use-film.js';
import css from './video.module.css';

const w = filmWords.shoot;

type Row = { take: Take; move: CameraPlace | null; at: number };

/** The takes in the order of filming, each with what it needs and whether it is good. */
export function TakeTable({ film, list }: { film: Filmed; list: ShootingList }) {
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
