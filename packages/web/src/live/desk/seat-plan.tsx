import type { FollowSheet } from '@viaticum/contract';
import { behind, currentItem, type Student } from '@viaticum/core/class';
import { clock } from '@viaticum/core/units';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { memo, useMemo } from 'react';
import { layersAfter } from '../../ui/stage-layers.js';
import { deskWords as w } from '../../words/desk.js';
import type { LiveSnapshot } from '../connection.js';
import { Painted } from '../painted.js';
import { easelsInRow } from '../seat-grid.js';
import { type Timed, useOfTime } from '../use-live.js';
import deskCss from './desk.module.css';
import css from './seat-plan.module.css';

const LATE_MIN = 1;

type Props = {
  connection: Timed;
  live: LiveSnapshot;
  sheet: FollowSheet;
  onHelped?: (studentId: string) => void;
  /** Where one can be looked at more closely. */
  chosen?: string | null;
  onChoose?: (studentId: string) => void;
};

/** Easels as they stand in the room, each with that student's own canvas as far as they have come. */
export function SeatPlan({ connection, live, sheet, onHelped, chosen = null, onChoose }: Props) {
  const students = Object.values(live.state.students).sort((a, b) => a.seat - b.seat);
  if (students.length === 0) return <p className={deskCss.deskQuiet}>{w.noEasels}</p>;
  const stepId = currentItem(live.state)?.stepId;
  return (
    <>
      <p className={deskCss.deskQuiet}>{w.easels(students.length)}</p>
      <ul className={deskCss.seats} style={{ '--columns': easelsInRow(students.length) } as React.CSSProperties}>
        {students.map((student) => (
          <Easel
            key={student.id}
            connection={connection}
            live={live}
            student={student}
            sheet={sheet}
            plan={live.state.plan}
            doneSteps={Object.keys(student.doneAt).sort().join(' ')}
            isDone={stepId !== undefined && student.doneAt[stepId] !== undefined}
            isAway={live.online && !live.connected.includes(student.id)}
            isChosen={student.id === chosen}
            onHelped={onHelped}
            onChoose={onChoose}
          />
        ))}
      </ul>
    </>
  );
}

type EaselProps = Pick<Props, 'connection' | 'live'> & {
  student: Student;
  sheet: FollowSheet;
  plan: LiveSnapshot['state']['plan'];
  doneSteps: string;
  isDone: boolean;
  isAway: boolean;
  isChosen: boolean;
  onHelped: ((studentId: string) => void) | undefined;
  onChoose: ((studentId: string) => void) | undefined;
};

function Easel({ connection, live, student, sheet, plan, doneSteps, isDone, isAway, isChosen, onHelped, onChoose }: EaselProps) {
  const hasHand = student.hand !== null && student.hand !== undefined;
  // Renders again when its words change, not with the clock.
  const note = useOfTime(connection, (now) => {
    if (student.hand) {
      const seconds = Math.max(0, Math.floor((now - student.hand.at) / 1000));
      return `${w.handFor(clock(seconds))}, ${w.reasons[student.hand.reason]}`;
    }
    if (isAway) return w.away;
    const late = Math.floor(behind(live.state, student, now)?.minutes ?? 0);
    return late >= LATE_MIN ? w.lateBy(late) : isDone ? w.finished : '';
  });
  const { widthMm, heightMm } = sheet.canvas;
  return (
    <li className={clsx(css.easel, hasHand && css.hand, isAway && css.away, isDone && css.done, isChosen && css.chosen)}>
      <Button
        type="text"
        className={clsx('plain', css.easelPlace)}
        disabled={!onChoose}
        aria-pressed={isChosen}
        onClick={() => onChoose?.(student.id)}
        aria-label={`${student.firstName} ${note}`}
      >
        <span className={css.easelCanvas} style={{ aspectRatio: `${widthMm} / ${heightMm}` }}>
          <Canvas sheet={sheet} plan={plan} doneSteps={doneSteps} />
        </span>
        <span className={css.easelName} data-testid="easel-name">
          {student.firstName}
        </span>
        <span className={clsx(css.easelNote, 'numbers')}>{note}</span>
      </Button>
      {hasHand && onHelped && (
        <Button
          type="text"
          className={clsx('plain', deskCss.deskKey, 'small', css.easelHelped)}
          aria-label={w.handDown(student.firstName)}
          onClick={() => onHelped(student.id)}
        >
          {w.helped}
        </Button>
      )}
    </li>
  );
}

/** Drawn again only when this student has finished something. */
const Canvas = memo(function Canvas({ sheet, plan, doneSteps }: Pick<EaselProps, 'sheet' | 'plan' | 'doneSteps'>) {
  const [done, layers] = useMemo(() => {
    const steps = new Set(doneSteps.split(' '));
    return [steps, plan ? layersAfter(sheet, plan, (stepId) => steps.has(stepId)) : []] as const;
  }, [sheet, plan, doneSteps]);
  return <Painted sheet={sheet} done={done} layers={layers} label="" shownPx={80} />;
});
