import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import type { LoggedClass } from '@viaticum/contract';
import { minutesInWords } from '@viaticum/core/units';
import { Button } from 'antd';
import { Legend, Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { peopleQuery } from '../../api/class-queries.js';
import { logQuery } from '../../api/log-queries.js';
import { useLesson, usePlan, useSession } from '../../lesson/context.js';
import { dayOf } from '../../ui/clock.js';
import { NumberField } from '../../ui/number-field.js';
import { deskWords } from '../../words/desk.js';
import { logWords } from '../../words/log.js';
import css from './log.module.css';

const w = logWords.pace;
const LEAST_FOR_TREND = 2;
/** One who means to be quicker aims so much below what was needed the last two times. */
const LOWERED = 0.95;

/** Whether classes of this lesson come nearer to their plan, what the instructor aims at, and how long those take who come again. */
export function Pace() {
  const { id } = useSession();
  const { data } = useInfiniteQuery({ ...logQuery(id, ''), staleTime: 0 });
  const all = data?.pages.flat() ?? [];
  return (
    <section aria-label={w.title}>
      <h2>{w.title}</h2>
      {data && all.length < LEAST_FOR_TREND && <p>{w.none}</p>}
      {all.length >= LEAST_FOR_TREND && <Trend all={all} />}
      <Target all={all} />
      <Returning />
    </section>
  );
}

/** The minutes of one who painted alone stand beside those of classes, as what they are. */
function Trend({ all }: { all: readonly LoggedClass[] }) {
  const { targetMin } = useLesson();
  const rows = [...all]
    .reverse()
    .filter(({ log }) => log.kind !== 'takes')
    .map(({ log }) => {
      const actual = Math.round(log.actualMin);
      const isAlone = log.kind === 'alone' || log.kind === 'practice';
      return {
        day: dayOf(log.at),
        planned: Math.round(log.plannedMin) || null,
        actual: isAlone ? null : actual,
        alone: isAlone ? actual : null,
      };
    });
  return (
    <figure className={css.trend} aria-label={w.trend}>
      <ResponsiveContainer width="100%" height={220}>
        <LineChart data={rows} margin={{ top: 12, right: 24, bottom: 2, left: 0 }}>
          <XAxis dataKey="day" tick={{ fontSize: 12.5 }} />
          <YAxis width={44} tick={{ fontSize: 12.5 }} domain={[0, 'auto']} />
          <Tooltip isAnimationActive={false} formatter={(minutes) => minutesInWords(Number(minutes))} />
          <Legend />
          {targetMin !== undefined && (
            <ReferenceLine
              y={targetMin}
              stroke="var(--signal)"
              label={{ value: w.aim, position: 'insideTopRight', fontSize: 12.5 }}
            />
          )}
          <Line
            dataKey="planned"
            name={w.planned}
            stroke="var(--quiet)"
            strokeDasharray="5 4"
            dot={false}
            connectNulls
            isAnimationActive={false}
          />
          <Line dataKey="actual" name={w.actual} stroke="var(--ink)" strokeWidth={2} connectNulls isAnimationActive={false} />
          {rows.some(({ alone }) => alone !== null) && (
            <Line dataKey="alone" name={w.alone} stroke="var(--quiet)" strokeWidth={0} dot={{ r: 4 }} isAnimationActive={false} />
          )}
        </LineChart>
      </ResponsiveContainer>
    </figure>
  );
}

/** Minutes that the instructor aims at the next time: typed, or the last two times less a twentieth, when they want it so. */
function Target({ all }: { all: readonly LoggedClass[] }) {
  const { targetMin } = useLesson();
  const session = useSession();
  const { plan } = usePlan();
  const last = all.filter(({ log }) => log.kind !== 'takes' && log.actualMin > 0).slice(0, 2);
  const lowered =
    last.length < 2 ? null : Math.round((LOWERED * last.reduce((sum, { log }) => sum + log.actualMin, 0)) / last.length);
  return (
    <div className={css.keys}>
      <span className="field">
        <span>{w.target}</span>
        <NumberField
          label={w.target}
          unit="min"
          value={targetMin}
          placeholder={String(Math.round(plan.endMin))}
          onValue={(minutes) => session.do('setTarget', { minutes })}
          onClear={() => session.do('setTarget', { minutes: null })}
        />
      </span>
      {lowered !== null && lowered !== targetMin && (
        <Button onClick={() => session.do('setTarget', { minutes: lowered })}>{w.lower(minutesInWords(lowered))}</Button>
      )}
      {lowered !== null && <p className="small quiet">{w.lowerAbout}</p>}
    </div>
  );
}

/** Who came again, by their names: nobody is compared with anybody. */
function Returning() {
  const { data } = useQuery(peopleQuery);
  const known = (data ?? []).filter(({ pace }) => pace !== null);
  return (
    <>
      <h3>{w.returning}</h3>
      <p className="quiet">{known.length === 0 ? w.nobody : w.returningAbout}</p>
      <ul className={css.people} data-testid="returning">
        {known.map(({ id, firstName, classes, pace, paceFrom = 1, paceTo = 1 }) => (
          <li key={id}>
            <b>{firstName}</b>
            {deskWords.student.pace(pace)} <span className="quiet small">{w.range(paceFrom, paceTo, classes)}</span>
          </li>
        ))}
      </ul>
    </>
  );
}
