/** @jest-environment ./tools/jest-page.mjs */
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import { act as acting, screen, waitFor } from '@testing-library/react';
import type { Step } from '@viaticum/contract';
import { findings } from '@viaticum/core/check';
import { proposeStep } from '@viaticum/core/draft';
import { demoLesson } from '@viaticum/core/fixtures';
import { planLesson } from '@viaticum/core/plan';
import { asInBrowser, choose, cleanup, lessonOf, onBench, server } from '../../fixtures/page.fixture.js';
import { newStep } from './new-step.js';
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
    await act('Delete');
    await waitFor(() => expect(screen.getByText('gone')).toBeTruthy());
  });
  it('area first: a new step is filled in as the school would paint there, with why, as one change', async () => {
    const stageId = lesson.stages[0]?.id as string;
    const bare = { ...lesson, steps: [newStep(stageId)] };
    const id = bare.steps[0]?.id as string;
    const { user, session, now } = await open(bare, id);
    const area = lesson.areas[0];
    await choose(user, screen.getByLabelText('Where'), area?.name as string);
    const proposed = proposeStep(bare, area?.id as string, id);
    expect(now()).toMatchObject({ areaIds: [area?.id], ...proposed?.fields });
    expect(now().mixIds.length).toBeGreaterThan(0);
    expect(screen.getByText(new RegExp(`^Proposed\\. .*${proposed?.why[0]?.slice(0, 12)}`))).toBeTruthy();
    acting(() => void session.undo());
    expect(lessonOf(session)).toEqual(bare);
  });
  it('what was written by hand stays when an area is added; as usual is asked for', async () => {
    const { user, now } = await open();
    const other = lesson.areas.find((one) => !step.areaIds.includes(one.id));
    await choose(user, screen.getByLabelText('Where'), other?.name as string);
    expect(now().areaIds).toEqual([...step.areaIds, other?.id]);
    expect([now().title, now().mixIds, now().brushId]).toEqual([step.title, step.mixIds, step.brushId]);
    await user.click(screen.getByRole('button', { name: 'As usual here' }));
    expect(now().areaIds).toEqual([...step.areaIds, other?.id]);
    expect(now().technique).toBe(proposeStep(lesson, step.areaIds[0] as string, step.id)?.fields.technique);
    expect(now().title).toBe(step.title);
  });
  it('kinds that lay no paint ask for no brush, mixes or marks', async () => {
    const { user, now } = await open();
    expect(screen.getByLabelText('Brush')).toBeTruthy();
    await choose(user, screen.getByLabelText('Kind'), 'look');
    expect(now().kind).toBe('look');
    for (const gone of ['Brush', 'Technique', 'Mixes', 'Share covered, %'])
      expect([gone, screen.queryByLabelText(gone)]).toEqual([gone, null]);
    expect(screen.getByLabelText('Minutes to do')).toBeTruthy();
  });
  it('typed minutes say what is proposed, and go back by one press', async () => {
    const plan = planLesson(lesson).minutes.get(step.id)?.proposedDoMin as number;
    const { user, now } = await open();
    const field = screen.getByLabelText('Minutes to do');
    await user.clear(field);
    await user.type(field, `${plan + 9}{Enter}`);
    expect(now().doMin).toBe(plan + 9);
    await user.click(screen.getByRole('button', { name: /^typed; back to / }));
    expect(now().doMin).toBeUndefined();
    expect(screen.getByText('proposed')).toBeTruthy();
  });
  it('what is worth knowing about it stands at its head, with the fix', async () => {
    const hurried = {
      ...lesson,
      steps: lesson.steps.map((one) => (one.id === step.id ? { ...one, technique: 'blend' as const, doMin: 120 } : one)),
    };
    const { user, session } = await open(hurried);
    const found = findings(hurried, planLesson(hurried)).filter((one) => one.place.stepId === step.id);
    expect(found.length).toBeGreaterThan(0);
    for (const one of found) expect(screen.getAllByText(new RegExp(one.words.slice(0, 30))).length).toBeGreaterThan(0);
    const fixable = found.find((one) => one.fix);
    await user.click(screen.getAllByRole('button', { name: fixable?.fix?.words as string })[0] as HTMLElement);
    const left = findings(lessonOf(session), planLesson(lessonOf(session)));
    expect(left.some((one) => one.id === fixable?.id)).toBe(false);
  });
});
