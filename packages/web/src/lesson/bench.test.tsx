/** @jest-environment ./tools/jest-page.mjs */
import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';
import type { Lesson, Room } from '@viaticum/contract';
import { findings } from '@viaticum/core/check';
import { carryOut, startHistory } from '@viaticum/core/document';
import { demoLesson } from '@viaticum/core/fixtures';
import { planLesson } from '@viaticum/core/plan';
import { asInBrowser, cleanup, lessonOf, onBench, server } from '../fixtures/page.fixture.js';
import { CommitInput } from '../ui/commit-input.js';
import { NumberField } from '../ui/number-field.js';
import { Banners } from './banners.js';
import { Beside } from './beside.js';
import { useSession } from './context.js';
import { Find } from './find.js';
import { Header } from './header.js';
import RoomFields from './room-fields.js';
import { useRemoval } from './use-removal.js';

const lesson = demoLesson('kettle');
let net: ReturnType<typeof server>;
beforeEach(() => {
  asInBrowser();
  net = server({
    'PUT /api/lessons/l': { revision: 2, savedAt: '2026-01-05T10:01:00Z' },
    'GET /api/rooms': [{ id: 'r', room: { name: 'attic', airC: 16, humidity: 0.7, airSpeed: 0.1 } satisfies Room }],
  });
});
afterEach(() => {
  cleanup();
  jest.useRealTimers();
});

describe('fields that take effect', () => {
  it('a text takes effect when it is left; Escape forgets it, Enter leaves it', async () => {
    const onCommit = jest.fn<(text: string, burst: string) => boolean>(() => true);
    const { user } = onBench(lesson, () => <CommitInput label="name" value="old" onCommit={onCommit} />);
    const field = screen.getByLabelText('name');
    await user.clear(field);
    await user.type(field, 'new{Escape}');
    expect(onCommit).not.toHaveBeenCalledWith('new', expect.anything());
    await user.type(field, 'er{Enter}');
    expect(onCommit).toHaveBeenLastCalledWith('older', expect.any(String));
  });
  it('while it is typed it takes effect when the typing rests, in one burst', () => {
    jest.useFakeTimers();
    const onCommit = jest.fn<(text: string, burst: string) => boolean>(() => true);
    onBench(lesson, () => <CommitInput label="name" value="old" onCommit={onCommit} />);
    const field = screen.getByLabelText('name');
    fireEvent.change(field, { target: { value: 'ol' } });
    act(() => jest.advanceTimersByTime(900));
    fireEvent.change(field, { target: { value: 'ols' } });
    act(() => jest.advanceTimersByTime(900));
    const [first, second] = onCommit.mock.calls;
    expect([first?.[0], second?.[0]]).toEqual(['ol', 'ols']);
    expect(first?.[1]).toBe(second?.[1]);
    fireEvent.change(field, { target: { value: '' } });
    act(() => jest.advanceTimersByTime(900));
    expect(onCommit).toHaveBeenCalledTimes(2);
  });
  it('a number that is refused goes back, and the sentence stands under it until the next try', async () => {
    const { user, session } = onBench(lesson, (now) => (
      <NumberField label="overlap" value={now.overlapMm} onValue={(mm) => session0().do('setOverlap', { mm })} />
    ));
    const session0 = () => session;
    const type = async (text: string) => {
      const field = screen.getByLabelText('overlap');
      await user.clear(field);
      await user.type(field, `${text}{Enter}`);
    };
    await type('99');
    expect(screen.getByRole('alert').textContent).toBe('Paint may run under its neighbour by 0 to 60 mm.');
    expect(session.get().fault).toBeNull();
    expect((screen.getByLabelText('overlap') as HTMLInputElement).value).toBe(String(lesson.overlapMm));
    await type('9');
    expect(screen.queryByRole('alert')).toBeNull();
    expect(lessonOf(session).overlapMm).toBe(9);
  });
});

