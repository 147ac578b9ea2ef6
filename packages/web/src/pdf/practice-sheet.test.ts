import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import type { Lesson } from '@viaticum/contract';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { practiceSheet, strokesOf } from './practice-sheet.js';

const demo = JSON.parse(readFileSync(new URL('../../../server/assets/demo/balloons.json', import.meta.url), 'utf8')) as Lesson;
const read = async (lesson: Lesson) => {
  const pdf = await getDocument({ data: await practiceSheet(lesson), verbosity: 0 }).promise;
  const pages = await Promise.all(Array.from({ length: pdf.numPages }, (_, i) => pdf.getPage(i + 1)));
  const texts = await Promise.all(
    pages.map(async (page) => (await page.getTextContent()).items.map((item) => ('str' in item ? item.str : ''))),
  );
  return { pdf, pages, text: texts.flat().join(' '), texts };
};

describe('the practice sheet', () => {
  it('is A4 (ISO 216, 210 × 297 mm), with every stroke of the lesson by name, its brush, and the scale of five values', async () => {
    const { pages, text } = await read(demo);
    for (const page of pages) {
      const [x0, y0, x1, y1] = page.view as [number, number, number, number];
      expect(((x1 - x0) * 25.4) / 72).toBeCloseTo(210, 3);
      expect(((y1 - y0) * 25.4) / 72).toBeCloseTo(297, 3);
    }
    for (const name of ['Drag', 'Feather', 'Cut in', 'Pull and lift']) expect(text).toContain(name);
    expect(text).toContain('2 in flat');
    expect(text).toContain('Five values');
    expect(text).toContain('100 mm');
  });

  it('strokes are those that steps name, or those that usually go with their technique', () => {
    const named = { ...demo, steps: demo.steps.map((step, i) => (i === 0 ? { ...step, stroke: 'criss-cross' as const } : step)) };
    expect(strokesOf(demo).map((one) => one.stroke)).not.toContain('criss-cross');
    expect(strokesOf(named)[0]).toEqual({ stroke: 'criss-cross', brushId: 'flat-2-in' });
  });

  it('letters that a PDF font has not are left out rather than failing, and a lesson without steps still has its values', async () => {
    const { text } = await read({ ...demo, title: 'Ballons 🎈 über שמים', steps: [] });
    expect(text).toContain('Ballons');
    expect(text).toContain('über');
    expect(text).toContain('Five values');
  });
});
