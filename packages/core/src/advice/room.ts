import type { Lesson, Room, RoomHour } from '@viaticum/contract';
import { worded } from '@viaticum/contract';
import { planLesson } from '../plan/index.js';
import { airOf } from '../step/index.js';

/** Ordinary rooms through the year, as a place to start from; common practice, no published source. Speeds in m/s. */
export const seasons: readonly { id: string; name: string; air: Pick<Room, 'airC' | 'humidity' | 'airSpeed'> }[] = worded(
  [
    { id: 'winter', name: 'winter, heating on', air: { airC: 21, humidity: 0.3, airSpeed: 0.1 } },
    { id: 'spring', name: 'spring', air: { airC: 20, humidity: 0.5, airSpeed: 0.1 } },
    { id: 'summer', name: 'summer, windows open', air: { airC: 26, humidity: 0.5, airSpeed: 0.3 } },
    { id: 'heat', name: 'a hot dry day', air: { airC: 31, humidity: 0.25, airSpeed: 0.3 } },
    { id: 'cooled', name: 'air conditioning', air: { airC: 23, humidity: 0.4, airSpeed: 0.3 } },
    { id: 'autumn', name: 'autumn, damp', air: { airC: 17, humidity: 0.7, airSpeed: 0.1 } },
  ],
  ['name'],
);

/** A room's air at a minute of the day, changing evenly between the hours that are known; the room's own air where none are. */
export function airAt(room: Room, minuteOfDay: number): Pick<Room, 'airC' | 'humidity' | 'airSpeed'> & { sunWPerM2?: number } {
  const { airSpeed, sunWPerM2 } = room;
  const hours = [...(room.hours ?? [])].sort((a, b) => a.atMin - b.atMin);
  const first = hours[0];
  if (!first) return airOf(room);
  const last = hours.at(-1) as RoomHour;
  const next = hours.find((hour) => hour.atMin >= minuteOfDay) ?? last;
  const before = hours.filter((hour) => hour.atMin <= minuteOfDay).at(-1) ?? first;
  const share = next.atMin > before.atMin ? (minuteOfDay - before.atMin) / (next.atMin - before.atMin) : 0;
  const mix = (a: number, b: number) => a + share * (b - a);
  const sun = mix(before.sunWPerM2 ?? sunWPerM2 ?? 0, next.sunWPerM2 ?? sunWPerM2 ?? 0);
  return {
    airC: mix(before.airC, next.airC),
    humidity: mix(before.humidity, next.humidity),
    airSpeed: mix(before.airSpeed ?? airSpeed, next.airSpeed ?? airSpeed),
    ...(sun > 0 ? { sunWPerM2: sun } : {}),
  };
}

/** A room with the mean of its air between two times of the day. */
export function roomBetween(room: Room, fromMin: number, toMin: number): Room {
  if (!room.hours || room.hours.length === 0) return room;
  const samples = Array.from({ length: 9 }, (_, i) => airAt(room, fromMin + ((toMin - fromMin) * i) / 8));
  const mean = (pick: (air: ReturnType<typeof airAt>) => number) =>
    samples.reduce((sum, one) => sum + pick(one), 0) / samples.length;
  const sun = mean((air) => air.sunWPerM2 ?? 0);
  const { sunWPerM2: _, ...rest } = room;
  return {
    ...rest,
    airC: mean((air) => air.airC),
    humidity: mean((air) => air.humidity),
    airSpeed: mean((air) => air.airSpeed),
    ...(sun > 0 ? { sunWPerM2: sun } : {}),
  };
}

const CLOSE_MIN = 2;
const ROUNDS = 8;

/** The minutes a lesson takes when it begins at a time of the day, in the mean air of just those minutes (found by halving the difference). */
export function lengthFrom(lesson: Lesson, startMin: number): number {
  const inAir = (minutes: number) =>
    planLesson({ ...lesson, room: roomBetween(lesson.room, startMin, startMin + minutes) }).plan.endMin;
  let length = inAir(120);
  if (!lesson.room.hours?.length) return length;
  for (let round = 0; round < ROUNDS; round++) {
    const next = inAir(length);
    if (Math.abs(next - length) < CLOSE_MIN) return next;
    length = (length + next) / 2;
  }
  return inAir(length);
}

export type StartAnswer = {
  startMin: number;
  endMin: number;
  lengthMin: number;
  byStart: { startMin: number; lengthMin: number }[];
};

/**
 * The latest start, to five minutes, from which a lesson still ends by `endByMin` (a minute of the day), and its length from each
 * hour of the morning on; null where even the earliest start (six o'clock) is too late.
 */
export function bestStart(lesson: Lesson, endByMin: number): StartAnswer | null {
  const byStart: StartAnswer['byStart'] = [];
  for (let at = 360; at < endByMin + 60; at += 60) {
    byStart.push({ startMin: at, lengthMin: lengthFrom(lesson, at) });
    if (!lesson.room.hours?.length) break;
  }
  const lengthAt = (at: number) => {
    const before = byStart.filter((one) => one.startMin <= at).at(-1);
    const after = byStart.find((one) => one.startMin >= at) ?? before;
    // Between two hours the longer of both, so that nobody is late.
    return Math.max(before?.lengthMin ?? 0, after?.lengthMin ?? 0);
  };
  for (let at = Math.floor(endByMin / 5) * 5; at >= 360; at -= 5) {
    const lengthMin = lengthAt(at);
    if (lengthMin > 0 && at + lengthMin <= endByMin) return { startMin: at, endMin: at + lengthMin, lengthMin, byStart };
  }
  return null;
}

export type AirMap = {
  airC: number[];
  humidity: number[];
  endMin: number[][];
  today: { airC: number; humidity: number; endMin: number };
};

/** A scale in which the nearest value gives way to one's own, so that today stands on it. */
function withOwn(scale: number[], own: number): number[] {
  const nearest = scale.reduce((best, one) => (Math.abs(one - own) < Math.abs(best - own) ? one : best));
  return scale.map((one) => (one === nearest ? own : one)).sort((a, b) => a - b);
}

/** How long the lesson takes in air of other temperatures and humidities, row by row; yields the share that is done. */
export function* airMap(lesson: Lesson): Generator<number, AirMap> {
  const airC = withOwn([12, 15, 18, 21, 24, 27, 30, 33], lesson.room.airC);
  const humidity = withOwn([0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8], lesson.room.humidity);
  const endMin: number[][] = [];
  for (const [i, wet] of humidity.entries()) {
    const row: number[] = [];
    for (const warm of airC) {
      row.push(planLesson({ ...lesson, room: { ...lesson.room, airC: warm, humidity: wet } }).plan.endMin);
      yield (i * airC.length + row.length) / (airC.length * humidity.length);
    }
    endMin.push(row);
  }
  const { room } = lesson;
  return { airC, humidity, endMin, today: { airC: room.airC, humidity: room.humidity, endMin: planLesson(lesson).plan.endMin } };
}
