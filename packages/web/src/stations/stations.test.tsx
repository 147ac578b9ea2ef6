/** @jest-environment ./tools/jest-page.mjs */

import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { act, screen, waitFor, within } from '@testing-library/react';
import type { ClassAnswer, Lesson, Mix } from '@viaticum/contract';
import { looksOf } from '@viaticum/core/derived';
import { demoLesson } from '@viaticum/core/fixtures';
import { planLesson } from '@viaticum/core/plan';
import { asInBrowser, choicesOf, choose, cleanup, lessonOf, onBench, server, turn } from '../fixtures/page.fixture.js';
import { LayingProvider } from '../lesson/laid.js';
import { words } from '../words/words.js';
import { Invite } from './class/invite.js';
import { MixEditor } from './paints/mix-editor.js';
import { BenchProvider } from './paints/paint-context.js';
import { Typed } from './paints/target.js';
import { TubeList } from './paints/tube-list.js';
import { PickedBar } from './steps/list/picked-bar.js';
import { MarksTopic } from './steps/topics/marks.js';
import { WhatIfTopic } from './steps/topics/what-if.js';

const lesson = demoLesson('kettle');
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

describe('one mix', () => {
  const mixOf = (of: Lesson, id: string) => of.mixes.find((mix) => mix.id === id) as Mix;
  const editor = (id = 'm-copper', of = lesson) => {
    const bench = onBench(of, (now) => {
      const mix = now.mixes.find((one) => one.id === id);
      return (
        <BenchProvider first={id}>
          <LayingProvider>
            {mix ? <MixEditor lesson={now} mix={mix} ground="rgb(240 240 240)" covering={null} /> : <p>gone</p>}
          </LayingProvider>
        </BenchProvider>
      );
    });
    return { ...bench, mix: () => mixOf(lessonOf(bench.session), id) };
  };
  it('its recipe is changed part by part, and its colour with it', async () => {
    const { user, session, mix } = editor();
    const before = looksOf(lessonOf(session)).get('m-copper')?.colour?.lab;
    const [first] = screen.getAllByLabelText(/^Parts of/);
    await choose(user, first as HTMLElement, '9');
    expect(mix().recipe[0]?.parts).toBe(9);
    expect(looksOf(lessonOf(session)).get('m-copper')?.colour?.lab).not.toEqual(before);
    const count = mix().recipe.length;
    await user.click(screen.getAllByRole('button', { name: /^Remove: / })[0] as HTMLElement);
    expect(mix().recipe).toHaveLength(count - 1);
  });
  it('another mix can be a part of it, never itself', async () => {
    const { user, mix } = editor();
    const add = screen.getByLabelText(/^Add to the recipe|^Add a/);
    const offered = await choicesOf(user, add);
    expect(offered).toContain('light copper');
    expect(offered).not.toContain('copper');
    await choose(user, add, 'light copper');
    expect(mix().mixedFrom).toEqual([{ mixId: 'm-light', parts: 1 }]);
    expect(screen.getByText('the mix light copper')).toBeTruthy();
  });
  it('is renamed, let down, and taken away with the question which steps use it', async () => {
    const { user, mix, session } = editor();
    await user.click(screen.getByLabelText(/^Let down beforehand/));
    expect(mix().letDown).toBe(true);
    const foot = screen.getByText(/^in \d+ steps?/);
    await user.click(within(foot).getByRole('button', { name: 'Delete' }));
    const dialog = await screen.findByRole('dialog');
    const using = lesson.steps.filter((step) => step.mixIds.includes('m-copper'));
    expect(
      within(dialog)
        .getAllByRole('listitem')
        .map((item) => item.textContent),
    ).toEqual(using.map((step) => step.title));
    await user.click(within(dialog).getByRole('button', { name: 'Delete' }));
    await waitFor(() => expect(screen.getByText('gone')).toBeTruthy());
    expect(lessonOf(session).steps.every((step) => !step.mixIds.includes('m-copper'))).toBe(true);
  });
  it('a target typed as L*a*b* counts when it can be a colour; a new target wins over what was typed', async () => {
    const onLab = jest.fn();
    let target: [number, number, number] | null = null;
    const bench = onBench(lesson, () => <Typed lab={target} onLab={onLab} open />);
    const set = screen.getByRole('button', { name: words.paints.set }) as HTMLButtonElement;
    const [l, a, b] = screen.getAllByRole('textbox') as HTMLInputElement[];
    await bench.user.type(l as HTMLElement, '120');
    await bench.user.type(a as HTMLElement, '−12,5');
    await bench.user.type(b as HTMLElement, '8');
    expect(set.disabled).toBe(true);
    await bench.user.clear(l as HTMLElement);
    await bench.user.type(l as HTMLElement, '62');
    await bench.user.click(set);
    expect(onLab).toHaveBeenCalledWith([62, -12.5, 8]);
    target = [40, 1, 2];
    act(() => void bench.session.do('setTitle', { title: 'x' }));
    expect((screen.getAllByRole('textbox') as HTMLInputElement[]).map((field) => field.value)).toEqual(['40', '1', '2']);
  });
});

