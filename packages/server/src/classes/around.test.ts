import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import {
  type AloneSheet,
  CLOSED,
  type ClassAnswer,
  type ClassLinks,
  type ClassRecord,
  type Invite,
  type Letter,
  type OfStudent,
  type Person,
} from '@viaticum/contract';
import { airChange, currentItem, happened, secondsLeft } from '@viaticum/core/class';
import { planLesson } from '@viaticum/core/plan';
import sharp from 'sharp';
import { client, type TestServer, testServer } from '../server.fixture.js';
import { classOf } from './class.fixture.js';

let server: TestServer;
let cookie: string;
beforeAll(async () => {
  server = await testServer();
  cookie = await server.signIn();
});
afterAll(() => server.stop());

const as = async <T>(method: string, url: string, payload?: unknown, who = cookie) => {
  const { status, body } = await server.request(method, url, payload, who);
  return { status, body: body as unknown as T };
};
const invite: Invite = {
  startsAt: '2026-12-05T17:30:00.000Z',
  timeZone: 'Europe/Berlin',
  place: 'hall 2',
  seats: 8,
  roster: [{ firstName: 'Mara' }, { firstName: 'Kofi' }],
};
async function joined(code: string, firstName: string) {
  const phone = await server.connect(code, 'phone');
  await phone.hello();
  const ack = await phone.say({ type: 'join', firstName, kit: [] });
  if (ack.type !== 'ack') throw new Error(`not joined: ${ack.message}`);
  return { phone, studentId: ack.studentId as string };
}

