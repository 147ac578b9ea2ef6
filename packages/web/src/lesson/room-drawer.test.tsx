/** @jest-environment ./tools/jest-page.mjs */
import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { act, screen, waitFor, within } from '@testing-library/react';
import { demoLesson } from '@viaticum/core/fixtures';
import { planLesson } from '@viaticum/core/plan';
import { minutesInWords } from '@viaticum/core/units';
import { asInBrowser, cleanup, lessonOf, onBench, onPage, server } from '../fixtures/page.fixture.js';
import { type TopicGroup, Topics, useTopic } from '../ui/topics.js';
import { Beside } from './beside.js';
import { RoomDrawer } from './room-drawer.js';
import { trialSession } from './trial.js';

const lesson = demoLesson('kettle');
let net: ReturnType<typeof server>;
beforeEach(() => {
  asInBrowser();
  net = server({ 'PUT /api/lessons/l': { revision: 2, savedAt: '2026-01-05T10:01:00Z' }, 'GET /api/rooms': [] });
});
afterEach(cleanup);

describe('another room, tried out', () => {
  const damp = { ...lesson, room: { ...lesson.room, humidity: 0.7 } };
  const tryDamp = async () => {
    const onClose = jest.fn();
    const bench = onBench(lesson, () => <RoomDrawer onClose={onClose} />);
    const humidity = await screen.findByRole('spinbutton', { name: 'Humidity, %' });
    await bench.user.clear(humidity);
    await bench.user.type(humidity, '70');
    return { ...bench, onClose, changes: screen.getByRole('region', { name: 'What changes' }) };
  };
  it('says what it makes of the plan, and nothing holds until it is kept', async () => {
    const { user, session, changes, onClose } = await tryDamp();
    const longer = minutesInWords(planLesson(damp).plan.endMin);
    await waitFor(() => expect(within(changes).getByText(longer)).toBeTruthy(), { timeout: 20_000 });
    expect(lessonOf(session)).toEqual(lesson);
    await user.click(screen.getByRole('button', { name: 'Keep this room' }));
    expect(lessonOf(session).room.humidity).toBe(0.7);
    expect(onClose).toHaveBeenCalled();
    act(() => void session.undo());
    expect(lessonOf(session)).toEqual(lesson);
  });
  it('in air that takes no water it says never, and tells no pauses', async () => {
    const { user, changes } = await tryDamp();
    const humidity = screen.getByRole('spinbutton', { name: 'Humidity, %' });
    await user.clear(humidity);
    await user.type(humidity, '100');
    await waitFor(() => expect(within(changes).getByText('never')).toBeTruthy(), { timeout: 20_000 });
    expect(within(changes).getByText(/No pause would be long enough/)).toBeTruthy();
    expect(within(changes).queryByRole('list')).toBeNull();
  });
  it('left, it is as it was', async () => {
    const { user, session, onClose } = await tryDamp();
    await user.click(screen.getByRole('button', { name: 'Leave as it was' }));
    expect(lessonOf(session)).toEqual(lesson);
    expect(onClose).toHaveBeenCalled();
  });
});

describe('a session that tries out', () => {
  it('carries out, takes back, refuses with the sentence, and sends nothing', () => {
    const trial = trialSession('l', lesson);
    expect(trial.do('setRoom', { room: { airC: 27 } })).toBe(true);
    expect(trial.get().history.lesson.room.airC).toBe(27);
    trial.undo();
    expect(trial.get().history.lesson).toEqual(lesson);
    trial.redo();
    expect(trial.get().history.lesson.room.airC).toBe(27);
    expect(trial.do('setRoom', { room: { airC: 99 } })).toBe(false);
    expect(trial.take()).toMatch(/between −20 and 60/);
    expect(trial.get().fault).toBeNull();
    expect(net.asked).toEqual([]);
  });
});

describe('worth knowing, shut', () => {
  it('is a count with the worst of it, and opens', async () => {
    const onOpen = jest.fn();
    const hurried = { ...lesson, steps: lesson.steps.map((step) => ({ ...step, technique: 'blend' as const, doMin: 90 })) };
    const { user } = onBench(hurried, () => <Beside isOpen={false} onOpen={onOpen} />);
    const edge = screen.getByRole('button', { name: /^Worth knowing: \d+ needs? you/ });
    expect(screen.queryAllByRole('listitem')).toEqual([]);
    await user.click(edge);
    expect(onOpen).toHaveBeenCalledWith(true);
  });
});

const names = { list: 'List', marks: 'Marks', draft: 'Draft' };
type Topic = keyof typeof names;
const groups: readonly TopicGroup<Topic>[] = [
  { name: 'Steps', topics: ['list', 'marks'] },
  { name: 'Draft', topics: ['draft'] },
];
const Station = () => {
  const [topic, setTopic] = useTopic(groups, 'list');
  return (
    <>
      <Topics label="What to work on" names={names} groups={groups} shown={topic} onShow={setTopic} />
      <p>shown: {topic}</p>
    </>
  );
};

describe('topics by their address', () => {
  it('a group opens its first topic, its other topics stand beside it', async () => {
    const { user } = onPage(<Station />, '/lesson/l/steps');
    expect(screen.getByText('shown: list')).toBeTruthy();
    await user.click(screen.getByText('Marks'));
    expect(screen.getByText('shown: marks')).toBeTruthy();
    await user.click(screen.getByRole('tab', { name: 'Draft' }));
    expect(screen.getByText('shown: draft')).toBeTruthy();
    expect(screen.queryByText('Marks')).toBeNull();
  });
  it('a link leads to a topic; one that is none leads to the first', () => {
    onPage(<Station />, '/lesson/l/steps/draft');
    expect(screen.getByText('shown: draft')).toBeTruthy();
    cleanup();
    onPage(<Station />, '/lesson/l/steps/nonsense');
    expect(screen.getByText('shown: list')).toBeTruthy();
  });
});
