/** @jest-environment ./tools/jest-page.mjs */
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import { act, fireEvent, screen, within } from '@testing-library/react';
import type { KeptAnswer, Lesson } from '@viaticum/contract';
import { carryOut, startHistory } from '@viaticum/core/document';
import { draftLesson } from '@viaticum/core/draft';
import { demoLesson } from '@viaticum/core/fixtures';
import { planLesson } from '@viaticum/core/plan';
import { asInBrowser, choicesOf, choose, cleanup, lessonOf, onBench, server, write } from '../../../fixtures/page.fixture.js';
import { OthersTopic } from './others.js';
import { OwnMethod } from './own-method.js';

const lesson: Lesson = { ...demoLesson('kettle'), variants: [] };
const saved = { 'PUT /api/lessons/l': { revision: 2, savedAt: '2026-01-05T10:01:00Z' } };
beforeEach(() => {
  asInBrowser();
  Object.assign(globalThis, {
    Worker: class {
      addEventListener() {}
      removeEventListener() {}
      postMessage() {}
      terminate() {}
    },
  });
});
afterEach(cleanup);

describe('an own method', () => {
  const open = async (of: Lesson = lesson, kept: KeptAnswer[] = []) => {
    const net = server({
      ...saved,
      'GET /api/kept': kept,
      'PUT /api/kept': (body: { kept: KeptAnswer['kept'] }) => ({ id: 'k', kept: body.kept }),
    });
    const bench = onBench(of, () => <OwnMethod />);
    await bench.user.click(screen.getByRole('button', { name: /^Your own method/ }));
    return { ...bench, net, method: () => lessonOf(bench.session).method };
  };
  const type = async (user: Awaited<ReturnType<typeof open>>['user'], label: string, value: string) => {
    const field = screen.getByLabelText(label);
    await user.clear(field);
    await user.type(field, `${value}{Enter}`);
  };

  it('takes whole coats and breaks by fives, and no share that is none', async () => {
    const { user, method } = await open();
    await type(user, 'Coats of an area at most', '2.4');
    expect(method()?.coats).toBe(2);
    await type(user, 'A break every, min', '47');
    expect(method()?.breakEveryMin).toBe(45);
    await type(user, 'Their share of the area, %', '50');
    expect(method()?.laterShare).toBe(0.5);
    for (const odd of ['0', '140']) await type(user, 'Their share of the area, %', odd);
    expect(method()?.laterShare).toBe(0.5);
  });
  it('its rules go before those of the school in the next draft', async () => {
    const { user, session } = await open();
    const coats = (of: Lesson, areaId: string) => {
      let ids = 0;
      // Lights that are set last are no coat.
      return draftLesson(of, () => `n${ids++}`).steps.filter(
        ({ step }) =>
          step.kind === 'paint' && step.technique !== 'loaded' && step.coatOf === undefined && step.areaIds.includes(areaId),
      ).length;
    };
    expect([coats(lesson, 'kettle'), coats(lesson, 'mugs')]).toEqual([2, 2]);
    await type(user, 'Coats of an area at most', '1');
    const own = lessonOf(session);
    expect(own.areas.map((area) => coats(own, area.id)).filter((count) => count > 1)).toEqual([]);
  });
  it('what is said with a technique is kept by the technique, and goes when it is emptied', async () => {
    const { method } = await open();
    const field = await screen.findByRole('textbox', { name: 'What you say with block-in' }, { timeout: 30_000 });
    write(field, 'Big brush, no detail.');
    fireEvent.blur(field);
    expect(method()?.says).toEqual([{ technique: 'block-in', say: 'Big brush, no detail.' }]);
    write(field, '');
    fireEvent.blur(field);
    expect(method()?.says).toEqual([]);
  });
  it('later coats as the school has them is no rule at all', async () => {
    const { user, method } = await open();
    await choose(user, screen.getByLabelText('Later coats'), 'glaze');
    expect(method()?.laterTechnique).toBe('glaze');
    expect(await screen.findByText('What you say with glaze')).toBeTruthy();
    await choose(user, screen.getByLabelText('Later coats'), 'as the school has it');
    expect(method()).toBeDefined();
    expect(method()).not.toHaveProperty('laterTechnique');
  });
  it('is kept for other lessons under its name, without blanks at its ends', async () => {
    const { user, net, method } = await open();
    await type(user, 'Coats of an area at most', '2');
    await user.clear(screen.getByLabelText('Name of your method'));
    await user.type(screen.getByLabelText('Name of your method'), ' Two and done ');
    await user.click(screen.getByRole('button', { name: 'Keep this way' }));
    await screen.findByText('Kept.');
    expect(method()).toEqual({ name: 'Two and done', coats: 2 });
    expect(net.asked.find((one) => one.what === 'PUT /api/kept')?.body).toEqual({
      kept: { kind: 'method', name: 'Two and done', school: lesson.school, method: { name: 'Two and done', coats: 2 } },
    });
  });
  it('one that is kept is taken with its school as one change', async () => {
    const school = { ...lesson.school, varnish: 'brushed' as const };
    expect(school).not.toEqual(lesson.school);
    const method = { name: 'Thin', coats: 4, laterTechnique: 'glaze' as const };
    const kept: KeptAnswer[] = [{ id: 'k', kept: { kind: 'method', name: 'Thin', school, method } }];
    const bench = await open(lesson, kept);
    await choose(bench.user, await screen.findByLabelText('Kept methods'), 'Thin');
    expect([lessonOf(bench.session).school, bench.method()]).toEqual([school, method]);
    act(() => bench.session.undo());
    expect(lessonOf(bench.session)).toEqual(lesson);
  });
});

