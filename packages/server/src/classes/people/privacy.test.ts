import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, afterEach, beforeAll, describe, expect, it } from '@jest/globals';
import { CLOSED, type ClassRecord, type StoredOfPerson } from '@viaticum/contract';
import { ERASED_NAME } from '@viaticum/core/class';
import { ClassEventEntity } from '../../db/entities.js';
import { type TestServer, testServer } from '../../server.fixture.js';
import { privacyStore } from './privacy.js';

let server: TestServer;
let cookie: string;
beforeAll(async () => {
  server = await testServer();
  cookie = await server.signIn();
});
afterAll(() => server.stop());
const realNow = Date.now;
afterEach(() => {
  Date.now = realNow;
});

const ask = <T>(method: string, url: string, payload?: unknown, as = cookie) =>
  server.request(method, url, payload, as) as unknown as Promise<{ status: number; body: T & { message: string } }>;
/** Where in the whole database a word stands: tables, with how many rows. */
async function dumped(word: string): Promise<string[]> {
  const [tables] = await server.database.pool.query('SHOW TABLES');
  const found: string[] = [];
  for (const table of (tables as object[]).map((row) => String(Object.values(row)[0]))) {
    const [rows] = await server.database.pool.query(`SELECT * FROM \`${table}\``);
    const count = (rows as object[]).filter((row) => JSON.stringify(row).toLowerCase().includes(word.toLowerCase())).length;
    if (count > 0) found.push(`${table} ${count}`);
  }
  return found.sort();
}
const logged = async (word: string): Promise<boolean> => {
  const folder = join(server.config.dataFolder, 'logs');
  for (const name of await readdir(folder).catch(() => []))
    if ((await readFile(join(folder, name), 'utf8')).includes(word)) return true;
  return false;
};
/** A class that somebody of this name was invited to, joined, was renamed in and raised a hand in; ended where asked. */
async function classWith(name: string, { ends = true } = {}) {
  const { id } = await server.demoLesson(cookie);
  const person = (await ask<{ id: string }>('POST', '/api/people', { firstName: name })).body;
  const roster = [{ firstName: name, personId: person.id }, { firstName: 'Somebody Else' }];
  const invite = { startsAt: '2026-12-05T17:30:00Z', timeZone: 'Europe/Vienna', place: '', seats: 8, roster };
  const { code } = (await ask<{ code: string }>('POST', '/api/classes/planned', { lessonId: id, invite })).body;
  await ask('POST', `/api/classes/${code}/letters`, {});
  await ask('POST', `/api/classes/${code}/open`, {});
  const desk = await server.connect(code, 'desk', cookie);
  await desk.hello();
  const phone = await server.connect(code, 'phone');
  await phone.hello();
  const joined = await phone.say({ type: 'join', firstName: name, kit: [] });
  const studentId = 'studentId' in joined ? String(joined.studentId) : '';
  const token = 'token' in joined ? String(joined.token) : '';
  await phone.say({ type: 'hand', studentId, reason: 'lost' });
  await desk.say({ type: 'rename', studentId, firstName: `${name} B` });
  const other = await server.connect(code, 'phone');
  await other.hello();
  await other.say({ type: 'join', firstName: 'Another', kit: [] });
  await ask('PUT', `/api/classes/${code}/students/${studentId}`, { note: `${name} likes umber`, personId: person.id });
  if (ends) await desk.say({ type: 'end' });
  for (const one of [desk, phone, other]) one.close();
  return { code, studentId, personId: person.id, token };
}
const record = async (code: string) => (await ask<ClassRecord>('GET', `/api/classes/${code}/record`)).body;

describe('names', () => {
  it('stand apart from the log of a class: no event holds one, and who may see them sees them', async () => {
    const { code } = await classWith('Quilla');
    const stored = await server.database.source.manager.find(ClassEventEntity);
    expect(stored.some(({ body }) => /Quilla|Another/.test(body))).toBe(false);
    const names = (await record(code)).events.flatMap(({ body }) => ('firstName' in body ? [body.firstName] : []));
    expect(names).toEqual(['Quilla', 'Quilla B', 'Another']);
    // A server that reads the log anew knows them as well.
    const next = await testServer({ databaseUrl: server.config.databaseUrl, dataFolder: server.config.dataFolder });
    const desk = await next.connect(code, 'desk', await next.signIn());
    await desk.hello();
    expect(Object.values(desk.state.students).map(({ firstName }) => firstName)).toEqual(['Quilla B', 'Another']);
    desk.close();
    await next.app.close();
  });
  it('and nobody’s are in what the server logs', async () => {
    expect(await logged('Quilla')).toBe(false);
  });
});

