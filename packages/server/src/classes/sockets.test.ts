import { afterAll, beforeAll, describe, expect, it, jest } from '@jest/globals';
import { CLOSED, type ClassLinks, type Command } from '@viaticum/contract';
import { stateHash } from '@viaticum/core/class';
import { nanoid } from 'nanoid';
import WebSocket from 'ws';
import { client, type TestServer, testServer } from '../server.fixture.js';
import { classOf } from './class.fixture.js';
import { door } from './hub/door.js';
import { classLog } from './log/log.js';

let server: TestServer;
let cookie: string;
beforeAll(async () => {
  server = await testServer();
  cookie = await server.signIn();
});
afterAll(() => server.stop());

const join = (firstName: string): Command => ({ type: 'join', firstName, kit: [] });
const wait = (ms: number) => new Promise((done) => setTimeout(done, ms));
async function desked(seats?: number) {
  const { code, id } = await server.openClass(cookie, seats);
  const desk = await server.connect(code, 'desk', cookie);
  await desk.hello();
  const phone = async (token?: string) => {
    const one = await server.connect(code, 'phone', '', token);
    await one.hello();
    return one;
  };
  return { code, id, desk, phone };
}
const doorOf = (desk: Awaited<ReturnType<typeof desked>>['desk']) => {
  const last = desk.frames.findLast((frame) => frame.type === 'door');
  return last?.type === 'door' ? last.waiting : [];
};

