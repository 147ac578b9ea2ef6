import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { type Command, commandSchemas, RESERVED_IDS } from '@viaticum/contract';
import { type TestServer, testServer } from '../server.fixture.js';
import type { Route } from './access.js';

/** What can be no id. */
const odd = [...RESERVED_IDS, 'é', '🙂', '\u0000', 'a b', '..', 'x'.repeat(200)];

let server: TestServer;
let cookie: string;
let place: Record<string, string>;
beforeAll(async () => {
  server = await testServer();
  cookie = await server.signIn();
  place = await somewhere(server, cookie);
});
afterAll(() => server.stop());

/** Parameters under which there is something. */
async function somewhere(on: TestServer, as: string): Promise<Record<string, string>> {
  const { id, document } = await on.demoLesson(as);
  const { code } = await on.openClass(as);
  const sha256 = document.references[0]?.pictureSha256 as string;
  const steps = document.steps[0]?.id as string;
  return { id, code, sha256, rendition: 'thumb', studentId: 'somebody', stepId: steps, token: 'nothing', role: 'sensor' };
}
const addressOf = (url: string, params: Record<string, string>): string =>
  url.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(params[name] ?? 'x'));
const bodyOf = ({ method }: Route) => (['POST', 'PUT', 'PATCH'].includes(method) ? {} : undefined);

const from = async (remoteAddress: string, route: Route, url: string, cookie: string) => {
  const payload = bodyOf(route);
  const answer = await server.app.inject({
    method: route.method as 'GET',
    url,
    remoteAddress,
    headers: { origin: 'http://viaticum.test', ...(cookie && { cookie }) },
    ...(payload && { payload }),
  });
  return { status: answer.statusCode, body: answer.json<{ message: string }>() };
};

let nextName = 1;
/** Everybody's next step: nothing that was tried before may be noticed. */
async function allIsWell(on: TestServer): Promise<void> {
  const fresh = await on.signIn();
  expect((await on.request('GET', '/api/lessons', undefined, fresh)).status).toBe(200);
  expect((await on.request('GET', '/api/people', undefined, fresh)).status).toBe(200);
  for (const one of (await on.request('GET', '/api/classes', undefined, fresh)).body as unknown as {
    code: string;
    state: string;
  }[]) {
    if (one.state !== 'open') continue;
    expect((await on.request('GET', `/api/join/${one.code}/sheet`)).status).toBe(200);
    expect((await on.request('GET', `/api/classes/${one.code}/record`, undefined, fresh)).status).toBe(200);
    const phone = await on.connect(one.code, 'phone');
    await phone.hello();
    expect(await phone.say({ type: 'join', firstName: `Next ${nextName++}`, kit: [] })).toMatchObject({ type: 'ack' });
    phone.close();
  }
  expect((await on.request('GET', '/health')).status).toBe(200);
}

describe('every route', () => {
  it('is in the table with who may call it', () => {
    expect(server.app.routeTable.length).toBeGreaterThan(35);
    expect(new Set(server.app.routeTable.map((route) => route.who))).toEqual(
      new Set(['anyone', 'code', 'link', 'device', 'instructor', 'owner']),
    );
  });
  it('asks an instructor’s callers to sign in, before it reads what they send', async () => {
    for (const route of server.app.routeTable.filter(({ who }) => who === 'instructor' || who === 'owner')) {
      const payload = bodyOf(route) && '{"this is no JSON';
      const { status, body } = await server.request(route.method, addressOf(route.url, place), payload, '', {
        'content-type': 'application/json',
      });
      expect([route.url, status, body.code]).toEqual([route.url, 401, 'sign-in']);
      expect(String(body.requestId)).toMatch(/^[\w-]{10}$/);
    }
  });
  it('that is the owner’s is closed to every other instructor, also to who owns the lessons', async () => {
    const owners = server.app.routeTable.filter(({ who }) => who === 'owner');
    expect(owners.length).toBeGreaterThan(3);
    for (const route of owners)
      for (const as of [cookie, await server.anotherInstructor()]) {
        const { status, body } = await server.request(route.method, addressOf(route.url, place), bodyOf(route), as);
        expect([route.url, status, body.code]).toEqual([route.url, 403, 'owner-only']);
      }
  });
  it('answers another instructor that there is no such thing, and gives nothing away', async () => {
    const other = await server.anotherInstructor();
    const own = server.app.routeTable.filter(({ url, who }) => who === 'instructor' && /:(id|code|sha256)/.test(url));
    expect(own.length).toBeGreaterThan(12);
    for (const route of own) {
      const { status } = await server.request(route.method, addressOf(route.url, place), bodyOf(route), other);
      expect([route.method, route.url, [400, 404, 415].includes(status)]).toEqual([route.method, route.url, true]);
    }
  });
  it('refuses what can be no id with a sentence, whoever asks, and goes on as if nothing had been', async () => {
    let tried = 0;
    for (const route of server.app.routeTable) {
      const names = [...route.url.matchAll(/:(\w+)/g)].map(([, name]) => name as string);
      for (const name of names)
        for (const text of odd)
          for (const as of ['', cookie]) {
            const url = addressOf(route.url, { ...place, [name]: text });
            // Two dots make it the address of another route, which is walked by itself.
            if (text === '..' && route.url.startsWith('/api/lessons/:id/package')) continue;
            // Each from an address of its own: wrong codes from one are answered later and later.
            const { status, body } = await from(`10.1.${tried >> 8}.${tried & 255}`, route, url, as);
            expect([route.method, url, status < 500 && status >= 400]).toEqual([route.method, url, true]);
            expect(String(body.message)).toMatch(/^\p{Lu}.*[.!]$/u);
            tried += 1;
          }
    }
    expect(tried).toBeGreaterThan(400);
    await allIsWell(server);
  });
  it('refuses them in what is sent as well', async () => {
    const { id } = place as { id: string };
    for (const text of odd) {
      const answers = await Promise.all([
        server.request('POST', '/api/classes', { lessonId: text }, cookie),
        server.request('POST', '/api/classes/planned', { lessonId: text, invite: {} }, cookie),
        server.request('PUT', `/api/classes/${place.code}/students/${encodeURIComponent(text)}`, { note: 'x' }, cookie),
        server.request('PUT', `/api/classes/${place.code}/students/somebody`, { personId: text }, cookie),
        server.request('GET', `/api/classes?before=${encodeURIComponent(text)}`, undefined, cookie),
        server.request('PUT', '/api/courses/c', { title: 'x', lessonIds: [text] }, cookie),
        server.request('PUT', `/api/lessons/${id}`, { baseRevision: 1, document: { [text]: 1 } }, cookie),
      ]);
      for (const { status, body } of answers) {
        expect([text, status >= 400 && status < 500]).toEqual([text, true]);
        expect(String(body.message)).toMatch(/^\p{Lu}.*[.!]$/u);
      }
    }
    await allIsWell(server);
  });
  it('an unknown time zone, an impossible day and a form without a boundary are told in a sentence', async () => {
    const invite = { startsAt: '2026-12-05T17:30:00Z', timeZone: 'Europe/Vienna', place: '', seats: 8, roster: [] };
    const plan = (change: object) =>
      server.request('POST', '/api/classes/planned', { lessonId: place.id, invite: { ...invite, ...change } }, cookie);
    expect((await plan({ timeZone: 'Not/AnArea' })).body.message).toMatch(/no time zone/);
    expect((await plan({ startsAt: '2026-19-45T17:30:00Z' })).body.message).toMatch(/no such day/);
    expect((await plan({})).status).toBe(201);
    const form = await server.request('POST', '/api/pictures', 'x', cookie, { 'content-type': 'multipart/form-data' });
    expect([form.status, form.body.code]).toEqual([400, 'no-file']);
  });
});

