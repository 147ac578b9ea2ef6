/** @jest-environment ./tools/jest-page.mjs */

import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { findings } from '@viaticum/core/check';
import { carryOut, startHistory } from '@viaticum/core/document';
import { demoLesson } from '@viaticum/core/fixtures';
import { planLesson } from '@viaticum/core/plan';
import { hourMinute } from '@viaticum/core/units';
import { Route, Routes } from 'react-router';
import { asInBrowser, choose, cleanup, lessonOf, onBench, onPage, server } from '../fixtures/page.fixture.js';
import { LayingProvider } from '../lesson/laid.js';
import ReadThrough from '../read/read-through.js';
import { Ribbon } from '../ui/ribbon/ribbon.js';
import { transferWords } from '../words/transfers.js';
import { EaselContext, type EaselView } from './picture/easel-context.js';
import { AreasTopic } from './picture/topics/areas.js';
import { ThingsTopic } from './picture/topics/things.js';
import { DrawingProvider } from './transfers/drawing-context.js';
import { HelpTopic } from './transfers/topics/help.js';

const lesson = demoLesson('kettle');
const plan = planLesson(lesson);
const stillEasel = (over: Partial<EaselView> = {}): EaselView => ({
  mode: 'look',
  setMode: () => undefined,
  base: null,
  setBase: () => undefined,
  turned: { mirror: false, upside: false },
  setTurned: () => undefined,
  layer: null,
  setLayer: () => undefined,
  unit: 1,
  setUnit: () => undefined,
  toMm: (() => [0, 0]) as never,
  setToMm: () => undefined,
  hideOutlines: false,
  setHideOutlines: () => undefined,
  hint: '',
  setHint: () => undefined,
  ...over,
});