describe('a connection', () => {
  it('says hello once, and in time', async () => {
    const { phone } = await desked();
    const one = await phone();
    one.sendRaw(JSON.stringify({ type: 'hello', after: 0 }));
    expect(await one.closed()).toMatchObject({ code: 1008, reason: expect.stringMatching(/said already/) });
  });
  it('that says much is heard later, and nothing of it is lost: two hundred commands kept through an outage', async () => {
    const { id, phone } = await desked();
    const one = await phone();
    const ack = await one.say(join('Mara'));
    const studentId = ack.type === 'ack' ? (ack.studentId as string) : '';
    const answers = await Promise.all(
      Array.from({ length: 200 }, (_, k) => one.say({ type: 'rename', studentId, firstName: `M${k}` }, `kept-${k}`)),
    );
    expect(answers.every((answer) => answer.type === 'ack')).toBe(true);
    expect((await classOf(server, id)).length).toBe(202);
    // And beyond what one connection may say at once.
    const more = Array.from({ length: 130 }, (_, k) => one.say({ type: 'rename', studentId, firstName: `N${k}` }));
    const from = performance.now();
    expect((await Promise.all(more)).every((answer) => answer.type === 'ack')).toBe(true);
    expect(performance.now() - from).toBeGreaterThan(1000);
  });
  it('that was away says when it was pressed: the log has it dated, within what the phone had seen', async () => {
    const { id, desk, phone } = await desked();
    const one = await phone();
    const ack = await one.say(join('Mara'));
    const studentId = ack.type === 'ack' ? (ack.studentId as string) : '';
    await desk.say({ type: 'goOn', from: -1 });
    await wait(2600);
    await desk.say({ type: 'say', text: 'A moment later' });
    const { state } = desk;
    const stepId = state.plan?.items[0]?.stepId as string;
    const seenSeq = state.seq - 1;
    const pressed = Date.now() - 2300;
    const command = (of: Command, more = {}) => ({ id: nanoid(10), command: of, ...more });
    one.sendRaw(
      JSON.stringify({
        type: 'commands',
        commands: [
          command({ type: 'done', studentId, stepId }, { pressed, bound: 40, seenSeq }),
          command({ type: 'fly' } as never),
          command({ type: 'hand', studentId, reason: 'colour' }, { pressed: pressed - 86_400_000, bound: 40, seenSeq: 2 }),
        ],
      }),
    );
    await desk.until(() => state.students[studentId]?.hand);
    expect(state.students[studentId]?.doneAt[stepId]).toBe(pressed);
    // A clock of yesterday tells nothing: the middle of what is possible.
    const events = await classOf(server, id);
    const raised = events.find((event) => event.body.type === 'handRaised');
    const middle = Math.round(((events[1]?.at ?? 0) + (raised?.at ?? 0)) / 2);
    expect(raised?.body).toMatchObject({ v: 2, rough: true, saidAt: middle });
    // What cannot be read is refused alone.
    expect(one.frames.filter((frame) => frame.type === 'refused')).toHaveLength(1);
  });
  it('that is gone is told with since when', async () => {
    const { desk, phone } = await desked();
    const one = await phone();
    const ack = await one.say(join('Mara'));
    const studentId = ack.type === 'ack' ? (ack.studentId as string) : '';
    const told = () => desk.frames.findLast((frame) => frame.type === 'presence');
    await desk.until(() => told()?.connected.includes(studentId));
    const from = Date.now();
    one.close();
    await desk.until(() => told()?.away[studentId]);
    expect(told()?.away[studentId]).toBeGreaterThanOrEqual(from);
    expect(told()?.connected).toEqual([]);
  });
  it('of the wrong shape again and again rests longer, while others are answered at once', async () => {
    const { phone } = await desked();
    const [rude, polite] = [await phone(), await phone()];
    for (let k = 0; k < 100; k++) rude.sendRaw(JSON.stringify({ type: 'command', id: `x${k}`, command: { type: 'fly' } }));
    expect(await polite.say(join('Kofi'))).toMatchObject({ type: 'ack' });
    await wait(300);
    expect(rude.frames.filter((frame) => frame.type === 'refused').length).toBeLessThan(80);
  });
  it('that reads nothing is told what it missed in pieces when it reads, and holds up nobody', async () => {
    const { id, code } = await desked();
    const events = Array.from({ length: 6000 }, (_, k) => [
      id,
      k + 2,
      Date.now(),
      'instructor',
      `said-${k}`,
      JSON.stringify({ type: 'said', v: 1, text: 'x'.repeat(150) }),
    ]);
    await server.database.pool.query('INSERT INTO class_event (class_id, seq, at, actor, command_id, body) VALUES ?', [events]);
    await server.database.pool.query('UPDATE class SET last_seq = 6001 WHERE id = ?', [id]);
    const next = await testServer({ databaseUrl: server.config.databaseUrl });
    const open = () =>
      new Promise<WebSocket>((done) => {
        const socket = new WebSocket(`ws://127.0.0.1:${next.port}/api/live/${code}?as=phone`, {
          headers: { origin: 'http://viaticum.test' },
        });
        socket.on('open', () => done(socket));
      });
    const deaf = await Promise.all([open(), open(), open(), open()]);
    for (const socket of deaf) {
      socket.pause();
      socket.send(JSON.stringify({ type: 'hello', after: 0 }));
    }
    const one = await next.connect(code, 'phone');
    const hello = await one.hello();
    expect(hello.type === 'hello' && [hello.head, hello.events.length]).toEqual([6001, 500]);
    expect(one.state.seq).toBe(6001);
    expect(await one.say(join('Ines'))).toMatchObject({ type: 'ack' });
    // One of them begins to read: nothing is missing, nothing comes twice.
    let last = 0;
    const first = deaf[0] as WebSocket;
    const whole = new Promise<void>((done) => {
      first.on('message', (data) => {
        const frame = JSON.parse(String(data)) as { type: string; events?: { seq: number }[] };
        for (const { seq } of frame.events ?? []) {
          expect(seq).toBe(last + 1);
          last = seq;
        }
        // Who came meanwhile is nobody's business.
        if (last === 6001) done();
      });
    });
    first.resume();
    await whole;
    for (const socket of deaf) socket.terminate();
    await next.app.close();
  });
});

