import { describe, expect, it } from '@jest/globals';
import type { Lab, Lesson } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { coatTimes } from '../coat/index.js';
import { looksOf } from '../derived/index.js';
import { carryOut, startHistory } from '../document/index.js';
import { smallLesson, testStep } from '../fixtures/lessons.js';
import { glazeOver } from '../mix/index.js';
import { planLesson } from '../plan/index.js';
import { plannedState, repairWays } from './index.js';

const base = smallLesson([
  testStep('sky', { areaIds: ['a'], doMin: 4 }),
  testStep('hill', { areaIds: ['b'], mixIds: ['dark'], needs: 'paintOver', doMin: 4 }),
  testStep('look', { kind: 'look', mixIds: [], areaIds: [], doMin: 60 }),
]);
const lesson: Lesson = {
  ...base,
  areas: base.areas.map((area) => (area.id === 'a' ? { ...area, targetLab: [70, -4, -14] as Lab } : area)),
  tubes: [
    { id: 'w', pigment: 'PW6', grade: 'artist' },
    { id: 'b', pigment: 'PB29', grade: 'artist' },
    { id: 'k', pigment: 'PBk9', grade: 'artist' },
  ],
  mixes: [
    { id: 'm', name: 'white', recipe: [{ tubeId: 'w', parts: 1 }] },
    {
      id: 'blue',
      name: 'blue',
      recipe: [
        { tubeId: 'w', parts: 4 },
        { tubeId: 'b', parts: 1 },
      ],
    },
    { id: 'dark', name: 'dark', recipe: [{ tubeId: 'k', parts: 1 }] },
  ],
};
const plan = planLesson(lesson);
const skyEnd = plan.plan.items.find((item) => item.stepId === 'sky')?.endMin as number;
const white = looksOf(lesson).get('m')?.colour?.lab as Lab;
const blue = looksOf(lesson).get('blue')?.colour?.lab as Lab;
const ways = (atMin: number, change = {}) =>
  repairWays(lesson, plan, { areaId: 'a', atMin, isLab: white, wantLab: blue, ...change });
const kinds = (atMin: number) => ways(atMin).map((way) => way.kind);

describe('mending', () => {
  it('while it is workable it can be lifted, with the minutes left; later no more', () => {
    const fresh = ways(skyEnd + 1).find((way) => way.kind === 'lift');
    const open = plan.plan.coats.find((coat) => coat.stepId === 'sky')?.openMin ?? 0;
    expect(fresh?.words).toContain(`${Math.floor(open - 1)} min left`);
    expect(kinds(skyEnd + open + 5)).not.toContain('lift');
  });

  it('covering takes the mix nearest to what is wanted, and ends where the film model says', () => {
    const cover = ways(skyEnd + 50).find((way) => way.kind === 'cover');
    expect(cover?.step?.mixIds).toEqual(['blue']);
    expect(cover?.off).toBeLessThan(4);
    expect(cover?.extraMin).toBeGreaterThan(1);
  });

  it('a glaze brings a slightly wrong colour nearer: tube, dilution, passes', () => {
    // What two thin passes of ultramarine make of white, and a little beside it.
    const ultramarine = [{ pigment: 'PB29', parts: 1 }];
    const { dryUm } = coatTimes({ technique: 'glaze' }, lesson.room);
    const pass = (over: Lab) => glazeOver(ultramarine, over, { medium: 12, dryUm }).lab;
    const made = pass(pass(white));
    const want: Lab = [made[0] + 0.5, made[1], made[2] + 0.5];
    const glaze = ways(skyEnd + 60, { wantLab: want }).find((way) => way.kind === 'glaze');
    expect(glaze?.words).toMatch(/ultramarine.*1 part to \d+ of clear medium/);
    expect(glaze?.off).toBeLessThan(1.5);
    expect(deltaE00(white, want)).toBeGreaterThan(3);
    expect(glaze?.step).toMatchObject({ technique: 'glaze', needs: 'touchDry', medium: 'glazing-medium' });
  });

  it('what is hardly off is left first; a large fault is not', () => {
    expect(ways(skyEnd + 60, { wantLab: [white[0] - 1, white[1], white[2]] })[0]?.kind).toBe('leave');
    expect(ways(skyEnd + 60, { wantLab: [10, 0, 0] })[0]?.kind).not.toBe('leave');
  });

  it('a hard edge gets a strip laid again with both mixes', () => {
    const strip = ways(skyEnd + 70, { edgeWith: 'b' });
    expect(strip.map((way) => way.kind)).toContain('strip');
    const own = strip.find((way) => way.kind === 'strip');
    expect(own?.step?.mixIds).toEqual(['m', 'dark']);
    expect(own?.step?.technique).toBe('blend');
    expect(strip.some((way) => way.kind === 'cover')).toBe(false);
  });

  it('its cost in the plan is what the plan says when the step is put in', () => {
    const cover = ways(skyEnd + 50).find((way) => way.kind === 'cover');
    if (!cover?.step) throw new Error('no cover');
    const at = lesson.steps.findIndex((step) => step.id === cover.afterStepId) + 1;
    const repaired = carryOut(startHistory(lesson), 'addStep', { step: cover.step, at }).lesson;
    expect(planLesson(repaired).plan.endMin - plan.plan.endMin).toBeCloseTo(cover.extraMin, 6);
  });

  it('the planned state of an area is what the last done step left, beside its target', () => {
    const state = plannedState(lesson, plan, 'a', skyEnd + 1);
    expect(state?.isLab).toEqual(white);
    expect(state?.wantLab).toEqual([70, -4, -14]);
    expect(plannedState(lesson, plan, 'a', 0)).toBeNull();
    expect(
      repairWays({ ...lesson, steps: [] }, planLesson({ ...lesson, steps: [] }), {
        areaId: 'a',
        atMin: 0,
        isLab: white,
        wantLab: blue,
      }),
    ).toEqual([]);
  });
});
