import { describe, expect, it } from '@jest/globals';
import type { Outline } from '@viaticum/contract';
import { visibleOf } from '../derived/index.js';
import { demoLesson, smallLesson, testStep } from '../fixtures/lessons.js';
import { type CommandArgs, type CommandName, carryOut, startHistory } from './index.js';

const box = (x: number, y: number, w: number, h: number): Outline => [
  [
    [
      [x, y],
      [x + w, y],
      [x + w, y + h],
      [x, y + h],
    ],
  ],
];
const start = () => startHistory(smallLesson([testStep('one', { areaIds: ['a'] }), testStep('two', { areaIds: ['b'] })]));
const after = <N extends CommandName>(name: N, args: CommandArgs<N>, from = start()) => carryOut(from, name, args);
const area = (history: ReturnType<typeof start>, id: string) =>
  visibleOf(history.lesson).find((part) => part.id === id)?.areaCm2 as number;
const whole = (history: ReturnType<typeof start>) => visibleOf(history.lesson).reduce((sum, part) => sum + part.areaCm2, 0);

describe('areas joined, divided and replaced', () => {
  it('joined: one area with both steps, and the canvas still covered', () => {
    const { lesson } = after('mergeAreas', { id: 'b', into: 'a' });
    expect(lesson.areas.map((area) => area.id)).toEqual(['a']);
    expect(lesson.steps.map((step) => step.areaIds)).toEqual([['a'], ['a']]);
    expect(whole(after('mergeAreas', { id: 'b', into: 'a' }))).toBeCloseTo(500, 6);
  });
  it('joined to one far behind: nothing that lies between is covered, and all else is seen as before', () => {
    const demo = startHistory(demoLesson());
    const before = new Map(visibleOf(demo.lesson).map((part) => [part.id, part.areaCm2]));
    for (const [id, into] of [
      ['baskets', 'sky'],
      ['sky', 'baskets'],
      ['edges', 'fields'],
    ] as const) {
      const joined = carryOut(demo, 'mergeAreas', { id, into });
      for (const part of visibleOf(joined.lesson)) {
        const was = (before.get(part.id) ?? 0) + (part.id === into ? (before.get(id) ?? 0) : 0);
        expect(Math.abs(part.areaCm2 - was)).toBeLessThan(0.05);
      }
    }
  });
  it('divided by a line: both pieces are in the steps, together they cover what was there', () => {
    const history = after('splitArea', {
      id: 'a',
      line: [
        [100, -10],
        [100, 300],
      ],
      area: { id: 'c', name: 'right sky' },
    });
    const before = area(start(), 'a');
    expect(area(history, 'a') + area(history, 'c')).toBeCloseTo(before, 3);
    expect(history.lesson.areas.map((area) => area.id)).toEqual(['a', 'c', 'b']);
    expect(history.lesson.steps[0]?.areaIds).toEqual(['a', 'c']);
    expect(() =>
      after('splitArea', {
        id: 'b',
        line: [
          [0, 5],
          [200, 5],
        ],
        area: { id: 'c', name: 'x' },
      }),
    ).toThrow(/does not cross/);
    expect(() =>
      after('splitArea', {
        id: 'b',
        line: [
          [5, 5],
          [5, 5],
        ],
        area: { id: 'c', name: 'x' },
      }),
    ).toThrow(/across the area/);
  });
  it('replaced: steps keep the areas that stay and lose the others', () => {
    const { lesson } = after('replaceAreas', {
      areas: [
        { id: 'b', name: 'hill', outline: box(0, 0, 200, 250) },
        { id: 'n', name: 'new', outline: box(0, 0, 50, 50) },
      ],
    });
    expect(lesson.steps.map((step) => step.areaIds)).toEqual([[], ['b']]);
    const heir = { id: 'n', name: 'new', outline: box(0, 0, 50, 50) };
    const passed = after('replaceAreas', { areas: [heir], heirs: { a: ['n'], b: ['n', 'gone'] } });
    expect(passed.lesson.steps.map((step) => step.areaIds)).toEqual([['n'], ['n']]);
  });
  it('a crossing outline that is drawn is made sound, one off the canvas is cut at its edge or refused', () => {
    const bow: Outline = [
      [
        [
          [10, 10],
          [60, 60],
          [60, 10],
          [10, 60],
        ],
      ],
    ];
    expect(area(after('addArea', { area: { id: 'n', name: 'bow', outline: bow } }), 'n')).toBeCloseTo(12.5, 1);
    const over = after('addArea', { area: { id: 'n', name: 'over', outline: box(150, 200, 500, 500) } });
    expect(
      over.lesson.areas
        .at(-1)
        ?.outline.flat(2)
        .every(([x, y]) => x <= 200 && y <= 250),
    ).toBe(true);
    expect(() => after('addArea', { area: { id: 'n', name: 'off', outline: box(900, 0, 50, 50) } })).toThrow(
      /encloses nothing on the canvas/,
    );
  });
});

