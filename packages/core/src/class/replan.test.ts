import { describe, expect, it } from '@jest/globals';
import { demoLesson } from '../fixtures/lessons.js';
import { planLesson } from '../plan/index.js';
import { driven, instructor, minute } from './class.fixture.js';
import {
  type AirRows,
  airRows,
  classMinute,
  coatUnder,
  currentItem,
  groupPace,
  happened,
  planAsHappened,
  replanClass,
  secondsLeft,
  stateAt,
} from './index.js';

const lesson = demoLesson();
const planned = planLesson(lesson).plan;

/** The lesson's coats in other air. */
const damper = (humidity: number, airC: number) => ({
  air: airRows(lesson, planned.coats, lesson.room, { ...lesson.room, humidity, airC }),
});

/** A class of the demo lesson that went on `count` times, each item as many times as long as planned. */
function taught(count: number, times = 1) {
  const it = driven(planned);
  for (let i = 0; i < count; i++) {
    it.say(instructor, { type: 'goOn', from: i - 1 });
    const at = planned.items[i];
    if (at) it.now += (at.endMin - at.startMin) * times * minute;
  }
  return it;
}
const stepsOf = (items: readonly { stepId?: string | undefined }[]) => items.flatMap((one) => one.stepId ?? []);

describe('the rest planned again', () => {
  it('keeps what happened with its real times, an item a visit, and all steps that are to come', () => {
    const it_ = taught(6, 1.25);
    const plan = replanClass(lesson, it_.state, it_.now);
    it_.say(instructor, { type: 'replan', from: 5 }, { plan });
    expect(it_.state.visits.map((visit) => visit.index)).toEqual([0, 1, 2, 3, 4, 5]);
    it_.state.visits.forEach((visit, k) => {
      expect(plan.items[k]?.startMin).toBeCloseTo(classMinute(it_.state, visit.startedAt), 6);
    });
    expect(stepsOf(plan.items).sort()).toEqual(stepsOf(planned.items).sort());
    expect(stepsOf(plan.items)).toEqual(stepsOf(planned.items));
    expect(currentItem(it_.state)?.title).toBe(planned.items[5]?.title);
    for (let k = 1; k < plan.items.length; k++)
      expect(plan.items[k]?.startMin).toBeGreaterThanOrEqual((plan.items[k - 1]?.endMin ?? 0) - 1e-6);
    expect(() => it_.say(instructor, { type: 'takeBack' })).toThrow(/taken back/);
    expect(() => it_.say(instructor, { type: 'replan', from: 3 }, { plan })).toThrow(/moved on/);
    expect(() => it_.say(instructor, { type: 'replan', from: 5 })).toThrow(/plan stays/);
  });
  it('right after it going on cannot be taken back: the list of steps leads there', () => {
    const it_ = taught(3);
    it_.say(instructor, { type: 'goOn', from: 2 });
    it_.say(instructor, { type: 'replan', from: 3 }, { plan: replanClass(lesson, it_.state, it_.now) });
    expect(() => it_.say(instructor, { type: 'takeBack' })).toThrow(/planned again/);
    expect(it_.say(instructor, { type: 'goTo', from: 3, to: 2 })).toBe(1);
  });
  it('a slow group takes longer over what is to come; an exact one ends as planned', () => {
    const end = (times: number) => {
      const it_ = taught(6, times);
      return replanClass(lesson, it_.state, it_.now).endMin - classMinute(it_.state, it_.now);
    };
    const restPlanned = planned.endMin - (planned.items[5]?.endMin ?? 0);
    expect(Math.abs(end(1) - restPlanned)).toBeLessThan(2);
    expect(end(1.4)).toBeGreaterThan(end(1) + 8);
    expect(groupPace(taught(6, 1.4).state)).toBeGreaterThan(1.1);
    expect(groupPace(taught(6, 1.4).state)).toBeLessThan(1.4);
    expect(groupPace(taught(0).state)).toBe(1);
  });
  it('damp air and touches that find it wet make the pauses that are to come longer', () => {
    const waits = (prepare: (it: ReturnType<typeof taught>) => void) => {
      const it_ = taught(6);
      prepare(it_);
      const plan = replanClass(lesson, it_.state, it_.now);
      return plan.items.slice(6).reduce((sum, one) => sum + (one.kind === 'pause' ? one.endMin - one.startMin : 0), 0);
    };
    const asPlanned = waits(() => undefined);
    const damp = waits((it_) => void it_.say(instructor, { type: 'climate', airC: 17, humidity: 0.75 }, damper(0.75, 17)));
    // The same time passes with the touches and without: it is what they find that counts.
    const touchedOrNot = (isTouched: boolean) =>
      waits((it_) => {
        const taughtSteps = new Set(stepsOf(planned.items.slice(0, 6)));
        const painted = new Set(lesson.steps.flatMap((step) => (taughtSteps.has(step.id) ? step.areaIds : [])));
        let found = 0;
        for (const areaId of painted) {
          const under = coatUnder(it_.state, areaId, it_.now);
          // Touched when it should be dry by a third more than planned.
          const left = under ? 1.35 * (under.coat.paintOverMin ?? 0) - under.sinceMin : -1;
          if (left < 0) continue;
          it_.now += left * minute;
          if (isTouched) found += it_.say(instructor, { type: 'touchTest', areaId, dry: false });
        }
        if (!isTouched) return;
        expect(found).toBeGreaterThan(0);
        expect(it_.state.dryFactor).toBeGreaterThan(1.05);
      });
    expect(damp).toBeGreaterThan(asPlanned + 5);
    expect(touchedOrNot(true)).toBeGreaterThan(touchedOrNot(false));
  });
  it('in the quickest order it never ends later, and nothing is lost', () => {
    const it_ = taught(5);
    const own = replanClass(lesson, it_.state, it_.now);
    const quick = replanClass(lesson, it_.state, it_.now, true);
    expect(quick.endMin).toBeLessThanOrEqual(own.endMin);
    expect(stepsOf(quick.items).sort()).toEqual(stepsOf(own.items).sort());
    expect(stepsOf(quick.items).slice(0, 4)).toEqual(stepsOf(own.items).slice(0, 4));
  });
  it('what was gone past is left out; a pause that is going on lasts until its coat is dry', () => {
    const it_ = taught(2);
    // In the pause of the ground: half as damp again, so that it lasts longer.
    it_.now -= 4 * minute;
    const before = secondsLeft(it_.state, it_.now);
    it_.say(instructor, { type: 'climate', airC: 19, humidity: 0.7 }, damper(0.7, 19));
    const plan = replanClass(lesson, it_.state, it_.now);
    it_.say(instructor, { type: 'replan', from: 1 }, { plan });
    expect(currentItem(it_.state)?.kind).toBe('pause');
    expect(secondsLeft(it_.state, it_.now)).toBeGreaterThan(before);
    const skip = stepsOf(planned.items)[2] as string;
    const to = plan.items.findIndex((one) => one.stepId === stepsOf(planned.items)[3]);
    it_.say(instructor, { type: 'goTo', from: 1, to });
    const again = replanClass(lesson, it_.state, it_.now);
    expect(stepsOf(again.items)).not.toContain(skip);
  });
  it('needs a class that was begun', () => {
    expect(() => replanClass(lesson, driven(planned).state, 0)).toThrow(/once it has begun/);
  });
});

