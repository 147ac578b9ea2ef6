import { describe, expect, it } from '@jest/globals';
import { seeded } from '../fixtures/index.js';
import {
  type ClassStep,
  classWentOn,
  fingerprint,
  known,
  LADDER,
  newcomer,
  phi16,
  rung,
  rungOf,
  saidDone,
  saidLeftOut,
  saidSign,
  saidWentOn,
} from './index.js';

/** The normal distribution by its series (Abramowitz and Stegun 26.2.10, from memory). */
const normal = (z: number): number => {
  let [term, sum] = [z, z];
  for (let k = 1; k < 200; k++) {
    term *= (-z * z) / (2 * k);
    sum += term / (2 * k + 1);
  }
  return 0.5 + sum / Math.sqrt(2 * Math.PI);
};

describe('tables of whole numbers', () => {
  it('the normal distribution within one unit of 65536', () => {
    for (let z = -160; z <= 160; z += 1) expect(Math.abs(phi16(z) - 65536 * normal(z / 32))).toBeLessThan(1.1);
    expect([phi16(-500), phi16(0), phi16(500)]).toEqual([0, 32768, 65536]);
  });
  it('the ladder doubles every 64 rungs', () => {
    expect(LADDER).toHaveLength(64 * 17 + 1);
    LADDER.forEach((value, k) => {
      expect(value).toBe(Math.round(256 * 2 ** (k / 64)));
    });
    expect([rung(1), rung(2), rung(1024), rung(0)]).toEqual([0, 64, 640, 0]);
  });
});

/** A class of steps of eight minutes, two of them shown, in half minutes. */
const lesson = (count: number): ClassStep[] =>
  Array.from({ length: count }, (_, j) => ({ start: j * 16 + 4, left: j < count - 1 ? (j + 1) * 16 : null, rung: rungOf(360) }));

describe('a student as an inference', () => {
  it('Done on a later step settles the earlier ones at a likely time', () => {
    const one = newcomer('beginner', 0, 0);
    const steps = lesson(3);
    saidDone(one, steps, 0, 15, 'self');
    saidDone(one, steps, 2, 47, 'self');
    const [early, likely, late] = one.assumed[1] ?? [0, 0, 0];
    expect(early).toBeLessThanOrEqual(likely);
    expect(likely).toBeLessThanOrEqual(late);
    // The second was shown until 20 and the third until 36: it was finished between them.
    expect(likely).toBeGreaterThan(22);
    expect(late).toBeLessThan(42);
    expect(known(one, steps, 47).stepNow).toBe(3);
  });
  it('silence beyond the pace is unlikely; the more Dones were said, the less is one taken to be forgotten', () => {
    const after = (dones: number) => {
      const one = newcomer('beginner', 0, 0);
      const steps = lesson(dones + 1);
      for (let j = 0; j < dones; j++) {
        classWentOn(one, steps.slice(0, j + 1), j * 16);
        saidDone(one, steps.slice(0, j + 1), j, j * 16 + 15, 'self');
      }
      classWentOn(one, steps, dones * 16);
      return known(one, steps, dones * 16 + 30);
    };
    const [few, many] = [after(1), after(7)];
    expect(few.tail).toBeLessThan(0.1);
    expect(many.tail).toBeLessThan(0.05);
    expect(many.finished[0]).toBeLessThan((few.finished[0] as number) - 0.05);
    // In time, silence means nothing.
    const one = newcomer('beginner', 0, 0);
    const steps = lesson(1);
    expect(known(one, steps, 12).tail).toBeGreaterThan(0.5);
  });
  it('"still at it" holds the step open, "when we went on" closes it there, "left out" takes no time', () => {
    const steps = lesson(3);
    const open = newcomer('beginner', 0, 0);
    saidDone(open, steps, 0, 15, 'self');
    const before = known(open, steps, 38).finished[0] as number;
    saidSign(open, 1, [36, 1024, 8]);
    expect(known(open, steps, 38).finished[0]).toBeLessThan(before / 2);
    const closed = newcomer('beginner', 0, 0);
    saidDone(closed, steps, 0, 15, 'self');
    saidWentOn(closed, 1, 32);
    const [early, , late] = known(closed, steps, 40).spans[0] as [number, number, number];
    expect(early).toBeGreaterThanOrEqual(24);
    expect(late).toBeLessThanOrEqual(35);
    const out = newcomer('beginner', 0, 0);
    saidDone(out, steps, 0, 15, 'self');
    saidLeftOut(out, 1);
    expect(known(out, steps, 33).finished[0]).toBe(1);
  });
  it('lateness falls as they work, and never grows faster than time', () => {
    const one = newcomer('beginner', 0, 0);
    const steps = lesson(4);
    saidDone(one, steps, 0, 28, 'self');
    let before = known(one, steps, 48).late.mean;
    expect(before).toBeGreaterThan(4);
    for (let tick = 49; tick < 90; tick++) {
      const { mean } = known(one, steps, tick).late;
      expect(mean).toBeGreaterThanOrEqual(0);
      expect(mean - before).toBeLessThanOrEqual(1);
      before = mean;
    }
  });
  it('looking changes nothing', () => {
    const one = newcomer('improver', 0, 0);
    const steps = lesson(3);
    saidDone(one, steps, 0, 14, 'self');
    const hash = fingerprint(one);
    for (let tick = 14; tick < 60; tick++) known(one, steps, tick);
    expect(fingerprint(one)).toBe(hash);
  });
  // Frozen: another engine, or a change of a rule, shows here.
  it('the same class gives the same fingerprint, bit for bit', () => {
    const random = seeded(2026);
    const prints = Array.from({ length: 3 }, () => {
      const one = newcomer('beginner', 0, 0);
      const steps: ClassStep[] = [];
      let at = 2;
      for (let k = 0; k < 10; k++) {
        const last = steps.at(-1);
        if (last) last.left = at;
        steps.push({ start: at + 3, left: null, rung: rungOf(180 + Math.floor(random() * 600)) });
        classWentOn(one, steps, at);
        const lasts = 14 + Math.floor(random() * 16);
        if (random() < 0.6) saidDone(one, steps, Math.max(0, k - (random() < 0.3 ? 1 : 0)), at + lasts - 2, 'self');
        else if (random() < 0.5) saidSign(one, k, [at + 8, 1024, 170]);
        at += lasts;
      }
      return fingerprint(one);
    });
    expect(prints).toEqual(['33d43525', '243b33f8', '3dc69e3d']);
  });
});
