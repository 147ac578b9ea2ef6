import { byId } from '@viaticum/contract';
import { dryingFactor, touched } from '../drying.js';
import type { ClassState, Student } from '../shape.js';
import type { Folds } from './shape.js';

const MOST_SAID = 10;
const MOST_AIRS = 200;

function freeSeat({ seats }: ClassState): number {
  const free = seats.indexOf(null);
  return free < 0 ? seats.length : free;
}

/** Events of the people in the room, of its air and of the paint on their canvases. What names nobody who is here does nothing. */
export const foldsOfRoom = {
  joined(state, { studentId, firstName, kit, has }, at) {
    const seat = freeSeat(state);
    state.seats[seat] = studentId;
    state.students[studentId] = {
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
  stepDone({ students }, { studentId, stepId }, at) {
    const student = students[studentId];
    if (student) student.doneAt[stepId] = at;
  },
  stepUndone({ students }, { studentId, stepId }) {
    delete students[studentId]?.doneAt[stepId];
  },
  handRaised({ students }, { studentId, reason }, at) {
    const student = students[studentId];
    if (student) student.hand = { reason, at };
  },
  handLowered({ students }, { studentId }) {
    const student = students[studentId];
    if (student) student.hand = null;
  },
  climateNoted(state, { airC, humidity, airSpeed, factor }, at) {
    state.climate = { airC, humidity, airSpeed, at };
    state.airs.push({ at, factor });
    if (state.airs.length > MOST_AIRS) state.airs.shift();
  },
  said(state, { text }, at) {
    state.said.push({ text, at });
    if (state.said.length > MOST_SAID) state.said.shift();
  },
  touchTested(state, { areaId, dry }, at) {
    const test = touched(state, areaId, dry, at);
    if (test) state.touches.push(test);
    state.dryFactor = dryingFactor(state.touches);
  },
} satisfies Partial<Folds>;
