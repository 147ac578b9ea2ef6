import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { ConflictAnswer, LessonAnswer, LessonCard, RevisionAnswer, SaveAnswer } from '@viaticum/contract';
import { LessonEntity, LessonRevisionEntity } from '../db/entities.js';
import { type TestServer, testServer } from '../server.fixture.js';
import { lessonStore } from './store.js';

let server: TestServer;
let cookie: string;
beforeAll(async () => {
  server = await testServer();
  cookie = await server.signIn();
});
afterAll(() => server.stop());

const put = (lesson: LessonAnswer, title: string, baseRevision = lesson.revision) =>
  server.request('PUT', `/api/lessons/${lesson.id}`, { baseRevision, document: { ...lesson.document, title } }, cookie);
const revisions = (lessonId: string) =>
  server.database.source.manager.find(LessonRevisionEntity, { where: { lessonId }, order: { id: 'ASC' } });

it('autosaves of one author coalesce, but every save has a number of its own', async () => {
  const lesson = await server.demoLesson(cookie);
  const first = (await put(lesson, 'one')).body as unknown as SaveAnswer;
  const second = (await put(lesson, 'two', first.revision)).body as unknown as SaveAnswer;
  expect([first.revision, second.revision]).toEqual([lesson.revision + 1, lesson.revision + 2]);
  const rows = await revisions(lesson.id);
  expect(rows.map((row) => [row.number, row.kind])).toEqual([[second.revision, 'auto']]);
  expect((await server.demoLesson(cookie)).document.title).toBe('two');
});

it('the shelf shows a lesson as it was saved last, also where a server stopped before that was worked out', async () => {
  const lesson = await server.demoLesson(cookie);
  const { manager } = server.database.source;
  const steps = lesson.document.steps.slice(0, -1);
  const body = { baseRevision: lesson.revision, document: { ...lesson.document, steps, passages: [] } };
  expect((await server.request('PUT', `/api/lessons/${lesson.id}`, body, cookie)).status).toBe(200);
  const shownNow = async () => {
    const cards = (await server.request('GET', '/api/lessons', undefined, cookie)).body as unknown as LessonCard[];
    return cards.find(({ id }) => id === lesson.id)?.card.steps;
  };
  expect(await shownNow()).toBe(steps.length);
  expect((await manager.findOneByOrFail(LessonEntity, { id: lesson.id })).words).not.toBeNull();
  await manager.update(LessonEntity, { id: lesson.id }, { card: '{"steps":1}', words: null });
  await lessonStore(server.database, null as never).makeCards();
  expect(await shownNow()).toBe(steps.length);
});

it('a stale save is a 409 that holds the other version, and keeps the loser', async () => {
  const lesson = await server.demoLesson(cookie);
  expect((await put(lesson, 'mine')).status).toBe(200);
  const { status, body } = await put(lesson, 'theirs');
  const conflict = body as unknown as ConflictAnswer;
  expect(status).toBe(409);
  expect(conflict.message).toMatch(/Both versions are kept/);
  expect(conflict.current.document.title).toBe('mine');
  const kept = (await revisions(lesson.id)).filter((row) => row.kind === 'kept');
  expect(kept.map((row) => JSON.parse(row.document).title)).toEqual(['theirs']);
  expect((await server.demoLesson(cookie)).document.title).toBe('mine');
});

it('twenty saves at once from one revision: one wins, the others are kept', async () => {
  const lesson = await server.demoLesson(cookie);
  const statuses = (await Promise.all(Array.from({ length: 20 }, (_, i) => put(lesson, `at once ${i}`)))).map(
    (answer) => answer.status,
  );
  expect(statuses.filter((status) => status === 200)).toHaveLength(1);
  expect(statuses.filter((status) => status === 409)).toHaveLength(19);
});

it('the revision a class was opened from stays as it was taught', async () => {
  const lesson = await server.demoLesson(cookie);
  const { code } = await server.openClass(cookie);
  expect((await put(lesson, 'changed after the class began')).status).toBe(200);
  expect((await server.sheet(code)).title).toBe(lesson.document.title);
  expect((await revisions(lesson.id)).filter((row) => row.kind === 'pinned')).toHaveLength(1);
});

