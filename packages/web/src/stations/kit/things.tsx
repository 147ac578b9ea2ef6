import { type Shelf, shelves } from '@viaticum/contract';
import { type KitBrush, type KitThing, kitBrushes, kitThings } from '@viaticum/core/kit';
import { Button, Checkbox, Input, Select, Table } from 'antd';
import { nanoid } from 'nanoid';
import { useState } from 'react';
import { useSession } from '../../lesson/context.js';
import { NumberField } from '../../ui/number-field.js';
import { kitWords } from '../../words/kit.js';
import css from './kit.module.css';
import type { Kit } from './use-kit.js';

const w = kitWords.things;

/** Brushes with what two may share, everything else by the shop's shelves, and what the lesson needs besides. */
export function Things({ kit: { lesson, plan, studio } }: { kit: Kit }) {
  const session = useSession();
  const { brushes, washes } = kitBrushes(lesson, plan);
  const things = kitThings(lesson, plan, studio.sinks);
  return (
    <>
      <section aria-label={w.brushes}>
        <h2>{w.brushes}</h2>
        <p className="quiet">{w.washes(washes)}</p>
        <Table<KitBrush>
          size="small"
          pagination={false}
          rowKey={({ brush }) => brush.id}
          dataSource={brushes}
          data-testid="kit-brushes"
          columns={[
            {
              title: w.columns.brush,
              render: (_, one) => (
                <>
                  {lesson.units === 'cm' ? one.metric : one.name}{' '}
                  {one.onlyFor.length > 0 && <span className="small quiet">{kitWords.only(one.onlyFor)}</span>}
                </>
              ),
            },
            { title: w.columns.head, align: 'right', render: (_, one) => <span className="numbers">{one.perHead}</span> },
            { title: w.columns.count, align: 'right', render: (_, one) => <b className="numbers">{one.count}</b> },
            {
              title: w.columns.shared,
              render: (_, one) =>
                one.mayNot ? (
                  <span className="small quiet">{w.mayNot(one.mayNot)}</span>
                ) : (
                  <Checkbox
                    checked={one.isShared}
                    aria-label={w.share(one.name)}
                    onChange={(event) => session.do('shareBrush', { brush: one.brush.id, isShared: event.target.checked })}
                  >
                    {w.extra(one.extraMin)}
                  </Checkbox>
                ),
            },
            { title: w.columns.instead, render: (_, one) => one.substitutes.join(', ') },
          ]}
        />
      </section>
      <section aria-label={w.things}>
        <h2>{w.things}</h2>
        <Table<KitThing>
          size="small"
          pagination={false}
          rowKey={({ key }) => key}
          dataSource={things}
          columns={[
            { title: w.shelfLabel, render: (_, one) => <span className="quiet">{w.shelves[one.shelf]}</span> },
            { title: w.thing, render: (_, one) => one.name },
            { title: w.each, align: 'right', render: (_, one) => <span className="numbers">{one.perHead ?? ''}</span> },
            { title: w.count, align: 'right', render: (_, one) => <b className="numbers">{one.count}</b> },
            {
              title: w.note,
              render: (_, one) =>
                one.extraId ? (
                  <Button
                    size="small"
                    aria-label={w.remove(one.name)}
                    onClick={() => session.do('removeExtra', { id: one.extraId as string })}
                  >
                    ×
                  </Button>
                ) : (
                  <span className="small quiet">{one.note}</span>
                ),
            },
          ]}
        />
        <Extras />
      </section>
    </>
  );
}

/** Adds what no step asks for. */
function Extras() {
  const session = useSession();
  const [name, setName] = useState('');
  const [shelf, setShelf] = useState<Shelf>('sundries');
  const [count, setCount] = useState(1);
  const [per, setPer] = useState<'head' | 'group'>('head');
  return (
    <>
      <h3>{w.extras}</h3>
      <div className={css.asked}>
        <span>
          {w.name}
          <Input aria-label={w.name} value={name} maxLength={120} onChange={(event) => setName(event.target.value)} />
        </span>
        <span>
          {w.countLabel}
          <NumberField
            label={w.countLabel}
            value={count}
            onValue={(n) => {
              if (!Number.isInteger(n) || n < 1 || n > 1000) return false;
              setCount(n);
              return true;
            }}
          />
        </span>
        <span>
          {w.perLabel}
          <Select
            aria-label={w.perLabel}
            value={per}
            style={{ width: 110 }}
            options={Object.entries(w.per).map(([value, label]) => ({ value: value as 'head' | 'group', label }))}
            onChange={setPer}
          />
        </span>
        <span>
          {w.shelfLabel}
          <Select
            aria-label={w.shelfLabel}
            value={shelf}
            style={{ width: 190 }}
            options={shelves.map((value) => ({ value, label: w.shelves[value] }))}
            onChange={setShelf}
          />
        </span>
        <Button
          disabled={name.trim() === ''}
          onClick={() => {
            if (session.do('addExtra', { extra: { id: nanoid(8), name: name.trim(), shelf, count, per } })) setName('');
          }}
        >
          {w.add}
        </Button>
      </div>
    </>
  );
}
