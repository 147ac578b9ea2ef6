/** @jest-environment ./tools/jest-page.mjs */
import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { act, screen, within } from '@testing-library/react';
import { TAKE_BACK_MS } from '@viaticum/core/class';
import { demoLesson } from '@viaticum/core/fixtures';
import { asInBrowser, type ClassHere, classHere, cleanup, onPage } from '../../fixtures/page.fixture.js';
import { StagesAt } from '../painted.js';
import { useLive } from '../use-live.js';
import { AskCode, AskName } from './asking.js';
import { Cells } from './cells.js';
import { Present } from './present.js';
import { Resting } from './resting.js';
import { Ticks } from './ticks.js';

beforeEach(() => {
  asInBrowser();
  Object.assign(globalThis, { fetch: async () => ({ ok: false, status: 404, headers: new Headers(), json: async () => ({}) }) });
});
afterEach(() => {
  cleanup();
  jest.useRealTimers();
});
const lesson = demoLesson('kettle');

function Phone({ held, id, isAlone }: { held: ClassHere; id: string; isAlone?: boolean }) {
  const connection = held.phone(id);
  const live = useLive(held.desk);
  const student = live.state.students[id];
  if (!student) return null;
  return (
    <StagesAt base="/api/join/KRN4WQ">
      <Present connection={connection} live={live} sheet={held.sheet} student={student} isAlone={isAlone ?? false} />
    </StagesAt>
  );
}
const painting = (names = ['Ida', 'Ben']) => {
  const held = classHere(lesson, names);
  held.say({ type: 'goOn', from: -1 });
  const id = Object.keys(held.state.students)[0] as string;
  return { held, id, ...onPage(<Phone held={held} id={id} />) };
};

