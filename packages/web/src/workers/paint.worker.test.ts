import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Lesson } from '@viaticum/contract';
import { looksOf } from '@viaticum/core/derived';
import { demoLesson } from '@viaticum/core/fixtures';
import { benchWorker } from './bench.fixture.js';
import { CancelledJob } from './job-worker.js';
import type { PaintJobs } from './paint-jobs.js';

let bench: Awaited<ReturnType<typeof benchWorker<PaintJobs>>>;
afterAll(() => bench.close());
/** How far the last job said it was. */
let told: number[] = [];

/** Asks the worker as the page does, and waits for its last word. */
async function ask<N extends keyof PaintJobs>(
  name: N,
  args: PaintJobs[N]['args'],
  cancelAfter?: number,
): Promise<{ answer: PaintJobs[N]['answer'] } | { failed: string } | { cancelled: true }> {
  const shares: number[] = [];
  told = shares;
  const job = bench.worker.ask(name, args, (share) => {
    shares.push(share);
    if (cancelAfter !== undefined && shares.length >= cancelAfter) job.cancel();
  });
  if (cancelAfter === 0) job.cancel();
  try {
    return { answer: await job.answer };
  } catch (error) {
    return error instanceof CancelledJob ? { cancelled: true } : { failed: (error as Error).message };
  }
}
async function answer<N extends keyof PaintJobs>(name: N, args: PaintJobs[N]['args']): Promise<PaintJobs[N]['answer']> {
  const said = await ask(name, args);
  if (!('answer' in said)) throw new Error(JSON.stringify(said));
  return said.answer;
}

// Four tubes, so that tables are small.
const demo = demoLesson();
const tubes = demo.tubes.filter((tube) => ['white', 'ultramarine', 'ochre', 'umber'].includes(tube.id));
const small: Lesson = {
  ...demo,
  tubes,
  mixes: demo.mixes.map((mix) => ({
    ...mix,
    recipe: mix.recipe.filter((part) => tubes.some((tube) => tube.id === part.tubeId)),
  })),
};

beforeAll(async () => {
  bench = await benchWorker<PaintJobs>(() => import('./paint.worker.js'));
});

