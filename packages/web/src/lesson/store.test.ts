import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import type { Lesson, LessonAnswer } from '@viaticum/contract';
import { carryOut, emptyLesson, startHistory, undo } from '@viaticum/core/document';
import { isLesson } from '../generated/validators.js';
import { forgetUnread, keepHistory, type LessonCheck, lessonCheck, readHistory, unreadDraft } from './kept.js';

const check = isLesson as LessonCheck;

import { type LessonSession, lessonSession } from './store.js';

type Sent = { baseRevision: number; document: Lesson };
type Answer = { status: number; body: unknown } | 'away';

const opened = (title = 'first'): LessonAnswer => ({
  id: 'L1',
  revision: 7,
  role: 'owner',
  savedAt: '2026-01-01T10:00:00.000Z',
  document: emptyLesson(title, { widthMm: 300, heightMm: 400, unit: 'cm' }, () => 'st'),
});
const saved = (revision: number): Answer => ({ status: 200, body: { revision, savedAt: '2026-01-01T10:01:00.000Z' } });

let sent: Sent[] = [];
let answers: Answer[] = [];
let memory: Map<string, string>;
const draft = () => JSON.parse(memory.get('viaticum-draft-L1') ?? 'null');

beforeEach(() => {
  jest.useFakeTimers();
  sent = [];
  answers = [];
  memory = new Map();
  Object.assign(globalThis, {
    localStorage: {
      getItem: (key: string) => memory.get(key) ?? null,
      setItem: (key: string, value: string) => memory.set(key, value),
      removeItem: (key: string) => memory.delete(key),
    },
    fetch: async (_: string, request: { body: string }) => {
      sent.push(JSON.parse(request.body));
      const answer = answers.shift() ?? saved(100 + sent.length);
      if (answer === 'away') throw new TypeError('no network');
      return { ok: answer.status < 300, status: answer.status, text: async () => JSON.stringify(answer.body) };
    },
  });
});
afterEach(() => {
  jest.useRealTimers();
});

const pass = (ms: number) => jest.advanceTimersByTimeAsync(ms);
const retitle = (session: LessonSession, title: string) => session.do('setTitle', { title });
const state = (session: LessonSession) => session.get().save.kind;

describe('saving', () => {
  it('gathers changes for half a second and sends the last with the revision it was made from', async () => {
    const session = lessonSession(opened(), check);
    retitle(session, 'second');
    expect(state(session)).toBe('waiting');
    await pass(300);
    retitle(session, 'third');
    await pass(300);
    expect(sent).toHaveLength(0);
    await pass(300);
    expect(sent.map((one) => [one.baseRevision, one.document.title])).toEqual([[7, 'third']]);
    expect(session.get().save).toEqual({ kind: 'saved', at: '2026-01-01T10:01:00.000Z' });
    expect(session.get().revision).toBe(101);
    expect(draft()).toBeNull();
  });
  it('keeps a change in this browser before the server has it', () => {
    retitle(lessonSession(opened(), check), 'second');
    expect(draft()).toMatchObject({ base: 7, document: { title: 'second' } });
  });
  it('a change made while saving is sent after it, from the new revision', async () => {
    const session = lessonSession(opened(), check);
    retitle(session, 'second');
    jest.advanceTimersByTime(500); // the request is out, its answer is not in
    retitle(session, 'third');
    await pass(2000);
    expect(sent.map((one) => [one.baseRevision, one.document.title])).toEqual([
      [7, 'second'],
      [101, 'third'],
    ]);
    expect(state(session)).toBe('saved');
  });
  it('without a server it says so and tries again until there is one', async () => {
    answers = ['away', { status: 503, body: { code: 'down', message: 'The database does not answer.' } }];
    const session = lessonSession(opened(), check);
    retitle(session, 'second');
    await pass(600);
    expect(state(session)).toBe('offline');
    expect(draft()).toMatchObject({ document: { title: 'second' } });
    await pass(3100);
    expect([state(session), sent.length]).toEqual(['offline', 2]);
    await pass(3100);
    expect([state(session), sent.length]).toEqual(['saved', 3]);
  });
  it('what the server refuses is shown with its sentence and not sent for ever', async () => {
    answers = [{ status: 400, body: { code: 'bad', message: 'This lesson is not sound.' } }];
    const session = lessonSession(opened(), check);
    retitle(session, 'second');
    await pass(20_000);
    expect(session.get().save).toEqual({ kind: 'refused', message: 'This lesson is not sound.' });
    expect(sent).toHaveLength(1);
  });
});

