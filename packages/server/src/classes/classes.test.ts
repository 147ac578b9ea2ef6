import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Command } from '@viaticum/contract';
import { fold, newClass, stateHash } from '@viaticum/core/class';
import { planLesson } from '@viaticum/core/plan';
import { nanoid } from 'nanoid';
import { type TestServer, testServer } from '../server.fixture.js';
import { classOf, phoneHash, sliceOf } from './class.fixture.js';

let server: TestServer;
let cookie: string;
beforeAll(async () => {
  server = await testServer();
  cookie = await server.signIn();
});
afterAll(() => server.stop());

const join: Extract<Command, { type: 'join' }> = { type: 'join', firstName: 'Mara', kit: [] };
async function classWith(names: string[]) {
  const { code, id } = await server.openClass(cookie);
  const desk = await server.connect(code, 'desk', cookie);
  await desk.hello();
  const phones = await Promise.all(
    names.map(async (firstName) => {
      const phone = await server.connect(code, 'phone');
      await phone.hello();
      const ack = await phone.say({ ...join, firstName });
      if (ack.type !== 'ack') throw new Error('not joined');
      return { phone, studentId: ack.studentId as string, token: ack.token as string };
    }),
  );
  return { code, id, desk, phones };
}
const storedEvents = (classId: string) => classOf(server, classId);

describe('recipes for a student who lacks tubes', () => {
  it('are other parts for the mixes that need them, the same each time; nobody without the code gets them', async () => {
    const { code } = await classWith([]);
    const get = (path: string) => server.request('GET', path);
    const { body } = await get(`/api/join/${code}/recipes?without=magenta`);
    const { document } = await server.demoLesson(cookie);
    const needing = document.mixes.filter((mix) => mix.recipe.some((part) => part.tubeId === 'magenta')).map((mix) => mix.id);
    expect(Object.keys(body).sort()).toEqual(needing.sort());
    expect(JSON.stringify(body)).not.toContain('magenta');
    expect((await get(`/api/join/${code}/recipes?without=magenta`)).body).toEqual(body);
    expect((await get(`/api/join/${code}/recipes?without=unknown`)).body).toEqual({});
    expect((await get('/api/join/ZZZZZZ/recipes?without=magenta')).status).toBe(404);
    expect((await get(`/api/join/${code}/recipes`)).status).toBe(400);
  });
});

