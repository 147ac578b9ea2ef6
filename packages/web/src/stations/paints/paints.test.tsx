/** @jest-environment ./tools/jest-page.mjs */
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import { act, cleanup, screen, waitFor, within } from '@testing-library/react';
import type { Lesson } from '@viaticum/contract';
import { substitutes } from '@viaticum/core/derived';
import { demoLesson } from '@viaticum/core/fixtures';
import { lookOtherwise } from '@viaticum/core/former';
import { toEnd } from '@viaticum/kernels/cooperative';
import { asInBrowser, lessonOf, onBench, server } from '../../fixtures/page.fixture.js';
import { LayingProvider } from '../../lesson/laid.js';
import { RecipeBar } from '../../ui/swatch.js';
import { AreaTarget } from '../picture/topics/area-target.js';
import { FormerPaint } from './former-paint.js';
import { BenchProvider } from './paint-context.js';
import { HeapsTopic } from './topics/heaps.js';
import { TubesTopic } from './topics/tubes.js';
import { TubeList } from './tube-list.js';

const kettle = demoLesson('kettle');
/** Answers what the paint worker is asked here, with the same computation. */
const answers: Record<string, (args: { lesson: Lesson; lacking: string[] }) => unknown> = {
  without: ({ lesson, lacking }) => toEnd(substitutes(lesson, lacking)),
  former: ({ lesson }) => lookOtherwise(lesson),
  recipes: ({ lesson }) => lesson.mixes.map((mix) => ({ id: mix.id, recipe: [{ tubeId: 'white', parts: 3 }], deltaE: 1 })),
};
/** A worker that answers at once what it is asked, by comlink's own messages. */
class Answering {
  private readonly listeners = new Set<(event: { data: unknown }) => void>();
  addEventListener = (_: string, listener: (event: { data: unknown }) => void) => void this.listeners.add(listener);
  removeEventListener = (_: string, listener: (event: { data: unknown }) => void) => void this.listeners.delete(listener);
  terminate = () => undefined;
  postMessage = ({ id, path, argumentList }: { id: string; path?: string[]; argumentList?: { value: unknown }[] }) => {
    const [, name, args] = (argumentList ?? []).map((one) => one.value) as [number, string, never];
    const isAsked = path?.at(-1) === 'ask';
    if (isAsked && !answers[name]) return;
    const value = isAsked ? { answer: answers[name]?.(args) } : undefined;
    setTimeout(() => {
      for (const listener of this.listeners) listener({ data: { id, type: 'RAW', value } });
    }, 0);
  };
}
beforeEach(() => {
  asInBrowser();
  server({ 'PUT /api/lessons/l': { revision: 2, savedAt: '2026-01-05T10:01:00Z' } });
  Object.assign(globalThis, { Worker: Answering });
});
afterEach(cleanup);

describe('a tube that mixes need', () => {
  const shelf = () =>
    onBench(kettle, (now) => (
      <BenchProvider first={null}>
        <TubeList lesson={now} />
      </BenchProvider>
    ));
  it('goes only when it was said what becomes of its mixes, and they are mixed from the others in one step', async () => {
    const { user, session } = shelf();
    await user.click(screen.getByRole('button', { name: 'Remove: pyrrole red' }));
    const dialog = await screen.findByRole('dialog');
    const needing = kettle.mixes.filter((mix) => mix.recipe.some((part) => part.tubeId === 'red'));
    await waitFor(() => expect(within(dialog).getAllByRole('listitem')).toHaveLength(needing.length), { timeout: 20_000 });
    await user.click(within(dialog).getByRole('button', { name: 'Remove it and mix these anew' }));
    const after = lessonOf(session);
    expect(after.tubes.some((tube) => tube.id === 'red')).toBe(false);
    for (const { id } of needing) expect(after.mixes.find((mix) => mix.id === id)?.recipe.length).toBeGreaterThan(0);
    act(() => session.undo());
    expect(lessonOf(session)).toEqual(kettle);
  });
  it('white is never stripped silently; it can be kept', async () => {
    const { user, session } = shelf();
    await user.click(screen.getByRole('button', { name: 'Remove: white' }));
    const dialog = await screen.findByRole('dialog');
    expect(within(dialog).getByText(/everything light is made with it/)).toBeTruthy();
    await user.click(within(dialog).getByRole('button', { name: 'Keep it' }));
    expect(lessonOf(session)).toEqual(kettle);
  });
});

