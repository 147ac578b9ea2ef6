/** @jest-environment ./tools/jest-page.mjs */
import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';
import type { ClassAnswer } from '@viaticum/contract';
import { demoLesson } from '@viaticum/core/fixtures';
import { asInBrowser, type ClassHere, classHere, cleanup, onPage, server } from '../../fixtures/page.fixture.js';
import { StagesAt } from '../painted.js';
import { useLive } from '../use-live.js';
import { Door } from './door.js';
import { Glance } from './glance.js';
import { Keys } from './keys.js';
import { Now } from './near-now.js';
import { Steps } from './near-steps.js';
import { Tell } from './near-tell.js';
import type { DeskParts } from './parts.js';
import { SeatPlan } from './seat-plan.js';
import { StudentPanel } from './student-panel.js';
import { Trouble } from './trouble.js';

const lesson = demoLesson('kettle');
const answer: ClassAnswer = {
  id: 'c',
  code: 'KRN4WQ',
  lessonId: 'l',
  title: lesson.title,
  state: 'open',
  openedAt: '2026-01-05T10:00:00Z',
  addresses: ['http://192.168.1.20:8080/join/KRN4WQ'],
  reachable: true,
  language: 'en',
  rehearsal: false,
  invite: null,
};
beforeEach(() => {
  asInBrowser();
  server({
    'GET /api/classes/KRN4WQ/students': {},
    'GET /api/people': [],
  });
});
afterEach(() => {
  cleanup();
  jest.useRealTimers();
});

function On({ held, show }: { held: ClassHere; show: (parts: DeskParts) => React.ReactNode }) {
  const live = useLive(held.desk);
  return <StagesAt base="/api/join/KRN4WQ">{show({ connection: held.desk, live, sheet: held.sheet, code: 'KRN4WQ' })}</StagesAt>;
}
const desk = (show: (parts: DeskParts) => React.ReactNode, names = ['Ida', 'Ben', 'Mara'], started = true) => {
  const held = classHere(lesson, names);
  if (started) held.say({ type: 'goOn', from: -1 });
  return { held, ids: Object.keys(held.state.students), ...onPage(<On held={held} show={show} />) };
};

describe('the glance from two metres', () => {
  it('before the start it says how many are here; then the step, its clock, and what comes then', () => {
    const { held } = desk((parts) => <Glance {...parts} />, ['Ida', 'Ben', 'Mara'], false);
    expect(screen.getByText('3 students are here')).toBeTruthy();
    expect(screen.queryByTestId('clock')).toBeNull();
    held.say({ type: 'goOn', from: -1 });
    expect(screen.getByText('step 1 of 18')).toBeTruthy();
    expect(screen.getByTestId('clock').textContent).toMatch(/^\d+:\d\d$/);
    expect(screen.getByText(held.plan.items[1]?.title as string)).toBeTruthy();
  });
  it('hands are named, several counted; who is done is counted', () => {
    const { held, ids } = desk((parts) => <Glance {...parts} />);
    const stepId = held.plan.items[0]?.stepId as string;
    held.say({ type: 'done', studentId: ids[0] as string, stepId }, ids[0]);
    expect(screen.getByText('1 of 3 done')).toBeTruthy();
    held.say({ type: 'hand', studentId: ids[1] as string, reason: 'colour' }, ids[1]);
    const rows = () => within(screen.getByTestId('needs-me')).getAllByRole('listitem');
    expect(rows().map((row) => row.textContent)).toEqual(['Ben hand: the colour, 0:00']);
    held.say({ type: 'hand', studentId: ids[2] as string, reason: 'lost' }, ids[2]);
    // Who is lost comes first.
    expect(rows().map((row) => row.getAttribute('data-why'))).toEqual(['hand', 'hand']);
    expect(rows()[0]?.textContent).toContain('lost');
  });
  it('who says nothing beyond their pace stands in the line, until somebody has seen them', async () => {
    const chosen: string[] = [];
    const { held, ids, user } = desk((parts) => <Glance {...parts} onChoose={(id) => chosen.push(id)} />);
    const steps = held.plan.items.flatMap((item, i) => (item.stepId ? [{ i, ...item }] : []));
    held.later((steps[0]?.endMin as number) - 0.5);
    held.say({ type: 'done', studentId: ids[0] as string, stepId: steps[0]?.stepId as string }, ids[0]);
    for (let i = 0; i < (steps[2]?.i as number); i++) {
      held.later(held.plan.items[i + 1]?.startMin as number);
      held.say({ type: 'goOn', from: i });
    }
    held.later((steps[2]?.endMin as number) + 30);
    held.say({ type: 'say', text: 'Well' });
    const row = (name: string) =>
      within(screen.getByTestId('needs-me'))
        .getAllByRole('listitem')
        .find((one) => one.textContent?.startsWith(name)) as HTMLElement;
    expect(row('Ida').textContent).toMatch(/^Ida quiet for \d+ min/);
    expect(row('Ben').textContent).toContain('says nothing: look when you pass');
    await user.click(within(row('Ida')).getByRole('button', { name: /quiet for/ }));
    expect(chosen).toEqual([ids[0]]);
    await user.click(screen.getByRole('button', { name: 'Ida: seen, fine' }));
    expect(held.said.at(-1)).toEqual({ type: 'seen', studentId: ids[0] });
    expect(row('Ida')).toBeUndefined();
  });
  it('time that has run out is said as over', () => {
    jest.useFakeTimers();
    const { held } = desk((parts) => <Glance {...parts} />);
    held.later((held.plan.items[0]?.endMin as number) - 0 + 2);
    act(() => jest.advanceTimersByTime(300));
    expect(screen.getByTestId('clock').textContent).toBe('over by 2:00');
  });
});

