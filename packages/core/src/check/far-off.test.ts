import { describe, expect, it } from '@jest/globals';
import type { Lab, Lesson } from '@viaticum/contract';
import { rgba } from '@viaticum/kernels/raster';
import { smallLesson, testStep } from '../fixtures/lessons.js';
import { planLesson } from '../plan/index.js';
import { offByAreas } from '../stage/index.js';
import { farFindings } from './far-off.js';
import { findings } from './index.js';

/** A sky `a` behind a hill `b` that fills the lower half, on 200 × 250 mm. */
const lesson: Lesson = {
  ...smallLesson([testStep('one', { kind: 'paint', technique: 'block-in', areaIds: ['b'] })]),
  level: 'beginner',
  tubes: [
    { id: 'white', pigment: 'PW6', grade: 'artist' },
    { id: 'black', pigment: 'PBk7', grade: 'artist' },
  ],
};
const picture = (grey: (x: number, y: number) => number) => {
  const out = rgba(200, 250);
  for (let y = 0; y < 250; y++)
    for (let x = 0; x < 200; x++) {
      const g = grey(x, y);
      out.data.set([g, g, g, 255], (y * 200 + x) * 4);
    }
  return out;
};
const reference = picture(() => 140);

describe('too far from the picture', () => {
  it('a canvas that is the picture lies nowhere off', () => {
    for (const off of offByAreas(lesson, reference, reference)) expect(off.mean).toBeLessThan(3);
    expect(farFindings(lesson, offByAreas(lesson, reference, reference))).toEqual([]);
  });
  it('an area that ends too dark is told, with how; the others are not', () => {
    const low = lesson.areas.find((area) => area.id === 'b')?.outline.flat(2) ?? [];
    const top = Math.min(...low.map(([, y]) => y));
    const offs = offByAreas(
      lesson,
      reference,
      picture((_, y) => (y > top + 12 ? 60 : 140)),
    );
    const found = farFindings(lesson, offs);
    expect(found.map((one) => one.id)).toEqual(['far-off/b']);
    expect(found[0]?.words).toMatch(/darker than there\.$/);
    expect(found[0]?.place).toMatchObject({ areaId: 'b', stepId: 'one' });
    // Beside all other findings, and it can be set aside like them.
    const plan = planLesson(lesson);
    expect(findings(lesson, plan, offs).map((one) => one.id)).toContain('far-off/b');
    expect(findings(lesson, plan).map((one) => one.id)).not.toContain('far-off/b');
    const aside = { ...lesson, setAside: [{ finding: 'far-off/b', why: 'at dusk on purpose' }] };
    expect(findings(aside, plan, offs).find((one) => one.id === 'far-off/b')?.setAside).toBe('at dusk on purpose');
  });
  it('where it is worst is said', () => {
    const offs = offByAreas(
      lesson,
      reference,
      picture((x) => (x > 120 ? 30 : 140)),
    );
    const words = farFindings(lesson, offs).map((one) => one.words);
    expect(words.length).toBeGreaterThan(0);
    for (const said of words) expect(said).toContain('on the right');
  });
  it('more is asked of the experienced than of beginners', () => {
    const offs = [
      { areaId: 'b', share: 0.4, mean: 9, painted: [40, 0, 0] as Lab, pictured: [50, 0, 0] as Lab, where: null },
      // A crumb is nobody's first look.
      { areaId: 'a', share: 0.004, mean: 30, painted: [40, 0, 0] as Lab, pictured: [80, 0, 0] as Lab, where: null },
    ];
    expect(farFindings(lesson, offs)).toEqual([]);
    expect(farFindings({ ...lesson, level: 'experienced' }, offs).map((one) => one.id)).toEqual(['far-off/b']);
  });
});

describe('one colour only', () => {
  const of = (targets: readonly Lab[]): Lesson => ({
    ...lesson,
    references: [
      {
        id: 'r',
        pictureSha256: '0'.repeat(64),
        widthPx: 2000,
        heightPx: 2500,
        role: 'whole',
        permission: { kind: 'own' },
        placement: { mmPerPx: 0.1, xMm: 0, yMm: 0, rotationDeg: 0, flip: false },
      },
    ],
    areas: lesson.areas.map((area, i) => ({ ...area, targetLab: targets[i] ?? [50, 0, 0] })),
  });
  const told = (one: Lesson) => findings(one, planLesson(one)).some(({ rule }) => rule === 'one-colour');
  it('is told where no area stands out from another, and not where one does', () => {
    expect(
      told(
        of([
          [60, 2, 4],
          [57, 2, 5],
        ]),
      ),
    ).toBe(true);
    expect(
      told(
        of([
          [60, 2, 4],
          [30, 2, 5],
        ]),
      ),
    ).toBe(false);
    expect(told(lesson)).toBe(false);
  });
});
