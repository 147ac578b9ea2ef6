import { describe, expect, it } from '@jest/globals';
import type { Lesson, Mix, Tube } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { toEnd } from '@viaticum/kernels/cooperative';
import { mixColour } from '@viaticum/kernels/mixing';
import { lessonFaults } from '../document/index.js';
import { demoLesson } from '../fixtures/lessons.js';
import { paintOf, recipeParts, shortTubeName, stockOf } from '../mix/index.js';
import {
  coveringOf,
  filmOf,
  followSheet,
  groundUnder,
  lackingTubes,
  looksOf,
  nearTwins,
  otherRecipesSheet,
  paintsOf,
  substitutes,
} from './index.js';

const demo = demoLesson();
const tubeOf = (id: string) => demo.tubes.find((tube) => tube.id === id) as Tube;
const withMixes = (...mixes: Mix[]): Lesson => ({ ...demo, mixes: [...demo.mixes, ...mixes] });

describe('what a tube’s paint is', () => {
  it('student grade is weaker: more of it is needed for the same tint, and it covers less', () => {
    const artist = tubeOf('ultramarine');
    const student: Tube = { ...artist, grade: 'student' };
    const tint = (tube: Tube) =>
      mixColour([
        { pigment: paintOf(tube), parts: 1 },
        { pigment: 'PW6', parts: 8 },
      ]).lab;
    expect(tint(student)[0]).toBeGreaterThan(tint(artist)[0] + 3);
    const white = tubeOf('white');
    const ratio = (tube: Tube) =>
      mixColour([{ pigment: paintOf(tube), parts: 1 }], { film: { dryUm: 20 } }).contrastRatio as number;
    // Common practice, no published source: student white needs about twice the layers.
    expect(ratio({ ...white, grade: 'student' })).toBeLessThan(ratio(white) - 0.01);
  });

  it('one of one’s own is as its sample, under its own name', () => {
    const own: Tube = {
      id: 'o',
      pigment: 'PB29',
      grade: 'artist',
      own: { name: 'dusk blue', masstoneLab: [35, 8, -30] },
    };
    expect(shortTubeName(own)).toBe('dusk blue');
    expect(deltaE00(mixColour([{ pigment: paintOf(own), parts: 1 }]).lab, [35, 8, -30])).toBeLessThan(2);
  });
});

describe('mixes mixed from mixes', () => {
  const mid: Mix = {
    id: 'mid',
    name: 'mid sky',
    recipe: [{ tubeId: 'ultramarine', parts: 'touch' }],
    mixedFrom: [{ mixId: 'm-high', parts: 2 }],
  };
  it('look as if mixed from the tubes within', () => {
    const lesson = withMixes(mid);
    const look = looksOf(lesson).get('mid');
    // m-high is 9 white, 3 ultramarine, a touch of red: 12 1/16 parts to one of the mix.
    const total = 12 + 1 / 16;
    const tubes = [
      { pigment: 'PW6', parts: (2 * 9) / total },
      { pigment: 'PB29', parts: (2 * 3) / total + 1 / 16 },
      { pigment: 'PR254', parts: 2 / 16 / total },
    ];
    expect(deltaE00(look?.colour?.lab as [number, number, number], mixColour(tubes).lab)).toBeLessThan(1e-6);
    expect(look?.words).toBe('2 high sky : a touch of ultramarine');
  });

  it('one that would be part of itself is left out, and told as a fault', () => {
    const lesson = withMixes(
      { ...mid, mixedFrom: [{ mixId: 'other', parts: 1 }] },
      { id: 'other', name: 'other', recipe: [], mixedFrom: [{ mixId: 'mid', parts: 1 }] },
    );
    expect(recipeParts(lesson.mixes.find((mix) => mix.id === 'mid') as Mix, lesson)).toHaveLength(1);
    expect(lessonFaults(lesson)).toEqual(['mid sky: it is mixed from itself.', 'other: it is mixed from itself.']);
    expect(lessonFaults(withMixes({ ...mid, mixedFrom: [{ mixId: 'gone', parts: 1 }] }))).toEqual([
      'mid sky: it is mixed from a mix that is not in the lesson.',
    ]);
  });

  it('one let down beforehand counts as a tube when recipes are sought', () => {
    expect(paintsOf(demo).map((paint) => paint.id)).toEqual(demo.tubes.map((tube) => tube.id));
    const lesson = withMixes({
      id: 'weak',
      name: 'weak phthalo',
      letDown: true,
      recipe: [
        { tubeId: 'white', parts: 10 },
        { tubeId: 'phthalo', parts: 1 },
      ],
    });
    expect(paintsOf(lesson).map((paint) => paint.id)).toContain('weak');
    expect(stockOf(lesson, ['phthalo']).map((paint) => paint.id)).not.toContain('weak');
    expect(paintsOf(lesson)).toBe(paintsOf({ ...lesson, title: 'renamed' }));
  });
});