describe('tubes', () => {
  it('one that steps need is asked about; one of the table is added by its name', async () => {
    const { user, session } = onBench(lesson, (now) => (
      <BenchProvider first={null}>
        <TubeList lesson={now} />
      </BenchProvider>
    ));
    const [tube] = lesson.tubes;
    await user.click(screen.getAllByRole('button', { name: /^Remove: / })[0] as HTMLElement);
    const dialog = await screen.findByRole('dialog');
    await user.click(within(dialog).getByRole('button', { name: 'Keep it' }));
    expect(lessonOf(session).tubes).toHaveLength(lesson.tubes.length);
    await user.click(screen.getByLabelText('Add a tube'));
    await user.keyboard('py3 ');
    await waitFor(() => expect(document.querySelectorAll('.ant-select-item-option')).toHaveLength(1));
    await user.click(document.querySelector('.ant-select-item-option') as HTMLElement);
    await waitFor(() => expect(lessonOf(session).tubes.at(-1)?.pigment).toBe('PY3'));
    // What is worth knowing of it stands at it.
    const row = screen
      .getAllByRole('button', { name: /^Remove: / })
      .at(-1)
      ?.closest('li') as HTMLElement;
    expect(await within(row).findByText('No step uses this tube.')).toBeTruthy();
    expect(lessonOf(session).tubes[0]?.id).toBe(tube?.id);
  });
});

describe('marks', () => {
  it('are added in an area, counted, and laid in a step of their own', async () => {
    const { user, session } = onBench(lesson, () => <MarksTopic />, { areaId: 'cloth' });
    const before = lesson.marks.length;
    await user.click(screen.getByRole('button', { name: 'New marks' }));
    const mark = () => lessonOf(session).marks.at(-1);
    expect(lessonOf(session).marks).toHaveLength(before + 1);
    const count = screen.getByLabelText(`How many, ${mark()?.name}`);
    await user.clear(count);
    await user.type(count, '40{Enter}');
    expect(mark()?.count).toBe(40);
    const width = screen.getByLabelText(`Width, mm, ${mark()?.name}`);
    await user.clear(width);
    await user.type(width, '500{Enter}');
    expect(screen.getByRole('alert').textContent).toBe('A mark is between 0.2 and 100 mm wide.');
    const laid = screen.getAllByRole('button', { name: 'A step for them' }).at(-1) as HTMLElement;
    await user.click(laid);
    const step = lessonOf(session).steps.find((one) => one.markIds.includes(mark()?.id as string));
    expect([step?.areaIds, step?.wholeCanvas]).toEqual([[], undefined]);
    act(() => session.undo());
    expect(lessonOf(session).steps).toHaveLength(lesson.steps.length);
  });
});

