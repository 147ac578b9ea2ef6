import { currentItem, partsOf, type Student } from '@viaticum/core/class';
import { clock } from '@viaticum/core/units';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { useParams } from 'react-router';
import { Themed } from '../../ui/themed.js';
import { deskWords as w } from '../../words/desk.js';
import { StagesAt } from '../painted.js';
import { useLive, useOfTime } from '../use-live.js';
import { useOpenClass } from '../use-open-class.js';
import css from './assist.module.css';
import deskCss from './desk.module.css';
import { within } from './groups.js';
import { TouchTest } from './near-now.js';
import { NeedsMe } from './needs-me.js';
import type { DeskParts } from './parts.js';
import { SeatPlan } from './seat-plan.js';
import { Trouble } from './trouble.js';

/** For who walks the room: hands, the seat plan, and no more. Let in by the link that the instructor gave. */
export default function Assist() {
  return (
    <Themed where="live">
      <OpenAssist />
    </Themed>
  );
}

function OpenAssist() {
  const { code = '' } = useParams();
  const key = location.hash.slice(1);
  const { sheet, connection } = useOpenClass(code, 'assistant', key);
  if (!key) return <p className={deskCss.deskOpening}>{w.assist.noKey}</p>;
  if (sheet.error) throw sheet.error;
  if (!connection || !sheet.data) return <p className={deskCss.deskOpening}>{w.connecting}</p>;
  return (
    <StagesAt base={`/api/join/${code}`}>
      <Walking connection={connection} sheet={sheet.data} />
    </StagesAt>
  );
}

function Walking({ connection, sheet }: Pick<DeskParts, 'connection' | 'sheet'>) {
  const live = useLive(connection);
  if (live.ended) return <p className={deskCss.deskOpening}>{live.ended}</p>;
  if (!live.ready) return <p className={deskCss.deskOpening}>{w.connecting}</p>;
  const { state } = live;
  const parts = partsOf(state);
  const hands = Object.values(state.students)
    .filter((student) => student.hand)
    .sort((a, b) => (a.hand?.at ?? 0) - (b.hand?.at ?? 0));
  const helped = (studentId: string) => void connection.say({ type: 'handDown', studentId });
  return (
    <main className={css.assist}>
      {parts.map(({ id, name, view }) => (
        <p key={id} className={deskCss.deskQuiet}>
          {name !== '' && `${name}: `}
          {currentItem(view) ? w.assist.forTitle(currentItem(view)?.title ?? '') : sheet.title}
        </p>
      ))}
      <Trouble connection={connection} live={live} />
      <h1>{w.assist.title}</h1>
      {hands.length === 0 && <p>{w.assist.nobody}</p>}
      <ul className={css.assistHands}>
        {hands.map((student) => (
          <li key={student.id}>
            <b>{student.firstName}</b>
            <Waiting connection={connection} student={student} />
            <Button
              type="text"
              className={clsx('plain', deskCss.deskKey)}
              aria-label={w.handDown(student.firstName)}
              onClick={() => helped(student.id)}
            >
              {w.helped}
            </Button>
          </li>
        ))}
      </ul>
      <NeedsMe connection={connection} live={live} hasHands={false} />
      {parts.map(({ id, name, view }) => (
        <div key={id}>
          {name !== '' && <p className={deskCss.deskQuiet}>{name}</p>}
          <TouchTest connection={within(connection, id)} live={{ ...live, state: view }} sheet={sheet} hasKey={false} />
        </div>
      ))}
      <SeatPlan connection={connection} live={live} sheet={sheet} onHelped={helped} />
    </main>
  );
}

/** For how long a hand has been up, and why. */
function Waiting({ connection, student: { hand } }: Pick<DeskParts, 'connection'> & { student: Student }) {
  const since = useOfTime(connection, (now) => (hand ? clock(Math.max(0, Math.floor((now - hand.at) / 1000))) : ''));
  return <span className="numbers">{hand && `${since}, ${w.reasons[hand.reason]}`}</span>;
}
