/** @jest-environment ./tools/jest-page.mjs */
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import { screen } from '@testing-library/react';
import { demoLesson } from '@viaticum/core/fixtures';
import { asInBrowser, cleanup, onBench, server } from '../../fixtures/page.fixture.js';
import { LengthStrip } from './length-strip.js';

beforeEach(() => {
  asInBrowser();
  server({ 'PUT /api/lessons/l': { revision: 2, savedAt: '2026-01-05T10:01:00Z' } });
});
afterEach(cleanup);

describe('how long a lesson is', () => {
  const lesson = demoLesson('kettle');
  const shown = (wantedMin: number, leftOut = lesson.leftOut) => {
    onBench({ ...lesson, wantedMin, leftOut }, () => <LengthStrip />);
    return screen.getByTestId('length-strip').textContent ?? '';
  };
  it('one that needs much less than was asked for says that this is all', () => {
    expect(shown(240)).toContain('This is all the picture needs: 2 h 19 of your 4 h 00.');
  });
  it('one that takes three quarters of it and more does not', () => {
    expect(shown(150)).not.toContain('all the picture needs');
  });
  it('nor one from which something was left out', () => {
    const [step] = lesson.steps.filter((one) => one.mayBeLeftOut);
    if (!step) throw new Error('the demo has nothing that may be left out');
    const shorter = { ...lesson, steps: lesson.steps.filter((one) => one !== step) };
    onBench({ ...shorter, wantedMin: 300, leftOut: [{ step }] }, () => <LengthStrip />);
    expect(screen.getByTestId('length-strip').textContent).not.toContain('all the picture needs');
  });
});