describe('the large keys', () => {
  const keys = (names?: string[], started?: boolean) => desk((parts) => <Keys {...parts} />, names, started);
  it('start, go on, hold and go on again, a minute more', async () => {
    const { held, user } = keys(['Ida'], false);
    await user.click(screen.getByRole('button', { name: /^Start:/ }));
    await user.click(screen.getByRole('button', { name: /^Go on:/ }));
    await user.click(screen.getByRole('button', { name: /^Hold/ }));
    await user.click(screen.getByRole('button', { name: /^Go on with the clock/ }));
    await user.click(screen.getByRole('button', { name: /^One minute more/ }));
    expect(held.said.map((command) => command.type)).toEqual(['goOn', 'goOn', 'hold', 'resume', 'extend']);
  });
  it('the keyboard and a presenter’s clicker do the same, but not while something is typed', () => {
    const { held } = desk((parts) => (
      <>
        <Keys {...parts} />
        <input aria-label="note" />
      </>
    ));
    // In the pause it asks once more: the paint is wet, and nobody said Done.
    for (const key of ['ArrowRight', 'PageDown', 'PageDown', 'H', 'h', 'E']) fireEvent.keyDown(document.body, { key });
    expect(held.said.map((command) => command.type)).toEqual(['goOn', 'paintOn', 'hold', 'resume', 'extend']);
    fireEvent.keyDown(screen.getByLabelText('note'), { key: 'h' });
    fireEvent.keyDown(document.body, { key: 'h', ctrlKey: true });
    expect(held.said).toHaveLength(5);
  });
  it('with Caps Lock letters act as well; switched off they rest, and arrows go on', () => {
    const { held } = keys();
    fireEvent.keyDown(document.body, { key: 'H' });
    expect(held.state.phase).toBe('held');
    fireEvent.keyDown(document.body, { key: 'h' });
    localStorage.setItem('viaticum-single-keys', 'off');
    fireEvent.keyDown(document.body, { key: 'h' });
    expect(held.state.phase).toBe('running');
    const at = held.state.current?.index ?? -1;
    fireEvent.keyDown(document.body, { key: 'ArrowRight' });
    expect(held.state.current?.index).toBe(at + 1);
    localStorage.removeItem('viaticum-single-keys');
  });
  it('going on is taken back for five seconds; after that one goes back a step', () => {
    jest.useFakeTimers();
    const { held } = keys();
    fireEvent.keyDown(document.body, { key: 'ArrowRight' });
    expect(screen.getByRole('button', { name: /^Take it back/ })).toBeTruthy();
    fireEvent.keyDown(document.body, { key: 'ArrowLeft' });
    expect(held.state.current?.index).toBe(0);
    fireEvent.keyDown(document.body, { key: 'ArrowRight' });
    held.later(1);
    act(() => jest.advanceTimersByTime(300));
    expect((screen.getByRole('button', { name: /^Take it back/ }) as HTMLButtonElement).disabled).toBe(true);
    fireEvent.keyDown(document.body, { key: 'ArrowLeft' });
    expect(held.said.at(-1)).toMatchObject({ type: 'goTo', to: 0 });
  });
  it('ending asks once more; then no key acts', async () => {
    const { held, user } = keys();
    held.later(1);
    held.change({});
    await waitFor(() => screen.getByRole('button', { name: 'End the class' }));
    await user.click(screen.getByRole('button', { name: 'End the class' }));
    expect(held.state.phase).toBe('running');
    await user.click(screen.getByRole('button', { name: 'End it for everyone' }));
    expect(held.state.phase).toBe('ended');
    expect(screen.getByRole('link', { name: 'What happened' }).getAttribute('href')).toBe('/class/KRN4WQ');
    expect(screen.queryByRole('button')).toBeNull();
  });
  it('in a pause D says that the coat is dry', () => {
    const { held } = keys();
    const at = held.plan.items.findIndex((item) => item.kind === 'pause');
    for (let i = 0; i < at; i++) held.say({ type: 'goOn', from: i });
    held.later(0.1);
    const presses = () => fireEvent.keyDown(document.body, { key: 'd' });
    // So early it is asked once more: one stray key frees nothing.
    const before = held.said.length;
    presses();
    expect(held.said).toHaveLength(before);
    expect(screen.getByRole('alert').textContent).toMatch(
      /^Dry after \d+ min\? The model says \d+\. Press D again within 4 s, or touch another\.$/,
    );
    presses();
    expect(held.said.at(-1)).toMatchObject({ type: 'touchTest', dry: true });
  });
});

