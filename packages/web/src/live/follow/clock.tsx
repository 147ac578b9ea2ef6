import { type Student, secondsLeft } from '@viaticum/core/class';
import { clock } from '@viaticum/core/units';
import { followWords as w } from '../../words/follow.js';
import type { LiveConnection, LiveSnapshot } from '../connection.js';
import { useServerNow } from '../use-live.js';

type Props = { connection: LiveConnection; live: LiveSnapshot; student: Student };

/** What is left of the present step or pause for this student, or by how much it runs over. */
export function Clock({ connection, live, student }: Props) {
  const left = secondsLeft(live.state, useServerNow(connection), student);
  return (
    <p
      className={`follow-clock numbers${left < 0 ? ' signal' : ''}`}
      role="timer"
      data-testid="clock"
      data-seconds={left.toFixed(2)}
    >
      {clock(Math.abs(left))}
      <small>{left < 0 ? w.over : w.left}</small>
    </p>
  );
}