describe('a class that is to come', () => {
  const planned = async (given: Invite = invite) => {
    const { id } = await server.demoLesson(cookie);
    return (await as<ClassAnswer>('POST', '/api/classes/planned', { lessonId: id, invite: given })).body;
  };
  it('has a code at once, waits for its day, and opens with the lesson as it is then', async () => {
    const one = await planned();
    expect(one).toMatchObject({ state: 'planned', invite });
    const phone = await server.connect(one.code, 'phone');
    await phone.hello();
    expect(await phone.say({ type: 'join', firstName: 'Early', kit: [] })).toMatchObject({
      type: 'refused',
      message: expect.stringMatching(/not open yet/),
    });
    // Before the day who has the code learns how many are expected, never who.
    const seen = (await server.request('GET', `/api/join/${one.code}`)).body;
    expect(seen).toMatchObject({ state: 'planned', expected: invite.roster.length, startsAt: invite.startsAt });
    for (const { firstName } of invite.roster) expect(JSON.stringify(seen)).not.toContain(firstName);
    const opened = await as<ClassAnswer>('POST', `/api/classes/${one.code}/open`, {});
    expect(opened.body).toMatchObject({ state: 'open', code: one.code });
    // Who has the code finds the names on the list once the room is open.
    const open = (await server.request('GET', `/api/join/${one.code}`)).body;
    expect(open).toMatchObject({
      state: 'open',
      expected: invite.roster.length,
      offered: invite.roster.map((each) => each.firstName),
    });
    await phone.until(() => phone.state.phase === 'open');
    expect(await phone.say({ type: 'join', firstName: 'Early', kit: [], has: ['mist'] })).toMatchObject({ type: 'ack' });
    expect(Object.values(phone.state.students)[0] ?? {}).toBeDefined();
    // Opened twice it is the same class.
    expect((await as<ClassAnswer>('POST', `/api/classes/${one.code}/open`, {})).body.state).toBe('open');
    expect(
      (await as<ClassRecord>('GET', `/api/classes/${one.code}/record`)).body.events.filter(
        (event) => event.body.type === 'opened',
      ),
    ).toHaveLength(1);
  });
  it('letters go to the outbox stand-in: by first name, with the time of the place, what to bring and a calendar file', async () => {
    const one = await planned();
    expect((await as<{ written: number }>('POST', `/api/classes/${one.code}/letters`, {})).body).toEqual({ written: 2 });
    const letters = (await as<Letter[]>('GET', '/api/letters')).body;
    const mara = letters.find((letter) => letter.to === 'Mara');
    expect(mara?.text).toContain('Saturday');
    expect(mara?.text).toContain('18:30'); // Berlin is an hour ahead of UTC in December
    expect(mara?.text).toContain('hall 2');
    // By the class played before it is held, not by the bare plan.
    const [, about = '', latest = ''] = /ends about (\d\d:\d\d), at the latest (\d\d:\d\d)\./.exec(mara?.text ?? '') ?? [];
    const minutes = (clock: string) => Number(clock.slice(0, 2)) * 60 + Number(clock.slice(3)) - (18 * 60 + 30);
    const bare = planLesson((await server.demoLesson(cookie)).document).plan.endMin;
    expect(minutes(about)).toBeGreaterThan(bare);
    expect(minutes(latest)).toBeGreaterThan(minutes(about) + 10);
    expect(mara?.text).toContain(`/join/${one.code}`);
    expect(mara?.text).toContain('Bring: a canvas 16 × 20 in.');
    expect(mara?.attachment).toContain('BEGIN:VEVENT');
    const empty = await planned({ ...invite, roster: [] });
    expect(await as('POST', `/api/classes/${empty.code}/letters`, {})).toMatchObject({
      status: 422,
      body: { message: expect.stringMatching(/Nobody is on the list/) },
    });
  });
  it('what cannot be is refused, and another instructor sees nothing of it', async () => {
    const one = await planned();
    const { id } = await server.demoLesson(cookie);
    for (const bad of [{ startsAt: 'tomorrow' }, { seats: 0 }, { roster: [{ firstName: ' ' }] }, { more: 1 }])
      expect((await as('POST', '/api/classes/planned', { lessonId: id, invite: { ...invite, ...bad } })).status).toBe(400);
    const other = await server.anotherInstructor();
    for (const [method, url, body] of [
      ['PUT', `/api/classes/${one.code}/invite`, { invite }],
      ['POST', `/api/classes/${one.code}/open`, {}],
      ['POST', `/api/classes/${one.code}/letters`, {}],
      ['GET', `/api/classes/${one.code}/links`, undefined],
      ['GET', `/api/classes/${one.code}/record`, undefined],
      ['GET', `/api/classes/${one.code}/students`, undefined],
      ['PUT', `/api/classes/${one.code}/students/x`, { note: 'x' }],
      ['GET', `/api/classes/${one.code}/camera`, undefined],
    ] as const) {
      expect([url, (await as(method, url, body, other)).status]).toEqual([url, 404]);
      expect([url, (await as(method, url, body, '')).status]).toEqual([url, 401]);
    }
    expect((await as<Letter[]>('GET', '/api/letters', undefined, other)).body).toEqual([]);
  });
});