describe('a variant', () => {
  const open = (
    of: Lesson = carryOut(startHistory(lesson), 'setVariant', { variant: { id: 'v', name: 'Variant 1', changes: [] } }).lesson,
  ) => {
    const net = server({
      ...saved,
      'POST /api/lessons': (body: { document: Lesson }) => ({ id: 'n', revision: 1, savedAt: '', document: body.document }),
    });
    const bench = onBench(of, () => <OthersTopic />);
    return { ...bench, net, variant: () => lessonOf(bench.session).variants[0] };
  };
  const differences = () =>
    within(screen.getByRole('heading', { name: 'What differs' }).parentElement as HTMLElement)
      .queryAllByRole('listitem')
      .map((item) => item.textContent);

  it('is added, differs in nothing yet, and is taken away', async () => {
    const { user, variant, session } = open(lesson);
    expect(screen.getByText(/^No variants yet/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'New variant' }));
    expect(variant()).toMatchObject({ name: 'Variant 1', changes: [] });
    expect(screen.getByText('Nothing differs yet.')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Delete' }));
    expect(lessonOf(session)).toEqual(lesson);
  });
  it('another canvas, other students and a left hand are said, and the lesson stays as it is', async () => {
    const { user, variant, session } = open();
    const canvas = screen.getByLabelText('Canvas');
    const other = (await choicesOf(user, canvas)).find((said) => said !== 'as the lesson') as string;
    await choose(user, canvas, other);
    await choose(user, screen.getByLabelText('Hand'), 'left');
    expect(variant()?.handed).toBe('left');
    expect(variant()?.support?.widthMm).toBeGreaterThan(0);
    expect(differences().length).toBeGreaterThan(1);
    expect({ ...lessonOf(session), variants: [] }).toEqual(lesson);
    await choose(user, canvas, 'as the lesson');
    await choose(user, screen.getByLabelText('Hand'), 'as the lesson');
    expect(variant()).toEqual({ id: 'v', name: 'Variant 1', changes: [] });
    expect(screen.getByText('Nothing differs yet.')).toBeTruthy();
  });
  it('without a step it is shorter by it; a lesson of its own has neither the step nor variants', async () => {
    const left = lesson.steps.find((step) => step.kind === 'paint');
    const { user, net } = open(
      carryOut(startHistory(lesson), 'setVariant', {
        variant: { id: 'v', name: 'short', changes: [], leaveOutStepIds: [left?.id as string] },
      }).lesson,
    );
    expect(differences().join(' ')).toContain(left?.title);
    await user.click(screen.getByRole('button', { name: 'Make a lesson of its own' }));
    await screen.findByText('It stands on the shelf.');
    const asked = net.asked.find((one) => one.what === 'POST /api/lessons') as { body: unknown };
    const { document } = asked.body as { document: Lesson };
    expect(document.title).toBe(`${lesson.title}, short`);
    expect(document.steps.some((step) => step.title === left?.title)).toBe(false);
    expect(planLesson(document).plan.endMin).toBeLessThan(planLesson(lesson).plan.endMin);
  });
  it('a simpler lesson is tried before it is taken; much leaves out no less than a little', async () => {
    const { user, session } = open(lesson);
    const simpler = screen.getByRole('region', { name: 'Simpler for beginners' });
    const fewer = () => (simpler.textContent?.match(/(\d+) steps? fewer/) ?? ['', '0'])[1];
    await user.click(within(simpler).getByRole('button', { name: 'a little' }));
    const little = Number(fewer());
    await user.click(within(simpler).getByRole('button', { name: 'much' }));
    expect(Number(fewer())).toBeGreaterThanOrEqual(little);
    expect(Number(fewer())).toBeGreaterThan(0);
    expect(lessonOf(session)).toEqual(lesson);
    const taken = Number(fewer());
    await user.click(within(simpler).getByRole('button', { name: 'Take it' }));
    expect(lessonOf(session).steps).toHaveLength(lesson.steps.length - taken);
    act(() => session.undo());
    expect(lessonOf(session)).toEqual(lesson);
  });
});
