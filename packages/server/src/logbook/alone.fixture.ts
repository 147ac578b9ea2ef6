import type { AloneSheet, ClassEvent } from '@viaticum/contract';
import { decide, fold, newClass } from '@viaticum/core/class';

/** What a phone keeps of a lesson that was painted alone from some time on, so many minutes for each step, until its end. */
export function aloneEvents({ plan }: AloneSheet, beganAt: number, minutes: number): ClassEvent[] {
  const state = newClass();
  const events: ClassEvent[] = [];
  let now = beganAt;
  const note = (body: ClassEvent['body']) => {
    const event: ClassEvent = { seq: state.seq + 1, at: now, actor: 'instructor', body };
    fold(state, event);
    events.push(event);
  };
  note({ type: 'opened', v: 1, revision: 0, plan, code: '' });
  const say = (actor: Parameters<typeof decide>[1], command: Parameters<typeof decide>[2]) => {
    for (const body of decide(state, actor, command, now, () => 'me')) note(body);
  };
  say({ kind: 'guest' }, { type: 'join', firstName: '·', kit: [] });
  for (let from = -1; from < plan.items.length - 1; from++) {
    say({ kind: 'instructor' }, { type: 'goOn', from });
    now += minutes * 60_000;
    const stepId = plan.items[from + 1]?.stepId;
    if (stepId) say({ kind: 'student', id: 'me' }, { type: 'done', studentId: 'me', stepId });
  }
  say({ kind: 'instructor' }, { type: 'end' });
  return events;
}
