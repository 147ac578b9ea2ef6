import { afterAll, beforeAll, expect, it } from '@jest/globals';
import type { ConflictAnswer, LessonAnswer, SaveAnswer } from '@viaticum/contract';
import { LessonRevisionEntity } from '../db/entities.js';
import { type TestServer, testServer } from '../server.fixture.js';

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
