import { describe, expect, it } from '@jest/globals';
import type { Lesson, Room } from '@viaticum/contract';
import { toEnd } from '@viaticum/kernels/cooperative';
import { demoLesson } from '../fixtures/lessons.js';
import { planLesson } from '../plan/index.js';
import { airAt, airMap, bestStart, lengthFrom, roomBetween, seasons, threePlans } from './index.js';

const demo = demoLesson();
const day: Room = {
  ...demo.room,
  hours: [
    { atMin: 540, airC: 15, humidity: 0.8 },
    { atMin: 840, airC: 27, humidity: 0.4, airSpeed: 1, sunWPerM2: 300 },
  ],
};

describe('air by the hour', () => {
  it('changes evenly between what is known and stays at the ends', () => {
    expect(airAt(day, 300)).toMatchObject({ airC: 15, humidity: 0.8 });
    expect(airAt(day, 690).airC).toBeCloseTo(21, 9);
    expect(airAt(day, 690).sunWPerM2).toBeCloseTo(150, 9);
    expect(airAt(day, 690).airSpeed).toBeCloseTo((demo.room.airSpeed + 1) / 2, 9);
    expect(airAt(day, 1300)).toMatchObject({ airC: 27, humidity: 0.4, airSpeed: 1 });
    expect(airAt(demo.room, 700)).toMatchObject({ airC: 21, humidity: 0.45 });
    expect(roomBetween(day, 540, 840).airC).toBeCloseTo(21, 9);
    expect(roomBetween(demo.room, 0, 100)).toBe(demo.room);
  });

  it('a lesson begun in the damp morning takes longer than at noon', () => {
    const lesson: Lesson = { ...demo, room: day };
    expect(lengthFrom(lesson, 420)).toBeGreaterThan(lengthFrom(lesson, 800) + 30);
  });
});

describe('the best start for a fixed end', () => {
  it('ends in time, and five minutes later would not', () => {
    const lesson: Lesson = { ...demo, room: day };
    const found = bestStart(lesson, 1080);
    if (!found) throw new Error('there is time');
    expect(found.endMin).toBeLessThanOrEqual(1080);
    expect(found.endMin).toBeGreaterThan(1080 - 30);
    expect(lengthFrom(lesson, found.startMin)).toBeLessThanOrEqual(found.lengthMin + 2);
    expect(bestStart(demo, 1080)?.startMin).toBe(Math.floor((1080 - planLesson(demo).plan.endMin) / 5) * 5);
  });
  it('there is none where the day is too short', () => {
    expect(bestStart(demo, 400)).toBeNull();
  });
});

describe('the map of temperature and humidity', () => {
  const map = toEnd(airMap(demo));
  it('grows with damp and cold, and holds the plan itself', () => {
    map.endMin.forEach((row, i) => {
      expect(row).toHaveLength(map.airC.length);
      row.forEach((minutes, k) => {
        if (i > 0) expect(minutes).toBeGreaterThanOrEqual((map.endMin[i - 1] as number[])[k] as number);
      });
    });
    const at = [map.humidity.indexOf(demo.room.humidity), map.airC.indexOf(demo.room.airC)] as const;
    expect(map.endMin[at[0]]?.[at[1]]).toBe(planLesson(demo).plan.endMin);
    expect(map.endMin[0]?.[0]).toBe(planLesson({ ...demo, room: { ...demo.room, airC: 12, humidity: 0.2 } }).plan.endMin);
    expect(map.today).toEqual({ airC: 21, humidity: 0.45, endMin: planLesson(demo).plan.endMin });
  });
  it('every season preset makes a plan', () => {
    for (const { air } of seasons)
      expect(planLesson({ ...demo, room: { ...demo.room, ...air } }).plan.endMin).toBeGreaterThan(100);
  });
});

describe('three plans', () => {
  // Damp air, in which there is something to wait for.
  const damp: Lesson = { ...demo, room: { ...demo.room, airC: 17, humidity: 0.72 } };
  const { best, calm, trades } = toEnd(threePlans(damp));
  it('least waiting is shorter than the author’s order, calm is longer than least waiting', () => {
    expect(best.best.endMin).toBeLessThan(best.own.endMin - 20);
    expect(calm.best.endMin).toBeGreaterThan(best.best.endMin + 10);
    expect(calm.order).toHaveLength(damp.steps.length);
  });
  it('between them minutes are traded against changes: later ends, fewer changes', () => {
    expect(trades[0]).toMatchObject({ changes: 0, endMin: best.own.endMin });
    expect(trades.at(-1)).toMatchObject({ changes: best.changes, endMin: best.best.endMin });
    expect(trades.length).toBeGreaterThan(3);
    for (let i = 1; i < trades.length; i++) {
      expect(trades[i]?.changes).toBeGreaterThan(trades[i - 1]?.changes as number);
      expect(trades[i]?.endMin).toBeLessThanOrEqual(trades[i - 1]?.endMin as number);
    }
  });
  it('over two evenings the search says where to stop', () => {
    const lesson: Lesson = { ...damp, planning: { pins: [], sessions: { most: 2, limitMin: 100 } } };
    const two = toEnd(threePlans(lesson, { maxNodes: 3000 })).best;
    expect(two.cutsBefore).toHaveLength(1);
    expect(two.best.endMin).toBeLessThanOrEqual(best.best.endMin);
  });
});