describe('a person', () => {
  it('is given all that is stored of them, of every class', async () => {
    const { personId, code, studentId } = await classWith('Ottilia');
    const { status, body } = await ask<StoredOfPerson>('GET', `/api/people/${personId}/stored`);
    expect([status, body.firstName, body.classes.length]).toEqual([200, 'Ottilia', 1]);
    const [one] = body.classes;
    expect(one).toMatchObject({ names: ['Ottilia', 'Ottilia B'], note: 'Ottilia likes umber' });
    expect(one?.events.map(({ what }) => what.type)).toEqual(expect.arrayContaining(['joined', 'handRaised', 'renamed']));
    expect(one?.letters.map(({ text }) => text.slice(0, 7))).toEqual(['Ottilia']);
    // Nothing of the others.
    expect(JSON.stringify(body)).not.toMatch(/Another|Somebody Else/);
    const student = await ask<StoredOfPerson>('GET', `/api/classes/${code}/students/${studentId}/stored`);
    expect(student.body.classes).toEqual(body.classes);
    const stranger = await server.anotherInstructor();
    expect((await ask('GET', `/api/people/${personId}/stored`, undefined, stranger)).status).toBe(404);
    expect((await ask('DELETE', `/api/people/${personId}`, undefined, stranger)).status).toBe(404);
  });
  it('that is erased is nowhere in the database any more, in no log, and in no memory of the server; the class keeps how it went', async () => {
    const { personId, code } = await classWith('Zephyrine');
    const before = await record(code);
    expect(await dumped('Zephyrine')).toEqual(['class 1', 'class_name 2', 'class_student 1', 'letter 1', 'person 1']);
    expect((await ask('DELETE', `/api/people/${personId}`)).status).toBe(204);
    expect(await dumped('Zephyrine')).toEqual([]);
    expect(await logged('Zephyrine')).toBe(false);
    const after = await record(code);
    expect(after.events.map(({ seq, at }) => [seq, at])).toEqual(before.events.map(({ seq, at }) => [seq, at]));
    expect(after.events.flatMap(({ body }) => ('firstName' in body ? [body.firstName] : []))).toEqual([
      ERASED_NAME,
      ERASED_NAME,
      'Another',
    ]);
    const desk = await server.connect(code, 'desk', cookie);
    await desk.hello();
    expect(Object.values(desk.state.students).map(({ firstName }) => firstName)).toEqual([ERASED_NAME, 'Another']);
    desk.close();
    expect(JSON.stringify((await ask('GET', '/api/letters')).body)).not.toContain('Zephyrine');
  });
  it('in a class that is open is erased once it has ended', async () => {
    const { personId, code, studentId } = await classWith('Hesper', { ends: false });
    const refused = await ask('DELETE', `/api/people/${personId}`);
    expect([refused.status, refused.body.message]).toEqual([409, expect.stringMatching(/End it first/)]);
    expect((await ask('DELETE', `/api/classes/${code}/students/${studentId}`)).status).toBe(409);
    expect(await dumped('Hesper')).not.toEqual([]);
  });
  it('of one class alone is erased in it', async () => {
    const { code, studentId, personId } = await classWith('Ysolde');
    expect((await ask('DELETE', `/api/classes/${code}/students/${studentId}`)).status).toBe(204);
    // Who came before stays on the list of those who come again, until they are erased as well.
    expect(await dumped('Ysolde')).toEqual(['person 1']);
    await ask('DELETE', `/api/people/${personId}`);
    expect(await dumped('Ysolde')).toEqual([]);
  });
});

describe('names of a class', () => {
  it('are erased all at once', async () => {
    const { code } = await classWith('Merewen');
    expect((await ask('DELETE', `/api/classes/${code}/names`)).status).toBe(204);
    expect(await dumped('Merewen')).toEqual([]);
    expect((await record(code)).students).toEqual(expect.not.objectContaining({ note: expect.stringMatching(/./) }));
  });
  it('go by themselves after the time that an instructor sets, and not before', async () => {
    const { code } = await classWith('Thessaly');
    expect((await ask('PUT', '/api/account/retention', { days: 12 })).status).toBe(400);
    expect((await ask('PUT', '/api/account/retention', { days: 90 })).status).toBe(204);
    expect((await ask<{ retentionDays: number }>('GET', '/api/account')).body.retentionDays).toBe(90);
    const store = privacyStore(server.database, { forget: async () => undefined } as never);
    expect(await store.tidy(realNow() + 89 * 86_400_000)).toBe(0);
    expect(await dumped('Thessaly')).not.toEqual([]);
    expect(await store.tidy(realNow() + 91 * 86_400_000)).toBeGreaterThan(0);
    expect(await dumped('Thessaly')).toEqual([]);
    expect((await record(code)).events.length).toBeGreaterThan(3);
    expect(await store.tidy(realNow() + 91 * 86_400_000)).toBe(0);
    await ask('PUT', '/api/account/retention', { days: null });
  });
});

describe('a code after the end of its class', () => {
  it('shows that it has ended, and nothing else', async () => {
    const { code, token } = await classWith('Isaura');
    const { body } = await ask<Record<string, unknown>>('GET', `/api/join/${code}`, undefined, '');
    expect(body).toEqual({
      ...{ code, title: '', state: 'ended', address: '', expected: 0, offered: [] },
      ...{ startsAt: null, timeZone: null, place: null },
    });
    const { id: stepId } = (await server.demoLesson(cookie)).document.steps.at(-1) as { id: string };
    for (const path of ['sheet', `stages/${stepId}`, `films/${'0'.repeat(64)}`, 'recipes?without=x']) {
      const refused = await ask('GET', `/api/join/${code}/${path}`, undefined, '');
      expect([path, refused.status, refused.body.message]).toEqual([path, 410, 'This class has ended.']);
    }
    // Its instructor looks back at it.
    expect((await ask('GET', `/api/join/${code}/stages/${stepId}`)).status).toBe(200);
    for (const role of ['phone', 'wall'] as const) {
      const one = await server.connect(code, role);
      one.sendRaw(JSON.stringify({ type: 'hello', after: 0 }));
      expect(await one.closed()).toMatchObject({ code: CLOSED.over });
      expect(one.frames).toEqual([]);
    }
    // Who was in it sees what is their own.
    const own = await server.connect(code, 'phone', '', token);
    await own.hello();
    expect(Object.values(own.state.students).map(({ firstName }) => firstName)).toEqual(['Isaura B']);
    own.close();
  });
});
