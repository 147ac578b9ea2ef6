/** @jest-environment ./tools/jest-page.mjs */
import { describe, expect, it } from '@jest/globals';
import { act, renderHook } from '@testing-library/react';
import type { ProposedThing } from '@viaticum/kernels/things';
import { held, placementOf, turnedSize, unmoved } from '../begin/placement.js';
import { type Things, tellingsOf, useThings } from './use-things.js';

const proposed: ProposedThing[] = [{ kind: 'background' }, { kind: 'subject' }];
const first = tellingsOf(proposed);
const telling = () => {
  const { result, rerender } = renderHook(({ of }: { of: typeof first }) => useThings(of), { initialProps: { of: first } });
  const doing = (what: (things: Things) => void) => act(() => what(result.current));
  return { now: () => result.current, doing, rerender };
};
const stroke = [
  [0.1, 0.1],
  [0.4, 0.4],
] as const;

describe('things that are told apart', () => {
  it('begin with the proposal, called by what they are', () => {
    const { now } = telling();
    expect(now().names).toEqual(['Background', 'Subject']);
    expect(now().marked).toEqual({ marks: [], things: 2, hints: [0, 1] });
    expect(now().isTouched).toBe(false);
  });
  it('a mark of none is a new thing, chosen at once; the next mark is its own', () => {
    const { now, doing } = telling();
    doing((things) => things.add('stroke', stroke));
    doing((things) => things.add('tap', [[0.5, 0.5]]));
    expect(now().marks.map((mark) => mark.thing)).toEqual([2, 2]);
    expect(now().chosen).toBe(2);
    expect(now().things[2]?.role).toBe('made');
    doing((things) => things.choose(null));
    doing((things) => things.add('ring', stroke));
    expect(now().things[3]?.role).toBe('feature');
  });
  it('a name says what it is and what it is made of, unless somebody said otherwise', () => {
    const { now, doing } = telling();
    doing((things) => things.rename(1, 'The old horse'));
    expect(now().told[1]).toEqual({ name: 'The old horse', role: 'subject', surface: 'long-hair' });
    doing((things) => things.setSurface(1, null));
    doing((things) => things.rename(1, 'Cat'));
    expect(now().told[1]).toEqual({ name: 'Cat', role: 'subject' });
  });
  it('two of one name are told apart', () => {
    const { now, doing } = telling();
    doing((things) => things.rename(0, 'Hedge'));
    doing((things) => things.rename(1, 'hedge '));
    expect(now().names).toEqual(['Hedge 1', 'hedge 2']);
  });
  it('a mark is taken back, and the names that were typed since stay', () => {
    const { now, doing } = telling();
    doing((things) => things.add('stroke', stroke));
    doing((things) => things.rename(0, 'Evening sky'));
    doing((things) => things.takeBack());
    expect(now().marks).toEqual([]);
    expect(now().names).toEqual(['Evening sky', 'Subject']);
    expect(now().isTouched).toBe(false);
  });
  it('what is taken away leaves the marks of the others with their things', () => {
    const { now, doing } = telling();
    doing((things) => things.choose(0));
    doing((things) => things.add('tap', [[0.9, 0.9]]));
    doing((things) => things.choose(1));
    doing((things) => things.add('tap', [[0.2, 0.2]]));
    doing((things) => things.remove(0));
    expect(now().marks).toEqual([{ thing: 0, kind: 'tap', points: [[0.2, 0.2]] }]);
    expect(now().things.map((one) => one.hint)).toEqual([1]);
    doing((things) => things.takeBack());
    expect(now().things).toHaveLength(2);
  });
  it('another crop begins anew', () => {
    const { now, doing, rerender } = telling();
    doing((things) => things.add('stroke', stroke));
    rerender({ of: tellingsOf([{ kind: 'sky' }]) });
    expect(now().names).toEqual(['Sky']);
    expect(now().marks).toEqual([]);
  });
  it('lines are things of their own: the next one joins the chosen, each is taken back by itself', () => {
    const { now, doing } = telling();
    const line = [
      [10, 10],
      [40, 12],
    ] as const;
    doing((things) => things.addLine(line));
    doing((things) => things.addLine(line));
    expect(now().lines.map((one) => one.along.length)).toEqual([2]);
    expect(now().lineNames).toEqual(['Lines']);
    doing((things) => things.changeLine(0, { name: 'Whiskers' }));
    doing((things) => things.takeBack());
    expect(now().lines.map(({ name, along }) => [name, along.length])).toEqual([['Whiskers', 1]]);
    doing((things) => things.choose(0));
    expect(now().chosenLine).toBeNull();
    doing((things) => things.addLine(line));
    expect(now().lineNames).toEqual(['Whiskers', 'Lines']);
    expect(now().toldLines[0]).toMatchObject({ name: 'Whiskers', along: [line] });
    // The things that are areas are told apart as before.
    expect(now().marked?.things).toBe(2);
    doing((things) => things.removeLine(0));
    expect(now().lineNames).toEqual(['Lines']);
  });
  it('a line keeps as many points as a line may have, with both its ends', () => {
    const { now, doing } = telling();
    doing((things) => things.addLine(Array.from({ length: 300 }, (_, i) => [i, i / 2] as const)));
    const [line] = now().toldLines[0]?.along ?? [];
    expect(line).toHaveLength(40);
    expect([line?.[0], line?.at(-1)]).toEqual([
      [0, 0],
      [299, 149.5],
    ]);
    doing((things) => things.addLine([[5, 5]]));
    expect(now().lines[0]?.along).toHaveLength(1);
  });
});