describe('a tab that was closed', () => {
  it('its draft is taken up at the next opening and sent from the revision it was made from', async () => {
    retitle(lessonSession(opened(), check), 'unsent');
    jest.clearAllTimers();
    const again = lessonSession({ ...opened(), revision: 7 }, check);
    expect(again.get().history.lesson.title).toBe('unsent');
    await pass(10);
    expect(sent.map((one) => [one.baseRevision, one.document.title])).toEqual([[7, 'unsent']]);
    expect(draft()).toBeNull();
  });
  it.each(['{', '{"base":1}', '{"base":1,"document":{"title":"x"}}', '[]'])(
    'a draft that is not sound (%s) is left alone',
    (text) => {
      memory.set('viaticum-draft-L1', text);
      expect(lessonSession(opened(), check).get().history.lesson.title).toBe('first');
    },
  );
  it('leaving sends at once', async () => {
    const session = lessonSession(opened(), check);
    retitle(session, 'second');
    session.close();
    await pass(0);
    expect(sent).toHaveLength(1);
  });
});

describe('two windows', () => {
  const theirs = (): LessonAnswer => ({ ...opened('theirs'), revision: 9 });
  const meet = async () => {
    answers = [{ status: 409, body: { code: 'conflict', message: 'Changed elsewhere.', current: theirs() } }];
    const session = lessonSession(opened(), check);
    retitle(session, 'mine');
    await pass(600);
    return session;
  };
  it('a conflict stops saving until the person has chosen', async () => {
    const session = await meet();
    expect(session.get().save).toMatchObject({ kind: 'conflict', theirs: { revision: 9 } });
    retitle(session, 'mine, later');
    await pass(20_000);
    expect(sent).toHaveLength(1);
    expect(draft()).toMatchObject({ document: { title: 'mine, later' } });
  });
  it('“mine” is saved over theirs', async () => {
    const session = await meet();
    session.resolve('mine');
    await pass(100);
    expect(sent[1]).toMatchObject({ baseRevision: 9, document: { title: 'mine' } });
    expect(state(session)).toBe('saved');
  });
  it('“theirs” replaces mine and sends nothing', async () => {
    const session = await meet();
    session.resolve('theirs');
    await pass(5000);
    expect(session.get().history.lesson.title).toBe('theirs');
    expect([sent.length, state(session), draft()]).toEqual([1, 'saved', null]);
  });
  it.each([
    ['mine', 'theirs'],
    ['theirs', 'mine'],
  ] as const)('the choice of %s can be taken back', async (which, other) => {
    const session = await meet();
    session.resolve(which);
    expect(session.get().history.lesson.title).toBe(which);
    session.undo();
    expect(session.get().history.lesson.title).toBe(other);
  });
  it('“both” takes the side that is named for what both changed', async () => {
    const session = await meet();
    expect(session.merged(() => 'mine')).toMatchObject({ clashes: [{ path: 'title' }], fault: null });
    session.resolve({ both: () => 'theirs' });
    expect(session.get().history.lesson.title).toBe('theirs');
  });
  it('what lies apart is joined without asking, saved over the other, and said', async () => {
    const theirs = { ...opened(), revision: 9 };
    theirs.document = { ...theirs.document, level: 'experienced' };
    answers = [{ status: 409, body: { code: 'conflict', message: 'Changed elsewhere.', current: theirs } }];
    const session = lessonSession(opened(), check);
    retitle(session, 'mine');
    await pass(700);
    expect(session.get().history.lesson).toMatchObject({ title: 'mine', level: 'experienced' });
    expect(session.get().joined?.said.map(({ field }) => field)).toEqual(['level']);
    expect(sent[1]).toMatchObject({ baseRevision: 9, document: { title: 'mine', level: 'experienced' } });
    session.undo();
    expect(session.get().history.lesson).toMatchObject({ title: 'mine', level: opened().document.level });
  });
  it('an answer that was lost is no conflict: the server has this very document', async () => {
    const session = lessonSession(opened(), check);
    retitle(session, 'second');
    answers = [{ status: 409, body: { code: 'conflict', message: '', current: { ...opened('second'), revision: 8 } } }];
    await pass(600);
    expect([state(session), session.get().revision]).toEqual(['saved', 8]);
  });
});

