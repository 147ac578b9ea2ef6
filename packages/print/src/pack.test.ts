import { createRequire } from 'node:module';
import { beforeAll, describe, expect, it } from '@jest/globals';
import { type Lesson, newStudio, type PackOptions, packParts } from '@viaticum/contract';
import { demoLesson, smallLesson, testStep } from '@viaticum/core/fixtures';
import { packPdf } from './index.js';
import { MM } from './sheet.js';

// Read back with another library than the one that writes (pdf.js).
type Item = { str: string; transform: number[]; width: number; height: number };
type Node = { role?: string; children?: Node[]; alt?: string };
type Page = {
  view: number[];
  getTextContent: () => Promise<{ items: Item[] }>;
  getStructTree: () => Promise<Node | null>;
  getOperatorList: () => Promise<{ fnArray: number[]; argsArray: unknown[][] }>;
};
type Read = {
  numPages: number;
  getPage: (n: number) => Promise<Page>;
  getMetadata: () => Promise<{ info: { Language?: string; Title?: string } }>;
};

let read: (bytes: Uint8Array) => Promise<Read>;
beforeAll(async () => {
  const { getDocument } = (await import(createRequire(import.meta.url).resolve('pdfjs-dist/legacy/build/pdf.mjs'))) as {
    getDocument: (from: object) => { promise: Promise<Read> };
  };
  read = (bytes) => getDocument({ data: new Uint8Array(bytes), verbosity: 0, useSystemFonts: false }).promise;
});

const lesson = demoLesson('balloons');
const options = (more: Partial<PackOptions> = {}): PackOptions => ({
  kind: 'instructor',
  paper: 'a4',
  isLarge: false,
  parts: [...packParts],
  ...more,
});
const made = async (more: Partial<PackOptions> = {}, of: Lesson = lesson) => {
  const { bytes, pages } = await packPdf(of, newStudio, new Map(), options(more));
  const pdf = await read(bytes);
  expect(pdf.numPages).toBe(pages);
  const all = await Promise.all(Array.from({ length: pages }, (_, i) => pdf.getPage(i + 1)));
  const texts = await Promise.all(
    all.map(async (page) => (await page.getTextContent()).items.filter(({ str }) => str.trim() !== '')),
  );
  return { bytes, pdf, pages: all, texts, words: texts.map((items) => items.map(({ str }) => str).join(' ')) };
};
const rolesOf = (node: Node | null): string[] =>
  node ? [...(node.role ? [node.role] : []), ...(node.children ?? []).flatMap(rolesOf)] : [];

/** Every word lies on its page, three millimetres inside. */
const inside = ({ pages, texts }: Awaited<ReturnType<typeof made>>) =>
  texts.flatMap((items, i) => {
    const [, , width, height] = (pages[i] as Page).view as [number, number, number, number];
    return items.filter(({ transform, width: wide }) => {
      const [x, y] = [transform[4] as number, transform[5] as number];
      return x < 3 * MM || x + wide > width - 3 * MM || y < 3 * MM || y > height - 3 * MM;
    });
  });

