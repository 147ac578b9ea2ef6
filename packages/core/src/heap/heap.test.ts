import { describe, expect, it } from '@jest/globals';
import type { Lesson, Room } from '@viaticum/contract';
import { demoLesson, smallLesson, testStep } from '../fixtures/lessons.js';
import { planLesson } from '../plan/index.js';
import { heapHeightMm, heapKeepsMin, heapsOf, keepingOf, mistHeapEveryMin } from './index.js';

const air = (airC: number, humidity: number, airSpeed = 0.1): Room => ({ name: 'x', airC, humidity, airSpeed });
const through = (lesson: Lesson) => heapsOf(lesson, planLesson(lesson).plan);

describe('how long a heap keeps', () => {
  it('as the design worked it out: on a plate, under film, on a wet palette, in a bag', () => {
    // A heap 4 mm high; minutes from the reference run, “about a day” under film is common practice, no published source.
    const ml = 0.66;
    expect(heapHeightMm(ml)).toBeCloseTo(4, 1);
    for (const [room, plate, filmH] of [
      [air(21, 0.45), 17, 21],
      [air(21, 0.3), 10, 13],
      [air(17, 0.7), 84, 48],
      [air(31, 0.25, 0.3), 3, 5],
    ] as const) {
      expect(Math.abs(heapKeepsMin(ml, 'plate', room) / plate - 1)).toBeLessThan(0.15);
      expect(Math.abs(heapKeepsMin(ml, 'film', room) / 60 / filmH - 1)).toBeLessThan(0.1);
      expect(heapKeepsMin(ml, 'wet-palette', room)).toBe(3 * 1440);
      expect(heapKeepsMin(ml, 'bag', room)).toBe(14 * 1440);
    }
  });
  it('longer under film than open, longer in damp air, and for ever in air that takes no water', () => {
    expect(heapKeepsMin(2, 'film', air(21, 0.45))).toBeGreaterThan(20 * heapKeepsMin(2, 'plate', air(21, 0.45)));
    expect(heapKeepsMin(2, 'plate', air(21, 0.7))).toBeGreaterThan(heapKeepsMin(2, 'plate', air(21, 0.45)));
    expect(heapKeepsMin(2, 'plate', air(20, 1))).toBe(Number.POSITIVE_INFINITY);
  });
  it('is misted at half of its time, never more often than each minute', () => {
    expect([mistHeapEveryMin(17), mistHeapEveryMin(1.2)]).toEqual([8, 1]);
  });
});

describe('heaps through a class', () => {
  const rested = (doMin: number, heapsOn?: Lesson['heapsOn']) =>
    through({
      ...smallLesson([
        testStep('one', { areaIds: ['a', 'b'] }),
        testStep('long', { kind: 'look', mixIds: [], doMin }),
        testStep('two', { areaIds: ['b'], needs: 'touchDry' }),
      ]),
      ...(heapsOn ? { heapsOn } : {}),
    });
  it('know how long they rest, and for which step they come too late', () => {
    const [heap] = rested(90);
    expect(heap?.longest).toMatchObject({ stepId: 'two' });
    expect(heap?.longest.restMin).toBeGreaterThanOrEqual(90);
    expect(heap?.late?.stepId).toBe('two');
    expect(rested(90, 'wet-palette')[0]?.late).toBeNull();
    expect(rested(90, 'film')[0]?.late).toBeNull();
    expect(rested(0.5)[0]?.longest.restMin).toBeLessThan(heap?.longest.restMin as number);
  });
  it('a mix mixed ahead in a pause counts from there', () => {
    const lesson = { ...demoLesson(), heapsOn: 'plate' as const };
    const { plan } = planLesson(lesson);
    const ahead = plan.items.flatMap((item) => (item.fillers ?? []).flatMap((filler) => filler.mixIds ?? []));
    expect(ahead.length).toBeGreaterThan(0);
    for (const heap of heapsOf(lesson, plan)) {
      if (!ahead.includes(heap.mix.id)) continue;
      const first = plan.items.find((item) => lesson.steps.find((step) => step.id === item.stepId)?.mixIds.includes(heap.mix.id));
      expect(heap.fromMin).toBeLessThanOrEqual(first?.startMin as number);
    }
  });
  it('lie in bags where all is mixed ahead, on a plate elsewhere, unless the lesson says so', () => {
    const lesson = smallLesson([]);
    expect(keepingOf(lesson)).toBe('plate');
    expect(keepingOf({ ...lesson, school: { ...lesson.school, mixing: 'all-premixed' } })).toBe('bag');
    expect(keepingOf({ ...lesson, heapsOn: 'film' })).toBe('film');
  });
  it('take as much paint as the painted area and film ask for, and no less than a bead', () => {
    const [thin] = through(smallLesson([testStep('one', { areaIds: ['a', 'b'], technique: 'wash' })]));
    const [thick] = through(smallLesson([testStep('one', { areaIds: ['a', 'b'], technique: 'loaded' })]));
    expect(thick?.ml).toBeGreaterThan(3 * (thin?.ml as number));
    const [speck] = through(smallLesson([testStep('one', { areaIds: ['a'], coverShare: 0.01 })]));
    expect(speck?.ml).toBe(1);
  });
});