describe('commands', () => {
  it('one that cannot be done leaves its sentence and changes nothing; the next good one clears it', () => {
    const session = lessonSession(opened(), check);
    expect(retitle(session, '   ')).toBe(false);
    expect(session.get()).toMatchObject({ fault: 'Give the lesson a name.', history: { lesson: { title: 'first' } } });
    expect(retitle(session, 'good')).toBe(true);
    expect(session.get().fault).toBeNull();
  });
  it('undo and redo are saved as changes are', async () => {
    const session = lessonSession(opened(), check);
    retitle(session, 'second');
    await pass(600);
    session.undo();
    await pass(600);
    session.redo();
    await pass(600);
    expect(sent.map((one) => one.document.title)).toEqual(['second', 'first', 'second']);
  });
  it('listeners hear every change until they leave', () => {
    const session = lessonSession(opened(), check);
    let heard = 0;
    const leave = session.subscribe(() => heard++);
    retitle(session, 'second');
    const before = heard;
    expect(before).toBeGreaterThan(0);
    leave();
    retitle(session, 'third');
    expect(heard).toBe(before);
  });

  it('an edit made while a refused save is under way is sent by itself', async () => {
    const session = lessonSession(opened(), check);
    const usual = globalThis.fetch;
    let answer = (_: unknown): void => undefined;
    const slow = new Promise((done) => {
      answer = done;
    });
    globalThis.fetch = (async (_: string, request: { body: string }) => {
      sent.push(JSON.parse(request.body));
      globalThis.fetch = usual;
      await slow;
      return { ok: false, status: 422, text: async () => '{"code":"unsound","message":"The sky crosses itself."}' };
    }) as never;
    retitle(session, 'wrong');
    await pass(600);
    expect(state(session)).toBe('saving');
    retitle(session, 'mended');
    answer(null);
    await pass(700);
    expect(sent.map((one) => one.document.title)).toEqual(['wrong', 'mended']);
    expect(state(session)).toBe('saved');
  });
});

