import { describe, expect, it } from '@jest/globals';
import type { Lesson, TwinOf } from '@viaticum/contract';
import { outlineArea, outlineBox } from '../area/index.js';
import { smallLesson, testStep } from '../fixtures/lessons.js';
import { carryOut, type History, lessonFaults, startHistory, undo } from './index.js';

const square = (x: number, y: number, size: number) => [
  [
    [
      [x, y],
      [x + size, y],
      [x + size, y + size],
      [x, y + size],
    ] as [number, number][],
  ],
];
/** A kiosk of two areas that stands at 150 mm, over a sky and a canal. */
const lesson = (): Lesson => {
  const base = smallLesson([
    testStep('back', { areaIds: ['a', 'b'] }),
    testStep('wall', { areaIds: ['wall'], mixIds: ['m'] }),
    testStep('roof', { areaIds: ['roof'], mixIds: ['m'] }),
  ]);
  return {
    ...base,
    things: [{ id: 'kiosk', name: 'kiosk', fate: 'kept' }],
    areas: [
      ...base.areas,
      { id: 'wall', name: 'wall', thingId: 'kiosk', outline: square(40, 110, 40), targetLab: [60, 10, 10], directionDeg: 20 },
      { id: 'roof', name: 'roof', thingId: 'kiosk', outline: square(35, 90, 20), edges: [{ with: 'wall', kind: 'soft' }] },
    ],
    mixes: [...base.mixes, { id: 'red', name: 'red', areaId: 'wall', recipe: [] }],
  };
};
const twinOf: TwinOf = {
  thingId: 'kiosk',
  kind: 'reflection',
  baseMm: 150,
  bankM: 0,
  eyeM: 1.6,
  horizonMm: 100,
  onAreaId: 'b',
};
const twinned = (rest: Partial<TwinOf> = {}): History =>
  carryOut(startHistory(lesson()), 'addTwin', { id: 'mirror', name: 'reflection', twinOf: { ...twinOf, ...rest } });
const own = ({ lesson: { areas } }: History) => areas.filter((area) => area.thingId === 'mirror');

