import type { ClassEvent, Command, EventBody, Plan } from '@viaticum/contract';
import { carriedShares } from '../coat/index.js';
import { type Actor, decide, fold, newClass, type WorkedOut } from './index.js';

export const item = (stepId: string | undefined, startMin: number, endMin: number): Plan['items'][number] => ({
  kind: stepId ? 'step' : 'pause',
  title: stepId ?? 'Let it dry',
  startMin,
  endMin,
  showMin: 0,
  areaIds: [],
  ...(stepId ? { stepId } : {}),
});
export const plan: Plan = {
  room: { name: 'studio', airC: 20, humidity: 0.5, airSpeed: 0.1 },
  items: [item('one', 0, 5), item(undefined, 5, 12), item('two', 12, 20)],
  coats: [],
  endMin: 20,
  waitMin: 7,
};
export const instructor: Actor = { kind: 'instructor' };

/** A class driven by commands, with a clock that the test moves. */
export function driven(opened: Plan = plan, rehearsal = false) {
  const state = newClass();
  const events: ClassEvent[] = [];
  let ids = 0;
  const self = {
    state,
    events,
    now: 1_000_000,
    apply(body: EventBody) {
      const event = { seq: state.seq + 1, at: self.now, actor: 'test', body };
      events.push(event);
      fold(state, event);
    },
    say(actor: Actor, command: Command, worked: WorkedOut = {}) {
      const bodies = decide(state, actor, command, self.now, () => `s${++ids}`, worked);
      for (const body of bodies) self.apply(body);
      return bodies.length;
    },
    join(firstName: string): Actor & { kind: 'student' } {
      self.say({ kind: 'guest' }, { type: 'join', firstName, kit: [] });
      return { kind: 'student', id: `s${ids}` };
    },
  };
  self.apply({ type: 'opened', v: 1, revision: 3, plan: opened, code: 'ACDEFG', ...(rehearsal && { rehearsal }) });
  return self;
}

const coat: Plan['coats'][number] = {
  stepId: 'one',
  areaId: 'sky',
  mixIds: [],
  laidFromMin: 0,
  laidToMin: 5,
  openMin: 3,
  paintOverMin: 7,
  touchDryMin: 9,
  firmMin: null,
  dryUm: 20,
  wetUm: 50,
  coverShare: 1,
};
/** A step that lays a sky, its drying pause of seven minutes, and a step on it. */
export const wet: Plan = {
  ...plan,
  items: [item('one', 0, 5), { ...item(undefined, 5, 12), areaIds: ['sky'] }, item('two', 12, 20)],
  coats: [coat],
};
export const minute = 60_000;

/** Air in which every coat of a plan takes so many times as long as planned, whatever it has dried so far. */
export const slowerAir = ({ coats }: Plan, factor: number): WorkedOut => {
  const tenths = (value: number | null) => (value === null ? -1 : Math.ceil(value * factor * 10 - 1e-6));
  const left = (value: number | null) => carriedShares.map((share) => (value === null ? -1 : tenths(value * (1 - share))));
  return {
    air: {
      rows: coats.map((one) => [one.openMin, one.paintOverMin, one.touchDryMin, one.firmMin].map(tenths)),
      row: coats.map((_, k) => k),
      left: coats.map((one) => [...left(one.paintOverMin), ...left(one.touchDryMin)]),
    },
  };
};