describe('what this browser keeps', () => {
  it('a draft of an earlier version is lifted, not dropped', async () => {
    const { drawing: _, ...older } = opened('older').document;
    memory.set('viaticum-draft-L1', JSON.stringify({ base: 6, document: { ...older, schemaVersion: 5 } }));
    const session = lessonSession(opened(), check);
    expect(session.get().history.lesson).toMatchObject({ title: 'older', schemaVersion: opened().document.schemaVersion });
    await pass(600);
    expect(sent.map((one) => one.baseRevision)).toEqual([6]);
  });
  it.each([
    ['no JSON', '{"base":6,'],
    ['a lesson of a newer version', JSON.stringify({ base: 6, document: { schemaVersion: 99 } })],
    ['a lesson that the contract refuses', JSON.stringify({ base: 6, document: { ...opened().document, title: '' } })],
  ])('%s is put beside as it is, and the lesson opens as the server has it', (_, text) => {
    memory.set('viaticum-draft-L1', text);
    const session = lessonSession(opened(), check);
    expect(session.get().history.lesson.title).toBe('first');
    expect(unreadDraft('L1')).toBe(text);
    expect(memory.has('viaticum-draft-L1')).toBe(false);
    forgetUnread('L1');
    expect(unreadDraft('L1')).toBeNull();
  });
  it('what can be taken back can be taken back after a reload, and done again', async () => {
    const session = lessonSession(opened(), check);
    retitle(session, 'second');
    retitle(session, 'third');
    session.undo();
    await pass(1000);
    session.close();
    const again = lessonSession({ ...opened('second'), document: session.get().history.lesson, revision: 101 }, check);
    again.redo();
    expect(again.get().history.lesson.title).toBe('third');
    again.undo();
    again.undo();
    expect(again.get().history.lesson.title).toBe('first');
  });
  it('and cannot where the lesson is another one by now', async () => {
    const session = lessonSession(opened(), check);
    retitle(session, 'second');
    await pass(1000);
    const again = lessonSession({ ...opened('from elsewhere'), revision: 150 }, check);
    again.undo();
    expect(again.get().history.lesson.title).toBe('from elsewhere');
  });
  it('a history too large to keep is shortened, not lost whole', () => {
    let history = startHistory(opened().document);
    for (let k = 0; k < 120; k++) history = carryOut(history, 'setTitle', { title: `${k} ${'x'.repeat(100)}` });
    keepHistory('L1', {
      ...history,
      past: history.past.map((change) => ({ ...change, name: `${'y'.repeat(30_000)}` as never })),
    });
    const kept = readHistory('L1', history.lesson);
    expect(kept.past.length).toBeGreaterThan(10);
    expect(kept.past.length).toBeLessThan(100);
    expect(undo(kept).lesson.title.startsWith('118')).toBe(true);
  });
  it('commands are carried out also where they are handed on without their session', () => {
    const session = lessonSession(opened(), check);
    const { do: run, doAll } = session;
    expect(run('setTitle', { title: 'second' })).toBe(true);
    expect(doAll([['setTitle', { title: '' }]])).toBe(false);
    expect(session.get()).toMatchObject({ fault: expect.stringMatching(/name/), history: { lesson: { title: 'second' } } });
  });
});

describe('what tells a lesson from what is none', () => {
  it('is brought only where this browser kept a draft', async () => {
    localStorage.removeItem('viaticum-draft-L1');
    expect(await lessonCheck('L1')).toBeNull();
    localStorage.setItem('viaticum-draft-L1', '{}');
    const found = await lessonCheck('L1');
    expect(found?.(opened().document)).toBe(true);
    expect(found?.({ title: 'no lesson' })).toBe(false);
    localStorage.removeItem('viaticum-draft-L1');
  });
});

describe('a lesson that several have open', () => {
  const from = (revision: number, change: Partial<Lesson>): LessonAnswer => ({
    ...opened(),
    revision,
    document: { ...opened().document, ...change },
  });
  it('shows what another has saved, says whose it is, and can take it back', () => {
    const session = lessonSession(opened(), check);
    session.hear(from(8, { title: 'theirs' }), 'Ben');
    expect(session.get().history.lesson.title).toBe('theirs');
    expect(session.get()).toMatchObject({ revision: 8, save: { kind: 'saved' }, joined: { by: 'Ben' } });
    session.undo();
    expect(session.get().history.lesson.title).toBe('first');
  });
  it('joins it with what is not saved yet, and sends both over it', async () => {
    const session = lessonSession(opened(), check);
    retitle(session, 'mine');
    session.hear(from(8, { level: 'experienced' }), 'Ben');
    expect(session.get().history.lesson).toMatchObject({ title: 'mine', level: 'experienced' });
    await pass(600);
    expect(sent.at(-1)).toMatchObject({ baseRevision: 8, document: { title: 'mine', level: 'experienced' } });
  });
  it('asks where both changed the same part, and an older revision changes nothing', () => {
    const session = lessonSession(opened(), check);
    session.hear(from(7, { title: 'old' }), 'Ben');
    expect(session.get().history.lesson.title).toBe('first');
    retitle(session, 'mine');
    session.hear(from(8, { title: 'theirs' }), 'Ben');
    expect(state(session)).toBe('conflict');
  });
  it('that is shared to read is not changed: the reason is said, nothing is sent', async () => {
    const session = lessonSession({ ...opened(), role: 'reader' }, check);
    expect(retitle(session, 'mine')).toBe(false);
    expect(session.get().fault).toMatch(/Duplicate it/);
    await pass(2000);
    expect([session.get().history.lesson.title, sent.length]).toEqual(['first', 0]);
  });
});
