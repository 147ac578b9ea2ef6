import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { AloneSheet, ClassEvent, Letter, LoggedClass } from '@viaticum/contract';
import type { Suggestion } from '@viaticum/core/log';
import { ClassLogEntity, ShootNoteEntity } from '../db/entities.js';
import { testServer } from '../server.fixture.js';
import { aloneEvents } from './alone.fixture.js';
import type { LearntAnswer } from './log-worker.js';

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

describe('what is painted alone', () => {
  let token = '';
  let sheet: AloneSheet;
  beforeAll(async () => {
    const { body } = await server.request('POST', `/api/lessons/${lessonId}/alone`, {}, cookie);
    token = (body as { address: string }).address.split('/').at(-1) ?? '';
    sheet = await get<AloneSheet>(`/api/alone/${token}`, '');
  });
  const tell = (events: ClassEvent[], by = '') => server.request('POST', `/api/alone/${token}/log`, { events }, by);
  const of = async (kind: string) => (await get<LoggedClass[]>('/api/log')).filter(({ log }) => log.kind === kind);

  it('is told by whoever painted it, once, and of the instructor’s own it is practice', async () => {
    const events = aloneEvents(sheet, Date.now() - 3 * 3_600_000, 5);
    expect((await tell(events)).status).toBe(204);
    expect((await tell(events)).status).toBe(204);
    expect(await of('alone')).toHaveLength(1);
    await tell(aloneEvents(sheet, Date.now() - 2 * 3_600_000, 8), cookie);
    const [practice] = await of('practice');
    expect(practice?.log).toMatchObject({ students: 1, lessonId: '' });
    const whole = await get<LoggedClass>(`/api/log/${practice?.id}`);
    expect(whole.log.paces.length).toBeGreaterThan(1);
    expect(whole.log.paces.every(({ who, from, to }) => who === 0 && from < 8.5 && to > 7.5)).toBe(true);
  });
  it('what cannot have been so, or tells of no lesson, is refused with a sentence', async () => {
    const events = aloneEvents(sheet, Date.now() - 3_600_000, 5);
    expect((await tell([...events].reverse())).status).toBe(422);
    expect((await tell(events.slice(0, 1))).status).toBe(422);
    const looked = await tell(aloneEvents(sheet, Date.now() - 3_600_000, 0.1));
    expect(looked.body.message).toMatch(/looked through rather than painted/);
    expect((await server.request('POST', '/api/alone/nothing/log', { events }, '')).status).toBe(404);
  });
  it('the takes of a day that was filmed stand in the log when it is over', async () => {
    const at = Date.now() - 30 * 3_600_000;
    const stepId = Object.keys(sheet.sheet.steps)[0];
    const notes = [
      { kind: 'started' as const, minutes: 0 },
      { kind: 'stopped' as const, minutes: 6 },
      { kind: 'good' as const, minutes: 6 },
    ].map(({ kind, minutes }, k) => ({ lessonId, id: `n${k}`, at: at + minutes * 60_000, takeId: `${stepId}/canvas`, kind }));
    await server.database.source.manager.insert(ShootNoteEntity, notes);
    const [filmed] = await of('takes');
    expect(filmed?.log).toMatchObject({ actualMin: 6, students: 1 });
    expect(await of('takes')).toHaveLength(1);
  });
});

