import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import type { ClassEvent, Command } from '@viaticum/contract';
import { type Actor, stateHash } from '@viaticum/core/class';
import { type TestServer, testServer } from '../../server.fixture.js';
import { classOf } from '../class.fixture.js';
import { classLog } from './log.js';

let server: TestServer;
let cookie: string;
let classId: string;
beforeAll(async () => {
  server = await testServer();
  cookie = await server.signIn();
});
afterAll(() => server.stop());
beforeEach(async () => {
  classId = (await server.openClass(cookie)).id;
});

const guest: Actor = { kind: 'guest' };
const instructor: Actor = { kind: 'instructor' };
const join = (firstName: string): Command => ({ type: 'join', firstName, kit: [] });
async function opened() {
  const heard: { event: ClassEvent; from: string }[] = [];
  const log = classLog(server.database.logs, classId, (events, from) => heard.push(...events.map((event) => ({ event, from }))));
  await log.load();
  return { log, heard };
}

describe('the log of a class', () => {
  it('what is waiting is written in few batches, in its order, each with a number of its own', async () => {
    const { log, heard } = await opened();
    const results = await Promise.all(Array.from({ length: 300 }, (_, k) => log.command(`c${k}`, guest, join(`P${k}`))));
    expect(results.map((result) => 'seq' in result && result.seq)).toEqual(Array.from({ length: 300 }, (_, k) => k + 2));
    expect(heard.filter((one) => one.from === 'here').map((one) => one.event.seq)).toEqual(
      Array.from({ length: 300 }, (_, k) => k + 2),
    );
    expect((await classOf(server, classId)).map((event) => event.seq)).toEqual(Array.from({ length: 301 }, (_, k) => k + 1));
    expect(log.head).toBe(301);
    log.close();
  });
  it('a command said again is answered with its first result: alone, beside others, and where it could not be done any more', async () => {
    const { log } = await opened();
    const first = await log.command('mara', guest, join('Mara'));
    expect(await log.command('mara', guest, join('Mara'))).toEqual(first);
    const [again, fresh] = await Promise.all([
      log.command('mara', guest, join('Mara')),
      log.command('kofi', guest, join('Kofi')),
    ]);
    expect([again, 'seq' in fresh && fresh.seq]).toEqual([first, 3]);
    await log.command('start', instructor, { type: 'goOn', from: -1 });
    const back = await log.command('back', instructor, { type: 'takeBack' });
    // Taken back once: there is nothing more to take back, and yet the answer is the first.
    expect(await log.command('back', instructor, { type: 'takeBack' })).toEqual(back);
    await log.command('end', instructor, { type: 'end' });
    expect(await log.command('end', instructor, { type: 'end' })).toMatchObject({ seq: 6 });
    expect(await log.command('late', guest, join('Late'))).toMatchObject({ refused: { code: 'ended' } });
    expect(Object.values(log.state.students).map((student) => student.firstName)).toEqual(['Mara', 'Kofi']);
    log.close();
  });
  it('two processes that write at once lose nothing and end alike', async () => {
    const [one, other] = [await opened(), await opened()];
    const results = await Promise.all(
      Array.from({ length: 60 }, (_, k) => (k % 2 ? one : other).log.command(`x${k}`, guest, join(`P${k}`))),
    );
    expect(results.every((result) => 'seq' in result)).toBe(true);
    expect(new Set(results.map((result) => 'seq' in result && result.seq)).size).toBe(60);
    for (const { log } of [one, other]) log.look();
    for (let i = 0; i < 100 && (one.log.head < 61 || other.log.head < 61); i++) await new Promise((done) => setTimeout(done, 20));
    expect(stateHash(one.log.state)).toBe(stateHash(other.log.state));
    expect((await classOf(server, classId)).map((event) => event.seq)).toEqual(Array.from({ length: 61 }, (_, k) => k + 1));
    // Each heard the other's as well, in order and once.
    for (const { heard, log } of [one, other]) {
      expect(heard.map(({ event }) => event.seq)).toEqual(Array.from({ length: 61 }, (_, k) => k + 1));
      log.close();
    }
  });
  it('events told of by another process are taken where they join; a gap is read from the database', async () => {
    const [writer, reader] = [await opened(), await opened()];
    await writer.log.command('a', guest, join('A'));
    const [, second] = await classOf(server, classId);
    reader.log.hear([second as ClassEvent]);
    expect(reader.log.head).toBe(2);
    await writer.log.command('b', guest, join('B'));
    await writer.log.command('c', guest, join('C'));
    const all = await classOf(server, classId);
    reader.log.hear([all[3] as ClassEvent]);
    expect(reader.log.head).toBe(2);
    for (let i = 0; i < 100 && reader.log.head < 4; i++) await new Promise((done) => setTimeout(done, 20));
    expect(reader.log.after(2, 100, { sees: 'all' }).events.map((event) => event.seq)).toEqual([3, 4]);
    // Heard again it changes nothing.
    reader.log.hear(all);
    expect(reader.log.head).toBe(4);
    for (const { log } of [writer, reader]) log.close();
  });
  it('nothing is seen of what is not committed: while the database is away nobody hears, then all is there', async () => {
    const { log, heard } = await opened();
    const before = heard.length;
    const getConnection = server.database.logs.getConnection.bind(server.database.logs);
    let away = 3;
    Object.assign(server.database.logs, {
      getConnection: async () => {
        if (away-- > 0) throw new Error('away');
        return getConnection();
      },
    });
    const waiting = log.command('mara', guest, join('Mara'));
    await new Promise((done) => setTimeout(done, 30));
    expect([heard.length, log.head]).toEqual([before, 1]);
    expect(await waiting).toMatchObject({ seq: 2 });
    expect([heard.length, log.head]).toEqual([before + 1, 2]);
    Object.assign(server.database.logs, { getConnection });
    log.close();
  });
});