describe('things', () => {
  const thing = { id: 'e', name: 'hill', fate: 'kept' as const };
  const withThing = () => after('addThing', { thing, areaIds: ['b'] });
  it('dropped: its areas are hidden, not lost; what lies behind is seen', () => {
    const gone = after('setFate', { id: 'e', fate: 'dropped' }, withThing());
    expect([area(gone, 'b'), area(gone, 'a')]).toEqual([0, 500]);
    const back = after('setFate', { id: 'e', fate: 'kept' }, gone);
    expect(area(back, 'b')).toBeGreaterThan(100);
  });
  it('dropped ones outlast new areas', () => {
    const gone = after('setFate', { id: 'e', fate: 'dropped' }, withThing());
    const fresh = after('replaceAreas', { areas: [{ id: 'n', name: 'new', outline: box(0, 0, 200, 250) }] }, gone);
    expect(fresh.lesson.areas.map((area) => area.id)).toEqual(['n', 'b']);
    expect(area(after('setFate', { id: 'e', fate: 'kept' }, fresh), 'b')).toBeGreaterThan(100);
  });
  it('moved and resized: its areas go along, and twice is the sum of both', () => {
    const once = after('moveThing', { id: 'e', dxMm: 10, dyMm: -20, scale: 1 }, withThing());
    expect(once.lesson.things[0]).toMatchObject({ fate: 'moved', move: { dxMm: 10, dyMm: -20, scale: 1 } });
    const twice = after('moveThing', { id: 'e', dxMm: 0, dyMm: 0, scale: 0.5 }, once);
    const { move } = twice.lesson.things[0] as { move: { dxMm: number; dyMm: number; scale: number } };
    // Where the picture's corner of the hill is now: by the move kept, and by the outline itself.
    const [x, y] = [move.scale * 0 + move.dxMm, move.scale * 150 + move.dyMm];
    expect(twice.lesson.areas[1]?.outline.flat(2)[0]).toEqual([Math.round(x * 100) / 100, Math.round(y * 100) / 100]);
    expect(() => after('moveThing', { id: 'e', dxMm: 0, dyMm: 0, scale: 50 }, withThing())).toThrow(/twentieth/);
  });
  it('without areas it goes; moved ones are not forgotten by mistake', () => {
    expect(after('removeArea', { id: 'b' }, withThing()).lesson.things).toEqual([]);
    expect(() => after('addThing', { thing, areaIds: [] })).toThrow(/at least one area/);
    const moved = after('moveThing', { id: 'e', dxMm: 1, dyMm: 1, scale: 1 }, withThing());
    expect(() => after('removeThing', { id: 'e' }, moved)).toThrow(/was moved/);
  });
});

describe('edges, directions, light', () => {
  it('an edge is kept once, whichever side it is set from', () => {
    let history = after('setEdge', { id: 'a', with: 'b', kind: 'soft' });
    history = after('setEdge', { id: 'b', with: 'a', kind: 'hard' }, history);
    expect(history.lesson.areas.flatMap((area) => area.edges ?? [])).toEqual([{ with: 'a', kind: 'hard' }]);
    expect(
      after('setEdge', { id: 'a', with: 'b', kind: null }, history).lesson.areas.flatMap((area) => area.edges ?? []),
    ).toEqual([]);
    expect(after('removeArea', { id: 'a' }, history).lesson.areas[0]?.edges).toEqual([]);
  });
  it('impossible numbers are refused with a sentence', () => {
    expect(() => after('setDirection', { id: 'a', deg: 400 })).toThrow(/between −180 and 180/);
    expect(() => after('setLight', { light: { azimuthDeg: 10, elevationDeg: 120 } })).toThrow(/between 0 and 90/);
    expect(() => after('setOverlap', { mm: Number.NaN })).toThrow(/0 to 60 mm/);
    expect(() => after('setSubject', { id: 'gone' })).toThrow(/no longer in the lesson/);
  });
});
