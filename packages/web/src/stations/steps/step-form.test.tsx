/** @jest-environment ./tools/jest-page.mjs */
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import { act as acting, screen, waitFor } from '@testing-library/react';
import type { Step } from '@viaticum/contract';
import { demoLesson } from '@viaticum/core/fixtures';
import { asInBrowser, choose, cleanup, lessonOf, onBench, server } from '../../fixtures/page.fixture.js';
import { StepPane } from './step-pane.js';

const lesson = demoLesson('kettle');
const step = lesson.steps.find((one) => one.areaIds.length === 2) as Step;

beforeEach(() => {
  asInBrowser();
  server({ 'PUT /api/lessons/l': { revision: 2, savedAt: '2026-01-05T10:01:00Z' } });
});
afterEach(cleanup);

const open = async (of = lesson, id = step.id) => {
  const bench = onBench(of, (now) => (now.steps.some((one) => one.id === id) ? <StepPane /> : <p>gone</p>), { stepId: id });
  // The fields come when they are first needed.
  await screen.findByLabelText('Where', {}, { timeout: 20_000 });
  const now = () => lessonOf(bench.session).steps.find((one) => one.id === id) as Step;
  return { ...bench, now };
};

describe('the step form', () => {
  it('a title takes effect when the field is left, and is one change', async () => {
    const { user, session, now } = await open();
    const title = screen.getByLabelText('Title');
    await user.clear(title);
    await user.type(title, 'Copper, first coat');
    await user.tab();
    expect(now().title).toBe('Copper, first coat');
    acting(() => void session.undo());
    expect(now().title).toBe(step.title);
  });
  it('minutes that cannot be are refused at the field, which goes back', async () => {
    const { user, now } = await open();
    const field = screen.getByLabelText(/^Minutes to do/);
    await user.clear(field);
    await user.type(field, '700');
    await user.tab();
    expect(screen.getByRole('alert').textContent).toBe('Minutes cannot be negative or above 600. Enter how long this takes.');
    expect(now().doMin).toBe(step.doMin);
    expect(screen.getByLabelText(/^Minutes to do/)).toHaveProperty('ariaInvalid');
    await user.clear(screen.getByLabelText(/^Minutes to do/));
    await user.type(screen.getByLabelText(/^Minutes to do/), '12.5');
    await user.tab();
    expect(now().doMin).toBe(12.5);
    expect(screen.queryByRole('alert')).toBeNull();
  });
  it('an empty number is taken away: the proposed one counts again', async () => {
    const { user, now } = await open();
    const field = screen.getByLabelText(/^Minutes to show/);
    await user.clear(field);
    await user.type(field, '3');
    await user.tab();
    expect(now().showMin).toBe(3);
    await user.clear(screen.getByLabelText(/^Minutes to show/));
    await user.tab();
    expect(now().showMin).toBeUndefined();
  });
  it('the whole canvas stands in the place of areas, and areas in its place', async () => {
    const { user, now } = await open();
    const where = screen.getByLabelText('Where');
    await choose(user, where, 'the whole canvas');
    expect([now().areaIds, now().wholeCanvas]).toEqual([[], true]);
    const other = lesson.areas.find((area) => area.id === step.areaIds[0])?.name as string;
    await choose(user, where, other);
    expect([now().areaIds, now().wholeCanvas]).toEqual([[step.areaIds[0]], undefined]);
  });
  it('follows a choice by the keyboard: the dryer, and part by part', async () => {
    const { user, now } = await open();
    const dryer = screen.getByLabelText('dried with the hair dryers');
    dryer.focus();
    await user.keyboard(' ');
    expect(now().dryer).toBe(step.dryer ? undefined : true);
    await user.keyboard(' ');
    expect(now().dryer).toBe(step.dryer);
  });
  it('is moved, doubled and taken away by its keys', async () => {
    const { user, session, now } = await open();
    const place = () => lessonOf(session).steps.findIndex((one) => one.id === step.id);
    const before = place();
    const act = async (name: string) => {
      await user.click(screen.getByRole('button', { name: 'More for this step' }));
      await user.click(await screen.findByRole('menuitem', { name }));
    };
    await act('Later');
    expect(place()).toBe(before + 1);
    await act('Earlier');
    expect(place()).toBe(before);
    await act('Duplicate');
    expect(lessonOf(session).steps[before + 1]?.title).toBe(now().title);
    await act('Take away');
    await waitFor(() => expect(screen.getByText('gone')).toBeTruthy());
  });
});
