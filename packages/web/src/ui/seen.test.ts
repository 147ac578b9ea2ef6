import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { type Seen, seenAt, seenMoved, whole } from './seen.js';

const share = fc.double({ min: 0, max: 1, noNaN: true });
/** Where a place of the frame lies on the canvas. */
const placeOf = ({ scale, left, top }: Seen, x: number, y: number) => [left + x / scale, top + y / scale] as const;

describe('what is seen of a canvas', () => {
  it('nearer and farther never shows anything beside it, whatever is done', () => {
    const act = fc.oneof(
      fc.record({ near: fc.double({ min: 0.1, max: 20, noNaN: true }), x: share, y: share }),
      fc.record({ dx: fc.double({ min: -2, max: 2, noNaN: true }), dy: fc.double({ min: -2, max: 2, noNaN: true }) }),
    );
    fc.assert(
      fc.property(fc.array(act, { maxLength: 20 }), (acts) => {
        let seen = whole;
        for (const one of acts) seen = 'near' in one ? seenAt(seen, one.near, one.x, one.y) : seenMoved(seen, one.dx, one.dy);
        expect(seen.scale).toBeGreaterThanOrEqual(1);
        expect(seen.scale).toBeLessThanOrEqual(8);
        for (const from of [seen.left, seen.top]) {
          expect(from).toBeGreaterThanOrEqual(0);
          expect(from + 1 / seen.scale).toBeLessThanOrEqual(1 + 1e-9);
        }
      }),
      { seed: 3, numRuns: 300 },
    );
  });
  it('what lies under the fingers stays there while one comes nearer', () => {
    fc.assert(
      fc.property(share, share, fc.double({ min: 1, max: 8, noNaN: true }), (x, y, near) => {
        const before = placeOf(whole, x, y);
        const after = placeOf(seenAt(whole, near, x, y), x, y);
        expect(after[0]).toBeCloseTo(before[0], 9);
        expect(after[1]).toBeCloseTo(before[1], 9);
      }),
      { seed: 4, numRuns: 200 },
    );
  });
  it('moved, it follows the pointer until the edge', () => {
    const near = seenAt(whole, 4, 0.5, 0.5);
    expect(seenMoved(near, 0.2, 0)).toEqual({ ...near, left: near.left - 0.05 });
    expect(seenMoved(near, 9, -9)).toEqual({ scale: 4, left: 0, top: 0.75 });
    expect(seenMoved(whole, 0.5, 0.5)).toEqual(whole);
  });
});
