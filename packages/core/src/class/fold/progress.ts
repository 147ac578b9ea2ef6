import { byId } from '@viaticum/contract';
import { progressOf } from '../groups.js';
import type { Visit } from '../shape.js';
import type { Folds } from './shape.js';

const MOST_TAKEN_BACK = 20;

const endLast = (visits: readonly Visit[], at: number | null): void => {
  const last = visits.at(-1);
  if (last) last.endedAt = at;
};

/** Events of the class as it goes through its plan. */
export const foldsOfProgress = {
  opened(state, body) {
    state.phase = 'open';
    state.revision = body.revision;
    state.plan = body.plan;
    state.plannedMin = body.plan.endMin;
    state.code = body.code;
    state.rehearsal = body.rehearsal === true;
  },
  itemStarted(state, { index, paintedOn }, at) {
    const stepId = state.plan?.items[index]?.stepId;
    if (paintedOn && stepId) state.paintedOn = [...(state.paintedOn ?? []), { ...paintedOn, stepId, at }];
    state.before.push(state.current);
    if (state.before.length > MOST_TAKEN_BACK) state.before.shift();
    endLast(state.visits, at);
    state.visits.push({ index, startedAt: at, endedAt: null, holds: [] });
    state.current = { index, startedAt: at, extendedMin: 0, heldMs: 0, heldSince: null };
    state.phase = 'running';
  },
  itemTakenBack(state) {
    // What was painted on for is not, either.
    if (state.paintedOn?.at(-1)?.at === state.current?.startedAt) state.paintedOn = state.paintedOn?.slice(0, -1) ?? [];
    state.current = state.before.pop() ?? null;
    state.visits.pop();
    endLast(state.visits, null);
    state.phase = state.current === null ? 'open' : state.current.heldSince === null ? 'running' : 'held';
  },
  held(state, _, at) {
    if (state.current) state.current.heldSince = at;
    state.visits.at(-1)?.holds?.push({ from: at, to: null });
    state.phase = 'held';
  },
  resumed(state, _, at) {
    if (state.current?.heldSince != null) {
      state.current.heldMs += at - state.current.heldSince;
      state.current.heldSince = null;
      const hold = state.visits.at(-1)?.holds?.at(-1);
      if (hold) hold.to = at;
    }
    state.phase = 'running';
  },
  extended({ current }, { minutes }) {
    if (current) current.extendedMin += minutes;
  },
  replanned(state, { plan }) {
    // The plan begins with what happened, an item a visit.
    state.plan = plan;
    for (const [k, visit] of state.visits.entries()) visit.index = k;
    if (state.current) state.current.index = state.visits.length - 1;
    state.before = [];
    // The new plan is one of the present air. Airs that have rows say themselves what they are.
    const now = state.airs.at(-1)?.factor ?? 1;
    if (now !== 1) state.airs = [{ at: 0 }, ...state.airs].map((air) => ({ ...air, factor: (air.factor ?? 1) / now }));
  },
  divided(state, { groups, of }) {
    const before = state.groups ?? {};
    state.groups = byId(groups.map(({ id, name }) => [id, { id, name, ...(before[id] ?? progressOf(state)) }] as const));
    for (const [id, group] of Object.entries(state.groups)) group.name = groups.find((one) => one.id === id)?.name ?? group.name;
    const chosen = new Map(of.map(({ studentId, group }) => [studentId, group]));
    const [first] = groups;
    for (const student of Object.values(state.students)) {
      const own = chosen.get(student.id) ?? student.group;
      student.group = own !== undefined && state.groups[own] ? own : (first?.id ?? '');
    }
  },
  joinedTogether(state, { where }) {
    const group = state.groups?.[where];
    if (!group) return;
    const { id: _, name: __, ...progress } = group;
    delete state.groups;
    Object.assign(state, progress);
    for (const student of Object.values(state.students)) delete student.group;
  },
  movedTo(state, { studentId, group }) {
    const student = state.students[studentId];
    if (student && state.groups?.[group]) student.group = group;
  },
  speedSet(state, { real, speed }, at) {
    state.clock = { real, at, speed };
  },
  ended(state, _, at) {
    endLast(state.visits, at);
    state.phase = 'ended';
  },
} satisfies Partial<Folds>;
