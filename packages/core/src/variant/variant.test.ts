import { describe, expect, it } from '@jest/globals';
import type { Lesson, Variant } from '@viaticum/contract';
import { toEnd } from '@viaticum/kernels/cooperative';
import { substitutes, visibleOf } from '../derived/index.js';
import { lessonFaults } from '../document/index.js';
import { demoLesson, smallLesson, testMark, testStep } from '../fixtures/lessons.js';
import { planLesson } from '../plan/index.js';
import { differencesOf, withVariant } from './index.js';

const variant = (change: Partial<Variant>): Variant => ({ id: 'v', name: 'other', changes: [], ...change });
const demo = demoLesson();

describe('variants', () => {
  it('one that says nothing changes nothing', () => {
    const { lesson, differences, open } = withVariant(demo, variant({}));
    expect(lesson).toEqual({ ...demo, variants: [] });
    expect([differences, open]).toEqual([[], []]);
  });

  it('another canvas: areas grow with it, brushes and minutes follow, and another proportion is said', () => {
    const half = { widthMm: demo.support.widthMm / 2, heightMm: demo.support.heightMm / 2 };
    const { lesson, open } = withVariant(demo, variant({ support: half }));
    expect(lessonFaults(lesson)).toEqual([]);
    const area = (one: Lesson, id: string) => visibleOf(one).find((part) => part.id === id)?.areaCm2 ?? 0;
    expect(area(lesson, 'sky')).toBeCloseTo(area(demo, 'sky') / 4, 0);
    expect(open).toEqual([]);
    expect(planLesson(lesson).plan.endMin).toBeLessThan(planLesson(demo).plan.endMin);
    const wide = withVariant(demo, variant({ support: { ...half, widthMm: demo.support.widthMm } }));
    expect(wide.open[0]).toMatch(/stretched by 100 %/);
  });

  it('follows the lesson: what is changed there later is changed here too', () => {
    const later = { ...demo, steps: demo.steps.map((step) => (step.id === 's3' ? { ...step, title: 'Another sky' } : step)) };
    const own = variant({ leaveOutStepIds: ['s5'], changes: [{ stepId: 's4', step: { doMin: 3 } }] });
    const { lesson } = withVariant(later, own);
    expect(lesson.steps.find((step) => step.id === 's3')?.title).toBe('Another sky');
    expect(lesson.steps.some((step) => step.id === 's5')).toBe(false);
    expect(lesson.steps.find((step) => step.id === 's4')?.doMin).toBe(3);
    expect(differencesOf(later, own)).toHaveLength(2);
  });

  it('for a left hand working directions are turned, sides of the picture are not', () => {
    const lesson = smallLesson([
      testStep('one', {
        areaIds: ['a', 'b'],
        say: 'Work from left to right. The light comes from the right. Keep your right hand off it.',
      }),
    ]);
    const turned = withVariant(lesson, variant({ handed: 'left' })).lesson;
    expect(turned.handed).toBe('left');
    expect(turned.steps[0]?.say).toBe('Work from right to left. The light comes from the right. Keep your left hand off it.');
  });

  it('other kit: brushes get the nearest stand-in, mixes another recipe; what cannot be had is said', () => {
    const kit = variant({ withoutTubeIds: ['magenta'], withoutBrushIds: ['flat-1-2-in', 'hake-3-in'] });
    const bare = withVariant(demo, kit);
    expect(bare.open.length).toBeGreaterThan(0);
    const others = toEnd(substitutes(demo, ['magenta']));
    const { lesson, open } = withVariant(demo, kit, others);
    expect(open).toEqual([]);
    expect(lesson.tubes.some((tube) => tube.id === 'magenta')).toBe(false);
    expect(lesson.mixes.some((mix) => mix.recipe.some((part) => part.tubeId === 'magenta'))).toBe(false);
    expect(lesson.steps.some((step) => step.brushId === 'flat-1-2-in')).toBe(false);
    expect(lessonFaults(lesson)).toEqual([]);
  });

  it('children: no spatter, knife or dryer, more time; tubes with harmful metals are named', () => {
    const base = smallLesson([
      testStep('one', { areaIds: ['a', 'b'], brushId: 'knife-small', dryer: true, doMin: 4 }),
      testStep('stars', { areaIds: [], markIds: ['drops'], technique: 'spatter' }),
    ]);
    const lesson: Lesson = {
      ...base,
      marks: [testMark('drops', 'a', { kind: 'spatter' })],
      tubes: [...base.tubes, { id: 'cd', pigment: 'PR108', grade: 'artist' }],
    };
    const { lesson: theirs, differences } = withVariant(lesson, variant({ children: true }));
    expect(theirs.steps.map((step) => [step.id, step.brushId, step.dryer, step.doMin])).toEqual([
      ['one', 'flat-3-4-in', undefined, 6],
    ]);
    expect(theirs.tubes.some((tube) => tube.id === 'cd')).toBe(false);
    expect(differences.join(' ')).toMatch(/labelled for them/);
  });
});
