import type { FollowSheet } from '@viaticum/contract';
import { currentItem, type Student } from '@viaticum/core/class';
import { clock } from '@viaticum/core/units';
import { useMemo } from 'react';
import { StageCanvas } from '../../ui/stage-canvas.js';
import { layersAfter } from '../../ui/stage-layers.js';
import { words } from '../../words.js';
import type { LiveSnapshot } from '../connection.js';

const w = words.desk;

/** Easels in rows, each with that student's own canvas as far as they have come. */
export function SeatPlan({
  live,
  sheet,
  now,
  onHelped,
}: {
  live: LiveSnapshot;
  sheet: FollowSheet;
  now: number;
  onHelped: (studentId: string) => void;
}) {
  const students = Object.values(live.state.students).sort((a, b) => a.joinedAt - b.joinedAt);
  if (students.length === 0) return <p className="desk-quiet">{w.noEasels}</p>;
  const stepId = currentItem(live.state)?.stepId;
  return (
    <>
      <p className="desk-quiet">{w.easels(students.length)}</p>
      <ul
        className="seats"
        style={{ '--columns': Math.min(6, Math.max(3, Math.ceil(Math.sqrt(students.length * 1.6)))) } as React.CSSProperties}
      >
        {students.map((student) => (
          <Easel
            key={student.id}
            student={student}
            live={live}
            sheet={sheet}
            isDone={stepId !== undefined && student.doneAt[stepId] !== undefined}
            isAway={live.online && !live.connected.includes(student.id)}
            handSeconds={student.hand ? (now - student.hand.at) / 1000 : null}
            onHelped={onHelped}
          />
        ))}
      </ul>
    </>
  );
}

function Easel({
  student,
  live,
  sheet,
  isDone,
  isAway,
  handSeconds,
  onHelped,
}: {
  student: Student;
  live: LiveSnapshot;
  sheet: FollowSheet;
  isDone: boolean;
  isAway: boolean;
  handSeconds: number | null;
  onHelped: (studentId: string) => void;
}) {
  const { plan } = live.state;
  const doneSteps = Object.keys(student.doneAt).sort().join(' ');
  const layers = useMemo(
    () => (plan ? layersAfter(sheet, plan, (stepId) => doneSteps.includes(stepId) && doneSteps.split(' ').includes(stepId)) : []),
    [sheet, plan, doneSteps],
  );
  const hasHand = handSeconds !== null;
  const note = hasHand ? w.handFor(clock(Math.max(0, handSeconds))) : isAway ? w.away : isDone ? w.finished : '';
  const { widthMm, heightMm } = sheet.canvas;
  return (
    <li className={`easel${hasHand ? ' hand' : ''}${isAway ? ' away' : ''}${isDone ? ' done' : ''}`}>
      <button
        type="button"
        disabled={!hasHand}
        onClick={() => onHelped(student.id)}
        aria-label={hasHand ? w.handDown(student.firstName) : `${student.firstName} ${note}`}
      >
        <span className="easel-canvas" style={{ aspectRatio: `${widthMm} / ${heightMm}` }}>
          <StageCanvas sheet={sheet} layers={layers} label="" shownPx={80} />
        </span>
        <span className="easel-name">{student.firstName}</span>
        <span className="easel-note numbers">{note}</span>
      </button>
    </li>
  );
}
