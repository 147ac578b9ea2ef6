/** @jest-environment ./tools/jest-page.mjs */
import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { act, fireEvent, screen, within } from '@testing-library/react';
import { demoLesson } from '@viaticum/core/fixtures';
import { Route, Routes } from 'react-router';
import { asInBrowser, type ClassHere, classHere, cleanup, onPage, server, turn } from '../../fixtures/page.fixture.js';
import Record from './record.js';

const lesson = demoLesson('kettle');
beforeEach(asInBrowser);
afterEach(() => {
  cleanup();
  jest.useRealTimers();
});

const lookBack = async (held: ClassHere) => {
  server({
    'GET /api/classes/KRN4WQ/record': {
      title: lesson.title,
      events: held.events,
      sheet: held.sheet,
      lesson,
      students: {},
    },
    'GET /api/classes/KRN4WQ': { id: 'c', code: 'KRN4WQ', lessonId: 'l7', title: lesson.title, state: 'ended' },
    'GET /api/classes/KRN4WQ/students': {},
  });
  const shown = onPage(
    <Routes>
      <Route path="/record/:code" element={<Record />} />
    </Routes>,
    '/record/KRN4WQ',
  );
  await screen.findByRole('heading', { name: lesson.title, level: 1 });
  return shown;
};
/** Three steps as planned, the second one `late` minutes longer. */
const taught = (late: number) => {
  const held = classHere(lesson, ['Ida', 'Ben']);
  const [ida, ben] = Object.keys(held.state.students) as [string, string];
  for (let k = 0; k < 3; k++) {
    held.say({ type: 'goOn', from: k - 1 });
    const item = held.plan.items[k];
    const stepId = item?.stepId as string;
    const whole = (item?.endMin ?? 0) - (item?.startMin ?? 0);
    held.later(whole / 2);
    held.say({ type: 'done', studentId: ida, stepId }, ida);
    if (k === 1) {
      held.say({ type: 'hand', studentId: ben, reason: 'colour' }, ben);
      held.later(late);
      held.say({ type: 'handDown', studentId: ben });
    }
    held.later(whole / 2);
    if (k < 2) held.say({ type: 'done', studentId: ben, stepId }, ben);
  }
  held.say({ type: 'end' });
  return held;
};
const row = (title: string) => {
  const [found] = screen.getAllByRole('rowheader', { name: new RegExp(`^${title.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}`) });
  return within(found?.closest('tr') as HTMLElement)
    .getAllByRole('cell')
    .map((cell) => cell.textContent);
};

describe('what happened', () => {
  it('sets planned against actual a step: the late one is late by what it took longer', async () => {
    const held = taught(7);
    await lookBack(held);
    const titles = held.plan.items.slice(0, 3).map((item) => item.title);
    expect(row(titles[0] as string)[2]).toBe('');
    expect(row(titles[1] as string)[2]).toBe('+7');
    expect(row(titles[0] as string)[4]).toBe('2 of 2');
    expect(row(titles[2] as string)[4]).toBe('1 of 2');
    const never = held.plan.items.slice(3).find((item) => item.kind === 'step');
    expect(row(never?.title as string)[1]).toBe('not taught');
  });
  it('names who finished, and for how long a hand was up', async () => {
    await lookBack(taught(7));
    expect(screen.getByText(/^1 of 2 said Done to the last step/).textContent).toContain('Finished: Ida.');
    const [hand] = within(screen.getByRole('heading', { name: 'Hands' }).parentElement as HTMLElement).getAllByText(/ Ben, /);
    expect(hand?.textContent).toMatch(/helped after 7\smin/);
  });
  it('leads back to its lesson', async () => {
    await lookBack(taught(0));
    expect((await screen.findByRole('link', { name: 'Back to the lesson' })).getAttribute('href')).toBe('/lesson/l7/class');
  });
  it('a class that was never begun says so and shows no table', async () => {
    await lookBack(classHere(lesson, ['Ida']));
    expect(screen.getByText('This class was never begun: there is nothing to look back on.')).toBeTruthy();
    expect(screen.queryByRole('table')).toBeNull();
  });
  it('the room stands as it stood at the minute that is chosen; play goes on from there and stops at the end', async () => {
    const held = taught(0);
    await lookBack(held);
    const at = screen.getByRole('slider', { name: 'Minute of the class' });
    const minute = () => Number(at.getAttribute('aria-valuenow'));
    const place = () => at.closest('section') as HTMLElement;
    expect(within(place()).getAllByText(held.plan.items[0]?.title as string).length).toBeGreaterThan(0);
    turn(at, 2 * Math.ceil((held.plan.items[1]?.startMin ?? 0) + 1));
    expect(place().querySelector('[data-testid="record-now"]')?.textContent).toBe(held.plan.items[1]?.title);
    jest.useFakeTimers();
    fireEvent.click(screen.getByRole('button', { name: 'Play' }));
    const before = minute();
    act(() => void jest.advanceTimersByTime(1300));
    expect(minute()).toBeGreaterThan(before + 3);
    act(() => void jest.advanceTimersByTime(10 * 60_000));
    expect(minute()).toBeLessThanOrEqual(Number(at.getAttribute('aria-valuemax')));
    fireEvent.click(screen.getByRole('button', { name: 'Stop' }));
    const stopped = minute();
    act(() => void jest.advanceTimersByTime(5000));
    expect(minute()).toBe(stopped);
  });
});
