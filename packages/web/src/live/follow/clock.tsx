import { elapsedSeconds, type Student, secondsLeft, wholeSeconds } from '@viaticum/core/class';
import { clock } from '@viaticum/core/units';
import { clsx } from 'clsx';
import { followWords as w } from '../../words/follow.js';
import type { LiveConnection, LiveSnapshot } from '../connection.js';
import { useServerNow } from '../use-live.js';
import css from './clock.module.css';

type Props = { connection: LiveConnection; live: LiveSnapshot; student: Student };

/** What is left of the present step or pause for this student, or by how much it runs over; a line shows how much of it is used. */
export function Clock({ connection, live, student }: Props) {
  const now = useServerNow(connection);
  const left = secondsLeft(live.state, now, student);
  const used = Number.isFinite(left)
    ? Math.min(1, elapsedSeconds(live.state, now) / Math.max(1, wholeSeconds(live.state, now, student)))
    : 0;
  return (
    <>
      <p
        className={clsx(css.followClock, 'numbers', left < 0 && 'signal')}
        role="timer"
        data-testid="clock"
        data-seconds={left.toFixed(2)}
      >
        {clock(Math.abs(left))}
        <small>{left < 0 ? w.over : w.left}</small>
      </p>
      <i className={css.followUsed} style={{ width: `${Math.round(used * 1000) / 10}%` }} />
    </>
  );
}