it('a deleted lesson leaves the shelf, its class goes on, and it can be put back; nobody else can do either', async () => {
  const lesson = await server.demoLesson(cookie);
  const { code } = await server.openClass(cookie);
  const onShelf = async () =>
    ((await server.request('GET', '/api/lessons', undefined, cookie)).body as unknown as { id: string }[]).some(
      (one) => one.id === lesson.id,
    );
  const other = await server.anotherInstructor();
  for (const [method, path] of [
    ['DELETE', `/api/lessons/${lesson.id}`],
    ['POST', `/api/lessons/${lesson.id}/restore`],
  ] as const) {
    expect((await server.request(method, path, method === 'POST' ? {} : undefined, other)).status).toBe(404);
    expect((await server.request(method, path, method === 'POST' ? {} : undefined)).status).toBe(401);
  }
  expect(await onShelf()).toBe(true);
  expect((await server.request('DELETE', `/api/lessons/${lesson.id}`, undefined, cookie)).status).toBe(204);
  expect(await onShelf()).toBe(false);
  expect((await server.request('GET', `/api/lessons/${lesson.id}`, undefined, cookie)).status).toBe(404);
  expect((await put(lesson, 'after it was deleted')).status).toBe(404);
  expect((await server.sheet(code)).title).toBe(lesson.document.title);
  expect((await server.request('POST', `/api/lessons/${lesson.id}/restore`, {}, cookie)).status).toBe(204);
  expect(await onShelf()).toBe(true);
  expect((await server.demoLesson(cookie)).document).toEqual(lesson.document);
});

it('a deleted lesson lies in the bin for thirty days, then goes; one that was taught stays for its class', async () => {
  const { manager } = server.database.source;
  const bin = async (as = cookie) =>
    ((await server.request('GET', '/api/bin', undefined, as)).body as unknown as { id: string; title: string }[]).map(
      ({ id }) => id,
    );
  const { document } = await server.demoLesson(cookie);
  const make = async (title: string) =>
    String((await server.request('POST', '/api/lessons', { document: { ...document, title } }, cookie)).body.id);
  const [young, old, taught] = [await make('young'), await make('old'), await make('taught')];
  await server.request('POST', '/api/classes', { lessonId: taught }, cookie);
  for (const id of [young, old, taught]) await server.request('DELETE', `/api/lessons/${id}`, undefined, cookie);
  expect(await bin()).toEqual(expect.arrayContaining([young, old, taught]));
  expect(await bin(await server.anotherInstructor())).toEqual([]);
  for (const id of [old, taught]) await manager.update(LessonEntity, { id }, { removedAt: Date.now() - 31 * 86_400_000 });
  expect(await bin()).toEqual(expect.arrayContaining([young]));
  expect(await bin()).not.toContain(old);
  const store = lessonStore(server.database, null as never);
  expect(await store.empty(Date.now())).toBe(1);
  const left = (await manager.find(LessonEntity, { select: { id: true } })).map(({ id }) => id);
  expect([young, old, taught].map((id) => left.includes(id))).toEqual([true, false, true]);
  expect(await manager.countBy(LessonRevisionEntity, { lessonId: old })).toBe(0);
});

