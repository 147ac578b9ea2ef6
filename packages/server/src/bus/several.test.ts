import { type ChildProcess, spawn } from 'node:child_process';
import { type AddressInfo, connect, createServer, type Server, type Socket } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { fold, newClass, stateHash } from '@viaticum/core/class';
import { type ClassSocket, classSocket } from '@viaticum/standins';
import { classOf, phoneHash, sliceOf } from '../classes/class.fixture.js';
import { type TestServer, testServer } from '../server.fixture.js';
import { redisBus } from './redis.js';

const wait = (ms: number) => new Promise((done) => setTimeout(done, ms));
async function until(look: () => boolean, ms = 8000): Promise<void> {
  for (const end = Date.now() + ms; Date.now() < end; await wait(20)) if (look()) return;
  throw new Error('waited in vain');
}
const freePort = () =>
  new Promise<number>((done) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as AddressInfo;
      probe.close(() => done(port));
    });
  });

let redis: ChildProcess;
let redisUrl: string;
let one: TestServer;
let other: TestServer;
let front: Server;
const ports: number[] = [];
const carried = new Set<Socket>();

beforeAll(async () => {
  const port = await freePort();
  redisUrl = `redis://127.0.0.1:${port}`;
  redis = spawn('redis-server', ['--port', String(port), '--bind', '127.0.0.1', '--save', '', '--appendonly', 'no'], {
    stdio: 'ignore',
  });
  for (let i = 0; ; i++) {
    const answers = await new Promise<boolean>((done) => {
      const probe = connect(port, '127.0.0.1', () => done(true)).on('error', () => done(false));
      probe.on('connect', () => probe.end());
    });
    if (answers) break;
    if (i > 100) throw new Error('redis-server did not start. Run npm test, which installs it.');
    await wait(50);
  }
  one = await testServer({ redisUrl });
  other = await testServer({ redisUrl, databaseUrl: one.config.databaseUrl });
  ports.push(one.port, other.port);
  // One address before both: connections go to them in turn, and past one that is gone.
  let turn = 0;
  front = createServer((socket) => {
    const target = ports[turn++ % ports.length];
    if (target === undefined) return socket.destroy();
    const inner = connect(target, '127.0.0.1');
    carried.add(socket);
    socket.pipe(inner).pipe(socket);
    for (const end of [socket, inner]) {
      end.on('error', () => undefined);
      end.on('close', () => {
        socket.destroy();
        inner.destroy();
      });
    }
  }).listen(0, '127.0.0.1');
  await wait(20);
});
afterAll(async () => {
  for (const socket of carried) socket.destroy();
  front.close();
  await other.stop();
  await one.stop().catch(() => undefined);
  redis.kill();
});

describe('two servers behind one address', () => {
  it('students of one class on both see the same; one is killed, and its phones converge on the other', async () => {
    const cookie = await one.signIn();
    const { code, id } = await one.openClass(cookie);
    const url = `ws://127.0.0.1:${(front.address() as AddressInfo).port}`;
    const phones: ClassSocket[] = Array.from({ length: 6 }, () =>
      classSocket({ url, origin: 'http://viaticum.test', code }, 'phone'),
    );
    await until(() => phones.every((phone) => phone.isHere));
    expect(await Promise.all(phones.map((phone, k) => phone.say({ type: 'join', firstName: `P${k}`, kit: [] })))).toEqual(
      Array(6).fill(true),
    );
    const [deskHere, deskThere] = [await one.connect(code, 'desk', cookie), await other.connect(code, 'desk', cookie)];
    await deskHere.hello();
    await deskThere.hello();
    // Everybody is seen from both desks.
    for (const desk of [deskHere, deskThere])
      await desk.until(() => desk.frames.some((frame) => frame.type === 'presence' && frame.connected.length === 6), 8000);
    await deskHere.say({ type: 'goOn', from: -1 });
    const stepId = deskHere.state.plan?.items[0]?.stepId as string;
    await until(() => phones.every((phone) => phone.state.current !== null));
    // Both append at once.
    await Promise.all(phones.map((phone) => phone.say({ type: 'done', studentId: phone.you as string, stepId })));
    await Promise.all([deskHere.say({ type: 'extend', minutes: 1 }), deskThere.say({ type: 'extend', minutes: 2 })]);
    await until(() => deskHere.state.seq === 16 && deskThere.state.seq === 16);
    expect(stateHash(deskHere.state)).toBe(stateHash(deskThere.state));

    ports.splice(ports.indexOf(one.port), 1);
    await one.app.close();
    await until(() => phones.every((phone) => phone.isHere), 6000);
    await deskThere.say({ type: 'hold' });
    await until(() => phones.every((phone) => phone.state.phase === 'held'));
    const fresh = newClass();
    const events = await classOf(other, id);
    for (const event of events) fold(fresh, event);
    await until(() => deskThere.state.seq === fresh.seq);
    expect(stateHash(deskThere.state)).toBe(stateHash(fresh));
    expect(phones.map(({ state }) => phoneHash(state))).toEqual(
      phones.map(({ you }) => phoneHash(sliceOf(events, you as string))),
    );
    for (const phone of phones) phone.leave();
  });

  it('a message that is lost is made up for from the database', async () => {
    const cookie = await other.signIn();
    const { code } = await other.openClass(cookie);
    const deaf = await testServer({ databaseUrl: one.config.databaseUrl });
    const phone = await other.connect(code, 'phone');
    await phone.hello();
    // A server that is on no bus writes past the other, which knows nothing of it until it writes itself.
    const desk = await deaf.connect(code, 'desk', await deaf.signIn());
    await desk.hello();
    await desk.say({ type: 'goOn', from: -1 });
    expect(await phone.say({ type: 'join', firstName: 'Mara', kit: [] })).toMatchObject({ type: 'ack', seq: 3 });
    await phone.until(() => phone.state.seq === 3);
    expect(phone.state.current?.index).toBe(0);
    // And one that only listens looks there now and then.
    await desk.say({ type: 'goOn', from: 0 });
    await desk.until(() => desk.state.seq === 4);
    await phone.until(() => phone.state.current?.index === 1, 8000);
    await deaf.app.close();
  });

  it('a Redis that does not answer is said in one sentence', async () => {
    await expect(redisBus('redis://127.0.0.1:1', () => undefined)).rejects.toThrow(/Redis at 127.0.0.1:1 does not answer/);
  });
});
