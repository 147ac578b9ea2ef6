import { belief, currentItem, isPainted, partsOf, secondsLeft, toGroup } from '@viaticum/core/class';
import { clock } from '@viaticum/core/units';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { deskWords as w } from '../../words/desk.js';
import type { LiveConnection, LiveSnapshot } from '../connection.js';
import { useNowEvery, useOfTime } from '../use-live.js';
import deskCss from './desk.module.css';
import css from './groups.module.css';
import type { DeskParts } from './parts.js';

/** A connection that speaks of one group; of the whole class where that is one. */
export const within = (connection: LiveConnection, group: string | null): LiveConnection =>
  group === null
    ? connection
    : {
        // Whatever else it is asked is answered as before.
        ...connection,
        say: (command) => connection.say(toGroup(command, group)),
      };

type Part = ReturnType<typeof partsOf>[number];

/** The groups of a class, each with its step, its clock and how many are done; one of them is looked at. */
export function GroupStrips({
  connection,
  live,
  chosen,
  onChoose,
}: Pick<DeskParts, 'connection' | 'live'> & { chosen: string | null; onChoose: (id: string) => void }) {
  if (!live.state.groups) return null;
  return (
    <nav className={css.strips} aria-label={w.groups.title}>
      {partsOf(live.state).map((part) => (
        <Strip key={part.id} connection={connection} part={part} isChosen={part.id === chosen} onChoose={onChoose} />
      ))}
    </nav>
  );
}

function Strip({
  connection,
  part,
  isChosen,
  onChoose,
}: {
  connection: LiveConnection;
  part: Part;
  isChosen: boolean;
  onChoose: (id: string) => void;
}) {
  const { view, name, id } = part;
  const item = currentItem(view);
  const left = useOfTime(connection, (now) => Math.ceil(secondsLeft(view, now)));
  const now = useNowEvery(connection, 5);
  const stepId = item?.stepId;
  const students = Object.values(view.students);
  const done = students.filter((student) => stepId && isPainted(belief(view, student, now).standing.get(stepId))).length;
  return (
    <Button
      type="text"
      className={clsx('plain', deskCss.deskKey, css.strip)}
      aria-pressed={isChosen}
      onClick={() => id !== null && onChoose(id)}
    >
      <b>{name}</b>
      <span>{item?.title ?? w.before}</span>
      <span className="numbers">
        {item ? (left < 0 ? `${w.over} ${clock(-left)}` : clock(left)) : ''} · {w.done(done, students.length)}
      </span>
    </Button>
  );
}

/** A class is taught in two groups, or in one again. */
export function Groups({ connection, live }: Pick<DeskParts, 'connection'> & { live: LiveSnapshot }) {
  const { state } = live;
  const isGoing = state.phase !== 'ended' && state.phase !== 'planned';
  if (!isGoing) return null;
  const divide = () => {
    const students = Object.values(state.students).sort((a, b) => a.seat - b.seat);
    const half = Math.ceil(students.length / 2);
    void connection.say({
      type: 'divide',
      groups: [
        { id: 'first', name: w.groups.name(1) },
        { id: 'second', name: w.groups.name(2) },
      ],
      of: students.map(({ id }, k) => ({ studentId: id, group: k < half ? 'first' : 'second' })),
    });
  };
  return (
    <section aria-label={w.groups.title}>
      <h2>{w.groups.title}</h2>
      <p className={deskCss.deskQuiet}>{state.groups ? w.groups.aboutTogether : w.groups.about}</p>
      <p className={deskCss.deskTouch}>
        {state.groups ? (
          partsOf(state).map(
            ({ id, name }) =>
              id !== null && (
                <Button
                  key={id}
                  type="text"
                  className={clsx('plain', deskCss.deskKey, 'small')}
                  onClick={() => void connection.say({ type: 'together', where: id })}
                >
                  {w.groups.together(name)}
                </Button>
              ),
          )
        ) : (
          <Button type="text" className={clsx('plain', deskCss.deskKey, 'small')} onClick={divide}>
            {w.groups.divide}
          </Button>
        )}
      </p>
    </section>
  );
}