describe('other air', () => {
  const paintOver = ({ rows, row }: AirRows) => row.map((k) => (k < 0 ? Number.NaN : ((rows[k] as number[])[1] as number)));
  it('gives every coat of the plan its own minutes: as planned in the same air, never one factor in another', () => {
    const same = damper(lesson.room.humidity, lesson.room.airC).air;
    const planned10 = planned.coats.map((coat) => (coat.paintOverMin as number) * 10);
    for (const [k, tenths] of paintOver(same).entries()) {
      expect(tenths).toBeGreaterThanOrEqual((planned10[k] as number) - 1e-6);
      expect(tenths).toBeLessThanOrEqual((planned10[k] as number) + 1);
    }
    const ratios = paintOver(damper(0.75, 17).air).map((tenths, k) => tenths / (planned10[k] as number));
    expect(Math.min(...ratios)).toBeGreaterThan(1.5);
    expect(Math.max(...ratios)).toBeGreaterThan(1.3 * Math.min(...ratios));
  });
  it('says of each coat what is left at each share of its time: less and less, and nothing is as quick as the rest of its own time', () => {
    const { rows, left } = damper(0.75, 17).air;
    for (const [k, knots] of left.entries()) {
      for (const from of [0, 7]) {
        const own = knots.slice(from, from + 7);
        for (let i = 1; i < own.length; i++) expect(own[i]).toBeLessThanOrEqual(own[i - 1] as number);
        expect(own[0]).toBe((rows[k] as number[])[from === 0 ? 1 : 2]);
      }
    }
  });
  it('near saturation it says never; a lesson without steps has no rows', () => {
    expect(paintOver(damper(1, lesson.room.airC).air).every((tenths) => tenths === -1)).toBe(true);
    expect(airRows({ ...lesson, steps: [] }, [], lesson.room, { ...lesson.room, airC: 5 })).toEqual({
      rows: [],
      row: [],
      left: [],
    });
  });
});

