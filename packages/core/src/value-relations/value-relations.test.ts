import { describe, expect, it } from '@jest/globals';
import type { Lab, Lesson } from '@viaticum/contract';
import { looksOf } from '../derived/index.js';
import { demoLesson, smallLesson, testStep } from '../fixtures/lessons.js';
import { announcement } from '../text/index.js';
import { colourAfter, relationsOf, roughestStage } from './index.js';

/** Sky `a` to be lighter than hill `b`; mixes from white to near black. */
const lesson = (steps: Lesson['steps']): Lesson => {
  const base = smallLesson(steps);
  const [sky, hill] = base.areas as [Lesson['areas'][number], Lesson['areas'][number]];
  return {
    ...base,
    areas: [
      { ...sky, targetLab: [80, 0, 0] },
      { ...hill, targetLab: [40, 0, 0] },
    ],
    tubes: [
      { id: 'w', pigment: 'PW6', grade: 'artist' },
      { id: 'k', pigment: 'PBk9', grade: 'artist' },
    ],
    mixes: [
      { id: 'm', name: 'white', recipe: [{ tubeId: 'w', parts: 1 }] },
      {
        id: 'grey',
        name: 'grey',
        recipe: [
          { tubeId: 'w', parts: 4 },
          { tubeId: 'k', parts: 1 },
        ],
      },
      { id: 'dark', name: 'dark', recipe: [{ tubeId: 'k', parts: 1 }] },
    ],
  };
};

describe('value relations by stage', () => {
  const turned = lesson([
    testStep('sky dark', { areaIds: ['a'], mixIds: ['dark'] }),
    testStep('hill pale', { areaIds: ['b'], mixIds: ['m'], needs: 'paintOver' }),
    testStep('sky light', { areaIds: ['a'], mixIds: ['m'], needs: 'paintOver' }),
    testStep('hill dark', { areaIds: ['b'], mixIds: ['grey'], needs: 'paintOver' }),
  ]);

  it('says which step turns two neighbours round, which sets them right, and when each is due', () => {
    const { changes, areas } = relationsOf(turned);
    expect(changes.map((one) => [one.stepId, one.kind])).toEqual([
      ['hill pale', 'breaks'],
      ['sky light', 'repairs'],
    ]);
    expect(changes[0]?.isL).toBeGreaterThan(0);
    expect(changes[0]?.shouldL).toBe(-40);
    expect(areas.map((area) => [area.areaId, area.dueStepId])).toEqual([
      ['a', 'sky light'],
      ['b', 'hill dark'],
    ]);
    const grey = looksOf(turned).get('grey')?.colour?.lab as Lab;
    expect(areas[1]?.offL).toBeCloseTo(grey[0] - 40, 6);
  });

  it('neighbours that are to be alike have no order to break; without targets nothing is said', () => {
    const alike = { ...turned, areas: turned.areas.map((area) => ({ ...area, targetLab: [60, 0, 0] as Lab })) };
    expect(relationsOf(alike).changes).toEqual([]);
    const none = { ...turned, areas: turned.areas.map(({ targetLab: _, ...area }) => area) };
    expect(relationsOf(none).changes).toEqual([]);
    expect(relationsOf(none).areas.every((area) => area.offL === null)).toBe(true);
  });

  it('a broken coat changes a colour by its share, and a glaze by less', () => {
    const white: Lab = [96, 0, 0];
    const half = testStep('half', { mixIds: ['dark'], coverShare: 0.5 });
    const dark = looksOf(turned).get('dark')?.colour?.lab as Lab;
    expect(colourAfter(turned, half, white)?.[0]).toBeCloseTo((96 + dark[0]) / 2, 6);
    const glazed = colourAfter(turned, { ...half, technique: 'glaze' }, white)?.[0] as number;
    expect(glazed).toBeGreaterThan((96 + dark[0]) / 2 + 5);
    expect(colourAfter(turned, { ...half, mixIds: [] }, white)).toBe(white);
    expect(colourAfter(turned, half, null)?.[0]).toBeCloseTo(dark[0], 6);
  });
});

describe('the roughest stage', () => {
  const staged = (steps: Lesson['steps']): Lesson => ({
    ...lesson(steps),
    stages: ['one', 'two', 'three'].map((id) => ({ id, name: `stage ${id}` })),
  });
  const rough = staged([
    testStep('1', { stageId: 'one', areaIds: ['a', 'b'], mixIds: ['dark'] }),
    testStep('2', { stageId: 'two', areaIds: ['b'], mixIds: ['m'], needs: 'paintOver' }),
    testStep('3', { stageId: 'three', areaIds: ['a'], mixIds: ['m'], needs: 'paintOver' }),
    testStep('4', { stageId: 'three', areaIds: ['b'], mixIds: ['grey'], needs: 'paintOver' }),
  ]);
  it('is the one farthest from the goal once all is covered, with a sentence to announce it', () => {
    const found = roughestStage(rough);
    expect(found?.stageId).toBe('two');
    expect(found?.off).toBeGreaterThan(found?.endOff ?? 99);
    expect(announcement((found as NonNullable<typeof found>).name)).toContain('stage two');
  });
  it('by measured pictures where there are some; none where every stage is as good as the end', () => {
    const measured = new Map([
      ['1', 20],
      ['2', 9],
      ['3', 5],
      ['4', 3],
    ]);
    expect(roughestStage(rough, measured)?.stageId).toBe('one');
    expect(
      roughestStage(
        rough,
        new Map([
          ['1', 4],
          ['2', 4],
          ['4', 3],
        ]),
      ),
    ).toBeNull();
    expect(roughestStage({ ...rough, steps: [] })).toBeNull();
  });
  it('the demo lesson, whose areas have no targets of their own, is judged by its mixes’', () => {
    expect(() => roughestStage(demoLesson())).not.toThrow();
  });
});