describe('a lesson pack', () => {
  it('holds all its parts, on A4 and Letter, in plain and in large type, and no word is cut', async () => {
    for (const more of [
      {},
      { paper: 'letter' },
      { isLarge: true },
      { kind: 'handout' },
      { kind: 'summary' },
      { kind: 'cards' },
    ] as const) {
      const pack = await made(more);
      expect(inside(pack).map(({ str }) => str)).toEqual([]);
    }
    const { words, pages } = await made({ paper: 'letter' });
    expect(pages[0]?.view.slice(2).map((one) => Math.round(one))).toEqual([612, 792]);
    for (const step of lesson.steps) expect(words.join(' ')).toContain(step.title.split(',')[0] as string);
  });
  it('says in its contents on which page each chapter stands', async () => {
    const { words } = await made();
    const contents = words[1] as string;
    const chapters = [
      'Palette and mixes',
      'The steps',
      'Practice sheet',
      'The drawing',
      'What is needed',
      'Before the class',
      'Cautions',
    ];
    for (const chapter of chapters) {
      const page = Number(contents.match(new RegExp(`${chapter}\\s+(\\d+)`))?.[1]);
      expect([chapter, words[page - 1]?.includes(chapter)]).toEqual([chapter, true]);
    }
  });
  it('is tagged: one first heading, figures with words, tables, in the lesson’s language', async () => {
    const { pdf, pages } = await made();
    const trees = await Promise.all(pages.map((page) => page.getStructTree()));
    const roles = trees.flatMap(rolesOf);
    expect(roles.filter((role) => role === 'H1')).toHaveLength(1);
    expect(roles.filter((role) => role === 'H2')).toHaveLength(8);
    expect(roles.filter((role) => role === 'H3').length).toBeGreaterThan(lesson.steps.length - 1);
    expect(roles.filter((role) => role === 'TH').length).toBeGreaterThan(10);
    const figures: Node[] = [];
    const walk = (node: Node | null) => {
      if (node?.role === 'Figure') figures.push(node);
      for (const child of node?.children ?? []) walk(child);
    };
    trees.forEach(walk);
    expect(figures.length).toBeGreaterThan(lesson.steps.length);
    expect(figures.filter(({ alt }) => !alt)).toEqual([]);
    const { info } = await pdf.getMetadata();
    expect(info).toMatchObject({ Language: 'en', Title: 'Balloons over the terraces: instructor’s copy' });
  });
  it('a handout has neither money, nor amounts for the class, nor what is prepared', async () => {
    const { words } = await made({ kind: 'handout' });
    const all = words.join(' ');
    expect(all).not.toMatch(/EUR|Before the class|Mixed before the class/);
    expect((await made()).words.join(' ')).toMatch(/EUR.*/);
    expect(all).toMatch(/What to bring/);
  });
  it('parts are left out and put into another order', async () => {
    const { words } = await made({ parts: ['cautions', 'palette'] });
    expect(words[0]).toContain('Cautions');
    expect(words[1]).toContain('Palette and mixes');
    expect(words.join(' ')).not.toContain('The steps');
  });
  it('the bar is 100 mm long, and the sheets of the drawing come to the canvas, within 0.01 mm', async () => {
    const { pages } = await made({ parts: ['drawing'] });
    const { OPS } = (await import(createRequire(import.meta.url).resolve('pdfjs-dist/legacy/build/pdf.mjs'))) as {
      OPS: Record<string, number>;
    };
    const { fnArray, argsArray } = await (pages[0] as Page).getOperatorList();
    const boxes = fnArray.flatMap((fn, i) =>
      fn === OPS.constructPath ? [Object.values((argsArray[i]?.[2] ?? {}) as ArrayLike<number>)] : [],
    );
    const widths = boxes.map(([x0 = 0, , x1 = 0]) => Math.abs(x1 - x0) / MM);
    expect(widths.some((width) => Math.abs(width - 100) < 0.01)).toBe(true);
  });
  it('every font is in the file', async () => {
    const { bytes } = await made({ parts: ['title', 'palette'] });
    const text = Buffer.from(bytes).toString('latin1');
    expect(text).toMatch(/Alegreya/);
    expect(text).toMatch(/AtkinsonHyperlegible/i);
    expect(text).not.toMatch(/\/BaseFont \/(Helvetica|Times|Courier)/);
  });
  it('odd lessons: none, one without words, one with very long names, signs that no font has, many steps', async () => {
    await expect(made({}, smallLesson([]))).rejects.toThrow(/no steps yet/);
    await expect(made({ parts: [] })).rejects.toThrow(/at least one part/);
    const bare = smallLesson([testStep('one', { say: '', watch: '', checkpoint: '', finish: '' })]);
    expect(inside(await made({}, bare))).toEqual([]);
    const long = {
      ...lesson,
      title: `${'Terrace'.repeat(8)} and ${'Donaudampfschiff'.repeat(4)} 🎨 山`,
      steps: Array.from({ length: 80 }, (_, k) => ({
        ...(lesson.steps[k % lesson.steps.length] as Lesson['steps'][number]),
        id: `s${k}`,
        title: `Step ${k} ${'long '.repeat(12)}`,
      })),
      planning: { ...lesson.planning, pins: [] },
      passages: [],
    } as Lesson;
    const pack = await made({ parts: ['title', 'steps'] }, long);
    const { lacks } = await packPdf(long, newStudio, new Map(), options({ parts: ['title'] }));
    expect(lacks).toEqual(['🎨', '山']);
    expect(inside(pack)).toEqual([]);
    expect(pack.words.join(' ')).toContain('Step 79');
  });
});
