import { describe, expect, it } from '@jest/globals';
import type { Lesson } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { mixColour } from '@viaticum/kernels/mixing';
import { smallLesson } from '../fixtures/lessons.js';
import { lookOtherwise } from './index.js';

const lesson: Lesson = {
  ...smallLesson([]),
  tubes: [
    { id: 'w', pigment: 'PW6', grade: 'artist' },
    { id: 'y', pigment: 'PY74', grade: 'artist' },
    { id: 'r', pigment: 'PR254', grade: 'artist' },
    { id: 'pink', pigment: 'portrait pink', grade: 'student' },
    { id: 'own', pigment: 'PB29', grade: 'artist', own: { name: 'dusk', masstoneLab: [35, 8, -30] } },
  ],
  mixes: [
    { id: 'white', name: 'white', recipe: [{ tubeId: 'w', parts: 1 }] },
    {
      id: 'orange',
      name: 'orange',
      recipe: [
        { tubeId: 'y', parts: 3 },
        { tubeId: 'r', parts: 1 },
      ],
    },
    { id: 'skin', name: 'skin', recipe: [{ tubeId: 'pink', parts: 1 }] },
    { id: 'dusk', name: 'dusk', recipe: [{ tubeId: 'own', parts: 1 }] },
    { id: 'none', name: 'none', recipe: [] },
    { id: 'within', name: 'within', recipe: [{ tubeId: 'w', parts: 1 }], mixedFrom: [{ mixId: 'orange', parts: 2 }] },
  ],
};

describe('mixes of an older lesson', () => {
  it('those that look otherwise now are named, most changed first; white and a tube of one’s own look as they did', () => {
    const changed = lookOtherwise(lesson);
    const ids = changed.map((one) => one.mixId);
    expect(ids).toEqual(expect.arrayContaining(['orange', 'skin', 'within']));
    expect(ids).not.toContain('white');
    expect(ids).not.toContain('dusk');
    expect(ids).not.toContain('none');
    const apart = changed.map((one) => one.deltaE);
    expect(apart).toEqual([...apart].sort((one, other) => other - one));
    for (const one of changed) expect(one.deltaE).toBeCloseTo(deltaE00(one.before, one.now), 9);
  });
  it('three parts of yellow to one of red were a red and are an orange (common practice, no published source)', () => {
    const orange = lookOtherwise(lesson).find((one) => one.mixId === 'orange');
    const hue = ([, a, b]: readonly number[]) => (Math.atan2(b as number, a as number) * 180) / Math.PI;
    expect(hue(orange?.now ?? [])).toBeGreaterThan(hue(orange?.before ?? []) + 5);
    expect(orange?.now).toEqual(
      mixColour([
        { pigment: 'PY74', parts: 3 },
        { pigment: 'PR254', parts: 1 },
      ]).lab,
    );
  });
});
