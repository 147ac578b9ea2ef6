import { describe, expect, it } from '@jest/globals';
import { toEnd } from '@viaticum/kernels/cooperative';
import { coatsToHide } from '../derived/index.js';
import { carryOut, startHistory } from '../document/index.js';
import { demoLesson, schoolLesson } from '../fixtures/index.js';
import { planLesson } from '../plan/index.js';
import { budgetOf, draftInTime, draftWithReasons, freeGains, lengthLadder, withAllBack } from './index.js';

const ids = () => {
  let count = 0;
  return () => `d${count++}`;
};

describe('a lesson for the time that is wanted', () => {
  const short = draftInTime({ ...schoolLesson(), wantedMin: 75 }, ids());
  it('is no longer than that, and keeps what had no room beside it', () => {
    expect(planLesson(short).plan.endMin).toBeLessThanOrEqual(76);
    expect(short.leftOut.length).toBeGreaterThan(0);
    expect(short.leftOut.every(({ step }) => step.mayBeLeftOut)).toBe(true);
  });
  it('brought back, each is in again, and the whole is longer', () => {
    const whole = withAllBack(short);
    expect(whole.leftOut).toEqual([]);
    expect(whole.steps).toHaveLength(short.steps.length + short.leftOut.length);
    expect(planLesson(whole).plan.endMin).toBeGreaterThan(planLesson(short).plan.endMin);
  });
  it('the ladder goes down step by step to what must stay', () => {
    const { wholeMin, notches } = toEnd(lengthLadder(withAllBack(short)));
    expect(wholeMin).toBeCloseTo(planLesson(withAllBack(short)).plan.endMin, 6);
    let last = wholeMin;
    for (const { endMin, savedMin } of notches) {
      expect(endMin).toBeCloseTo(last - savedMin, 6);
      last = endMin;
    }
    expect(new Set(notches.map((one) => one.stepId)).size).toBe(notches.length);
    const out = carryOut(startHistory(withAllBack(short)), 'leaveOut', { ids: notches.map((one) => one.stepId) }).lesson;
    expect(planLesson(out).plan.endMin).toBeCloseTo(last, 6);
  });
  it('first takes what costs the picture nothing: each gain ends where it said', () => {
    const lesson = demoLesson('balloons');
    const { gains, lesson: gained } = freeGains(lesson, ids());
    expect(gains.map((one) => one.kind)).toEqual(['ahead', 'order']);
    expect(gains.reduce((sum, one) => sum + one.savedMin, 0)).toBeCloseTo(
      planLesson(lesson).plan.endMin - planLesson(gained).plan.endMin,
      6,
    );
    let now = startHistory(lesson);
    for (const { order = null, edits = [], endMin } of gains) {
      now = carryOut(now, 'fitToLength', { minutes: 120, leaveOut: [], bringBack: [], order, edits });
      expect(planLesson(now.lesson).plan.endMin).toBeCloseTo(endMin, 6);
    }
    expect(new Set(now.lesson.steps.map((step) => step.id))).toEqual(new Set(lesson.steps.map((step) => step.id)));
  });
  it('says why for every step, also for those that fill its pauses', () => {
    const { lesson, why } = draftWithReasons({ ...schoolLesson(), wantedMin: 120 }, ids());
    expect(lesson.steps.every((step) => (why.get(step.id) ?? []).length > 0)).toBe(true);
  });
  it('more time holds more (the design’s table; our judgement)', () => {
    for (const level of ['beginner', 'improver', 'experienced'] as const)
      for (const minutes of [60, 90, 120, 150, 180])
        expect(budgetOf(level, minutes + 60).areas).toBeGreaterThanOrEqual(budgetOf(level, minutes).areas);
  });
});

describe('coats that are needed', () => {
  // Common practice, no published source.
  const lesson = schoolLesson();
  const block = { technique: 'block-in' as const };
  it('a heap full of white covers in one coat what a clear yellow does not in three', () => {
    const yellow = { id: 'clear', name: 'clear yellow', recipe: [{ tubeId: 'py', parts: 1 }] };
    const tubes = [...lesson.tubes, { id: 'py', pigment: 'PY150', grade: 'artist' as const }];
    const one = { ...lesson, tubes, mixes: [...lesson.mixes, yellow] };
    expect(coatsToHide(one, 'pond-light', block, 'suggest', [30, 0, 0])).toBe(1);
    expect(coatsToHide(one, 'clear', block, 'suggest', [30, 0, 0])).toBeGreaterThan(3);
  });
  it('student grade needs more than artist grade, and thin paint more than thick', () => {
    const student = { ...lesson, tubes: lesson.tubes.map((tube) => ({ ...tube, grade: 'student' as const })) };
    const coats = (of: typeof lesson, load: 'thin' | 'generous') =>
      coatsToHide(of, 'sky-pale', { ...block, load }, 'render', [20, 0, 0]);
    expect(coats(student, 'thin')).toBeGreaterThanOrEqual(coats(lesson, 'thin'));
    expect(coats(lesson, 'thin')).toBeGreaterThanOrEqual(coats(lesson, 'generous'));
    expect(coats(student, 'thin')).toBeGreaterThan(coats(lesson, 'generous'));
  });
});