describe('what came of a class', () => {
  let id = '';
  beforeAll(async () => {
    id = ((await put({ at: '2026-08-03' })).body as unknown as LoggedClass).id;
  });
  const result = (dL: number) => ({
    areas: [{ areaId: 'sky', name: 'sky', dL, da: 0, db: 0 }],
    things: [{ id: 'jug', name: 'jug', wide: 1.01, high: 1, offX: 0, offY: 0 }],
  });
  const add = (dL: number) => server.request('POST', `/api/log/${id}/results`, result(dL), cookie);

  it('canvases tell of the group from five photographs on; all of those sent at once are kept', async () => {
    await Promise.all([-7, -6, -8, -5].map(add));
    expect((await get<LearntAnswer>(`/api/lessons/${lessonId}/calibrations`)).results).toEqual([]);
    await add(-6);
    const { results } = await get<LearntAnswer>(`/api/lessons/${lessonId}/calibrations`);
    expect(results[0]).toMatchObject({ name: 'sky', median: -6, count: 5, photos: 5, isClear: true });
    const { log } = await get<LoggedClass>(`/api/log/${id}`);
    expect(log.results).toHaveLength(5);
    const away = await server.request('DELETE', `/api/log/${id}/results/${log.results?.[0]?.id}`, undefined, cookie);
    expect((away.body as unknown as LoggedClass).log.results).toHaveLength(4);
    expect((await server.request('DELETE', `/api/log/${id}/results/other`, undefined, cookie)).status).toBe(404);
  });
  it('a photograph is shared only with what was said to that, and only one’s own', async () => {
    const { log } = await get<LoggedClass>(`/api/log/${id}`);
    const at = `/api/log/${id}/results/${log.results?.[0]?.id}/shared`;
    const { document } = await server.demoLesson(cookie);
    const sha256 = document.references[0]?.pictureSha256;
    expect((await server.request('PUT', at, { sha256, consent: ' ' }, cookie)).status).toBe(400);
    expect((await server.request('PUT', at, { sha256: '0'.repeat(64), consent: 'she said yes' }, cookie)).status).toBe(404);
    const shared = await server.request('PUT', at, { sha256, consent: 'she said yes, 3 August' }, cookie);
    expect((shared.body as unknown as LoggedClass).log.results?.[0]?.shared).toEqual({
      sha256,
      consent: 'she said yes, 3 August',
    });
    const back = await server.request('DELETE', at, undefined, cookie);
    expect((back.body as unknown as LoggedClass).log.results?.[0]?.shared).toBeUndefined();
    // A lesson shows it: it stays.
    expect((await server.request('GET', `/api/pictures/${sha256}/thumb`, undefined, cookie)).status).toBe(200);
  });
  it('paint that was left teaches how much is used', async () => {
    const heaps = Array.from({ length: 6 }, (_, k) => ({
      mixId: `m${k}`,
      name: `mix ${k}`,
      mixedMl: 60,
      plannedMl: 40,
      left: 'half',
    }));
    const saved = await server.request('PUT', `/api/log/${id}/heaps`, { heaps }, cookie);
    expect((saved.body as unknown as LoggedClass).log.heaps).toEqual(heaps);
    const { calibrations } = await get<LearntAnswer>(`/api/lessons/${lessonId}/calibrations`);
    expect(calibrations.find(({ key }) => key === 'paint')).toMatchObject({ observations: 6, classes: 1, isClear: false });
    expect((await server.request('PUT', `/api/log/${id}/heaps`, { heaps: [{ ...heaps[0], left: 'all' }] }, cookie)).status).toBe(
      400,
    );
  });
  it('days to think of lie in the outbox with a file for calendars, for nobody else', async () => {
    const reminders = [{ dueAt: Date.UTC(2026, 11, 24), subject: 'Varnish: Two jugs', text: 'The canvases may be varnished.' }];
    const { status } = await server.request('POST', '/api/reminders', { reminders, ics: 'BEGIN:VCALENDAR' }, cookie);
    expect(status).toBe(201);
    const letters = await get<Letter[]>('/api/letters');
    expect(letters.find(({ subject }) => subject === 'Varnish: Two jugs')).toMatchObject({
      dueAt: '2026-12-24T00:00:00.000Z',
      attachment: 'BEGIN:VCALENDAR',
    });
    const other = await server.anotherInstructor();
    expect(await get<Letter[]>('/api/letters', other)).toEqual([]);
    const [one] = letters;
    await server.request('DELETE', `/api/reminders/${one?.id}`, undefined, other);
    expect(await get<Letter[]>('/api/letters')).toHaveLength(letters.length);
    await server.request('DELETE', `/api/reminders/${one?.id}`, undefined, cookie);
    expect(await get<Letter[]>('/api/letters')).toHaveLength(letters.length - 1);
    expect((await server.request('POST', '/api/reminders', { reminders: [], ics: 'x' }, cookie)).status).toBe(400);
  });
});
