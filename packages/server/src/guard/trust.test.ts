import { readdir, readFile, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { LessonCard } from '@viaticum/contract';
import { sessionStore } from '../auth/sessions.js';
import { isOnlyHere, readConfig } from '../config.js';
import { LessonEntity, LessonRevisionEntity, SessionEntity } from '../db/entities.js';
import { demoSignIn } from '../demo/seed.js';
import { tidy } from '../housekeeping.js';
import { type TestServer, testServer } from '../server.fixture.js';

let server: TestServer;
let cookie: string;
beforeAll(async () => {
  server = await testServer();
  cookie = await server.signIn();
});
afterAll(() => server.stop());

const logged = async (on: TestServer): Promise<Record<string, unknown>[]> => {
  const folder = join(on.config.dataFolder, 'logs');
  await new Promise((done) => setTimeout(done, 200));
  const texts = await Promise.all((await readdir(folder)).map((name) => readFile(join(folder, name), 'utf8')));
  return texts
    .join('')
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line));
};

describe('the log', () => {
  it('has every refusal under the id that the answer gave, and sign-ins; neither names, passwords nor codes', async () => {
    const { code } = await server.openClass(cookie);
    const phone = await server.connect(code, 'phone');
    await phone.hello();
    await phone.say({ type: 'join', firstName: 'Philippa-Luise', kit: [] });
    const refused = await server.request('POST', '/api/session', { name: 'Hieronymus', password: 'my secret words' });
    const wrong = await server.request('GET', '/api/join/222222');
    await server.database.pool.query('RENAME TABLE person TO person_away');
    const failed = await server.request('GET', '/api/people', undefined, cookie);
    await server.database.pool.query('RENAME TABLE person_away TO person');
    expect([refused.status, wrong.status, failed.status]).toEqual([401, 404, 500]);
    const lines = await logged(server);
    for (const { body } of [refused, wrong, failed])
      expect(lines.filter((line) => line.reqId === body.requestId)).not.toHaveLength(0);
    expect(lines.find((line) => line.reqId === failed.body.requestId)).toMatchObject({
      level: 50,
      route: '/api/people',
      err: { code: 'ER_NO_SUCH_TABLE' },
    });
    expect(lines.some((line) => line.msg === 'signed in' && line.instructor)).toBe(true);
    const all = JSON.stringify(lines);
    for (const private_ of ['Philippa', 'Hieronymus', 'secret words', demoSignIn.password, code, '222222'])
      expect(all).not.toContain(private_);
  });
  it('and what is stored are for their owner alone', async () => {
    const mode = async (...path: string[]) => (await stat(join(server.config.dataFolder, ...path))).mode & 0o777;
    expect(await mode('logs')).toBe(0o700);
    expect(await mode('logs', (await readdir(join(server.config.dataFolder, 'logs')))[0] as string)).toBe(0o600);
    const [first] = await readdir(join(server.config.dataFolder, 'pictures'));
    expect(await mode('pictures')).toBe(0o700);
    const [sha] = await readdir(join(server.config.dataFolder, 'pictures', first as string));
    expect(await mode('pictures', first as string, sha as string, 'work')).toBe(0o600);
    expect(await readdir(join(server.config.dataFolder, 'uploads'))).toEqual([]);
  });
});