describe('the seat plan', () => {
  it('every easel says how its student is: done, late, with a hand, away', () => {
    jest.useFakeTimers();
    const { held, ids } = desk((parts) => <SeatPlan {...parts} chosen={null} />);
    const stepId = held.plan.items[0]?.stepId as string;
    held.say({ type: 'done', studentId: ids[0] as string, stepId }, ids[0]);
    held.say({ type: 'hand', studentId: ids[1] as string, reason: 'brush' }, ids[1]);
    held.change({ connected: [ids[0] as string, ids[1] as string] });
    held.later(1.5);
    act(() => jest.advanceTimersByTime(300));
    expect(screen.getByRole('button', { name: /^Ida/ }).getAttribute('aria-label')).toBe('Ida done');
    expect(screen.getByRole('button', { name: /^Ben/ }).getAttribute('aria-label')).toBe('Ben hand 1:30, the brush');
    expect(screen.getByRole('button', { name: /^Mara/ }).getAttribute('aria-label')).toBe('Mara away');
  });
  it('somebody is chosen, and told that they have been helped', async () => {
    const onChoose = jest.fn();
    const onHelped = jest.fn();
    const { held, ids, user } = desk((parts) => <SeatPlan {...parts} onChoose={onChoose} onHelped={onHelped} />);
    await user.click(screen.getByRole('button', { name: /^Mara/ }));
    expect(onChoose).toHaveBeenCalledWith(ids[2]);
    held.say({ type: 'hand', studentId: ids[1] as string, reason: 'other' }, ids[1]);
    await user.click(screen.getByRole('button', { name: 'Ben has been helped' }));
    expect(onHelped).toHaveBeenCalledWith(ids[1]);
  });
  it('an empty room says where easels come from', () => {
    desk((parts) => <SeatPlan {...parts} />, []);
    expect(screen.getByText('Easels appear here as students join.')).toBeTruthy();
  });
});