describe('who helps', () => {
  it('an assistant is let in by the link, sees hands, and does no more', async () => {
    const { code } = await server.openClass(cookie);
    const links = (await as<ClassLinks>('GET', `/api/classes/${code}/links`)).body;
    const key = links.assistant.split('#')[1] as string;
    const { phone, studentId } = await joined(code, 'Mara');
    const live = (role: string, given: string) =>
      client(
        `ws://127.0.0.1:${server.port}/api/live/${code}?as=${role}`,
        '',
        undefined,
        'http://viaticum.test',
        undefined,
        given,
      );
    for (const [role, given] of [
      ['assistant', 'x'],
      ['sensor', key],
      ['co', key],
    ] as const) {
      const stranger = await live(role, given);
      stranger.sendRaw(JSON.stringify({ type: 'hello', after: 0, key: given }));
      expect(await stranger.closed()).toMatchObject({ code: CLOSED.noLink });
    }
    const assistant = await live('assistant', key);
    expect(await assistant.hello()).toMatchObject({ connected: [studentId] });
    await phone.say({ type: 'hand', studentId, reason: 'brush' });
    await assistant.until(() => assistant.state.students[studentId]?.hand);
    expect(await assistant.say({ type: 'handDown', studentId })).toMatchObject({ type: 'ack' });
    expect(await assistant.say({ type: 'goOn', from: -1 })).toMatchObject({ type: 'refused', code: 'forbidden' });
    expect(await assistant.say({ type: 'join', firstName: 'X', kit: [] })).toMatchObject({ type: 'refused' });
    // Who teaches beside the instructor has a desk by a link of their own.
    const co = await live('co', links.co.split('#')[1] as string);
    expect(await co.hello()).toMatchObject({ connected: [studentId] });
    expect(await co.say({ type: 'goOn', from: -1 })).toMatchObject({ type: 'ack' });
    expect(await co.say({ type: 'end' })).toMatchObject({ type: 'refused', code: 'forbidden' });
    await as('POST', `/api/classes/${code}/links/co/renew`, {});
    expect(await co.closed()).toMatchObject({ code: CLOSED.noLink });
    const sensor = await live('sensor', links.sensor);
    await sensor.hello();
    expect(await sensor.say({ type: 'hold' })).toMatchObject({ type: 'refused' });
  });
  it('a camera’s picture is drawn anew and told to the desk; anything else is refused', async () => {
    const { code } = await server.openClass(cookie);
    const { camera } = (await as<ClassLinks>('GET', `/api/classes/${code}/links`)).body;
    const desk = await server.connect(code, 'desk', cookie);
    await desk.hello();
    const post = (body: Buffer, key = camera, type = 'image/png') =>
      server.request('POST', `/api/join/${code}/camera?simulated=1`, body, '', {
        authorization: `Bearer ${key}`,
        'content-type': type,
      });
    expect((await as('GET', `/api/classes/${code}/camera`)).status).toBe(404);
    const png = await sharp({ create: { width: 1600, height: 900, channels: 3, background: '#a33' } })
      .png()
      .toBuffer();
    expect((await post(png, 'forged')).status).toBe(403);
    expect((await post(Buffer.from('no picture'))).status).toBe(422);
    expect((await post(Buffer.from('<svg/>'), camera, 'image/svg+xml')).status).toBe(415);
    expect((await post(png)).status).toBe(204);
    await desk.until(() => desk.frames.find((frame) => frame.type === 'camera' && frame.simulated));
    const { raw, headers } = await server.request('GET', `/api/classes/${code}/camera`, undefined, cookie);
    expect(headers['content-type']).toBe('image/jpeg');
    expect(await sharp(raw).metadata()).toMatchObject({ format: 'jpeg', width: 900 });
  });
});

describe('the plan in mid-class', () => {
  it('the air that a sensor tells re-times the pause of all; the rest is planned again by the solver', async () => {
    const { code } = await server.openClass(cookie);
    const desk = await server.connect(code, 'desk', cookie);
    await desk.hello();
    await desk.say({ type: 'goOn', from: -1 });
    await desk.say({ type: 'goOn', from: 0 });
    const { state } = desk;
    expect(currentItem(state)?.kind).toBe('pause');
    const planned = secondsLeft(state, state.at);
    expect(await desk.say({ type: 'climate', airC: 17, humidity: 0.75 })).toMatchObject({ type: 'ack' });
    await desk.until(() => state.climate);
    expect(secondsLeft(state, state.at)).toBeGreaterThan(1.3 * planned);
    const ratios = airChange(state, state.at)?.times;
    expect(ratios?.most).toBeGreaterThan(1.2 * (ratios?.least ?? 99));
    const before = state.plan;
    expect(await desk.say({ type: 'replan', from: 0 })).toMatchObject({ type: 'refused', code: 'moved' });
    expect(await desk.say({ type: 'replan', from: 1 })).toMatchObject({ type: 'ack' });
    await desk.until(() => state.plan !== before);
    expect(state.plan?.room).toMatchObject({ airC: 17, humidity: 0.75 });
    expect(state.plan?.endMin).toBeGreaterThan((before?.endMin ?? 0) + 10);
    expect(state.current?.index).toBe(1);
    await desk.say({ type: 'end' });
    const record = (await as<ClassRecord>('GET', `/api/classes/${code}/record`)).body;
    expect(happened(record.events).plannedMin).toBeCloseTo(before?.endMin ?? 0, 6);
    expect(record.lesson.title).toBe(record.sheet.title);
  });
});

