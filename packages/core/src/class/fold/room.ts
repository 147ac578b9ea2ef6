import { byId, type EventBody } from '@viaticum/contract';
import { coatKey, rungs } from '../air.js';
import { dryingFactor, touched } from '../drying.js';
import { smallestGroup } from '../groups.js';
import type { ClassState, Student } from '../shape.js';
import type { Folds } from './shape.js';

type Air = ClassState['airs'][number];

const MOST_SAID = 10;
const MOST_AIRS = 60;

/** Tenths of minutes as minutes; null for never. */
const minutesOf = (tenths: readonly number[]): (number | null)[] => tenths.map((one) => (one < 0 ? null : one / 10));

/** The coats of an air by their keys, from an event that names them in the plan's order. */
function rowsOf(state: ClassState, { rows, row, left }: EventBody & { type: 'climateNoted'; v: 2 }): Omit<Air, 'at'> {
  const byCoat = byId<number>();
  for (const [k, coat] of (state.plan?.coats ?? []).entries()) {
    const own = row[k] ?? -1;
    if (own >= 0 && own < rows.length) byCoat[coatKey(coat)] = own;
  }
  return { rows: rows.map(minutesOf), row: byCoat, left: left.map(minutesOf) };
}

/** The airs of before coats had their own times, and the plan's own, coat by coat: so they outlast a new plan. */
function asRows({ airs, plan }: ClassState): Air[] {
  return [{ at: 0, factor: 1 }, ...airs].map(({ at, factor = 1 }) => ({
    at,
    rows: (plan?.coats ?? []).map((coat) => rungs.map((rung) => (coat[rung] === null ? null : (coat[rung] as number) * factor))),
    row: byId((plan?.coats ?? []).map((coat, k) => [coatKey(coat), k] as const)),
    left: [],
  }));
}

function freeSeat({ seats }: ClassState): number {
  const free = seats.indexOf(null);
  return free < 0 ? seats.length : free;
}

const MOST_SIGNS = 40;
/** Notes a sign that a step is not finished; of very many the newest count. */
function told(student: Student, stepId: string, at: number, is: NonNullable<Student['signs']>[number]['is']): void {
  student.signs = [...(student.signs ?? []), { stepId, at, is }].slice(-MOST_SIGNS);
}

/** When the class left a step, ms; null while it is at it. */
const leftAt = ({ visits, plan }: ClassState, stepId: string): number | null =>
  visits.filter((visit) => plan?.items[visit.index]?.stepId === stepId).at(-1)?.endedAt ?? null;