describe('one student, when near', () => {
  const panel = (index = 0) => {
    const onClose = jest.fn();
    const shown = desk((parts) => {
      const student = Object.values(parts.live.state.students)[index];
      return student ? <StudentPanel {...parts} student={student} onClose={onClose} /> : <p>nobody</p>;
    });
    return { ...shown, onClose };
  };
  it('is given another name, said to be done, seated elsewhere', async () => {
    const { held, ids, user, onClose } = panel();
    const name = screen.getByDisplayValue('Ida');
    await user.clear(name);
    await user.type(name, 'Ida L.{Enter}');
    expect(held.state.students[ids[0] as string]?.firstName).toBe('Ida L.');
    const step = () => screen.getByTestId('student-step');
    expect(step().getAttribute('data-how')).toBe('open');
    await user.click(within(step()).getByRole('button', { name: 'Done' }));
    expect(held.said.at(-1)?.type).toBe('done');
    expect(step().getAttribute('data-how')).toBe('said');
    await user.click(within(step()).getByRole('button', { name: 'Not done' }));
    expect(held.said.at(-1)?.type).toBe('notYet');
    await user.click(within(step()).getByRole('button', { name: 'Left out' }));
    expect(held.said.at(-1)).toMatchObject({ type: 'answer', is: 'left-out' });
    expect(step().textContent).toContain('left out');
    await user.click(screen.getByRole('button', { name: 'Seat to the right' }));
    expect(held.said.at(-1)).toMatchObject({ type: 'seat', seat: 1 });
    await user.click(screen.getByRole('button', { name: 'Close' }));
    expect(onClose).toHaveBeenCalled();
  });
  it('is taken out at the second press only', async () => {
    const { held, user } = panel(2);
    await user.click(screen.getByRole('button', { name: 'Take out of the class' }));
    expect(held.said).toEqual([]);
    await user.click(screen.getByRole('button', { name: 'Take out for good' }));
    expect(screen.getByText('nobody')).toBeTruthy();
  });
});

describe('when near', () => {
  it('says where to join, takes a note of the air, and what a touch finds', async () => {
    const { held, user } = desk((parts) => <Now {...parts} answer={answer} />);
    expect(screen.getByText('192.168.1.20:8080/join')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Note the air' }));
    await user.type(screen.getByLabelText('Air, °C'), '26,5');
    await user.type(screen.getByLabelText('Humidity, %'), '38');
    await user.click(screen.getByRole('button', { name: 'Note the air' }));
    expect(held.said.at(-1)).toEqual({ type: 'climate', airC: 26.5, humidity: 0.38 });
    const at = held.plan.items.findIndex((item) => item.kind === 'pause');
    for (let i = 0; i < at; i++) held.say({ type: 'goOn', from: i });
    await user.click(screen.getByRole('button', { name: 'Not yet' }));
    expect(held.said.at(-1)).toMatchObject({ type: 'touchTest', dry: false });
  });
  it('tells all something of one’s own or something ready', async () => {
    const { held, user } = desk((parts) => <Tell {...parts} />);
    await user.click(screen.getByRole('button', { name: 'Watch your water' }));
    await user.type(screen.getByLabelText('Tell all'), 'Step back now');
    await user.click(screen.getByRole('button', { name: 'Tell them' }));
    expect(held.state.said.map((one) => one.text)).toEqual(['Watch your water', 'Step back now']);
  });
  it('goes to any step from the list', async () => {
    const { held, user } = desk((parts) => <Steps {...parts} />);
    const third = held.plan.items.filter((item) => item.kind === 'step')[2];
    await user.click(screen.getByRole('button', { name: `Go to: ${third?.title}` }));
    expect(held.state.plan?.items[held.state.current?.index ?? -1]?.title).toBe(third?.title);
  });
});

describe('at the door, and in trouble', () => {
  it('who waits outside is let in or not', async () => {
    const admit = jest.fn();
    const held = classHere(lesson, ['Ida']);
    const connection = { ...held.desk, admit };
    const live = { ...held.desk.get(), door: [{ id: 'x', firstName: 'Jo', more: true }] };
    const { user } = onPage(<Door connection={connection} live={live as never} />);
    expect(screen.getByText(/^Jo would like to come in/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Let in' }));
    expect(admit).toHaveBeenCalledWith(['x'], true);
    await user.click(screen.getByRole('button', { name: 'Not now' }));
    expect(admit).toHaveBeenLastCalledWith(['x'], false);
  });
  it('a lost connection and a refusal are said', () => {
    const held = classHere(lesson);
    const live = { ...held.desk.get(), online: false, refusal: 'This is the last step.' };
    onPage(<Trouble connection={held.desk} live={live} />);
    expect(screen.getByText(/^No connection just now/)).toBeTruthy();
    expect(screen.getByText(/This is the last step/)).toBeTruthy();
  });
});