describe('a picture under its canvas', () => {
  const pixels = { widthPx: 1200, heightPx: 800 };
  const size = { widthMm: 400, heightMm: 300, unit: 'cm' as const };
  /** Whether a place of the canvas has a pixel under it. */
  const isCovered = (moved: typeof unmoved, x: number, y: number) => {
    const { mmPerPx, xMm, yMm, rotationDeg } = placementOf(pixels, size, moved);
    const turn = (-rotationDeg * Math.PI) / 180;
    const [dx, dy] = [x - xMm - (1200 * mmPerPx) / 2, y - yMm - (800 * mmPerPx) / 2];
    const px = (dx * Math.cos(turn) - dy * Math.sin(turn)) / mmPerPx + 600;
    const py = (dx * Math.sin(turn) + dy * Math.cos(turn)) / mmPerPx + 400;
    return px >= -0.01 && py >= -0.01 && px <= 1200.01 && py <= 800.01;
  };
  const corners = [
    [0, 0],
    [400, 0],
    [400, 300],
    [0, 300],
  ] as const;
  it('covers it wherever it is moved, and turned in its middle', () => {
    for (const moved of [
      unmoved,
      { ...unmoved, dxMm: 900, dyMm: -900 },
      { ...unmoved, zoom: 2, dxMm: -900, dyMm: 900 },
      { ...unmoved, turnDeg: 9 },
      { ...unmoved, turnDeg: -12, zoom: 1.5 },
    ])
      for (const [x, y] of corners) expect([moved, x, y, isCovered(moved, x, y)]).toEqual([moved, x, y, true]);
  });
  it('moves no farther than it reaches', () => {
    // At 3 : 2 it fills a canvas of 4 : 3 by its height: 450 mm wide, 25 to spare on either side.
    expect(held(pixels, size, { ...unmoved, dxMm: 900, dyMm: 50 })).toEqual({ ...unmoved, dxMm: 25, dyMm: 0 });
  });
  it('a canvas lies or stands', () => {
    const standing = { widthMm: 300, heightMm: 400, unit: 'cm' as const };
    expect(turnedSize(standing, true)).toEqual(size);
    expect(turnedSize(size, true)).toEqual(size);
    expect(turnedSize(size, false)).toEqual(standing);
  });
});