beforeEach(() => {
  asInBrowser();
  server({ 'PUT /api/lessons/l': { revision: 2, savedAt: '2026-01-05T10:01:00Z' } });
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

describe('areas', () => {
  const areas = (areaId: string | null = 'kettle') =>
    onBench(
      lesson,
      () => (
        <EaselContext.Provider value={stillEasel()}>
          <LayingProvider>
            <AreasTopic />
          </LayingProvider>
        </EaselContext.Provider>
      ),
      { areaId },
    );
  it('stand from back to front, each with what is seen of it; the chosen one says what is to be painted', () => {
    areas();
    const rows = screen.getAllByRole('listitem').filter((row) => within(row).queryAllByRole('textbox').length > 0);
    expect(rows.map((row) => (within(row).getAllByRole('textbox')[0] as HTMLInputElement).value)).toEqual(
      lesson.areas.map((area) => area.name),
    );
    for (const row of rows) expect(row.textContent).toMatch(/cm²|hidden/);
    expect(screen.getByText(/to paint with what runs under its neighbours/)).toBeTruthy();
  });
  it('are renamed, brought forward, and taken away after the question', async () => {
    const { user, session } = areas();
    const name = screen.getByDisplayValue(lesson.areas.find((area) => area.id === 'kettle')?.name as string);
    await user.clear(name);
    await user.type(name, 'belly{Enter}');
    expect(lessonOf(session).areas.find((area) => area.id === 'kettle')?.name).toBe('belly');
    const place = () => lessonOf(session).areas.findIndex((area) => area.id === 'kettle');
    const before = place();
    await user.click(screen.getByRole('button', { name: 'Forward' }));
    expect(place()).toBe(before + 1);
    await user.click(screen.getByRole('button', { name: 'Back' }));
    expect(place()).toBe(before);
    await user.click(screen.getByRole('button', { name: /^(Delete|Remove)$/ }));
    const dialog = await screen.findByRole('dialog');
    expect(dialog.textContent).toContain('belly');
    await user.click(within(dialog).getByRole('button', { name: 'Delete' }));
    await waitFor(() => expect(place()).toBe(-1));
    expect(findings(lessonOf(session), planLesson(lessonOf(session))).length).toBeGreaterThan(0);
  });
});

describe('things', () => {
  const things = (of = lesson) =>
    onBench(of, () => (
      <EaselContext.Provider value={stillEasel()}>
        <LayingProvider>
          <ThingsTopic />
        </LayingProvider>
      </EaselContext.Provider>
    ));
  it('are made of areas, dropped and brought back', async () => {
    const { user, session } = things();
    const make = screen.getByRole('button', { name: 'Make a thing' }) as HTMLButtonElement;
    expect(make.disabled).toBe(true);
    await user.click(screen.getByLabelText(lesson.areas.find((area) => area.id === 'mugs')?.name as string));
    await user.click(make);
    const thing = () => lessonOf(session).things.at(-1);
    expect(lessonOf(session).areas.find((area) => area.id === 'mugs')?.thingId).toBe(thing()?.id);
    await user.click(screen.getByRole('button', { name: 'Drop it' }));
    expect(thing()?.fate).toBe('dropped');
    expect(screen.getByText(/^Its shadow and its reflection stay/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Bring it back' }));
    expect(thing()?.fate).toBe('kept');
  });
  it('are moved and resized by keys; one that was moved cannot be taken apart', async () => {
    const made = carryOut(startHistory(lesson), 'addThing', {
      thing: { id: 'pot', name: 'pot', fate: 'kept' },
      areaIds: ['kettle', 'lid'],
    });
    const { user, session } = things(made.lesson);
    act(() => screen.getByDisplayValue('pot').focus());
    expect(await screen.findByRole('button', { name: 'Make it single areas again' })).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Right' }));
    await user.click(screen.getByRole('button', { name: 'Larger' }));
    expect(lessonOf(session).things[0]?.move?.scale).toBeCloseTo(1.1, 9);
    expect(screen.getByText(/^Moved by/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Make it single areas again' })).toBeNull();
    act(() => session.undo());
    act(() => session.undo());
    expect(lessonOf(session).areas).toEqual(made.lesson.areas);
  });
});

describe('constructions on the canvas', () => {
  it('are added with numbers that fit this canvas, changed, and refused where they cannot be', async () => {
    const { user, session } = onBench({ ...lesson, drawing: { ...lesson.drawing, constructions: [] } }, () => (
      <EaselContext.Provider value={stillEasel()}>
        <LayingProvider>
          <DrawingProvider>
            <HelpTopic />
          </DrawingProvider>
        </LayingProvider>
      </EaselContext.Provider>
    ));
    const [choice] = screen.getAllByRole('combobox');
    const [add] = screen.getAllByRole('button');
    const said = Object.values(transferWords.help.kinds);
    for (const kind of said) {
      await choose(user, choice as HTMLElement, kind);
      await user.click(add as HTMLElement);
    }
    expect(lessonOf(session).drawing.constructions.map((one) => one.kind)).toEqual(Object.keys(transferWords.help.kinds));
    const columns = screen.getByLabelText(/^columns/i);
    await user.clear(columns);
    await user.type(columns, '400{Enter}');
    expect(screen.getAllByRole('alert').some((one) => /between 1 and 60 columns/.test(one.textContent ?? ''))).toBe(true);
    await user.clear(screen.getByLabelText(/^columns/i));
    await user.type(screen.getByLabelText(/^columns/i), '7{Enter}');
    expect(lessonOf(session).drawing.constructions[0]).toMatchObject({ kind: 'grid', columns: 7 });
  });
});

describe('the section through the paint', () => {
  const ribbon = (over: Partial<Parameters<typeof Ribbon>[0]> = {}) => {
    const heard = { onMinute: jest.fn(), onStep: jest.fn(), onZoom: jest.fn(), onChain: jest.fn() };
    const shown = onPage(
      <Ribbon
        lesson={lesson}
        plan={plan}
        minute={10}
        selectedStep={null}
        zoom={0}
        withChain={false}
        onDrag={() => undefined}
        onPin={() => undefined}
        height="half"
        onHeight={() => undefined}
        {...heard}
        {...over}
      />,
    );
    return { ...shown, ...heard };
  };
  it('its light is moved by the keyboard, and says the minute in words', () => {
    const { onMinute } = ribbon();
    const light = screen.getByRole('slider', { name: 'Raking light: the minute shown' });
    expect(light.getAttribute('aria-valuetext')).toMatch(/\w/);
    fireEvent.change(light, { target: { value: '42' } });
    expect(onMinute).toHaveBeenCalledWith(42);
  });
  it('is a table as well: every item of the plan with its times', async () => {
    const { user, onStep } = ribbon();
    await user.click(screen.getByRole('button', { name: 'As a table' }));
    const rows = within(screen.getByRole('table')).getAllByRole('row').slice(1);
    expect(rows).toHaveLength(plan.plan.items.length);
    expect(rows[0]?.textContent).toContain(hourMinute(plan.plan.items[0]?.startMin as number));
    const link = within(rows[0] as HTMLElement).queryByRole('button');
    if (link) {
      await user.click(link);
      expect(onStep).toHaveBeenCalled();
    }
  });
  it('is looked at from nearer and as a whole again', async () => {
    const { user, onZoom, onChain } = ribbon({ zoom: 1 });
    await user.click(screen.getByRole('button', { name: 'Closer' }));
    expect(onZoom).toHaveBeenLastCalledWith(2);
    await user.click(screen.getByRole('button', { name: 'Whole' }));
    expect(onZoom).toHaveBeenLastCalledWith(0);
    await user.click(screen.getByRole('button', { name: 'What sets the end' }));
    expect(onChain).toHaveBeenCalled();
  });
  it('is empty in words before there are steps', () => {
    const bare = { ...lesson, steps: [] };
    ribbon({ lesson: bare, plan: planLesson(bare) });
    expect(screen.getByText(/^When there are areas and steps/)).toBeTruthy();
  });
});

describe('the lesson to read the evening before', () => {
  it('has every step in its stage, with its mixes, and what is waited for', async () => {
    server({ 'GET /api/lessons/l': { id: 'l', revision: 1, document: lesson, savedAt: '2026-01-05T10:00:00Z' } });
    onPage(
      <Routes>
        <Route path="/lesson/:id/read" element={<ReadThrough />} />
      </Routes>,
      '/lesson/l/read',
    );
    expect((await screen.findByRole('heading', { level: 1 })).textContent).toBe(lesson.title);
    const stages = screen.getAllByRole('heading', { level: 2 }).map((heading) => heading.textContent);
    for (const stage of lesson.stages) expect(stages).toContain(stage.name);
    const text = screen.getByRole('main').textContent ?? '';
    for (const step of lesson.steps) expect(text).toContain(step.title);
    for (const mix of lesson.mixes.filter((one) => lesson.steps.some((step) => step.mixIds.includes(one.id))))
      expect(text).toContain(mix.name);
    expect(text).not.toMatch(/undefined|NaN|\[object/);
  });
});
