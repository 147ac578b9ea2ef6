import { clock } from '@viaticum/core/units';
import { followWords as w } from '../../words-follow.js';

export function Clock({ left }: { left: number }) {
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
