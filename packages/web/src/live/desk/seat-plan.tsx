import type { FollowSheet } from '@viaticum/contract';
import { belief, classWords, currentItem, isPainted, type Student, viewFor } from '@viaticum/core/class';
import { clock } from '@viaticum/core/units';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { memo, useMemo } from 'react';
import { layersAfter } from '../../ui/stage-layers.js';
import { deskWords as w } from '../../words/desk.js';
import { awaySince } from '../away.js';
import type { LiveSnapshot } from '../connection.js';
import { Painted } from '../painted.js';
import { easelsInRow } from '../seat-grid.js';
import { type Timed, useOfTime } from '../use-live.js';
import deskCss from './desk.module.css';
import css from './seat-plan.module.css';

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
            isAway={awaySince(live, student.id, 0) !== null}
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
  isAway: boolean;
  isChosen: boolean;
  onHelped: ((studentId: string) => void) | undefined;
  onChoose: ((studentId: string) => void) | undefined;
};

function Easel({ connection, live, student, sheet, plan, isAway, isChosen, onHelped, onChoose }: EaselProps) {
  const hasHand = student.hand !== null && student.hand !== undefined;
  // As their own group has the class.
  const own = viewFor(live.state, student.id);
  const stepId = currentItem(own)?.stepId;
  // What is said to be done and what may be taken for it: their canvas is painted so far.
  const doneSteps = useOfTime(connection, (now) =>
    [...belief(own, student, now).standing]
      .flatMap(([id, standing]) => (isPainted(standing) ? [id] : []))
      .sort()
      .join(' '),
  );
  const isDone = stepId !== undefined && doneSteps.split(' ').includes(stepId);
  // Renders again when its words change, not with the clock.
  const note = useOfTime(connection, (now) => {
    if (student.hand) {
      const seconds = Math.max(0, Math.floor((now - student.hand.at) / 1000));
      return `${w.handFor(clock(seconds))}, ${w.reasons[student.hand.reason]}`;
    }
    if (live.state.phase === 'ended') return isDone ? w.finished : '';
    if (isAway) {
      const minutes = Math.floor((now - (awaySince(live, student.id, now) ?? now)) / 60_000);
      return minutes < 1 ? w.away : classWords.noNetwork(minutes);
    }
    const { late, isQuiet, isEven, stepNow } = belief(own, student, now);
    if (isQuiet) return w.quiet;
    if (late) return w.lateBy(Math.round(late.minutes));
    if (isDone) return student.doneAt[stepId] === undefined ? w.assumed : w.finished;
    const there = stepNow !== null && stepNow !== stepId && !isEven ? sheet.steps[stepNow]?.title : undefined;
    return there ? w.at(there) : '';
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
          <Canvas sheet={sheet} plan={own.plan ?? plan} doneSteps={doneSteps} />
        </span>
        <span
          className={css.easelName}
          data-testid="easel-name"
          style={student.edge ? { boxShadow: `inset 0 -4px var(--edge-${student.edge})`, paddingBottom: 5 } : undefined}
        >
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
const Canvas = memo(function Canvas({ sheet, plan, doneSteps }: Pick<EaselProps, 'sheet' | 'plan'> & { doneSteps: string }) {
  const [done, layers] = useMemo(() => {
    const steps = new Set(doneSteps.split(' '));
    return [steps, plan ? layersAfter(sheet, plan, (stepId) => steps.has(stepId)) : []] as const;
  }, [sheet, plan, doneSteps]);
  return <Painted sheet={sheet} done={done} layers={layers} label="" shownPx={80} />;
});