describe('afterwards', () => {
  it('planned stands against actual, with touches, hands and who was done', () => {
    const it_ = driven(planned);
    const [mara, kofi] = [it_.join('Mara'), it_.join('Kofi')];
    const first = planned.items[0]?.stepId as string;
    it_.say(instructor, { type: 'goOn', from: -1 });
    it_.now += 3 * minute;
    it_.say(kofi, { type: 'hand', studentId: kofi.id, reason: 'brush' });
    it_.now += 2 * minute;
    it_.say(instructor, { type: 'handDown', studentId: kofi.id });
    it_.now += 5 * minute;
    it_.say(mara, { type: 'done', studentId: mara.id, stepId: first });
    it_.say(instructor, { type: 'goOn', from: 0 });
    it_.now += 6 * minute;
    it_.say(instructor, { type: 'touchTest', areaId: planned.items[1]?.areaIds[0] as string, dry: true });
    it_.say(instructor, { type: 'end' });
    const told = happened(it_.events);
    expect(told).toMatchObject({ actualMin: 16, plannedMin: planned.endMin, students: 2, finished: ['Mara'] });
    expect(told.items[0]).toMatchObject({
      actual: 10,
      planned: (planned.items[0]?.endMin ?? 0) - (planned.items[0]?.startMin ?? 0),
      present: 2,
      done: 1,
      // Of one alone no middle is told.
      medianDone: null,
    });
    expect(told.items[1]).toMatchObject({ kind: 'pause', actual: 6, touches: [{ minute: 6, dry: true }] });
    expect(told.hands).toEqual([{ firstName: 'Kofi', reason: 'brush', minute: 3, tookMin: 2, group: null }]);
    const steps = stepsOf(planned.items).length;
    expect(told.items.filter((one) => one.actual === null && one.kind !== 'pause')).toHaveLength(steps - 1);
    const then = stateAt(it_.events, (it_.events[4]?.at ?? 0) + minute);
    expect([then.phase, then.students[kofi.id]?.hand?.reason]).toEqual(['running', 'brush']);
    const section = planAsHappened(lesson, it_.state);
    expect(section?.solution.items).toHaveLength(1);
    expect(section?.coats[0]?.laidToMin).toBeCloseTo(10, 6);
    expect(planAsHappened(lesson, driven(planned).state)).toBeNull();
  });
});