describe('several steps at once', () => {
  it('are joined, copied and taken away from the bar', async () => {
    const ids = lesson.steps
      .filter((step) => step.kind === 'paint')
      .slice(0, 2)
      .map((step) => step.id);
    const onNone = jest.fn();
    const { user, session } = onBench(lesson, () => <PickedBar ids={ids} onNone={onNone} />);
    await user.click(screen.getByRole('button', { name: /join/i }));
    expect(lessonOf(session).steps).toHaveLength(lesson.steps.length - 1);
    expect(onNone).toHaveBeenCalled();
    act(() => session.undo());
    expect(lessonOf(session)).toEqual(lesson);
  });
});

describe('trying another air', () => {
  it('moves the plan and leaves the lesson as it was', async () => {
    const setWhatIf = jest.fn();
    const { session } = onBench(lesson, () => <WhatIfTopic />, { setWhatIf });
    const [slider] = screen.getAllByRole('slider');
    turn(slider as HTMLElement, 6);
    const tried = setWhatIf.mock.calls.at(-1)?.[0] as { airC: number; humidity: number; airSpeed: number };
    expect(lessonOf(session)).toEqual(lesson);
    const other = { ...lesson, room: { ...lesson.room, airC: tried.airC, humidity: tried.humidity, airSpeed: tried.airSpeed } };
    const dryIn = (one: typeof lesson) => planLesson(one).plan.coats[0]?.paintOverMin as number;
    expect(dryIn(other)).not.toBeCloseTo(dryIn(lesson), 2);
  });
});

describe('a class that is planned', () => {
  const planned: ClassAnswer[] = [];
  const form = () => {
    const net = server({
      'GET /api/classes': planned,
      'POST /api/classes/planned': { id: 'c', code: 'KRN4WQ' },
    });
    return { net, ...onBench(lesson, () => <Invite />) };
  };
  it('needs a day; names go one a line, and too many for the seats are said', async () => {
    const { user, net } = form();
    await user.click(await screen.findByRole('button', { name: 'Plan this class' }));
    expect((await screen.findByRole('alert')).textContent).toBe('Choose a day and a time first.');
    await user.type(screen.getByLabelText('First names'), 'Ida{Enter}  Ben {Enter}{Enter}Mara');
    expect(screen.getByText(/^3 of \d+ seats\.$/)).toBeTruthy();
    const seats = screen.getByLabelText('Seats');
    await user.clear(seats);
    await user.type(seats, '2{Enter}');
    expect(screen.getByText('3 names for 2 seats: 1 too many.')).toBeTruthy();
    expect(net.asked.some((one) => one.what.startsWith('POST'))).toBe(false);
  });
  it('is sent with its time as it is here, its place, seats and first names', async () => {
    const { user, net } = form();
    const begins = await screen.findByLabelText('Begins');
    await user.click(begins);
    await user.type(begins, '5 Mar 2027 18:30{Enter}');
    const place = screen.getByLabelText('Where');
    await user.clear(place);
    await user.type(place, 'the old boathouse');
    await user.type(screen.getByLabelText('First names'), 'Ida{Enter}Ben');
    await user.click(screen.getByRole('button', { name: 'Plan this class' }));
    await waitFor(() => expect(net.asked.some((one) => one.what === 'POST /api/classes/planned')).toBe(true));
    const sent = net.asked.find((one) => one.what === 'POST /api/classes/planned')?.body as {
      lessonId: string;
      invite: { startsAt: string; place: string; roster: { firstName: string }[] };
    };
    expect(sent.lessonId).toBe('l');
    expect(new Date(sent.invite.startsAt).getTime()).toBe(new Date('2027-03-05T18:30').getTime());
    expect(sent.invite.place).toBe('the old boathouse');
    expect(sent.invite.roster.map((one) => one.firstName)).toEqual(['Ida', 'Ben']);
  });
});