describe('at the door', () => {
  it('as many as were planned come in from one address, also at once; the others wait for the desk’s yes', async () => {
    const { id, desk, phone } = await desked(3);
    const phones = await Promise.all(Array.from({ length: 6 }, () => phone()));
    const answers = phones.map((one, k) => one.say(join(`P${k}`)));
    await desk.until(() => doorOf(desk).length === 3);
    await wait(100);
    expect((await classOf(server, id)).filter((event) => event.body.type === 'joined')).toHaveLength(3);
    expect(phones.filter((one) => one.frames.some((frame) => frame.type === 'waiting'))).toHaveLength(3);
    expect(doorOf(desk).every((one) => one.why === 'more-than-planned')).toBe(true);
    const [first, ...others] = doorOf(desk).map((one) => one.id) as [string, string, string];
    desk.sendRaw(JSON.stringify({ type: 'admit', ids: [first], yes: true }));
    await desk.until(() => doorOf(desk).length === 2);
    desk.sendRaw(JSON.stringify({ type: 'admit', ids: others, yes: false }));
    const types = (await Promise.all(answers)).map((answer) => answer.type);
    expect(types.filter((type) => type === 'ack')).toHaveLength(4);
    expect((await classOf(server, id)).filter((event) => event.body.type === 'joined')).toHaveLength(4);
  });
  it('who goes away waits no longer; only the desk lets in', async () => {
    const { desk, phone } = await desked(1);
    await (await phone()).say(join('First'));
    const second = await phone();
    void second.say(join('Second')).catch(() => undefined);
    await desk.until(() => doorOf(desk).length === 1);
    second.sendRaw(JSON.stringify({ type: 'admit', ids: [doorOf(desk)[0]?.id], yes: true }));
    expect(await second.closed()).toMatchObject({ code: 1008 });
    await desk.until(() => doorOf(desk).length === 0);
    expect(Object.keys(desk.state.students)).toHaveLength(1);
  });
  it('a student who was taken out stays out, with their old seal or as somebody new, until the desk says yes', async () => {
    const { desk, phone } = await desked();
    const mara = await phone();
    const ack = await mara.say(join('Mara'));
    const [studentId, token] = ack.type === 'ack' ? [ack.studentId as string, ack.token as string] : ['', ''];
    await desk.say({ type: 'remove', studentId });
    await mara.until(() => mara.state.removed.includes(studentId));
    expect(await mara.say({ type: 'hand', studentId, reason: 'lost' })).toMatchObject({ type: 'refused', code: 'removed' });
    // On the very same connection too.
    void mara.say(join('Mara')).catch(() => undefined);
    await desk.until(() => doorOf(desk).some((one) => one.firstName === 'Mara' && one.why === 'taken-out'));
    mara.close();
    await desk.until(() => doorOf(desk).length === 0);
    for (const [who, seal] of [
      ['Mara', token],
      ['Somebody', undefined],
    ] as const) {
      const again = await phone(seal);
      const answer = again.say(join(who));
      await desk.until(() => doorOf(desk).some((one) => one.firstName === who && one.why === 'taken-out'));
      desk.sendRaw(JSON.stringify({ type: 'admit', ids: doorOf(desk).map((one) => one.id), yes: who === 'Somebody' }));
      expect(await answer).toMatchObject(who === 'Somebody' ? { type: 'ack' } : { type: 'refused', code: 'not-admitted' });
      again.close();
    }
  });
  it('counts those who are coming, forgets nothing of who came', () => {
    const told: number[] = [];
    const own = door((waiting) => told.push(waiting.length));
    const over = own.coming('a');
    expect(own.reason('a', false, 1)).toBe('more-than-planned');
    over();
    expect(own.reason('a', false, 1)).toBeNull();
    own.came('s1', 'a');
    own.came('s1', 'a');
    expect([own.reason('a', false, 1), own.reason('a', false, 2), own.reason('b', false, 1)]).toEqual([
      'more-than-planned',
      null,
      null,
    ]);
    own.removed('unknown');
    own.removed('s1');
    expect([own.reason('a', false, 9), own.reason('b', false, 9), own.reason('b', true, 9)]).toEqual([
      'taken-out',
      null,
      'taken-out',
    ]);
  });
});

describe('keys of devices', () => {
  it('are made anew at the desk: who came in with the former is sent away, and it lets nobody in any more', async () => {
    const { code, desk } = await desked();
    const links = async () =>
      (await server.request('GET', `/api/classes/${code}/links`, undefined, cookie)).body as unknown as ClassLinks;
    const enter = async (role: string, key: string) => {
      const one = await client(
        `ws://127.0.0.1:${server.port}/api/live/${code}?as=${role}`,
        '',
        undefined,
        'http://viaticum.test',
        undefined,
        key,
      );
      one.sendRaw(JSON.stringify({ type: 'hello', after: 0, key }));
      return one;
    };
    const before = await links();
    const assistant = await enter('assistant', before.assistant.split('#')[1] as string);
    const sensor = await enter('sensor', before.sensor);
    await assistant.until(() => assistant.frames.some((frame) => frame.type === 'hello'));
    await sensor.until(() => sensor.frames.some((frame) => frame.type === 'hello'));
    const { status, body } = await server.request('POST', `/api/classes/${code}/links/assistant/renew`, {}, cookie);
    expect([status, body.sensor, body.assistant === before.assistant]).toEqual([200, before.sensor, false]);
    expect(await assistant.closed()).toMatchObject({ code: CLOSED.noLink });
    const late = await enter('assistant', before.assistant.split('#')[1] as string);
    expect(await late.closed()).toMatchObject({ code: CLOSED.noLink });
    const fresh = await enter('assistant', String(body.assistant).split('#')[1] as string);
    await fresh.until(() => fresh.frames.some((frame) => frame.type === 'hello'));
    expect(await sensor.say({ type: 'climate', airC: 20, humidity: 0.5 })).toMatchObject({ type: 'refused', code: 'not-now' });
    expect(await desk.say({ type: 'goOn', from: -1 })).toMatchObject({ type: 'ack' });
  });
});