describe('the paint worker', () => {
  it('finds recipes for a target: whole parts at once, then with small amounts, which are never worse', async () => {
    const quick = await answer('suggest', { lesson: small, mixId: 'm-straw', quick: true });
    const full = await answer('suggest', { lesson: small, mixId: 'm-straw', quick: false });
    expect(quick.isWhole).toBe(true);
    expect(quick.found[0]?.parts.every((part) => typeof part.parts === 'number')).toBe(true);
    expect(full.isWhole).toBe(false);
    const best = (found: { deltaE: number }[]) => Math.min(...found.map((one) => one.deltaE));
    expect(best(full.found)).toBeLessThanOrEqual(best(quick.found) + 1e-6);
    expect(
      await answer('suggest', { lesson: { ...small, mixes: [{ id: 'x', name: 'x', recipe: [] }] }, mixId: 'x', quick: false }),
    ).toEqual({ found: [], isWhole: false });
  });

  it('a mix let down beforehand takes part in the recipes of others, never in its own', async () => {
    const weak = {
      id: 'weak',
      name: 'weak umber',
      letDown: true,
      targetLab: [70, 6, 10] as [number, number, number],
      recipe: [
        { tubeId: 'white', parts: 10 },
        { tubeId: 'umber', parts: 1 },
      ],
    };
    const lesson = { ...small, mixes: [...small.mixes, weak] };
    const own = await answer('suggest', { lesson, mixId: 'weak', quick: false });
    expect(own.found.flatMap((one) => one.parts.map((part) => part.id))).not.toContain('weak');
    const aim = looksOf(lesson).get('weak')?.colour?.lab as [number, number, number];
    const other = { id: 'o', name: 'o', recipe: [], targetLab: aim };
    const found = await answer('suggest', { lesson: { ...lesson, mixes: [...lesson.mixes, other] }, mixId: 'o', quick: false });
    expect(found.found.flatMap((one) => one.parts.map((part) => part.id))).toContain('weak');
  });

  it('chooses a palette and the recipes that go with it, with progress on the way', async () => {
    const found = await answer('palette', {
      lesson: small,
      tolerance: 8,
      from: 'lesson',
      must: ['umber'],
      mustNot: ['ultramarine'],
    });
    expect(found.tubes).toContain('umber');
    expect(found.tubes).not.toContain('ultramarine');
    expect(found.targets).toEqual(small.mixes.map((mix) => mix.id));
    const chosen = tubes.filter((tube) => found.tubes.includes(tube.id));
    const recipes = await answer('recipes', { lesson: small, tubes: chosen });
    expect(told.at(-1)).toBeGreaterThan(0.9);
    expect(recipes.map((one) => one.id)).toEqual(small.mixes.map((mix) => mix.id));
    for (const { recipe } of recipes) for (const part of recipe) expect(found.tubes).toContain(part.tubeId);
  });

  it('grows families, and says what is missing for one', async () => {
    const base = { lesson: small, mixId: 'm-straw', otherId: null, steps: 7, lightness: 55 };
    expect((await answer('family', { ...base, kind: 'ladder' })).members).toHaveLength(7);
    expect((await answer('family', { ...base, kind: 'gradient', otherId: 'm-ground', steps: 4 })).members).toHaveLength(4);
    expect((await answer('family', { ...base, kind: 'greys' })).parents).toEqual(['ultramarine', 'umber']);
    expect((await answer('family', { ...base, kind: 'shadow-light' })).members.map((member) => member.name)).toEqual([
      'shadow',
      'light',
    ]);
    const noWhite = { ...small, tubes: tubes.filter((tube) => tube.id !== 'white') };
    expect(await ask('family', { ...base, lesson: noWhite, kind: 'ladder' })).toMatchObject({
      failed: expect.stringContaining('towards white'),
    });
    const unmixed = { ...small, mixes: [{ id: 'm-straw', name: 'straw', recipe: [] }] };
    expect(await ask('family', { ...base, lesson: unmixed, kind: 'ladder' })).toMatchObject({
      failed: expect.stringContaining('no recipe yet'),
    });
  });

  it('mixes without a tube, and names tubes that would reach a colour', async () => {
    const others = await answer('without', { lesson: small, lacking: ['umber'] });
    expect(others.length).toBeGreaterThan(0);
    const reach = await answer('reach', { lesson: small, target: [50, -40, 5] });
    expect(reach[0]?.deltaE).toBeLessThan(reach.at(-1)?.deltaE as number);
    expect(small.tubes.map((tube) => tube.pigment)).not.toContain(reach[0]?.pigment);
  });

  it('a long search is cancelled between two pieces of work', async () => {
    const wide = { lesson: demo, tolerance: 3, from: 'table' as const, must: [], mustNot: [] };
    expect(await ask('palette', wide, 1)).toMatchObject({ cancelled: true });
  });

  it('a table left half built by a cancelled job is gone on with, not begun again', async () => {
    const args = { lesson: demo, mixId: 'm-straw', quick: false };
    expect(await ask('suggest', args, 3)).toMatchObject({ cancelled: true });
    // How far the table was when the wish to stop was heard depends on the machine, up to all of it.
    const reached = told.at(-1) as number;
    expect(reached).toBeGreaterThan(0);
    await answer('suggest', args);
    // The rest may be done before it reports: then nothing was begun again either.
    for (const share of told) expect(share).toBeGreaterThanOrEqual(reached);
  });

  it('five hundred targets end, too', async () => {
    const mixes = Array.from({ length: 500 }, (_, i) => ({
      id: `m${i}`,
      name: `mix ${i}`,
      recipe: [],
      targetLab: [20 + (i % 70), (i % 13) - 6, (i % 29) - 9] as [number, number, number],
    }));
    const found = await answer('palette', { lesson: { ...small, mixes }, tolerance: 6, from: 'lesson', must: [], mustNot: [] });
    expect(found.targets).toHaveLength(500);
    expect(found.tubes.length + found.unreachable.length).toBeGreaterThan(0);
  });

  it('answers follow everything they stand on: each change of one of it gives another answer', async () => {
    const deep = {
      id: 'deep',
      name: 'deep',
      recipe: [
        { tubeId: 'umber', parts: 1 },
        { tubeId: 'white', parts: 6 },
      ],
    };
    const weak = { id: 'weak', name: 'weak', letDown: true, recipe: [], mixedFrom: [{ mixId: 'deep', parts: 1 }] };
    const sought = { id: 'o', name: 'o', recipe: [], targetLab: [62, 8, 22] as [number, number, number] };
    const lesson: Lesson = { ...small, mixes: [deep, weak, sought] };
    const ask = (of: Lesson) => answer('suggest', { lesson: of, mixId: 'o', quick: false });
    const first = await ask(lesson);
    const withMix = (id: string, change: object): Lesson => ({
      ...lesson,
      mixes: lesson.mixes.map((mix) => (mix.id === id ? { ...mix, ...change } : mix)),
    });
    const changed: Record<string, Lesson> = {
      'the target': withMix('o', { targetLab: [40, 8, 22] }),
      'a tube less': { ...lesson, tubes: lesson.tubes.filter((tube) => tube.id !== 'ochre') },
      'a weaker tube': {
        ...lesson,
        tubes: lesson.tubes.map((tube) => (tube.id === 'umber' ? { ...tube, grade: 'student' as const } : tube)),
      },
      'the surface': { ...lesson, finish: 'gloss' },
      'what a mix let down is mixed from': withMix('deep', { recipe: [{ tubeId: 'umber', parts: 1 }] }),
      'whether it is let down': withMix('weak', { letDown: false }),
    };
    for (const [what, other] of Object.entries(changed)) expect([what, await ask(other)]).not.toEqual([what, first]);
    expect(await ask(lesson)).toEqual(first);
  });
});