/** Events of the people in the room, of its air and of the paint on their canvases. What names nobody who is here does nothing. */
export const foldsOfRoom = {
  joined(state, { studentId, firstName, kit, has, group: given, edge }, at) {
    const seat = freeSeat(state);
    state.seats[seat] = studentId;
    const group = given ?? smallestGroup(state);
    state.students[studentId] = {
      ...(group !== undefined && { group }),
      ...(edge !== undefined && { edge }),
      id: studentId,
      firstName,
      kit,
      has: has ?? [],
      seat,
      joinedAt: at,
      doneAt: byId(),
      hand: null,
    };
  },
  kitChanged({ students }, { studentId, kit, has }) {
    const student = students[studentId];
    if (student) Object.assign(student, { kit, has });
  },
  seated(state, { studentId, seat }) {
    const student = state.students[studentId];
    if (!student) return;
    const there = state.seats[seat] ?? null;
    while (state.seats.length < seat) state.seats.push(null);
    state.seats[student.seat] = there;
    if (there) (state.students[there] as Student).seat = student.seat;
    state.seats[seat] = student.id;
    student.seat = seat;
  },
  renamed({ students }, { studentId, firstName }) {
    const student = students[studentId];
    if (student) student.firstName = firstName;
  },
  removed(state, { studentId }) {
    const student = state.students[studentId];
    if (student) state.seats[student.seat] = null;
    delete state.students[studentId];
    state.removed.push(studentId);
  },
  stepDone({ students }, { studentId, stepId, by, saidAt, rough }, at) {
    const student = students[studentId];
    if (!student) return;
    student.doneAt[stepId] = saidAt ?? at;
    const how = by ?? (rough ? 'rough' : undefined);
    if (how) student.doneBy = { ...student.doneBy, [stepId]: how };
    else if (student.doneBy) delete student.doneBy[stepId];
  },
  stepUndone({ students }, { studentId, stepId, saidAt }, at) {
    const student = students[studentId];
    if (!student) return;
    delete student.doneAt[stepId];
    if (student.doneBy) delete student.doneBy[stepId];
    if (student.leftOut) delete student.leftOut[stepId];
    told(student, stepId, saidAt ?? at, 'not-done');
  },
  answered(state, { studentId, stepId, is, saidAt }, heardAt) {
    const student = state.students[studentId];
    if (!student) return;
    const at = saidAt ?? heardAt;
    if (is === 'still') told(student, stepId, at, 'still');
    else if (is === 'left-out') student.leftOut = { ...student.leftOut, [stepId]: at };
    else {
      const left = is === 'when-we-went-on' ? leftAt(state, stepId) : null;
      student.doneAt[stepId] = left ?? at;
      student.doneBy = { ...student.doneBy, [stepId]: left === null ? 'asked' : 'went-on' };
    }
  },
  lookedBack({ students }, { studentId, stepId, saidAt }, at) {
    const student = students[studentId];
    if (student) told(student, stepId, saidAt ?? at, 'look');
  },
  seen({ students }, { studentId }, at) {
    const student = students[studentId];
    if (student) student.seenAt = at;
  },
  handRaised(state, { studentId, reason, saidAt }, heardAt) {
    const student = state.students[studentId];
    if (!student) return;
    const at = saidAt ?? heardAt;
    student.hand = { reason, at, ...(saidAt !== undefined && { kept: true as const }) };
    const during = state.visits.filter((visit) => visit.startedAt <= at).at(-1);
    const stepId = state.plan?.items[during?.index ?? -1]?.stepId;
    if (stepId && student.doneAt[stepId] === undefined) told(student, stepId, at, reason === 'lost' ? 'lost' : 'hand');
  },
  handLowered({ students }, { studentId }) {
    const student = students[studentId];
    if (student) student.hand = null;
  },
  climateNoted(state, body, at, actor) {
    const { airC, humidity, airSpeed } = body;
    state.climate = { airC, humidity, airSpeed, at, ...(actor === 'sensor' && { bySensor: true as const }) };
    if (body.v === 1) state.airs.push({ at, factor: body.factor });
    else {
      if (!state.airs.some((air) => air.rows)) state.airs = asRows(state);
      state.airs.push({ at, ...rowsOf(state, body) });
    }
    // What came before the oldest that is kept counts as that.
    if (state.airs.length > MOST_AIRS) state.airs.splice(1, 1);
  },
  filmSet(state, { filmId, atMs, isPlaying, rate }, at) {
    state.film = { filmId, atMs, isPlaying, rate, at };
  },
  said(state, { text }, at) {
    state.said.push({ text, at });
    if (state.said.length > MOST_SAID) state.said.shift();
  },
  touchTested(state, { areaId, dry, stepId }, at, actor) {
    const test = touched(state, areaId, dry, at);
    if (test)
      state.touches.push(
        stepId === undefined ? test : { ...test, stepId, areaId, at, ...(actor === 'assistant' && { by: actor }) },
      );
    state.dryFactor = dryingFactor(state.touches);
    if (test && dry && stepId !== undefined) {
      const laid = leftAt(state, stepId) ?? at;
      state.freed = { ...state.freed, [coatKey({ stepId, areaId })]: laid };
    }
  },
  touchTakenBack(state, { at: of }) {
    const gone = state.touches.find((test) => test.at === of);
    if (!gone) return;
    state.touches = state.touches.filter((test) => test !== gone);
    state.dryFactor = dryingFactor(state.touches);
    const key = coatKey(gone);
    const isStill = state.touches.some((test) => test.dryAtMin !== undefined && coatKey(test) === key);
    if (state.freed && !isStill) delete state.freed[key];
  },
} satisfies Partial<Folds>;
