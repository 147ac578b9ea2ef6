import { useQuery } from '@tanstack/react-query';
import { partsOf, viewFor } from '@viaticum/core/class';
import { useMemo, useState } from 'react';
import { useParams } from 'react-router';
import { classQuery } from '../../api/class-queries.js';
import { Themed } from '../../ui/themed.js';
import { deskWords as w } from '../../words/desk.js';
import { StagesAt } from '../painted.js';
import { useLive } from '../use-live.js';
import { useOpenClass } from '../use-open-class.js';
import css from './desk.module.css';
import { Door } from './door.js';
import { Glance } from './glance.js';
import { GroupStrips, within } from './groups.js';
import { Keys } from './keys.js';
import { Near } from './near.js';
import type { DeskAnswer, DeskParts } from './parts.js';
import { SeatPlan } from './seat-plan.js';
import { StudentPanel } from './student-panel.js';
import { Trouble } from './trouble.js';

/** The instructor's place in a running class: a glance from two metres, the rest when near. */
export default function Desk() {
  return (
    <Themed where="live">
      <OpenDesk />
    </Themed>
  );
}

function OpenDesk() {
  const { code = '' } = useParams();
  const { sheet, connection } = useOpenClass(code, 'desk');
  const answer = useQuery(classQuery(code));
  const fault = sheet.error ?? answer.error;
  if (fault) throw fault;
  if (!connection || !sheet.data || !answer.data) return <p className={css.deskOpening}>{w.connecting}</p>;
  return (
    <StagesAt base={`/api/join/${code}`}>
      <RunningDesk connection={connection} sheet={sheet.data} code={code} answer={answer.data} />
    </StagesAt>
  );
}

type Given = Pick<DeskParts, 'connection' | 'sheet' | 'code' | 'isCo'> & { answer: DeskAnswer };

/** The desk of a class that is known and connected. */
export function RunningDesk({ answer, ...given }: Given) {
  const { connection: whole } = given;
  const live = useLive(whole);
  const [chosen, setChosen] = useState<string | null>(null);
  const [group, setGroup] = useState<string | null>(null);
  const all = partsOf(live.state);
  const part = all.find((one) => one.id === group) ?? all[0];
  const partId = part?.id ?? null;
  const connection = useMemo(() => within(whole, partId), [whole, partId]);
  if (live.ended) return <p className={css.deskOpening}>{live.ended}</p>;
  if (!live.ready || !part) return <p className={css.deskOpening}>{w.connecting}</p>;
  const parts: DeskParts = { ...given, connection, live: { ...live, state: part.view }, whole: live };
  const student = chosen ? live.state.students[chosen] : undefined;
  return (
    <main className={css.desk}>
      <Glance {...parts} onChoose={(id) => setChosen(id)} />
      <section className={css.deskRoom} aria-label={w.easels(Object.keys(live.state.students).length)}>
        {live.state.rehearsal && <p className={css.deskQuiet}>{w.rehearsal}</p>}
        <Trouble connection={connection} live={live} />
        <Door connection={connection} live={live} />
        <GroupStrips connection={whole} live={live} chosen={partId} onChoose={setGroup} />
        <SeatPlan
          live={live}
          sheet={parts.sheet}
          connection={connection}
          chosen={chosen}
          onChoose={(id) => setChosen(id === chosen ? null : id)}
          onHelped={(studentId) => void connection.say({ type: 'handDown', studentId })}
        />
      </section>
      {student && (
        <StudentPanel
          key={student.id}
          {...parts}
          live={{ ...live, state: viewFor(live.state, student.id) }}
          student={student}
          onClose={() => setChosen(null)}
        />
      )}
      <Near {...parts} answer={answer} />
      <Keys {...parts} />
    </main>
  );
}