describe('signing in', () => {
  it('sixty at once are all answered, most of them told to wait, while others are served', async () => {
    const own = await testServer();
    const many = Promise.all(
      Array.from({ length: 60 }, (_, k) =>
        own.app.inject({
          method: 'POST',
          url: '/api/session',
          headers: { origin: 'http://viaticum.test' },
          remoteAddress: `10.0.0.${k}`,
          payload: demoSignIn,
        }),
      ),
    );
    let served = 0;
    let over = false;
    const asking = (async () => {
      while (!over) {
        expect((await own.request('GET', '/api/session')).status).toBe(200);
        served += 1;
        await new Promise((done) => setTimeout(done, 5));
      }
    })();
    const statuses = (
      await many.finally(() => {
        over = true;
      })
    ).map((answer) => answer.statusCode);
    await asking;
    expect(new Set(statuses)).toEqual(new Set([200, 503]));
    expect(statuses.filter((status) => status === 200).length).toBeGreaterThan(20);
    // Hashing one takes a third of a second: nobody waits for it but who signs in.
    expect(served).toBeGreaterThan(20);
    await own.stop();
  });
  it('many wrong passwords for one name stop further ones from any address, also when all come at once', async () => {
    const own = await testServer();
    const tried = await Promise.all(
      Array.from({ length: 64 }, (_, k) =>
        own.app.inject({
          method: 'POST',
          url: '/api/session',
          headers: { origin: 'http://viaticum.test' },
          remoteAddress: `10.0.1.${k}`,
          payload: { name: k % 2 ? 'demo' : 'DEMO', password: 'guess' },
        }),
      ),
    );
    const statuses = tried.map((answer) => answer.statusCode);
    // Those that no thread had time for are counted as well.
    expect(new Set(statuses)).toEqual(new Set([401, 503, 429]));
    expect(statuses.filter((status) => status === 429)).toHaveLength(4);
    expect((await own.request('POST', '/api/session', demoSignIn)).status).toBe(429);
    await own.stop();
  }, 120_000);
  it('signing out closes the desk that was opened with that session, and no other', async () => {
    const { code } = await server.openClass(cookie);
    const [one, other] = [await server.signIn(), await server.signIn()];
    const desk = await server.connect(code, 'desk', one);
    const beside = await server.connect(code, 'desk', other);
    await desk.hello();
    await beside.hello();
    await server.request('DELETE', '/api/session', undefined, one);
    expect(await desk.closed()).toMatchObject({ code: 4401, reason: expect.stringMatching(/signed out/) });
    expect(await beside.say({ type: 'goOn', from: -1 })).toMatchObject({ type: 'ack' });
  });
  it('the demo’s password can be set, which ends its sessions; only then may others reach the server', async () => {
    const own = await testServer();
    const old = await own.signIn();
    expect(await own.hasKnownPassword()).toBe(true);
    const again = await testServer({ databaseUrl: own.config.databaseUrl, demoPassword: 'seven grey doves' });
    expect(await again.hasKnownPassword()).toBe(false);
    expect((await again.request('GET', '/api/lessons', undefined, old)).status).toBe(401);
    expect((await again.request('POST', '/api/session', { name: 'demo', password: 'seven grey doves' })).status).toBe(200);
    expect((await again.request('POST', '/api/session', demoSignIn)).status).toBe(401);
    await again.app.close();
    await own.stop();
  });
  it.each([
    [{}, true],
    [{ VIATICUM_HOST: '::1' }, true],
    [{ VIATICUM_HOST: '0.0.0.0' }, false],
    [{ VIATICUM_HOST: '192.168.1.20' }, false],
    [{ VIATICUM_PUBLIC_URL: 'https://studio.test' }, false],
  ])('%j is open to others: %s', (env, onlyHere) => {
    expect(isOnlyHere(readConfig({ VIATICUM_DATABASE_URL: 'mariadb://x@y/z', ...env }, ''))).toBe(onlyHere);
  });
  it('proxies are trusted where they are named, and nowhere else', async () => {
    const read = (given: string) =>
      readConfig({ VIATICUM_DATABASE_URL: 'mariadb://x@y/z', VIATICUM_TRUST_PROXY: given }, '').trustProxy;
    expect([read(''), read('127.0.0.1, 10.0.0.0/8')]).toEqual([false, ['127.0.0.1', '10.0.0.0/8']]);
    expect(() => read('everybody')).toThrow(/VIATICUM_TRUST_PROXY is “everybody”/);
  });
});

describe('a stage picture', () => {
  it('is painted only from a picture that its instructor owns', async () => {
    const mine = await server.demoLesson(cookie);
    const other = await server.anotherInstructor();
    const made = await server.request('POST', '/api/lessons', { document: mine.document }, other);
    const finished = (id: string, as: string) => server.request('GET', `/api/lessons/${id}/finished`, undefined, as);
    const [own, borrowed] = [await finished(mine.id, cookie), await finished(String(made.body.id), other)];
    expect([own.status, borrowed.status]).toEqual([200, 200]);
    expect(borrowed.raw.equals(own.raw)).toBe(false);
    expect((await finished(mine.id, other)).status).toBe(404);
  }, 120_000);
});

