/** @jest-environment ./tools/jest-page.mjs */
import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { fireEvent, screen } from '@testing-library/react';
import { demoLesson } from '@viaticum/core/fixtures';
import { Input, Slider } from 'antd';
import { Route, Routes, useLocation } from 'react-router';
import { asInBrowser, cleanup, onBench, server } from '../fixtures/page.fixture.js';
import { setSingleKeys } from '../ui/single-keys.js';
import FirstTour from './first-tour.js';
import { KeyList } from './key-list.js';
import { useKeys } from './keys.js';
import { useRibbonHeight } from './ribbon-height.js';

const lesson = demoLesson('kettle');
beforeEach(() => {
  asInBrowser();
  server({ 'PUT /api/lessons/l': { revision: 2, savedAt: '' } });
});
afterEach(cleanup);

const acts = { showKeys: jest.fn(), find: jest.fn(), worthKnowing: jest.fn(), ribbon: jest.fn() };
const Listening = () => {
  useKeys(acts);
  return (
    <>
      <Input aria-label="a text" />
      <Slider ariaLabelForHandle="a number" min={0} max={9} defaultValue={4} />
      <output>{useLocation().pathname}</output>
    </>
  );
};
const listen = (over: Parameters<typeof onBench>[2] = {}) => {
  for (const act of Object.values(acts)) act.mockClear();
  return onBench(
    lesson,
    () => (
      <Routes>
        <Route path="/lesson/:id/*" element={<Listening />} />
      </Routes>
    ),
    over,
  );
};
const press = (key: string, on: Element = document.body, more = {}) => fireEvent.keyDown(on, { key, ...more });

describe('keys of the workbench', () => {
  it('open what they name, with Caps Lock and Shift as well', () => {
    listen();
    press('r');
    press('R');
    press('w');
    press('/');
    press('?', document.body, { shiftKey: true });
    expect([acts.ribbon, acts.worthKnowing, acts.find, acts.showKeys].map((act) => act.mock.calls.length)).toEqual([2, 1, 1, 1]);
  });
  it('lead to stations, and no further than there are any', () => {
    listen();
    press('2');
    expect(screen.getByRole('status').textContent).toBe('/lesson/l/paints');
    press('8');
    expect(screen.getByRole('status').textContent).toBe('/lesson/l/log');
    press('9');
    expect(screen.getByRole('status').textContent).toBe('/lesson/l/log');
  });
  it('rest while words are typed, and can be switched off', () => {
    listen();
    press('r', screen.getByLabelText('a text'));
    setSingleKeys(false);
    press('r');
    expect(acts.ribbon).not.toHaveBeenCalled();
    setSingleKeys(true);
    press('r');
    expect(acts.ribbon).toHaveBeenCalledTimes(1);
  });
  it('arrows move the light, but not where a slider has the focus', () => {
    const setMinute = jest.fn();
    listen({ minute: 10, setMinute });
    press('ArrowRight');
    expect(setMinute).toHaveBeenLastCalledWith(11);
    press('ArrowRight', screen.getByRole('slider', { name: 'a number' }));
    expect(setMinute).toHaveBeenCalledTimes(1);
  });
  it('are listed; single letters and figures are switched there', async () => {
    const { user } = onBench(lesson, () => <KeyList onClose={() => undefined} />);
    expect(screen.getByText('worth knowing, open or shut')).toBeTruthy();
    await user.click(screen.getByLabelText('Single-letter keys are on'));
    expect(localStorage.getItem('viaticum-single-keys')).toBe('off');
    await user.click(screen.getByLabelText(/figures/));
    expect(localStorage.getItem('viaticum-exact-figures')).toBe('on');
  });
});

const Shown = ({ station, topic }: { station: string; topic: string }) => {
  const { height, next } = useRibbonHeight(station, topic);
  return (
    <output onClick={next} onKeyDown={next}>
      {height ?? 'none'}
    </output>
  );
};

describe('how high the section stands', () => {
  const said = (station: string, topic: string) => {
    onBench(lesson, () => <Shown station={station} topic={topic} />);
    return screen.getByRole('status');
  };
  it('is a line where time is not the question, half where it is, and none where it is of no use', () => {
    for (const [station, topic, height] of [
      ['steps', '', 'hands'],
      ['steps', 'plans', 'half'],
      ['class', '', 'hands'],
      ['class', 'invite', 'none'],
      ['paints', '', 'none'],
    ] as const) {
      expect([station, topic, said(station, topic).textContent]).toEqual([station, topic, height]);
      cleanup();
    }
  });
  it('is remembered for topics of time and for the others apart', () => {
    const output = said('steps', 'whatIf');
    fireEvent.click(output);
    expect(output.textContent).toBe('tall');
    const kept = localStorage.getItem('viaticum-ribbon') as string;
    cleanup();
    localStorage.setItem('viaticum-ribbon', kept);
    expect(said('steps', 'plans').textContent).toBe('tall');
    cleanup();
    localStorage.setItem('viaticum-ribbon', kept);
    expect(said('steps', 'list').textContent).toBe('hands');
  });
});

describe('the tour of the first visit', () => {
  it('has three stops and can be left at once', async () => {
    const onEnd = jest.fn();
    const { user } = onBench(lesson, () => (
      <>
        <div className="rail">
          <nav />
        </div>
        <i className="bench-room" />
        <i className="beside-edge" />
        <FirstTour onEnd={onEnd} />
      </>
    ));
    expect(await screen.findByText('Eight stations, in working order')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Next' }));
    expect(await screen.findByText('The room sets every drying time')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Next' }));
    await user.click(await screen.findByRole('button', { name: 'Begin' }));
    expect(onEnd).toHaveBeenCalled();
  });
});
