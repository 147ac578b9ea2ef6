import { afterAll, beforeAll, expect, it } from '@jest/globals';
import type { LoggedClass } from '@viaticum/contract';
import type { Suggestion } from '@viaticum/core/log';
import { ClassLogEntity } from '../db/entities.js';
import { testServer } from '../server.fixture.js';

let server: Awaited<ReturnType<typeof testServer>>;
let cookie = '';
let lessonId = '';
beforeAll(async () => {
  server = await testServer();
  cookie = await server.signIn();
  lessonId = (await server.demoLesson(cookie)).id;
});
afterAll(() => server.stop());

const get = async <T>(url: string, by = cookie): Promise<T> =>
  (await server.request('GET', url, undefined, by)).body as unknown as T;
const handNote = (rest: object = {}) => ({
  lessonId,
  byHand: {
    title: 'Tuesday in the hall',
    at: '2026-10-06',
    students: 9,
    items: [{ title: 'Far ridge, laid flat', planned: 5, actual: 14, note: 'the stove was on' }],
    note: '',
    ...rest,
  },
});
const put = (rest?: object) => server.request('POST', '/api/log/by-hand', handNote(rest), cookie);

it('a class that was taught stands in the log once it has ended; a rehearsal and one that was never begun do not', async () => {
  const begun = await server.openClass(cookie);
  const desk = await server.connect(begun.code, 'desk', cookie);
  await desk.hello();
  await desk.say({ type: 'goOn', from: -1 });
  await desk.say({ type: 'end' });
  await server.openClass(cookie);
  desk.close();
  const all = await get<LoggedClass[]>('/api/log');
  expect(all.map(({ code, log }) => [code, log.kind, log.items.length > 0])).toEqual([[begun.code, 'class', true]]);
  // Asked again it is not written again, and nobody is named in it.
  await get('/api/log');
  expect(await server.database.source.manager.countBy(ClassLogEntity, { classId: begun.id })).toBe(1);
});

it('a class of elsewhere is noted by hand, found by its words, noted on, and deleted', async () => {
  const { status, body } = await put();
  expect(status).toBe(201);
  const { id } = body as unknown as LoggedClass;
  const found = async (words: string) =>
    (await get<LoggedClass[]>(`/api/log?words=${encodeURIComponent(words)}`)).map((one) => one.id);
  expect(await found('stove')).toEqual([id]);
  expect(await found('sto')).toEqual([id]);
  expect(await found('+"stove" -ridge*')).toEqual([id]);
  expect(await found('submarine')).toEqual([]);
  await server.request('PUT', `/api/log/${id}/note`, { note: 'next time begin with the sky' }, cookie);
  expect(await found('begin sky')).toEqual([id]);
  expect((await server.request('DELETE', `/api/log/${id}`, undefined, cookie)).status).toBe(204);
  expect(await found('stove')).toEqual([]);
});

it('what was taught stays, what is nobody else’s is seen by nobody else', async () => {
  const [taught] = await get<LoggedClass[]>('/api/log');
  await server.request('DELETE', `/api/log/${taught?.id}`, undefined, cookie);
  expect((await get<LoggedClass[]>('/api/log')).map(({ id }) => id)).toContain(taught?.id);
  const other = await server.anotherInstructor();
  expect(await get<LoggedClass[]>('/api/log', other)).toEqual([]);
  expect((await server.request('PUT', `/api/log/${taught?.id}/note`, { note: 'mine' }, other)).status).toBe(404);
  expect((await server.request('GET', `/api/lessons/${lessonId}/suggestions`, undefined, other)).status).toBe(404);
  expect((await server.request('POST', '/api/log/by-hand', handNote(), other)).status).toBe(404);
});

it('two classes suggest an edit of their lesson, in the language that is asked for', async () => {
  await put({ at: '2026-09-01' });
  await put({ at: '2026-10-01' });
  const [found] = await get<Suggestion[]>(`/api/lessons/${lessonId}/suggestions`);
  expect(found?.edit.command).toBe('editStep');
  expect(found?.words).toMatch(/: make it 14 min\.$/);
  expect(found?.evidence).toBe('14 and 14 min in 2 classes, planned 5.');
  const german = await server.request('GET', `/api/lessons/${lessonId}/suggestions`, undefined, cookie, {
    'accept-language': 'de-AT,de;q=0.9',
  });
  expect((german.body as unknown as Suggestion[])[0]?.evidence).toBe('14 und 14 min (2 Kurse), geplant 5.');
});

it('all of it is saved as tables, each class for itself as well, of nobody else', async () => {
  const names = async (by: string) => {
    const { rawPayload, headers } = await server.app.inject({
      ...{ method: 'GET', url: '/api/log/package', headers: { cookie: by } },
    });
    expect(headers['content-type']).toBe('application/zip');
    return rawPayload.toString('latin1').match(/log\/[\w/.-]+?\.csv/g) ?? [];
  };
  const own = new Set(await names(cookie));
  expect(own.has('log/log.csv')).toBe(true);
  expect([...own].filter((name) => name.startsWith('log/classes/2026-09-01-tuesday-in-the-hall-'))).toHaveLength(1);
  expect(own.size).toBe((await get<LoggedClass[]>('/api/log')).filter(({ log }) => log.items.length > 0).length + 1);
  expect(await names(await server.anotherInstructor())).toEqual([]);
});

it('what is no note of a class is refused with a sentence', async () => {
  for (const rest of [
    { students: 0 },
    { items: [] },
    { at: 'yesterday' },
    { items: [{ title: 'x', planned: null, actual: -1, note: '' }] },
  ]) {
    const { status, body } = await put(rest);
    expect([status, typeof body.message]).toEqual([400, 'string']);
  }
});
