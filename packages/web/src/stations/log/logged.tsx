import { useQuery } from '@tanstack/react-query';
import type { ClassLog, LoggedClass, LoggedItem } from '@viaticum/contract';
import { minutesInWords } from '@viaticum/core/units';
import { Button, Popconfirm } from 'antd';
import { Link } from 'react-router';
import { loggedQuery, useDropLogged, useLogNote } from '../../api/log-queries.js';
import { dayAndTime, dayOf } from '../../ui/clock.js';
import { CommitInput } from '../../ui/commit-input.js';
import { Fold } from '../../ui/fold.js';
import { deskWords } from '../../words/desk.js';
import { logWords } from '../../words/log.js';
import { Heaps } from './heaps.js';
import css from './log.module.css';

const w = logWords.classes;

const differs = ({ planned, actual }: LoggedItem): string => {
  if (planned === null || actual === null) return '';
  const minutes = Math.round(actual - planned);
  return minutes === 0 ? '' : `${minutes > 0 ? '+' : '−'}${Math.abs(minutes)}`;
};

/** A class of the log: how long it took, its steps, and on demand who took how long, touches, the air and paint that was left. */
export function Logged({ one: { id, code, log } }: { one: LoggedClass }) {
  const note = useLogNote();
  const drop = useDropLogged();
  return (
    <li>
      <p className={css.head}>
        <b>{log.kind === 'by-hand' ? dayOf(log.at) : dayAndTime(log.at)}</b> {log.title}
      </p>
      <p>
        {log.students > 1 && `${w.people(log.students)}, `}
        {w.took(minutesInWords(log.actualMin), log.plannedMin > 0 ? minutesInWords(log.plannedMin) : null)}
        {log.kind !== 'class' && <span className="quiet">, {w.kinds[log.kind]}</span>}
      </p>
      <Fold
        className="small"
        head={w.steps(new Set(log.items.flatMap(({ kind, stepId, title }) => (kind === 'step' ? [stepId ?? title] : []))).size)}
      >
        <Items items={log.items} />
      </Fold>
      {log.kind !== 'takes' && (
        <Fold className="small" head={w.more}>
          <Detail id={id} />
        </Fold>
      )}
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

/** Planned beside actual, item by item; of a class in groups each group for itself. */
function Items({ items }: { items: readonly LoggedItem[] }) {
  const groups = [...new Set(items.map(({ group }) => group ?? ''))];
  return groups.map((group) => (
    <div key={group}>
      {group && <h3>{group}</h3>}
      <table className={css.items}>
        <tbody>
          {items
            .filter((item) => (item.group ?? '') === group)
            .map((item, at) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a step may have been done twice
              <tr key={at}>
                <th scope="row">{item.title}</th>
                <td className="numbers">{item.planned === null ? '' : Math.round(item.planned)}</td>
                <td className="numbers">{item.actual === null ? w.left : Math.round(item.actual)}</td>
                <td className="numbers">{differs(item)}</td>
                <td>
                  {item.asks > 0 && w.asked(item.asks, [...new Set(item.reasons)].map(reasonSaid))} {w.helped(item.helpMin ?? [])}{' '}
                  {item.note}
                </td>
              </tr>
            ))}
        </tbody>
      </table>
    </div>
  ));
}
const reasonSaid = (reason: string): string => deskWords.reasons[reason as keyof typeof deskWords.reasons] ?? reason;

/** What no list shows: who took how long (by numbers, nobody is named), coats that were touched, the air, paint that was left. */
function Detail({ id }: { id: string }) {
  const { data, error } = useQuery({ ...loggedQuery(id), staleTime: 0 });
  if (error)
    return (
      <p className="signal" role="alert">
        {error.message}
      </p>
    );
  if (!data) return null;
  const { log } = data;
  return (
    <div className={css.detail}>
      <ByStudent log={log} />
      {log.touches.length > 0 && (
        <>
          <h3>{w.touches}</h3>
          <ul className={css.plain}>
            {log.touches.map((touch, k) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: coats of one step may have been touched alike
              <li key={k}>{w.touch(titleIn(log, touch.stepId), touch)}</li>
            ))}
          </ul>
        </>
      )}
      {(log.airs ?? []).length > 0 && (
        <>
          <h3>{w.air}</h3>
          <ul className={css.plain}>
            {(log.airs ?? []).map(({ minute, airC, humidity }) => (
              <li key={minute}>{w.airAt(minute, deskWords.airOf(airC, humidity))}</li>
            ))}
          </ul>
        </>
      )}
      {(log.kind === 'class' || log.kind === 'by-hand') && <Heaps id={id} log={log} />}
    </div>
  );
}
const titleIn = ({ items }: ClassLog, stepId: string | null): string =>
  items.find((item) => item.stepId === stepId)?.title ?? w.someCoat;

/** Minutes of each student for each step that they said Done to, in the order in which they came; beside the plan's. */
function ByStudent({ log: { paces, items } }: { log: ClassLog }) {
  const people = [...new Set(paces.map(({ who }) => who))].sort((a, b) => a - b);
  const steps = [...new Set(paces.map(({ stepId }) => stepId))];
  if (people.length === 0) return null;
  const titleOf = (stepId: string) => items.find((item) => item.stepId === stepId)?.title ?? '';
  const of = (stepId: string, who: number) => paces.find((one) => one.stepId === stepId && one.who === who);
  return (
    <>
      <h3>{people.length > 1 ? w.byStudent : w.ownTimes}</h3>
      <div className={css.wide}>
        <table className={css.items}>
          <thead>
            <tr>
              <th scope="col">{w.step}</th>
              <th scope="col">{w.planned}</th>
              {people.map((who) => (
                <th key={who} scope="col">
                  {people.length > 1 ? w.student(who + 1) : w.actual}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {steps.map((stepId) => (
              <tr key={stepId}>
                <th scope="row">{titleOf(stepId)}</th>
                <td className="numbers">{Math.round(paces.find((one) => one.stepId === stepId)?.planned ?? 0)}</td>
                {people.map((who) => {
                  const one = of(stepId, who);
                  return (
                    <td key={who} className="numbers">
                      {one ? Math.round((one.from + one.to) / 2) : ''}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}