describe('what lies under a mix and how it covers', () => {
  it('the ground lies on gesso, everything else on the toned ground', () => {
    expect(groundUnder(demo, 'm-ground')[0]).toBeGreaterThan(90);
    expect(groundUnder(demo, 'm-red')).toEqual(looksOf(demo).get('m-ground')?.colour?.lab);
  });
  it('the film is that of the step that lays it', () => {
    expect(filmOf(demo, 'm-ground').technique).toBe('wash');
    expect(filmOf(demo, 'm-ground').dryUm).toBeLessThan(filmOf(demo, 'm-green').dryUm);
  });
  it('the pale low sky needs more layers over a dark than the near ridge needs', () => {
    const of = (id: string) => coveringOf(demo, demo.mixes.find((mix) => mix.id === id) as Mix);
    expect(of('m-near')?.coats).toBeLessThanOrEqual(of('m-low')?.coats ?? 99);
    expect(of('m-ground')?.glaze).toBeNull();
    expect(coveringOf(demo, { ...(demo.mixes[0] as Mix), mediumParts: 10 })?.glaze).not.toBeNull();
  });
});

describe('a student without a tube', () => {
  const others = toEnd(substitutes(demo, ['magenta']));
  const needing = demo.mixes.filter((mix) => mix.recipe.some((part) => part.tubeId === 'magenta')).map((mix) => mix.id);

  it('gets another recipe for every mix that needs it, and only for those', () => {
    expect(others.map((one) => one.mixId)).toEqual(needing);
    for (const one of others) {
      expect(one.parts.map((part) => part.tubeId)).not.toContain('magenta');
      const shown = looksOf(demo).get(one.mixId)?.colour?.lab as [number, number, number];
      const mixed = mixColour(one.parts.map(({ tubeId, parts }) => ({ pigment: paintOf(tubeOf(tubeId)), parts }))).lab;
      expect(deltaE00(shown, mixed)).toBeCloseTo(one.deltaE, 9);
    }
  });

  it('the difference from what the class sees is said', () => {
    const far = others.find((one) => one.mixId === 'm-far');
    expect(far?.off).not.toBe('');
    const sheet = otherRecipesSheet(demo, others);
    expect(sheet['m-far']).toMatchObject({ id: 'm-far', name: 'far ridge', words: far?.words, instead: far?.off });
  });

  it('nothing changes where no mix needs the tube, and nothing is mixed from nothing', () => {
    expect(toEnd(substitutes(demo, ['not here']))).toEqual([]);
    expect(
      toEnd(
        substitutes(
          demo,
          demo.tubes.map((tube) => tube.id),
        ),
      ),
    ).toEqual([]);
    expect(lackingTubes(demo, [])).toEqual([]);
    expect(
      lackingTubes(
        demo,
        demo.tubes.slice(1).map((tube) => tube.id),
      ),
    ).toEqual(['white']);
  });

  it('phones are told only of tubes that students should have', () => {
    const lesson = { ...demo, tubes: demo.tubes.map((tube) => (tube.id === 'phthalo' ? { ...tube, students: false } : tube)) };
    expect(followSheet(lesson).tubes.map((tube) => tube.id)).not.toContain('phthalo');
    expect(followSheet(demo).tubes).toHaveLength(demo.tubes.length);
  });
});

describe('mixes hardly to be told apart', () => {
  it('are found, once a pair', () => {
    const copy: Mix = { ...(demo.mixes[1] as Mix), id: 'again', name: 'again' };
    expect(nearTwins(withMixes(copy)).map(({ one, other }) => [one.id, other.id])).toEqual([['m-high', 'again']]);
  });
});