describe('the code and the name', () => {
  it('a code is taken as it is meant: capitals, no blanks; nothing is asked with nothing', async () => {
    const onCode = jest.fn();
    const { user } = onPage(<AskCode fault="No class has this code." onCode={onCode} />);
    expect(screen.getByRole('alert').textContent).toBe('No class has this code.');
    await user.click(screen.getByRole('button', { name: 'Next' }));
    expect(onCode).not.toHaveBeenCalled();
    await user.type(screen.getByLabelText('Class code'), 'krn 4wq');
    await user.click(screen.getByRole('button', { name: 'Next' }));
    expect(onCode).toHaveBeenCalledWith('KRN4WQ');
  });
  it('who has every tube says nothing; who lacks some says which there are; helpers are asked where they serve', async () => {
    const held = classHere(lesson);
    const onName = jest.fn();
    const ways = { k2: [{ helper: 'mist' as const, words: 'Mist it.' }] };
    const { user } = onPage(
      <AskName title={lesson.title} sheet={{ tubes: held.sheet.tubes, ways }} offered={[]} fault={null} onName={onName} />,
    );
    await user.click(screen.getByRole('button', { name: 'Join' }));
    expect(onName).not.toHaveBeenCalled();
    await user.type(screen.getByLabelText('Your first name'), '  Ida ');
    await user.click(screen.getByRole('button', { name: 'Join' }));
    expect(onName).toHaveBeenLastCalledWith('Ida', [], []);
    const [first, ...rest] = held.sheet.tubes;
    await user.click(screen.getByText(/tubes/));
    await user.click(screen.getByLabelText(first?.name as string));
    await user.click(screen.getByLabelText('a mist bottle'));
    await user.click(screen.getByRole('button', { name: 'Join' }));
    expect(onName).toHaveBeenLastCalledWith(
      'Ida',
      rest.map((tube) => tube.id),
      ['mist'],
    );
    expect(screen.getByText(`I lack 1 of ${held.sheet.tubes.length} tubes`)).toBeTruthy();
    expect(screen.queryByLabelText('retarder')).toBeNull();
    // With none at all one shares.
    await user.click(screen.getByLabelText('I have no tubes'));
    expect(screen.getByText('Share a palette with a neighbour.')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Join' }));
    expect(onName).toHaveBeenLastCalledWith('Ida', ['none'], ['mist']);
  });
  it('names on the list are tapped; who is not on it types one, and a name that is taken gets a letter', async () => {
    const onName = jest.fn();
    const fault = 'There is a kaya l already. Add the first letter of your second name.';
    const { user } = onPage(
      <AskName title="" sheet={{ tubes: [] }} offered={['Kaya B', 'Anne, Marie']} fault={fault} onName={onName} />,
    );
    await user.click(screen.getByRole('button', { name: 'Kaya B' }));
    await user.click(screen.getByRole('button', { name: 'Join' }));
    expect(onName).toHaveBeenLastCalledWith('Kaya B', [], []);
    await user.click(screen.getByRole('button', { name: 'I am not on the list' }));
    await user.type(screen.getByLabelText('Your first name'), 'kaya l');
    await user.click(screen.getByRole('button', { name: 'Join' }));
    // Whether it is taken the server knows; what it answers stands over the key.
    expect(onName).toHaveBeenLastCalledWith('kaya l', [], []);
    expect(screen.getByRole('alert').textContent).toBe(fault);
  });
});

describe('one step a screen', () => {
  it('says what to do, with which brush, and how long is left', () => {
    const { held } = painting();
    const first = held.plan.items[0];
    expect(screen.getByRole('heading', { level: 1 }).textContent).toBe(held.sheet.steps[first?.stepId as string]?.title);
    const left = Number(screen.getByTestId('clock').dataset.seconds);
    expect(left).toBeCloseTo(((first?.endMin ?? 0) - (first?.startMin ?? 0)) * 60, 0);
    expect(screen.getByText('step 1 of 18')).toBeTruthy();
  });
  it('done is said once, can be taken back for five seconds, and then stands', async () => {
    jest.useFakeTimers({ advanceTimers: true });
    const { held, user } = painting();
    await user.click(screen.getByRole('button', { name: 'Done' }));
    expect(held.said.map((command) => command.type)).toEqual(['done']);
    await user.click(screen.getByRole('button', { name: /^Take it back/ }));
    expect(held.said.map((command) => command.type)).toEqual(['done', 'notYet']);
    await user.click(screen.getByRole('button', { name: 'Done' }));
    held.later(TAKE_BACK_MS / 60_000 + 0.01);
    act(() => jest.advanceTimersByTime(400));
    expect(screen.getByText(/^Done. Wait for the others/)).toBeTruthy();
  });
  it('a hand goes up with its reason and down again', async () => {
    const { held, id, user } = painting();
    await user.click(screen.getByRole('button', { name: 'I need a hand' }));
    await user.click(screen.getByRole('button', { name: 'Never mind' }));
    await user.click(screen.getByRole('button', { name: 'I need a hand' }));
    await user.click(screen.getByRole('button', { name: 'too wet' }));
    expect(held.state.students[id]?.hand?.reason).toBe('too-wet');
    await user.click(screen.getByRole('button', { name: /^Hand is up/ }));
    expect(held.state.students[id]?.hand ?? null).toBeNull();
  });
  it('one looks back freely; a new step ends it', async () => {
    const { held, user } = painting();
    held.say({ type: 'goOn', from: 0 });
    const present = screen.getByRole('main').dataset.index;
    await user.click(screen.getByRole('button', { name: 'Look back' }));
    expect(screen.getByRole('main').dataset.index).toBe('0');
    expect(screen.queryByTestId('clock')).toBeNull();
    await user.click(screen.getByRole('button', { name: 'To the present step' }));
    expect(screen.getByRole('main').dataset.index).toBe(present);
    await user.click(screen.getByRole('button', { name: 'Look back' }));
    held.say({ type: 'goOn', from: 1 });
    expect(screen.getByRole('main').dataset.index).toBe('2');
  });
  it('what is said to all is shown for some minutes, a stopped clock and a lost connection are said', () => {
    jest.useFakeTimers();
    const { held } = painting();
    held.say({ type: 'say', text: 'Watch your water' } as never);
    expect(screen.getByRole('status').textContent).toContain('Watch your water');
    held.say({ type: 'hold' });
    expect(screen.getByText('Stop painting, look at your instructor. Your paint dries on.')).toBeTruthy();
    held.change({ online: false });
    expect(screen.getByText(/^No connection just now/)).toBeTruthy();
    held.later(4);
    act(() => jest.advanceTimersByTime(400));
    expect(screen.queryByText('Watch your water')).toBeNull();
  });
  it('a drying pause shows its length, its clock and what to do meanwhile', () => {
    const { held } = painting();
    const at = held.plan.items.findIndex((item) => item.kind === 'pause' && item.meanwhile);
    const pause = held.plan.items[at];
    held.say({ type: 'goTo', from: 0, to: at });
    expect(screen.getByTestId('pause-minutes').textContent).toMatch(/min/);
    expect(screen.getByText('Meanwhile').parentElement?.textContent).toContain(pause?.meanwhile);
    expect(screen.getByTestId('clock')).toBeTruthy();
  });
  it('who is still painting in a pause can say that they are done now', async () => {
    const { held, id, user } = painting();
    const at = held.plan.items.findIndex((item) => item.kind === 'pause');
    for (let i = 0; i < at; i++) held.say({ type: 'goOn', from: i });
    const before = held.plan.items[at - 1]?.stepId as string;
    await user.click(screen.getByRole('button', { name: /Done/ }));
    expect(held.state.students[id]?.doneAt[before]).toBeDefined();
  });
  it('large type and millimetres are kept on the phone', async () => {
    const { user } = painting();
    await user.click(screen.getByText('This phone'));
    await user.click(screen.getByLabelText('Large type'));
    expect(screen.getByRole('main').className).toContain('large');
    const kept = localStorage.getItem('viaticum-phone');
    cleanup();
    localStorage.setItem('viaticum-phone', kept as string);
    painting();
    expect(screen.getByRole('main').className).toContain('large');
  });
});

describe('counting', () => {
  it('ticks count up to their number and begin again', async () => {
    const { user } = onPage(<Ticks stepKey="a" counts={[{ name: 'tufts', count: 2, until: 'the corner is full' }]} />);
    const tick = screen.getByRole('button', { name: 'One more done: tufts' });
    for (const said of ['1 of 2', '2 of 2', '0 of 2']) {
      await user.click(tick);
      expect(screen.getByText(said)).toBeTruthy();
    }
    expect(screen.getByText(/until the corner is full/)).toBeTruthy();
  });
  it('cells are drawn one after the other; a tick goes on to the next that is open', async () => {
    const held = classHere(lesson);
    const { user } = onPage(<Cells sheet={held.sheet} grid={{ columns: 2, rows: 2 }} />);
    await user.click(screen.getByRole('button', { name: 'Drawn' }));
    expect(screen.getByRole('img').getAttribute('aria-label')).toBe('Cell B1, 1 of 4 drawn');
    await user.click(screen.getByRole('button', { name: 'Cell before' }));
    expect(screen.getByRole('button', { name: 'Not drawn after all' }).getAttribute('aria-pressed')).toBe('true');
    await user.click(screen.getByRole('button', { name: 'Not drawn after all' }));
    expect(screen.getByRole('img').getAttribute('aria-label')).toBe('Cell A1, 0 of 4 drawn');
  });
});

it('a resting screen says what it is, and when the connection is lost', () => {
  onPage(<Resting title="The class has ended" about="Sign your picture." more="Ida" lost />);
  const page = screen.getByRole('main');
  expect(within(page).getByRole('heading').textContent).toBe('The class has ended');
  expect(within(page).getByRole('status').textContent).toMatch(/^No connection/);
});
