/** @jest-environment ./tools/jest-page.mjs */
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import { act, fireEvent, screen, within } from '@testing-library/react';
import { demoLesson } from '@viaticum/core/fixtures';
import { legibleMm } from '@viaticum/core/units';
import { asInBrowser, type ClassHere, classHere, cleanup, onPage, server } from '../../fixtures/page.fixture.js';
import { StagesAt } from '../painted.js';
import { Showing } from './wall.js';

const lesson = demoLesson('kettle');
beforeEach(() => {
  asInBrowser();
  server({});
  for (const [side, px] of [
    ['width', 1920],
    ['height', 1080],
  ] as const)
    Object.defineProperty(window.screen, side, { value: px, configurable: true });
});
afterEach(cleanup);

const shown = (names: readonly string[] = ['Ottilie', 'Ben']) => {
  const held = classHere(lesson, names);
  const wall = (of: ClassHere) => (
    <StagesAt base="/api/join/KRN4WQ">
      <Showing connection={of.desk} sheet={of.sheet} code="KRN4WQ" />
    </StagesAt>
  );
  return { held, ids: Object.keys(held.state.students), ...onPage(wall(held)) };
};
const goOn = (held: ClassHere) => held.say({ type: 'goOn', from: held.state.current?.index ?? -1 });
const letterPx = () => Number.parseFloat(screen.getByRole('main').style.getPropertyValue('--letter'));

describe('the wall', () => {
  it('says what the class is before it begins, and how to join', () => {
    shown();
    expect(screen.getByRole('heading').textContent).toBe(lesson.title);
    expect(screen.getByText('We begin soon')).toBeTruthy();
    expect(screen.getByText('KRN4WQ')).toBeTruthy();
  });
  it.each([
    [2, true],
    [3, false],
    [0, false],
  ])('of %d expected two have joined: where to join is shown until all are here', async (expected, areAll) => {
    server({ 'GET /api/join/KRN4WQ': { address: 'https://studio.example/join/KRN4WQ', expected } });
    shown();
    expect(await screen.findByText(areAll ? 'Everybody is here.' : 'KRN4WQ')).toBeTruthy();
    if (!areAll) expect(await screen.findByText(/Join at studio\.example\/join with/)).toBeTruthy();
    expect(screen.queryByText('KRN4WQ') === null).toBe(areAll);
  });
  it('shows the step all are at with its number and its clock, and names nobody', () => {
    const { held } = shown();
    goOn(held);
    const [first] = held.plan.items;
    expect(screen.getByRole('heading').textContent).toBe(first?.title);
    expect(screen.getByText(`step 1 of ${held.sheet.stepCount}`)).toBeTruthy();
    const minutes = Math.round((first?.endMin ?? 0) - (first?.startMin ?? 0));
    expect(document.querySelector('[data-testid="wall-clock"]')?.textContent).toMatch(
      new RegExp(`^${minutes}:0\\d|^${minutes - 1}:5\\d`),
    );
    expect(document.body.textContent).not.toMatch(/Ottilie|Ben/);
  });
  it('an easel for everybody, which gets its canvas at Done', () => {
    const { held, ids } = shown(['Ottilie', 'Ben', 'Mara']);
    goOn(held);
    const easels = () => within(screen.getByRole('list', { name: '3 easels' })).getAllByRole('listitem');
    expect(easels().filter((easel) => easel.className === 'done')).toHaveLength(0);
    held.say({ type: 'done', studentId: ids[1] as string, stepId: held.plan.items[0]?.stepId as string }, ids[1]);
    expect(easels().map((easel) => easel.className)).toEqual(['', 'done', '']);
  });
  it('a clock that is held or over says so', () => {
    const { held } = shown();
    goOn(held);
    held.say({ type: 'hold' });
    expect(document.querySelector('[data-testid="wall-clock"]')?.textContent).toBe('Look here');
    held.say({ type: 'resume' });
    held.later(200);
    held.change({});
    expect(document.querySelector('[data-testid="wall-clock"]')?.textContent).toBe('a little more time');
  });
  it('a pause shows the paint that it waits for', () => {
    const { held } = shown();
    const pause = held.plan.items.findIndex((item) => item.kind === 'pause');
    expect(pause).toBeGreaterThan(0);
    for (let k = 0; k <= pause; k++) {
      goOn(held);
      const item = held.plan.items[k];
      if (k < pause) held.later((item?.endMin ?? 0) - (item?.startMin ?? 0));
    }
    expect(screen.getByText('drying pause')).toBeTruthy();
    expect(screen.getByRole('heading').textContent).toBe(held.plan.items[pause]?.title);
  });
  it('letters follow the screen and the distance, are kept for this screen, and odd sizes change nothing', () => {
    shown();
    const before = letterPx();
    expect(legibleMm(4) / legibleMm(8)).toBeCloseTo(0.5, 6);
    fireEvent.click(screen.getByText('This screen'));
    fireEvent.change(screen.getByLabelText('Read from (metres)'), { target: { value: '16' } });
    expect(letterPx() / before).toBeCloseTo(2, 1);
    const at16 = letterPx();
    for (const odd of ['-3', '0', '', '4000']) {
      fireEvent.change(screen.getByLabelText('Read from (metres)'), { target: { value: odd } });
      expect(letterPx()).toBe(at16);
      fireEvent.blur(screen.getByLabelText('Read from (metres)'));
      fireEvent.change(screen.getByLabelText('Read from (metres)'), { target: { value: '16' } });
    }
    expect(letterPx()).toBe(at16);
    cleanupKeepingScreen(() => shown());
    expect(letterPx()).toBe(at16);
  });
  it('a lost connection and the end are said', () => {
    const { held } = shown();
    held.change({ online: false });
    expect(screen.getByRole('status').textContent).toBe('The connection is lost. It mends itself.');
    held.change({ online: true });
    expect(screen.queryByRole('status')).toBeNull();
    goOn(held);
    held.say({ type: 'end' });
    expect(screen.getByRole('heading').textContent).toBe('The class has ended. Thank you for painting.');
  });
});

/** As if this screen were switched off and on again: what it keeps stays. */
function cleanupKeepingScreen(again: () => void): void {
  const kept = { ...localStorage };
  cleanup();
  act(() => {
    for (const [key, value] of Object.entries(kept)) localStorage.setItem(key, value as string);
  });
  again();
}