describe('what nobody needs any more goes', () => {
  it('sessions that are over, stage pictures that nobody looked at, uploads that were broken off', async () => {
    const { manager } = server.database.source;
    await manager.insert(SessionEntity, {
      tokenHash: 'f'.repeat(64),
      instructorId: (await manager.findOneByOrFail(LessonEntity, {})).ownerId,
      expiresAt: Date.now() - 1,
    });
    let looked = 0;
    const stages = { tidy: async () => ++looked } as never;
    const films = { tidy: async () => 2, letGoOfLost: async () => 1 } as never;
    const pictures = { tidy: async () => 4 } as never;
    const privacy = { tidy: async () => 5 } as never;
    const accounts = { tidy: async () => {} } as never;
    const sessions = sessionStore(server.database, () => {});
    const lessons = { empty: async () => 3 } as never;
    const sharing = { tidy: async () => {} } as never;
    const parts = {
      sessions,
      accounts,
      lessons,
      sharing,
      stages,
      films,
      pictures,
      privacy,
      dataFolder: server.config.dataFolder,
    };
    expect(await tidy(parts, Date.now())).toEqual({
      sessions: 1,
      stages: 1,
      uploads: 0,
      films: 3,
      lessons: 3,
      pictures: 4,
      names: 5,
    });
    expect((await server.request('GET', '/api/session', undefined, cookie)).body.instructor).not.toBeNull();
  });
  it('a class that nobody follows leaves the memory, and comes back as it was', async () => {
    const own = await testServer();
    const as = await own.signIn();
    const [{ code }, other] = [await own.openClass(as), await own.openClass(as)];
    const phone = await own.connect(code, 'phone');
    await phone.hello();
    (await own.connect(other.code, 'phone')).close();
    const ack = await phone.say({ type: 'join', firstName: 'Mara', kit: [] });
    const swept = async (left: number) => {
      for (let i = 0; i < 100 && own.classes.hubsOpen > left; i++) {
        await own.classes.sweep(1);
        await new Promise((done) => setTimeout(done, 50));
      }
      return own.classes.hubsOpen;
    };
    // Only the one where nobody is goes.
    expect(own.classes.hubsOpen).toBe(2);
    expect(await swept(1)).toBe(1);
    await own.classes.sweep(1);
    expect(own.classes.hubsOpen).toBe(1);
    phone.close();
    expect(await swept(0)).toBe(0);
    const back = await own.connect(code, 'phone', '', ack.type === 'ack' ? ack.token : '');
    expect(await back.hello()).toMatchObject({ you: ack.type === 'ack' && ack.studentId });
    await own.stop();
  });
});

describe('lists', () => {
  it('come in pages, read no document, and reach the oldest', async () => {
    const own = await server.anotherInstructor();
    const { document } = await server.demoLesson(cookie);
    const { body } = await server.request('POST', '/api/lessons', { document }, own);
    const { manager } = server.database.source;
    const one = await manager.findOneByOrFail(LessonEntity, { id: String(body.id) });
    await manager.insert(
      LessonEntity,
      Array.from({ length: 120 }, (_, k) => ({
        ...one,
        id: `many-${k}`,
        updatedAt: one.updatedAt - 1000 - (k >> 1),
        title: `T${k}`,
      })),
    );
    const list = (await server.request('GET', '/api/lessons', undefined, own)).body as unknown as LessonCard[];
    expect(new Set(list.map((card) => card.id)).size).toBe(121);
    expect(list[0]?.card).toMatchObject({ steps: document.steps.length, widthMm: document.support.widthMm });
    expect(JSON.stringify(list)).not.toContain('outline');
    // These lessons have no revision at all: a list that read documents would fail.
    expect(await manager.countBy(LessonRevisionEntity, { lessonId: 'many-1' })).toBe(0);
  });
});