describe('a class over its connection', () => {
  it('the plan that is taught is the plan of the lesson', async () => {
    const { desk } = await classWith([]);
    const { document } = await server.demoLesson(cookie);
    expect(desk.state.plan).toEqual(JSON.parse(JSON.stringify(planLesson(document).plan)));
  });

  it('desk, phones and a fresh fold of the database have the same state', async () => {
    const { id, desk, phones } = await classWith(['Mara', 'Kofi', 'Ines']);
    await desk.say({ type: 'goOn', from: -1 });
    const stepId = desk.state.plan?.items[0]?.stepId as string;
    await Promise.all(phones.map(({ phone, studentId }) => phone.say({ type: 'done', studentId, stepId })));
    await phones[0]?.phone.say({ type: 'hand', studentId: phones[0].studentId, reason: 'colour' });
    await desk.say({ type: 'extend', minutes: 1 });
    const fresh = newClass();
    const events = await storedEvents(id);
    // Each phone holds what is of the class and of its own student, and hears no more.
    for (const { phone, studentId } of phones) {
      await phone.until(() => phoneHash(phone.state) === phoneHash(sliceOf(events, studentId)));
      expect(Object.keys(phone.state.students)).toEqual([studentId]);
      expect(JSON.stringify(phone.frames)).not.toMatch(studentId === phones[0]?.studentId ? /Kofi|Ines/ : /Mara/);
    }
    for (const event of events) fold(fresh, event);
    expect(events.map((event) => event.seq)).toEqual(events.map((_, i) => i + 1));
    expect(stateHash(desk.state)).toBe(stateHash(fresh));
  });

  it('a wall shows everybody and names nobody, and says nothing', async () => {
    const { code, desk, phones } = await classWith(['Mara', 'Kofi']);
    const wall = await server.connect(code, 'wall');
    await wall.hello();
    await phones[0]?.phone.say({ type: 'rename', studentId: phones[0].studentId, firstName: 'Marisol' });
    await wall.until(() => wall.state.seq === 4);
    expect(Object.values(wall.state.students).map(({ firstName, seat }) => [firstName, seat])).toEqual([
      ['·', 0],
      ['·', 1],
    ]);
    expect(JSON.stringify(wall.frames)).not.toMatch(/Mara|Kofi|Marisol/);
    expect(Object.keys(desk.state.students)).toEqual(Object.keys(wall.state.students));
    void wall.say(join).catch(() => undefined);
    expect(await wall.closed()).toMatchObject({ code: 1008, reason: 'A wall only shows.' });
  });
  it('a command sent again is answered with its first result, also a join with the same token', async () => {
    const { code, id } = await server.openClass(cookie);
    const phone = await server.connect(code, 'phone');
    await phone.hello();
    const commandId = nanoid(10);
    const first = await phone.say(join, commandId);
    const again = await server.connect(code, 'phone');
    await again.hello();
    // What it had heard as nobody is heard anew as the student whom it is.
    const { studentId } = first as { studentId: string };
    expect(again.state.students).toEqual({});
    expect(await again.say(join, commandId)).toEqual(first);
    await again.until(() => again.state.students[studentId]);
    expect(phoneHash(again.state)).toBe(phoneHash(sliceOf(await storedEvents(id), studentId)));
    expect((await storedEvents(id)).filter((event) => event.body.type === 'joined')).toHaveLength(1);
  });

  it('a phone that comes back with its token is the same student and hears what it missed', async () => {
    const { code, desk, phones } = await classWith(['Mara']);
    const [mara] = phones;
    await mara?.phone.until(() => mara.phone.state.seq === 2);
    mara?.phone.close();
    await desk.say({ type: 'goOn', from: -1 });
    const back = await server.connect(code, 'phone', '', mara?.token, undefined, mara?.phone.state);
    const hello = await back.hello();
    expect(hello).toMatchObject({ type: 'hello', you: mara?.studentId });
    expect(hello.type === 'hello' && hello.events.map((event) => event.body.type)).toEqual(['itemStarted']);
    await desk.until(() =>
      desk.frames.findLast((frame) => frame.type === 'presence' && frame.connected.includes(mara?.studentId as string)),
    );
  });

  it('a forged token is nobody, and a student is not the instructor', async () => {
    const { code, phones } = await classWith(['Mara']);
    const [id, mac] = String(phones[0]?.token).split('.') as [string, string];
    const forged = await server.connect(code, 'phone', '', `${id}.${mac.startsWith('A') ? 'B' : 'A'}${mac.slice(1)}`);
    expect(await forged.hello()).toMatchObject({ you: null });
    expect(await forged.say({ type: 'hand', studentId: id, reason: 'lost' })).toMatchObject({
      type: 'refused',
      code: 'join-first',
    });
    expect(await phones[0]?.phone.say({ type: 'goOn', from: -1 })).toMatchObject({ type: 'refused', code: 'forbidden' });
  });

  it('only the instructor whose class it is sits at the desk; strangers and other origins do not connect', async () => {
    const { code } = await server.openClass(cookie);
    await expect(server.connect(code, 'desk')).rejects.toThrow(/401/);
    await expect(server.connect(code, 'desk', await server.anotherInstructor())).rejects.toThrow(/404/);
    await expect(server.connect('ZZZZZZ', 'phone')).rejects.toThrow(/404/);
    await expect(server.connect(code, 'phone', '', undefined, 'http://elsewhere.test')).rejects.toThrow(/403/);
  });

  it('frames that are no frames close the connection with a reason; bad commands are refused with a sentence', async () => {
    const { code, id } = await server.openClass(cookie);
    const before = (await storedEvents(id)).length;
    const closes = async (frame: string | Buffer) => {
      const phone = await server.connect(code, 'phone');
      await phone.hello();
      phone.sendRaw(frame);
      return phone.closed();
    };
    expect(await closes('{not json')).toMatchObject({ code: 1007, reason: expect.stringMatching(/could not be read/) });
    expect(await closes(Buffer.from([1, 2, 3]))).toMatchObject({ code: 1007 });
    expect(await closes(JSON.stringify({ type: 'sudo' }))).toMatchObject({
      code: 1008,
      reason: expect.stringMatching(/wrong shape/),
    });
    expect((await closes(JSON.stringify({ type: 'hello', after: 0, token: 'x'.repeat(20_000) }))).code).toBe(1009);
    const phone = await server.connect(code, 'phone');
    await phone.hello();
    expect(await phone.say({ ...join, firstName: 'x'.repeat(10_000) })).toMatchObject({
      type: 'refused',
      message: expect.stringMatching(/1 to 40 letters/),
    });
    expect(await phone.say({ ...join, firstName: '   ' })).toMatchObject({ type: 'refused', code: 'invalid' });
    expect(await phone.say({ type: 'fly' } as never)).toMatchObject({ type: 'refused', code: 'invalid' });
    const early = await server.connect(code, 'phone');
    early.sendRaw(JSON.stringify({ type: 'command', id: 'x', command: join }));
    expect(await early.closed()).toMatchObject({ code: 1008, reason: expect.stringMatching(/hello first/) });
    expect((await storedEvents(id)).length).toBe(before);
  });

  it('two hundred commands at once are appended in order, each once', async () => {
    const { code, id, desk } = await classWith([]);
    const phones = await Promise.all(
      Array.from({ length: 20 }, async () => {
        const phone = await server.connect(code, 'phone');
        await phone.hello();
        return phone;
      }),
    );
    const joined = await Promise.all(phones.map((phone, i) => phone.say({ ...join, firstName: `S${i}` })));
    await Promise.all(
      joined.flatMap((ack, i) =>
        Array.from({ length: 9 }, (_, k) =>
          phones[i]?.say({ type: 'rename', studentId: (ack as { studentId: string }).studentId, firstName: `S${i}.${k}` }),
        ),
      ),
    );
    const events = await storedEvents(id);
    expect(events).toHaveLength(201);
    expect(events.map((event) => event.seq)).toEqual(events.map((_, i) => i + 1));
    await desk.until(() => desk.state.seq === 201);
    expect(events.every((event, i) => i === 0 || event.at >= (events[i - 1]?.at as number))).toBe(true);
  });

  it('the database refusing a batch loses nothing: the same batch is tried again', async () => {
    const { id, desk, phones } = await classWith(['Mara', 'Kofi']);
    await server.database.source.query('RENAME TABLE class_event TO class_event_away');
    const waiting = [
      desk.say({ type: 'goOn', from: -1 }),
      ...phones.map(({ phone, studentId }) => phone.say({ type: 'hand', studentId, reason: 'lost' })),
    ];
    await new Promise((resolve) => setTimeout(resolve, 300));
    await server.database.source.query('RENAME TABLE class_event_away TO class_event');
    expect((await Promise.all(waiting)).map((answer) => answer.type)).toEqual(['ack', 'ack', 'ack']);
    const fresh = newClass();
    for (const event of await storedEvents(id)) fold(fresh, event);
    await desk.until(() => desk.state.seq === fresh.seq);
    expect(stateHash(desk.state)).toBe(stateHash(fresh));
  });

  it('a class of a lesson without steps is not opened', async () => {
    const { document } = await server.demoLesson(cookie);
    const other = await server.anotherInstructor();
    const { body } = await server.request('POST', '/api/lessons', { document: { ...document, steps: [] } }, other);
    const { status, body: answer } = await server.request('POST', '/api/classes', { lessonId: body.id }, other);
    expect([status, answer.message]).toEqual([422, expect.stringMatching(/no steps yet/)]);
  });
});

describe('the join page', () => {
  it('takes the code in small letters and with spaces, and gives the sheet', async () => {
    const { code } = await server.openClass(cookie);
    const spaced = `${code.slice(0, 3).toLowerCase()}%20${code.slice(3)}`;
    expect((await server.request('GET', `/api/join/${spaced}`)).body).toMatchObject({ code, state: 'open' });
    const sheet = await server.sheet(code);
    expect(sheet.stepCount).toBe(18);
    expect(sheet.areas).toHaveLength(10);
    expect(JSON.stringify(sheet)).not.toMatch(/undefined|NaN/);
  });
  it('the QR code is a picture of the join address', async () => {
    const { code, addresses, reachable } = await server.openClass(cookie);
    expect(addresses[0]).toBe(`http://viaticum.test/join/${code}`);
    expect(reachable).toBe(true);
    const { body, headers } = await server.request('GET', `/api/classes/${code}/qr.svg`, undefined, cookie);
    expect(headers['content-type']).toContain('svg');
    expect(String(body)).toContain('<svg');
  });
});