describe('the room', () => {
  it('air that cannot be is refused at its field; what can be is taken at once', async () => {
    const { user, session } = onBench(lesson, (now) => <RoomFields room={now.room} />);
    const air = screen.getByLabelText('Temperature, °C');
    await user.clear(air);
    await user.type(air, '99');
    expect(screen.getAllByRole('alert')[0]?.textContent).toMatch(/between −20 and 60/);
    await user.clear(air);
    await user.type(air, '27');
    expect(lessonOf(session).room.airC).toBe(27);
    expect(screen.queryByRole('alert')).toBeNull();
  });
  it('another room wins over what is being typed', async () => {
    const { user, session } = onBench(lesson, (now) => <RoomFields room={now.room} />);
    const air = screen.getByLabelText('Temperature, °C') as HTMLInputElement;
    await user.clear(air);
    await user.type(air, '31');
    act(() => void session.do('takeRoom', { room: { ...lesson.room, airC: 12 } }));
    expect((screen.getByLabelText('Temperature, °C') as HTMLInputElement).value).toBe('12');
  });
});

const Remover = ({ id, name, to }: { id: string; name: string; to: 'areas' | 'mixes' | 'tubes' }) => {
  const ask = useRemoval();
  const session = useSession();
  const command = { areas: 'removeArea', mixes: 'removeMix', tubes: 'removeTube' }[to] as 'removeArea';
  return (
    <button type="button" onClick={() => ask(to, id, name, () => session.do(command, { id }))}>
      remove
    </button>
  );
};

describe('removing what steps use', () => {
  let held: ReturnType<typeof onBench>;
  it('asks, naming the steps, and does it or does not', async () => {
    held = onBench(lesson, () => <Remover to="areas" id="kettle" name="kettle" />);
    const { user, session } = held;
    await user.click(screen.getByRole('button', { name: 'remove' }));
    const dialog = await screen.findByRole('dialog');
    const using = lesson.steps.filter((step) => step.areaIds.includes('kettle'));
    expect(within(dialog).getByText(using[0]?.title as string)).toBeTruthy();
    await user.click(within(dialog).getByRole('button', { name: 'Keep it' }));
    expect(lessonOf(session).areas.some((area) => area.id === 'kettle')).toBe(true);
    await user.click(screen.getByRole('button', { name: 'remove' }));
    await user.click(within(await screen.findByRole('dialog')).getByRole('button', { name: 'Delete' }));
    await waitFor(() => expect(lessonOf(session).areas.some((area) => area.id === 'kettle')).toBe(false));
    act(() => session.undo());
    expect(lessonOf(session)).toEqual(lesson);
  });
  it('goes at once where nothing uses it, and is refused where it may not go', async () => {
    const more = carryOut(startHistory(lesson), 'addMix', {
      mix: { id: 'two', name: 'made of two', recipe: [], mixedFrom: [{ mixId: 'm-copper', parts: 1 }] },
    }).lesson;
    held = onBench(more, () => (
      <>
        <Remover to="mixes" id="two" name="made of two" />
      </>
    ));
    await held.user.click(screen.getByRole('button', { name: 'remove' }));
    expect(screen.queryByRole('dialog')).toBeNull();
    expect(lessonOf(held.session).mixes.some((mix) => mix.id === 'two')).toBe(false);
    cleanup();
    held = onBench(more, () => <Remover to="mixes" id="m-copper" name="copper" />);
    await held.user.click(screen.getByRole('button', { name: 'remove' }));
    expect(screen.queryByRole('dialog')).toBeNull();
    expect(held.session.get().fault).toBe('“made of two” is mixed from this one. Give it another recipe first.');
  });
});

