import type { KitAnswer, KitListName, KitRow } from '@viaticum/contract';
import { moneyInWords } from '@viaticum/core/kit';
import { Checkbox, Segmented } from 'antd';
import { clsx } from 'clsx';
import { useState } from 'react';
import { useParams } from 'react-router';
import { call } from '../../api/http.js';
import { Themed } from '../../ui/themed.js';
import { listWords as w } from '../../words/kit.js';
import { useSentLater } from '../use-sent-later.js';
import css from './lists.module.css';

const AGAIN_MS = 5000;
type Tick = { item: string; on: boolean; at: number };

/** A lesson's lists on a phone: what to buy, prepare and pack, ticked with a thumb, with or without a network. */
export default function Lists() {
  const { token = '' } = useParams();
  return (
    <Themed>
      <Ticked token={token} />
    </Themed>
  );
}

function Ticked({ token }: { token: string }) {
  const [list, setList] = useState<KitListName>('shopping');
  const { answer, ticks, tick, fault, isOffline } = useTicks(token);
  if (!answer)
    return <main className={css.page}>{fault ? <p role="alert">{fault}</p> : <p className="quiet">{w.loading}</p>}</main>;
  const { sheet } = answer;
  const rows = sheet.lists[list];
  const groups = [...new Set(rows.map(({ group }) => group))];
  const isDone = ({ key }: KitRow) => ticks[key] !== undefined;
  const cost = rows.reduce((sum, row) => sum + (row.costMinor ?? 0), 0);
  return (
    <main className={css.page} data-testid="lists">
      <header>
        <h1>{sheet.title}</h1>
        <p className="quiet">{w.heads(sheet.heads)}</p>
        <Segmented<KitListName>
          block
          aria-label={w.choose}
          value={list}
          options={Object.entries(w.lists).map(([value, label]) => ({ value: value as KitListName, label }))}
          onChange={setList}
        />
        {isOffline && (
          <p className={css.lost} role="status">
            {w.offline}
          </p>
        )}
      </header>
      {rows.length === 0 && <p>{w.none}</p>}
      {groups.map((group) => (
        <section key={group} aria-label={group}>
          <h2>{group}</h2>
          {rows
            .filter((row) => row.group === group)
            .map((row) => (
              <Checkbox
                key={row.key}
                className={clsx(css.row, isDone(row) && css.done)}
                checked={isDone(row)}
                onChange={(event) => tick(row.key, event.target.checked)}
              >
                <span>{row.words}</span>
                {row.costMinor !== undefined && <span className="numbers"> {moneyInWords(row.costMinor, sheet.currency)}</span>}
                {row.about && <span className={css.about}>{row.about}</span>}
              </Checkbox>
            ))}
        </section>
      ))}
      {sheet.cautions[list].length > 0 && (
        <section aria-label={w.cautions}>
          <h2>{w.cautions}</h2>
          <ul>
            {sheet.cautions[list].map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ul>
        </section>
      )}
      <footer>
        <b className="numbers">{w.done(rows.filter(isDone).length, rows.length)}</b>
        {list === 'shopping' && cost > 0 && (
          <span className="numbers">{w.sum(`${moneyInWords(cost, sheet.currency)} ${sheet.currency}`)}</span>
        )}
      </footer>
    </main>
  );
}

/** The lists with their ticks: as they were last read where there is no network; what is ticked then is sent later. */
function useTicks(token: string) {
  const path = `/api/lists/${encodeURIComponent(token)}`;
  const { answer, waiting, fault, isOffline, add } = useSentLater<KitAnswer, Tick>({
    path,
    names: { answer: `viaticum-lists-${token}`, waiting: `viaticum-ticks-${token}` },
    send: async (mine) => ({ ticks: await call<KitAnswer['ticks']>('POST', `${path}/ticks`, { ticks: mine }) }),
    everyMs: AGAIN_MS,
  });
  const ticks: Record<string, number> = { ...answer?.ticks };
  for (const { item, on, at } of waiting) {
    if (on) ticks[item] = at;
    else delete ticks[item];
  }
  return {
    answer,
    ticks,
    fault,
    isOffline,
    tick: (item: string, on: boolean) =>
      add((before) => [...before.filter((one) => one.item !== item), { item, on, at: Date.now() }]),
  };
}