describe('people', () => {
  it('a note and a link to who came before stay with the instructor; their pace is that of their classes', async () => {
    const { code } = await server.openClass(cookie);
    const desk = await server.connect(code, 'desk', cookie);
    await desk.hello();
    const { phone, studentId } = await joined(code, 'Ines');
    const person = (await as<Person>('POST', '/api/people', { firstName: 'Ines' })).body;
    expect(person).toMatchObject({ firstName: 'Ines', classes: 0, pace: null });
    const url = `/api/classes/${code}/students/${studentId}`;
    expect((await as('PUT', url, { note: 'left-handed' })).status).toBe(204);
    expect((await as('PUT', url, { personId: person.id })).status).toBe(204);
    expect((await as<Record<string, OfStudent>>('GET', `/api/classes/${code}/students`)).body).toEqual({
      [studentId]: { note: 'left-handed', personId: person.id },
    });
    await desk.say({ type: 'goOn', from: -1 });
    await phone.until(() => phone.state.current);
    await new Promise((done) => setTimeout(done, 30));
    await phone.say({ type: 'done', studentId, stepId: phone.state.plan?.items[0]?.stepId as string });
    const [found] = (await as<Person[]>('GET', '/api/people')).body;
    expect(found).toMatchObject({ firstName: 'Ines', classes: 1 });
    expect(found?.pace).not.toBeNull();
    expect(JSON.stringify(phone.frames)).not.toContain('left-handed');
    const other = await server.anotherInstructor();
    const foreign = (await as<Person>('POST', '/api/people', { firstName: 'Foreign' }, other)).body;
    expect((await as('PUT', url, { personId: foreign.id })).status).toBe(404);
    expect((await as('PUT', url, { note: 'x'.repeat(1001) })).status).toBe(400);
    expect((await as('DELETE', `/api/people/${person.id}`, undefined, other)).status).toBe(404);
    // Erasing waits for the end of the class: see privacy.test.
    expect((await as('DELETE', `/api/people/${person.id}`)).status).toBe(409);
  });
});

describe('a rehearsal', () => {
  it('its students and its sensor come from another process, and the database shows their events', async () => {
    const { id: lessonId } = await server.demoLesson(cookie);
    const rehearsal = { students: 3, level: 'beginner', sensor: true, seed: 5 };
    const one = (await as<ClassAnswer>('POST', '/api/classes', { lessonId, rehearsal })).body;
    expect(one.rehearsal).toBe(true);
    const desk = await server.connect(one.code, 'desk', cookie);
    await desk.hello();
    await desk.until(() => Object.keys(desk.state.students).length === 3, 20_000);
    await desk.say({ type: 'goOn', from: -1 });
    await desk.say({ type: 'speed', speed: 60 });
    const stepId = desk.state.plan?.items[0]?.stepId as string;
    await desk.until(() => Object.values(desk.state.students).every((student) => student.doneAt[stepId] !== undefined), 40_000);
    await desk.until(() => desk.state.climate, 20_000);
    const actors = new Set((await classOf(server, one.id)).map((event) => event.actor));
    expect(actors).toEqual(new Set(['instructor', 'guest', 'sensor', ...Object.keys(desk.state.students)]));
    // Their paces differ, as the group's model has it.
    expect(new Set(Object.values(desk.state.students).map((student) => student.doneAt[stepId])).size).toBe(3);
    await desk.say({ type: 'end' });
    expect((await as('POST', '/api/classes', { lessonId, rehearsal: { ...rehearsal, students: 41 } })).status).toBe(400);
  }, 90_000);
});