describe('permission comes before work', () => {
  it('a phone that asks for a new plan is refused without one being worked out', async () => {
    const { desk, phone } = await desked();
    await desk.say({ type: 'goOn', from: -1 });
    const one = await phone();
    await one.say(join('Mara'));
    const answers = await Promise.all(Array.from({ length: 50 }, () => one.say({ type: 'replan', from: 0, quickest: true })));
    expect(answers.every((answer) => answer.type === 'refused' && answer.code === 'forbidden')).toBe(true);
  });
});

describe('one poisonous command', () => {
  it('fails alone with a sentence, is told with its id, and all else of its batch is done', async () => {
    const { id } = await desked();
    const failed: string[] = [];
    const log = classLog(server.database.logs, id, () => undefined, { onFailed: (commandId) => failed.push(commandId) });
    await log.load();
    // A command that no check has seen: its name cannot be trimmed.
    const poison = { type: 'join', firstName: { toString: null }, kit: [] } as unknown as Command;
    const results = await Promise.all([
      log.command('a', { kind: 'guest' }, join('A')),
      log.command('poison', { kind: 'guest' }, poison),
      log.command('b', { kind: 'guest' }, join('B')),
      log.command('poison2', { kind: 'guest' }, poison),
    ]);
    expect(results).toMatchObject([{ seq: 2 }, { refused: { code: 'failed' } }, { seq: 3 }, { refused: { code: 'failed' } }]);
    expect(results[1]).toMatchObject({ refused: { message: expect.stringMatching(/Everything else goes on/) } });
    expect(failed).toEqual(['poison', 'poison2']);
    expect(await log.command('c', { kind: 'guest' }, join('C'))).toMatchObject({ seq: 4 });
    expect(Object.values(log.state.students).map((one) => one.firstName)).toEqual(['A', 'B', 'C']);
    log.close();
  });
  it('also where it is the database that refuses it', async () => {
    const { id } = await desked();
    const log = classLog(server.database.logs, id, () => undefined);
    await log.load();
    const results = await Promise.all([
      log.command('fine', { kind: 'guest' }, join('A')),
      log.command('x'.repeat(200), { kind: 'guest' }, join('B')),
      log.command('fine2', { kind: 'guest' }, join('C')),
    ]);
    expect(results).toMatchObject([{ seq: 2 }, { refused: { code: 'failed' } }, { seq: 3 }]);
    log.close();
  });
});

describe('a database that stays away', () => {
  it('is told to the desk, asked less and less often, and all that was said is written when it is back', async () => {
    const { id, desk, phone } = await desked();
    const one = await phone();
    const ack = await one.say(join('Mara'));
    const studentId = ack.type === 'ack' ? (ack.studentId as string) : '';
    const getConnection = jest.spyOn(server.database.logs, 'getConnection');
    getConnection.mockRejectedValue(Object.assign(new Error('away'), { code: 'ECONNREFUSED' }));
    const said = Promise.all(
      Array.from({ length: 20 }, (_, k) => one.say({ type: 'rename', studentId, firstName: `M${k}` }, nanoid())),
    );
    const trouble = await desk.until(() => desk.frames.find((frame) => frame.type === 'storage' && frame.fault));
    expect(trouble).toMatchObject({ fault: expect.stringMatching(/database does not answer.*kept/) });
    await wait(1500);
    const tries = getConnection.mock.calls.length;
    expect(tries).toBeLessThan(8);
    getConnection.mockRestore();
    expect((await said).every((answer) => answer.type === 'ack')).toBe(true);
    await desk.until(() => desk.frames.findLast((frame) => frame.type === 'storage' && frame.fault === null));
    expect((await classOf(server, id)).length).toBe(22);
    await one.until(() => one.state.seq === 22 && desk.state.seq === 22);
    // The only student there is: their phone holds all of it.
    expect(stateHash(one.state)).toBe(stateHash(desk.state));
  });
});