describe('every command', () => {
  /** A command of each kind that is right but for its ids. */
  const samples = Object.entries(commandSchemas).map(([type, schema]) => {
    const fields = Object.keys((schema as { properties: object }).properties);
    const values: Record<string, unknown> = {
      ...{ from: -1, to: 0, minutes: 1, reason: 'lost', dry: true, seat: 1, firstName: 'Mara', text: 'x', speed: 2 },
      ...{ airC: 20, humidity: 0.5, airSpeed: 0.1, quickest: false, has: [] },
    };
    return {
      type,
      fields,
      command: Object.fromEntries([['type', type], ...fields.map((field) => [field, values[field] ?? type])]),
    };
  });
  const idFields = ['studentId', 'stepId', 'areaId', 'kit'];

  it('that names what can be no id is refused with a sentence from every role, and leaves nothing behind', async () => {
    const { code } = await server.openClass(cookie);
    let tried = 0;
    for (const text of odd) {
      const desk = await server.connect(code, 'desk', cookie);
      const phone = await server.connect(code, 'phone');
      await desk.hello();
      await phone.hello();
      for (const { fields, command } of samples)
        for (const field of fields.filter((one) => idFields.includes(one))) {
          const bad = { ...command, [field]: field === 'kit' ? [text] : text } as unknown as Command;
          for (const one of [desk, phone]) {
            const answer = await one.say(bad);
            expect([field, text, answer]).toEqual([field, text, expect.objectContaining({ type: 'refused', code: 'invalid' })]);
            expect('message' in answer && answer.message).toMatch(/\.$/);
            tried += 1;
          }
          // Neither may the command itself be named so.
          phone.sendRaw(JSON.stringify({ type: 'command', id: text, command }));
        }
      expect(desk.state.seq).toBe(1);
      desk.close();
      phone.close();
    }
    expect(tried).toBeGreaterThan(150);
    await allIsWell(server);
  });

  it('a database in which such events lie is read by the next server, and its classes go on', async () => {
    const { id, code } = await server.openClass(cookie);
    const event = (seq: number, body: object) => [
      id,
      seq,
      Date.now(),
      'assistant',
      `bad${seq}`,
      JSON.stringify({ v: 1, ...body }),
    ];
    const rows = [
      event(2, { type: 'joined', studentId: '__proto__', firstName: 'X', kit: [] }),
      event(3, { type: 'handRaised', studentId: '__proto__', reason: 'lost' }),
      event(4, { type: 'stepDone', studentId: 'constructor', stepId: 'toString' }),
    ];
    await server.database.pool.query('INSERT INTO class_event (class_id, seq, at, actor, command_id, body) VALUES ?', [rows]);
    await server.database.pool.query('UPDATE class SET last_seq = 4 WHERE id = ?', [id]);
    const next = await testServer({ databaseUrl: server.config.databaseUrl, dataFolder: server.config.dataFolder });
    await allIsWell(next);
    const desk = await next.connect(code, 'desk', await next.signIn());
    await desk.hello();
    expect(desk.state.passedOver).toBe(3);
    expect(await desk.say({ type: 'goOn', from: -1 })).toMatchObject({ type: 'ack' });
    expect(({} as Record<string, unknown>).hand).toBeUndefined();
    await next.app.close();
  });
});
