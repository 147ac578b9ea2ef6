import { useInfiniteQuery } from '@tanstack/react-query';
import type { LoggedClass, LoggedItem } from '@viaticum/contract';
import { minutesInWords } from '@viaticum/core/units';
import { Button, Input, Popconfirm, Segmented } from 'antd';
import { useState } from 'react';
import { Link } from 'react-router';
import { Legend, Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { LOG_URL, logQuery, useDropLogged, useLogNote } from '../../api/log-queries.js';
import { useSession } from '../../lesson/context.js';
import { dayAndTime, dayOf } from '../../ui/clock.js';
import { CommitInput } from '../../ui/commit-input.js';
import { Fold } from '../../ui/fold.js';
import { logWords } from '../../words/log.js';
import css from './log.module.css';

const w = logWords.classes;
const LEAST_FOR_TREND = 3;

/** Classes that were taught, the newest first: looked for, compared, noted. */
export function Classes() {
  const { id } = useSession();
  const [scope, setScope] = useState<'lesson' | 'all'>('lesson');
  const [words, setWords] = useState('');
  const { data, error, hasNextPage, fetchNextPage, isFetching } = useInfiniteQuery({
    ...logQuery(scope === 'lesson' ? id : null, words),
    staleTime: 0,
  });
  const all = data?.pages.flat() ?? [];
  return (
    <section aria-label={w.title}>
      <h2>{w.title}</h2>
      <div className={css.asked}>
        <Input.Search
          aria-label={w.find}
          placeholder={w.findLong}
          allowClear
          maxLength={120}
          onSearch={(text) => setWords(text.trim())}
        />
        <Segmented
          aria-label={w.which}
          value={scope}
          onChange={setScope}
          options={(['lesson', 'all'] as const).map((value) => ({ value, label: w.scopes[value] }))}
        />
        {all.length > 0 && (
          <Button href={LOG_URL} download>
            {w.save}
          </Button>
        )}
      </div>
      {error && (
        <p className="signal" role="alert">
          {error.message}
        </p>
      )}
      {data && all.length === 0 && <p>{words ? w.nothing : w.none}</p>}
      {scope === 'lesson' && all.length >= LEAST_FOR_TREND && <Trend all={all} />}
      <ul className={css.classes} data-testid="logged">
        {all.map((one) => (
          <Logged key={one.id} one={one} />
        ))}
      </ul>
      {hasNextPage && (
        <Button loading={isFetching} onClick={() => void fetchNextPage()}>
          {w.more}
        </Button>
      )}
    </section>
  );
}

/** Whether classes of this lesson come nearer to their plan. */
function Trend({ all }: { all: readonly LoggedClass[] }) {
  const rows = [...all].reverse().map(({ log }) => ({
    day: log.at.slice(0, 10),
    planned: Math.round(log.plannedMin),
    actual: Math.round(log.actualMin),
  }));
  return (
    <figure className={css.trend} aria-label={w.trend}>
      <ResponsiveContainer width="100%" height={170}>
        <LineChart data={rows} margin={{ top: 12, right: 16, bottom: 2, left: 0 }}>
          <XAxis dataKey="day" tick={{ fontSize: 12.5 }} />
          <YAxis width={44} tick={{ fontSize: 12.5 }} domain={[0, 'auto']} />
          <Tooltip isAnimationActive={false} formatter={(minutes) => minutesInWords(Number(minutes))} />
          <Legend />
          <Line
            dataKey="planned"
            name={w.planned}
            stroke="var(--quiet)"
            strokeDasharray="5 4"
            dot={false}
            isAnimationActive={false}
          />
          <Line dataKey="actual" name={w.actual} stroke="var(--ink)" strokeWidth={2} isAnimationActive={false} />
        </LineChart>
      </ResponsiveContainer>
    </figure>
  );
}

const differs = ({ planned, actual }: LoggedItem): string => {
  if (planned === null || actual === null) return '';
  const minutes = Math.round(actual - planned);
  return minutes === 0 ? '' : `${minutes > 0 ? '+' : '−'}${Math.abs(minutes)}`;
};

function Logged({ one: { id, code, log } }: { one: LoggedClass }) {
  const note = useLogNote();
  const drop = useDropLogged();
  return (
    <li>
      <p className={css.head}>
        <b>{log.kind === 'by-hand' ? dayOf(log.at) : dayAndTime(log.at)}</b> {log.title}
      </p>
      <p>
        {w.people(log.students)},{' '}
        {w.took(minutesInWords(log.actualMin), log.plannedMin > 0 ? minutesInWords(log.plannedMin) : null)}
        {log.kind === 'by-hand' && <span className="quiet">, {w.byHand}</span>}
      </p>
      <Fold className="small" head={w.steps(log.items.filter(({ kind }) => kind === 'step').length)}>
        <table className={css.items}>
          <tbody>
            {log.items.map((item, at) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a step may have been done twice
              <tr key={at}>
                <th scope="row">{item.title}</th>
                <td className="numbers">{item.planned === null ? '' : Math.round(item.planned)}</td>
                <td className="numbers">{item.actual === null ? w.left : Math.round(item.actual)}</td>
                <td className="numbers">{differs(item)}</td>
                <td>
                  {item.asks > 0 && w.asked(item.asks)} {item.note}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Fold>
      <p className={css.keys}>
        <span className="small quiet">{w.note}</span>
        <CommitInput
          value={log.note}
          label={w.noteOf(log.title)}
          whileTyping={false}
          onCommit={(text) => {
            note.mutate({ id, note: text });
            return true;
          }}
        />
        {code && <Link to={`/class/${code}`}>{w.record}</Link>}
        {log.kind === 'by-hand' && (
          <Popconfirm title={w.removeAsk(log.title)} okText={w.remove} onConfirm={() => drop.mutate(id)}>
            <Button type="text" size="small">
              {w.remove}
            </Button>
          </Popconfirm>
        )}
      </p>
    </li>
  );
}