describe('a twin', () => {
  it('has an area for each of its object’s, mirrored about the water, with its target, edges and direction', () => {
    const twin = own(twinned());
    expect(twin.map((area) => area.name)).toEqual(['wall, reflected', 'roof, reflected']);
    expect(outlineBox(twin[0]?.outline ?? [])).toEqual({ x: 40, y: 150, width: 40, height: 40 });
    expect(outlineBox(twin[1]?.outline ?? [])).toEqual({ x: 35, y: 190, width: 20, height: 20 });
    expect(twin[0]?.targetLab).toEqual([60, 10, 10]);
    expect(twin[0]?.directionDeg).toBe(-20);
    expect(twin[1]?.edges).toEqual([{ with: twin[0]?.id, kind: 'soft' }]);
  });
  it('mirrors the bank that it stands on with it, down to where the water begins', () => {
    const bank = {
      id: 'bank',
      name: 'bank',
      outline: [
        [
          [
            [0, 150],
            [200, 150],
            [200, 170],
            [0, 170],
          ],
        ],
      ] as never,
    };
    const start = startHistory({ ...lesson(), areas: [...lesson().areas, bank] });
    const history = carryOut(start, 'addTwin', {
      id: 'mirror',
      name: 'reflection',
      twinOf: { ...twinOf, bankM: 0.5, bankAreaIds: ['bank'] },
    });
    const mirrored = own(history).find(({ name }) => name === 'bank, reflected');
    const wall = outlineBox(own(history).find(({ name }) => name === 'wall, reflected')?.outline ?? []);
    const box = outlineBox(mirrored?.outline ?? []);
    // What lies below the water line is no bank; the wall's image begins where the bank's ends.
    expect(box?.width).toBe(200);
    expect((box?.y ?? 0) + (box?.height ?? 0)).toBeCloseTo(wall?.y ?? 0, 1);
    const without = carryOut(history, 'editTwin', { id: 'mirror', twinOf: { bankAreaIds: [] } });
    expect(own(without).some(({ name }) => name === 'bank, reflected')).toBe(false);
  });
  it('is painted by steps of its own, each after its object’s, in the mixes of its object', () => {
    const history = twinned();
    const [wall] = own(history);
    const at = history.lesson.steps.findIndex((step) => step.id === 'wall');
    expect(history.lesson.steps[at]?.areaIds).toEqual(['wall']);
    expect(history.lesson.steps[at + 1]).toMatchObject({ title: 'Wall, reflected', areaIds: [wall?.id] });
    expect(history.lesson.mixes.find((mix) => mix.id === 'red')?.alsoAreaIds).toEqual([wall?.id]);
    expect(lessonFaults(history.lesson)).toEqual([]);
  });
  it('follows its object when that moves, changes its form, its steps, and comes and goes; one undo takes both back', () => {
    let history = carryOut(twinned(), 'moveThing', { id: 'kiosk', dxMm: 10, dyMm: -5, scale: 1 });
    expect(outlineBox(own(history)[0]?.outline ?? [])).toEqual({ x: 50, y: 155, width: 40, height: 40 });
    history = undo(history);
    expect(outlineBox(own(history)[0]?.outline ?? [])).toEqual({ x: 40, y: 150, width: 40, height: 40 });
    history = carryOut(history, 'setOutline', { id: 'roof', outline: square(30, 80, 30) });
    expect(outlineBox(own(history)[1]?.outline ?? [])).toEqual({ x: 30, y: 190, width: 30, height: 30 });
    history = carryOut(history, 'removeArea', { id: 'roof' });
    expect(own(history)).toHaveLength(1);
    expect(history.lesson.steps.find((step) => step.id === 'roof')?.areaIds).toEqual([]);
    history = carryOut(history, 'editStep', { id: 'roof', step: { areaIds: ['wall'] } });
    // It is painted already: what its thing gets besides is the instructor's to repeat.
    expect(history.lesson.steps.find((step) => step.id === 'roof')?.areaIds).toEqual(['wall']);
    expect(history.lesson.steps.filter((step) => step.areaIds.includes(own(history)[0]?.id ?? ''))).toHaveLength(1);
    history = carryOut(history, 'removeTwin', { id: 'mirror' });
    expect(own(history)).toEqual([]);
    expect(history.lesson.steps.flatMap((step) => step.areaIds)).toEqual(['a', 'b', 'wall', 'wall']);
  });
  it('with a bank the water lies lower, and the foot of the thing is not seen in it', () => {
    const [wall] = own(twinned({ bankM: 0.4 }));
    // horizon 100, foot 150, eye 1.6 over water, bank 0.4: 100 + 50 · 1.6 / 1.2.
    const line = 100 + (50 * 1.6) / 1.2;
    expect(outlineBox(wall?.outline ?? [])?.y).toBeCloseTo(2 * line - 150, 1);
  });
  it('pulled down, every column is a share of how high the thing stands there', () => {
    const [wall] = own(twinned({ kind: 'pull', share: 0.5 }));
    expect(outlineBox(wall?.outline ?? [])).toEqual({ x: 40, y: 150, width: 40, height: 20 });
    expect(outlineArea(wall?.outline ?? [])).toBeCloseTo(800, 0);
  });
  it('of a thing that is gone goes too; one of a twin is refused', () => {
    const history = twinned();
    expect(() => carryOut(history, 'addTwin', { id: 'second', name: 'again', twinOf: { ...twinOf, thingId: 'mirror' } })).toThrow(
      /no reflection of its own/,
    );
    const gone = carryOut(history, 'removeThing', { id: 'kiosk' });
    expect(own(gone)).toEqual([]);
    expect(gone.lesson.things).toEqual([]);
  });
});
