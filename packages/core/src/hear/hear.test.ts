import { join } from 'node:path';
import { describe, expect, test } from '@jest/globals';
import { narration, narrationNames, readNarrations, truths } from '../fixtures/narrations.js';
import { f1, filmsOf, leftOneOut } from './fit.fixture.js';
import { editDistance, hear, isForeign, stepSizes, stepsHeard } from './index.js';
import { measureNarrations, total } from './measure.fixture.js';

const corpus = readNarrations(join(import.meta.dirname, '..', 'fixtures', 'narrations'));

describe('steps heard in nine narrations with known answers (invented; the answers are beside them)', () => {
  test('borders of each, cut by a model fitted without it: F1 of 0.92 as spoken, of 0.80 in every guise', () => {
    const guises = leftOneOut(filmsOf(corpus));
    expect(f1(guises[0]?.score ?? { hit: 0, said: 1, real: 1 })).toBeGreaterThanOrEqual(0.92);
    for (const { score } of guises) expect(f1(score)).toBeGreaterThanOrEqual(0.8);
  }, 60_000);

  test('with the true borders: tools of 0.97, colours and amounts of 0.95', () => {
    const measured = measureNarrations(corpus);
    expect(f1(total(measured, ({ given }) => given.tools))).toBeGreaterThanOrEqual(0.97);
    expect(f1(total(measured, ({ given }) => given.colours))).toBeGreaterThanOrEqual(0.95);
    expect(f1(total(measured, ({ given }) => given.amounts))).toBeGreaterThanOrEqual(0.95);
    expect(f1(total(measured, ({ found }) => found.drying))).toBeGreaterThanOrEqual(0.95);
  });

  test('borders of fewer steps are always among those of more', () => {
    for (const name of narrationNames) {
      const heard = hear(narration(name), (truths[name] as (typeof truths)[string]).shelf);
      let finer: number[] | null = null;
      for (let size = stepSizes.least; size <= stepSizes.most; size += 8) {
        const own = stepsHeard(heard, size)
          .slice(1)
          .map(({ from }) => from);
        if (finer) for (const from of own) expect(finer).toContain(from);
        finer = own;
      }
      expect(finer?.length).toBeLessThan(stepsHeard(heard, stepSizes.least).length - 1);
    }
  });

  test('every border says how sure it is and why; three titles are proposed, the lesson’s own areas first', () => {
    const { shelf } = truths['v1-enamel-teapot'] as (typeof truths)[string];
    const steps = stepsHeard(hear(narration('v1-enamel-teapot'), { ...shelf, areas: ['Cloth', 'Back wall'] }), 40);
    for (const { border } of steps.slice(1)) {
      expect(border?.sure).toBeGreaterThan(0);
      expect(border?.signs.length).toBeGreaterThan(0);
    }
    const cloth = steps.find(({ colours }) => colours.includes('cloth blue'));
    expect(cloth?.titles[0]).toMatch(/the cloth$/);
    expect(steps.every(({ titles }) => titles.length > 0 && titles.length <= 3)).toBe(true);
  });
});

describe('what is said of paint', () => {
  const shelf = {
    tubes: ['titanium white', 'phthalo blue', 'raw umber', 'burnt umber'],
    mixes: [
      {
        name: 'slate',
        recipe: [
          { tube: 'phthalo blue', parts: 2 },
          { tube: 'burnt umber', parts: 1 },
        ],
      },
    ],
  };
  const vtt = (...lines: string[]) =>
    `WEBVTT\n\n${lines.map((line, i) => `00:00:${String(i * 6).padStart(2, '0')}.000 --> 00:00:${String(i * 6 + 5).padStart(2, '0')}.000\n${line}\n`).join('\n')}`;
  const heardIn = (...lines: string[]) => stepsHeard(hear(vtt(...lines), shelf))[0];

  test('misheard names, parts and touches', () => {
    expect(heardIn('Mix four parts of white to one part of halo blue.', 'And a tiny touch of raw number.')?.amounts).toEqual({
      'titanium white': 4,
      'phthalo blue': 1,
      'raw umber': 'touch',
    });
    expect(heardIn('Add a little bit of burnt umber with the flat brush.')?.amounts).toEqual({ 'burnt umber': 'bit' });
  });
  test('tubes that are a mix of the lesson are that mix; what is named by mistake is not used', () => {
    expect(heardIn('Two parts phthalo blue to one part burnt umber, and paint the roof.')?.colours).toEqual(['slate']);
    expect(heardIn('I took the raw umber by mistake, paint it with white and the filbert.')?.colours).toEqual(['titanium white']);
  });
  test('letters off are counted (worked by hand)', () => {
    expect(editDistance('halo', 'phthalo')).toBe(3);
    expect(editDistance('umber', 'number')).toBe(1);
    expect(editDistance('a', 'abcdef')).toBe(4);
  });
  test('captions of another language are known by their few words of painting', () => {
    const words = ['Jetzt nehmen wir das Meer', 'und dann geht es weiter', 'mit viel Geduld', 'ganz langsam', 'nach unten'];
    expect(isForeign(hear(vtt(...words, ...words), shelf))).toBe(true);
  });
});