describe('a lesson of an earlier table of pigments', () => {
  it('says once which mixes look different, and mixes them again or leaves them', async () => {
    const old: Lesson = { ...kettle, formerPaint: true };
    const { user, session } = onBench(old, (now) => (
      <BenchProvider first={null}>
        <FormerPaint lesson={now} />
      </BenchProvider>
    ));
    const changed = lookOtherwise(old);
    const notice = await screen.findByTestId('former-paint');
    expect(within(notice).getAllByRole('listitem')).toHaveLength(changed.length);
    await user.click(within(notice).getByRole('button', { name: /^Mix all \d+ again for their targets/ }));
    await user.click(await screen.findByRole('button', { name: 'Take the new recipes' }));
    const after = lessonOf(session);
    expect(after.formerPaint).toBeUndefined();
    for (const { mixId } of changed)
      expect(after.mixes.find((mix) => mix.id === mixId)?.recipe).toEqual([{ tubeId: 'white', parts: 3 }]);
    await waitFor(() => expect(screen.queryByTestId('former-paint')).toBeNull());
  });
});

describe('heaps', () => {
  it('are listed with how long they keep, and another keeping changes that', async () => {
    const { user, session } = onBench({ ...kettle, heapsOn: 'plate' }, () => <HeapsTopic />);
    const rows = () => within(screen.getByTestId('heaps-table')).getAllByRole('row').slice(1);
    expect(rows().length).toBeGreaterThan(5);
    expect(rows().some((row) => /mist it every|mix it/.test(row.textContent ?? ''))).toBe(true);
    await user.click(screen.getByText('on a wet palette'));
    expect(lessonOf(session).heapsOn).toBe('wet-palette');
    await waitFor(() => expect(rows().every((row) => /for days.*nothing to do/.test(row.textContent ?? ''))).toBe(true));
  });
});

describe('the surface of the paint', () => {
  it('is chosen for the lesson, and all colours go by it', async () => {
    const { user, session } = onBench(kettle, () => (
      <LayingProvider>
        <BenchProvider first={null}>
          <TubesTopic />
        </BenchProvider>
      </LayingProvider>
    ));
    await user.click(screen.getByText('gloss'));
    expect(lessonOf(session).finish).toBe('gloss');
    expect(screen.getByText('From two drawdowns on a card')).toBeTruthy();
  });
});

describe('a recipe as a bar', () => {
  it('is true to scale, with a dot for what would be a hair', () => {
    const part = (name: string, weight: number) => ({ name, rgb: 'rgb(9 9 9)', weight });
    onBench(kettle, () => <RecipeBar parts={[part('white', 12), part('ochre', 3), part('red', 1 / 64)]} words="x" />);
    expect(screen.getAllByTestId('recipe-dot').map((dot) => dot.title)).toEqual(['red']);
    const grow = (title: string) => Number(screen.getByTitle(title).style.flexGrow);
    expect(grow('white') / grow('ochre')).toBeCloseTo(4, 6);
  });
});

describe('the colour of an area drawn by hand', () => {
  it('is taken from a tube or a mix', async () => {
    const bare: Lesson = { ...kettle, references: [] };
    const [area] = bare.areas;
    const { user, session } = onBench(bare, (now) => (
      <LayingProvider>
        <AreaTarget area={now.areas[0] as Lesson['areas'][number]} />
      </LayingProvider>
    ));
    await user.click(screen.getByLabelText('Take the colour of'));
    await waitFor(() => expect(document.querySelectorAll('.ant-select-item-option').length).toBeGreaterThan(3));
    const tube = [...document.querySelectorAll('.ant-select-item-option')].find((one) => one.textContent === 'ultramarine');
    await user.click(tube as HTMLElement);
    const lab = lessonOf(session).areas.find((one) => one.id === area?.id)?.targetLab;
    expect(lab?.[2]).toBeLessThan(-10);
  });
});
