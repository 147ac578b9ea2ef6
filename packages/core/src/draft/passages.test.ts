import { describe, expect, it } from '@jest/globals';
import type { Lesson } from '@viaticum/contract';
import { carryOut, lessonFaults, startHistory, undo } from '../document/index.js';
import { smallLesson, testStep } from '../fixtures/index.js';
import { planLesson } from '../plan/index.js';
import { areaFacts, asDrafted, draftLesson, freeGains, passageOfSteps } from './index.js';

const counter = () => {
  let n = 0;
  return () => `p${++n}`;
};
const mix = (id: string, areaId: string, l: number) => ({
  id,
  name: id,
  recipe: [],
  areaId,
  targetLab: [l, 4, -10] as [number, number, number],
});
/** Four bands of a sky, each border of which passes into the next over so many mm. */
const bands = (widthMm: number, contrast: number): Lesson => {
  const base = smallLesson([]);
  const areas = [0, 1, 2, 3].map((k) => ({
    id: `b${k}`,
    name: `sky band ${k + 1}`,
    outline: [
      [
        [
          [0, k * 60],
          [200, k * 60],
          [200, k * 60 + 60],
          [0, k * 60 + 60],
        ],
      ],
    ] as Lesson['areas'][number]['outline'],
    ...(k > 0 ? { edges: [{ with: `b${k - 1}`, kind: 'lost' as const, widthMm, contrast }] } : {}),
  }));
  return {
    ...base,
    support: { ...base.support, heightMm: 240 },
    school: { ...base.school, ground: 'white', drawing: 'none' },
    areas,
    mixes: areas.map((area, k) => mix(`m${k}`, area.id, 45 + 12 * k)),
  };
};

describe('wet passages', () => {
  it('four bands whose borders are lost over some width are one coat without a wait', () => {
    const lesson = asDrafted(bands(18, 14), draftLesson(bands(18, 14), counter()));
    expect(lesson.passages).toHaveLength(1);
    const [step, ...others] = lesson.steps.filter((one) => one.kind === 'paint');
    expect(step).toMatchObject({ areaIds: ['b0', 'b1', 'b2', 'b3'], technique: 'blend', title: 'Sky band: one wet passage' });
    expect(others).toEqual([]);
    expect(planLesson(lesson).plan.waitMin).toBe(0);
  });
  it('narrow borders, and colours too far apart to pass into each other, are no passage', () => {
    for (const [widthMm, contrast] of [
      [1, 14],
      [18, 40],
    ] as const)
      expect(draftLesson(bands(widthMm, contrast), counter()).passages).toEqual([]);
  });
  it('is found among the areas that are seen alone', () => {
    expect(areaFacts(bands(18, 14)).areas).toHaveLength(4);
  });
  it('steps are made into one and parted again; undone, all is as it was', () => {
    const start = {
      ...bands(1, 14),
      steps: [0, 1].map((k) => testStep(`s${k}`, { areaIds: [`b${k}`], mixIds: [`m${k}`], stageId: 'st' })),
      stages: [{ id: 'st', name: 'x' }],
    };
    const args = passageOfSteps(start, ['s0', 's1'], counter());
    const made = carryOut(startHistory(start), 'makePassage', args as never);
    expect(made.lesson.steps).toHaveLength(1);
    expect(made.lesson.passages[0]?.places).toEqual([
      { mixId: 'm0', areaId: 'b0' },
      { mixId: 'm1', areaId: 'b1' },
    ]);
    expect(lessonFaults(made.lesson)).toEqual([]);
    const parted = carryOut(made, 'partPassage', { id: made.lesson.passages[0]?.id as string, ids: ['n1'] });
    expect(parted.lesson.passages).toEqual([]);
    expect(parted.lesson.steps.map((step) => [step.areaIds, step.mixIds])).toEqual([
      [['b0'], ['m0']],
      [['b1'], ['m1']],
    ]);
    expect(undo(undo(parted)).lesson).toEqual(start);
    expect(passageOfSteps(start, ['s0'], counter())).toBeNull();
    const same = { ...start, steps: start.steps.map((step) => ({ ...step, areaIds: ['b0'] })) };
    expect(passageOfSteps(same, ['s0', 's1'], counter())).toBeNull();
  });
  it('bands painted one by one are made one on the way to a shorter lesson, and only where they pass into each other', () => {
    const oneByOne = (lesson: Lesson): Lesson => ({
      ...lesson,
      steps: [0, 1, 2, 3].map((k) => testStep(`s${k}`, { areaIds: [`b${k}`], mixIds: [`m${k}`], stageId: 'st' })),
      stages: [{ id: 'st', name: 'x' }],
    });
    const soft = oneByOne(bands(18, 14));
    const { gains } = freeGains(soft, counter());
    const join = gains.find((gain) => gain.kind === 'join');
    expect(join?.passages?.map((one) => one.instead)).toEqual([['s0', 's1', 's2', 's3']]);
    let history = startHistory(soft);
    for (const { order = null, edits = [], passages = [] } of gains)
      history = carryOut(history, 'fitToLength', { minutes: 60, leaveOut: [], bringBack: [], order, edits, passages });
    expect(history.lesson.passages[0]?.areaIds).toEqual(['b0', 'b1', 'b2', 'b3']);
    expect(planLesson(history.lesson).plan.endMin).toBeCloseTo(join?.endMin ?? 0, 6);
    expect(freeGains(oneByOne(bands(1, 14)), counter()).gains.some((gain) => gain.kind === 'join')).toBe(false);
  });
});