describe('stage pictures of a taught lesson', () => {
  it('are painted by the server: the canvas after every step, for who knows the code', async () => {
    const { code } = await server.openClass(cookie);
    const { document } = await server.demoLesson(cookie);
    const get = (stepId: string) => server.request('GET', `/api/join/${code}/stages/${stepId}`);
    const pixels = async (stepId: string) => {
      const { raw, headers, status } = await get(stepId);
      expect([status, headers['content-type']]).toEqual([200, 'image/webp']);
      return sharp(raw).raw().toBuffer({ resolveWithObject: true });
    };
    const [first, last] = [await pixels(document.steps[0]?.id as string), await pixels(document.steps.at(-1)?.id as string)];
    // In the canvas’s own proportion: 16 × 20 in.
    expect(first.info.height / first.info.width).toBeCloseTo(20 / 16, 1);
    const spread = ({ data }: { data: Buffer }) => {
      const mean = data.reduce((sum, byte) => sum + byte, 0) / data.length;
      return Math.sqrt(data.reduce((sum, byte) => sum + (byte - mean) ** 2, 0) / data.length);
    };
    // A toned ground is nearly one colour; the finished picture is not.
    expect(spread(last)).toBeGreaterThan(1.15 * spread(first));
    expect(Buffer.compare(first.data, last.data)).not.toBe(0);
    // Asked for again it is not sent again; a lesson that was changed has another picture at the same address.
    const { headers } = await get(document.steps[0]?.id as string);
    const again = await server.request('GET', `/api/join/${code}/stages/${document.steps[0]?.id}`, undefined, '', {
      'if-none-match': String(headers.etag),
    });
    expect([headers['cache-control'], again.status, again.raw.length]).toEqual(['private, no-cache', 304, 0]);
    expect((await get('none')).status).toBe(404);
    expect((await get('..%2F..%2Fpictures')).status).toBe(400);
    expect((await server.request('GET', `/api/join/ZZZZZZ/stages/${document.steps[0]?.id}`)).status).toBe(404);
  }, 120_000);
});

describe('painting alone', () => {
  it('a link shows the lesson as it was when the link was made, to anybody who has it', async () => {
    const lesson = await server.demoLesson(cookie);
    const first = (await as<{ address: string }>('POST', `/api/lessons/${lesson.id}/alone`, {})).body.address;
    const token = first.split('/').at(-1) as string;
    const sheet = (await as<AloneSheet>('GET', `/api/alone/${token}`, undefined, '')).body;
    expect(sheet.sheet.title).toBe(lesson.document.title);
    expect(sheet.plan.items.length).toBeGreaterThan(18);
    expect((await as<{ address: string }>('POST', `/api/lessons/${lesson.id}/alone`, {})).body.address).toBe(first);
    expect((await as('GET', '/api/alone/guessed', undefined, '')).status).toBe(404);
    expect((await as('POST', `/api/lessons/${lesson.id}/alone`, {}, await server.anotherInstructor())).status).toBe(404);
  });
});

describe('where phones come in', () => {
  it('is one of the machine’s addresses, chosen for a class and begun with in the next one; one that it has no more is left', async () => {
    const own = await testServer({ addresses: ['10.1.2.3', '192.168.7.9'], port: 4870 });
    const as = await own.signIn();
    const opened = await own.openClass(as);
    expect(opened.addresses).toEqual(
      ['http://viaticum.test', 'http://10.1.2.3:4870', 'http://192.168.7.9:4870'].map((at) => `${at}/join/${opened.code}`),
    );
    const choose = (address: string, cookie = as) =>
      own.request('PUT', `/api/classes/${opened.code}/address`, { address }, cookie) as unknown as Promise<{
        status: number;
        body: ClassAnswer;
      }>;
    expect((await choose(`http://192.168.7.9:4870/join/${opened.code}`)).body.addresses[0]).toBe(
      `http://192.168.7.9:4870/join/${opened.code}`,
    );
    const joined = (await own.request('GET', `/api/join/${opened.code}`)).body;
    expect(joined.address).toBe(`http://192.168.7.9:4870/join/${opened.code}`);
    const next = await own.openClass(as);
    expect(next.addresses[0]).toBe(`http://192.168.7.9:4870/join/${next.code}`);
    expect((await choose('http://evil.example/join/x')).status).toBe(409);
    expect((await choose('javascript:alert(1)')).status).toBe(400);
    expect((await choose('http://10.1.2.3:4870', await own.anotherInstructor())).status).toBe(404);
    const moved = await testServer({ ...own.config, addresses: ['10.1.2.3'], port: 0 });
    expect((await moved.request('GET', `/api/join/${next.code}`)).body.address).toBe(`http://viaticum.test/join/${next.code}`);
    await moved.app.close();
    await own.stop();
  });
});