describe('versions', () => {
  const list = async (id: string) =>
    (await server.request('GET', `/api/lessons/${id}/revisions`, undefined, cookie)).body as unknown as RevisionAnswer[];
  const read = async (id: string, revision: number) =>
    (await server.request('GET', `/api/lessons/${id}/revisions/${revision}`, undefined, cookie)).body as unknown as LessonAnswer;

  it('of two editors at odds round after round: the text of each of either is found afterwards', async () => {
    const { manager } = server.database.source;
    const lesson = await server.demoLesson(cookie);
    const rounds = process.env.VIATICUM_SOAK ? 500 : 25;
    let base = lesson.revision;
    const wanted: string[] = [];
    for (let round = 0; round < rounds; round++) {
      const texts = [`round ${round}, one`, `round ${round}, other`];
      wanted.push(...texts);
      const answers = await Promise.all(texts.map((text) => put(lesson, text, base)));
      expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
      const lost = answers.findIndex(({ status }) => status === 409);
      const { current } = (answers[lost] as { body: unknown }).body as ConflictAnswer;
      // The loser goes on with their own, over the other's, as the dialog does it.
      const over = await put(lesson, `round ${round}, chosen`, current.revision);
      base = (over.body as unknown as SaveAnswer).revision;
    }
    const found = (await manager.findBy(LessonRevisionEntity, { lessonId: lesson.id })).map(
      (row) => JSON.parse(row.document).title,
    );
    expect(wanted.filter((text) => !found.includes(text))).toEqual([]);
    expect(found).toContain(`round ${rounds - 1}, chosen`);
  }, 600_000);

  it('are thinned as they come: a day of saving leaves one a minute, then one an hour; what has a name stays', async () => {
    const { manager } = server.database.source;
    const lesson = await server.demoLesson(cookie);
    const { document } = await manager.findOneByOrFail(LessonRevisionEntity, { lessonId: lesson.id });
    const old = (hours: number, minutes: number, more: object = {}) => ({
      ...{ lessonId: lesson.id, number: 0, kind: 'auto' as const, document, authorId: 'x', name: null },
      createdAt: Date.now() - (hours * 60 + minutes) * 60_000,
      ...more,
    });
    await manager.insert(LessonRevisionEntity, [
      ...Array.from({ length: 8 }, (_, k) => old(30, k)),
      ...Array.from({ length: 8 }, (_, k) => old(5, k * 0.1)),
      old(40, 3, { name: 'before the fair' }),
      old(40, 4, { kind: 'pinned' }),
    ]);
    // Another hand, or a minute later: a version of its own.
    await manager.update(
      LessonRevisionEntity,
      { lessonId: lesson.id, number: lesson.revision },
      { createdAt: Date.now() - 70_000 },
    );
    const before = (await revisions(lesson.id)).length;
    expect((await put(lesson, 'thinned now')).status).toBe(200);
    const rows = await revisions(lesson.id);
    expect(rows.length).toBeLessThan(before - 8);
    const hoursAgo = (from: number, to: number) =>
      rows.filter(({ createdAt, kind }) => {
        const hours = (Date.now() - createdAt) / 3_600_000;
        return kind === 'auto' && hours > from && hours < to;
      });
    expect(hoursAgo(4, 6).length).toBeLessThanOrEqual(2);
    expect(hoursAgo(29, 31).length).toBeLessThanOrEqual(2);
    expect(rows.filter(({ name, createdAt }) => name || Date.now() - createdAt > 39 * 3_600_000)).toHaveLength(2);
  });

  it('are listed with who saved them, read as they were, named; nobody else sees any', async () => {
    const lesson = await server.demoLesson(cookie);
    const all = await list(lesson.id);
    const [present] = all.filter(({ isPresent }) => isPresent);
    expect(all.filter(({ isPresent }) => isPresent)).toHaveLength(1);
    expect(present).toMatchObject({ number: lesson.revision, author: 'demo' });
    const kept = all.find(({ kind }) => kind === 'kept') as RevisionAnswer;
    expect((await read(lesson.id, kept.id)).document.title).toMatch(/^(theirs|at once|round)/);
    const name = (text: unknown, as = cookie) =>
      server.request('PUT', `/api/lessons/${lesson.id}/revisions/${kept.id}`, { name: text }, as);
    expect((await name('the loose one')).status).toBe(204);
    expect((await list(lesson.id)).find(({ id }) => id === kept.id)?.name).toBe('the loose one');
    expect((await name('')).status).toBe(400);
    expect((await name(null)).status).toBe(204);
    const other = await server.anotherInstructor();
    expect((await name('mine', other)).status).toBe(404);
    for (const path of ['', `/${kept.id}`])
      expect((await server.request('GET', `/api/lessons/${lesson.id}/revisions${path}`, undefined, other)).status).toBe(404);
    // A version of one lesson is not read by the address of another.
    const cards = (await server.request('GET', '/api/lessons', undefined, cookie)).body as unknown as { id: string }[];
    const elsewhere = cards.find(({ id }) => id !== lesson.id)?.id;
    const { status, body } = await server.request('GET', `/api/lessons/${elsewhere}/revisions/${kept.id}`, undefined, cookie);
    expect([status, body.message]).toEqual([404, expect.stringContaining('version of this lesson')]);
  });
});