describe('the header', () => {
  it('shows the time, takes another title, and undoes', async () => {
    const { user, session } = onBench(lesson, () => <Header />);
    const title = screen.getByDisplayValue(lesson.title);
    await user.clear(title);
    await user.type(title, 'Copper{Enter}');
    expect(lessonOf(session).title).toBe('Copper');
    await user.click(screen.getByRole('button', { name: 'Undo' }));
    expect(lessonOf(session).title).toBe(lesson.title);
    await user.click(screen.getByRole('button', { name: /^Redo|Again/ }));
    expect(lessonOf(session).title).toBe('Copper');
  });
  it('a refusal that no field shows is said here until it is closed', async () => {
    const { user, session } = onBench(lesson, () => <Banners />);
    act(() => void session.do('setOverlap', { mm: 99 }));
    const alert = screen.getByRole('alert');
    expect(alert.textContent).toContain('by 0 to 60 mm');
    await user.click(within(alert).getByRole('button'));
    expect(screen.queryByRole('alert')).toBeNull();
  });
  it('what was changed is sent once it rests, with the revision it was made from', async () => {
    const { session } = onBench(lesson, () => <Header />);
    act(() => void session.do('setTitle', { title: 'Copper' }));
    expect(screen.getByRole('status').dataset.save).toBe('waiting');
    await waitFor(() => expect(screen.getByRole('status').dataset.save).toBe('saved'), { timeout: 20_000 });
    const put = net.asked.find((one) => one.what === 'PUT /api/lessons/l');
    expect(put?.body).toMatchObject({ baseRevision: 1, document: { title: 'Copper' } });
  });
});

describe('worth knowing', () => {
  it('a finding is set aside with a word, taken up again, and fixed', async () => {
    const found = findings(lesson, planLesson(lesson));
    const fixable = found.find((one) => one.fix);
    const { user, session } = onBench(lesson, () => <Beside isOpen onOpen={() => undefined} />);
    const of = (about: string) =>
      screen.getAllByRole('listitem').find((item) => item.textContent?.includes(about)) as HTMLElement;
    const first = found[0];
    await user.click(within(of(first?.words as string)).getByRole('button', { name: /aside/i }));
    await user.type(within(of(first?.words as string)).getByRole('textbox'), 'as I want it{Enter}');
    expect(lessonOf(session).setAside).toEqual([...lesson.setAside, { finding: first?.id, why: 'as I want it' }]);
    expect(of(first?.words as string).textContent).toContain('as I want it');
    await user.click(within(of(first?.words as string)).getByRole('button', { name: 'Take up again' }));
    expect(lessonOf(session).setAside).toEqual(lesson.setAside);
    if (!fixable?.fix) throw new Error('the demo lesson has a finding that can be fixed');
    act(() => void session.do('setAside', { finding: fixable.id, why: null }));
    cleanup();
    const again = onBench(lesson, () => <Beside isOpen onOpen={() => undefined} />);
    await again.user.click(within(of(fixable.words)).getByRole('button', { name: fixable.fix.words }));
    const left = findings(lessonOf(again.session), planLesson(lessonOf(again.session)));
    expect(left.some((one) => one.id === fixable.id)).toBe(false);
  });
});

describe('finding', () => {
  const show = (of: Lesson = lesson) => {
    const [selectStep, selectArea, onClose] = [jest.fn(), jest.fn(), jest.fn()];
    return { selectStep, selectArea, onClose, ...onBench(of, () => <Find onClose={onClose} />, { selectStep, selectArea }) };
  };
  it('shows what holds the words, and goes there', async () => {
    const { user, selectArea, onClose } = show();
    await user.type(screen.getByRole('searchbox', { hidden: true }), 'spout');
    const hits = screen.getAllByRole('listitem', { hidden: true });
    const area = hits.find((hit) => hit.textContent?.startsWith('area'));
    await user.click(within(area as HTMLElement).getByRole('button', { hidden: true }));
    expect(selectArea).toHaveBeenCalledWith('spout');
    expect(onClose).toHaveBeenCalled();
  });
  it('Enter takes the first; nothing found is said', async () => {
    const { user, selectStep } = show();
    const field = screen.getByRole('searchbox', { hidden: true });
    await user.type(field, 'no such thing anywhere');
    expect(screen.queryAllByRole('listitem', { hidden: true })).toEqual([]);
    await user.clear(field);
    await user.type(field, `${lesson.steps[3]?.title}{Enter}`);
    expect(selectStep).toHaveBeenCalledWith(lesson.steps[3]?.id);
  });
});
