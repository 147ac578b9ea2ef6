// One attack on a server, in a process of its own: node attack.mjs requests|frames|bodies COUNT PORT SEED
import fc from 'fast-check';
import WebSocket from 'ws';
import * as contract from '../../packages/contract/dist/index.js';
import { arbitraryOf } from './arbitrary.mjs';

const [kind, count, port, seed] = process.argv.slice(2).map((word, i) => (i === 0 ? word : Number(word)));
const base = `http://127.0.0.1:${port}`;
// No measure of speed: stages may have to be painted first, on a machine that is busy with other things.
const HANG_MS = 60_000;
const AT_ONCE = 8;
const counted = { faults: [], statuses: {}, slowestMs: 0 };

let requests = 0;
/** Each request from another address: who guesses from one is answered later and later. */
const address = () => `10.${(requests++ >> 14) & 255}.${(requests >> 7) & 127}.${requests & 127}`;

/** Sends one request; a 5xx and an answer that does not come are faults. */
async function send(method, path, body, headers = {}) {
  const from = performance.now();
  try {
    const answer = await fetch(base + path, {
      method,
      headers: {
        origin: base,
        'x-forwarded-for': address(),
        ...(body !== undefined && { 'content-type': 'application/json' }),
        ...headers,
      },
      ...(body !== undefined && { body }),
      signal: AbortSignal.timeout(HANG_MS),
    });
    const text = await answer.text();
    const group = `${String(answer.status)[0]}xx`;
    counted.statuses[group] = (counted.statuses[group] ?? 0) + 1;
    // That too much is asked for at once, or that the disk is full, is an answer.
    if (answer.status >= 500 && ![503, 507].includes(answer.status))
      counted.faults.push(`${answer.status} ${method} ${path} ${String(body).slice(0, 300)}: ${text}`);
    else if (answer.status >= 400 && !/"message":"\p{Lu}/u.test(text))
      counted.faults.push(`no sentence: ${answer.status} ${method} ${path}: ${text.slice(0, 200)}`);
    return { answer, text };
  } catch (error) {
    // A body that is refused while it is still being sent may break the connection.
    if (error.name === 'TimeoutError') counted.faults.push(`no answer: ${method} ${path} ${String(body).slice(0, 200)}`);
    counted.statuses.broken = (counted.statuses.broken ?? 0) + 1;
    return null;
  } finally {
    counted.slowestMs = Math.max(counted.slowestMs, performance.now() - from);
  }
}
/** So many of a list at once. */
async function all(list, work) {
  let next = 0;
  await Promise.all(
    Array.from({ length: AT_ONCE }, async () => {
      while (next < list.length) await work(list[next++]);
    }),
  );
}

const { answer } = await send('POST', '/api/session', JSON.stringify({ name: 'demo', password: 'north light' }));
const cookie = answer.headers.get('set-cookie').split(';')[0];
const [lesson] = JSON.parse((await send('GET', '/api/lessons', undefined, { cookie })).text);
const invite = { startsAt: '2026-12-05T17:30:00Z', timeZone: 'UTC', place: '', seats: 600, roster: [] };
const planned = JSON.parse(
  (await send('POST', '/api/classes/planned', JSON.stringify({ lessonId: lesson.id, invite }), { cookie })).text,
);
const one = JSON.parse((await send('POST', `/api/classes/${planned.code}/open`, '{}', { cookie })).text);

const ids = fc.oneof(
  { weight: 3, arbitrary: fc.constantFrom(lesson.id, one.code, one.id, 's1') },
  { weight: 2, arbitrary: arbitraryOf(contract.Id, 0.5) },
);
const bodies = {
  'POST /api/session': contract.SignIn,
  'POST /api/lessons': contract.NewLesson,
  'PUT /api/lessons/:id': contract.SaveLesson,
  'POST /api/classes': contract.NewClass,
  'POST /api/classes/planned': contract.NewInvite,
  'PUT /api/classes/:id/invite': contract.SaveInvite,
  'PUT /api/classes/:id/students/:id': contract.SaveOfStudent,
  'POST /api/people': contract.NewPerson,
  'PUT /api/rooms': contract.SaveRoom,
  'PUT /api/kept': contract.SaveKept,
};
const reads = [
  ...[
    '/api/lessons',
    '/api/lessons/:id',
    '/api/classes',
    '/api/classes/:id',
    '/api/classes/:id/links',
    '/api/classes/:id/record',
  ],
  ...['/api/classes/:id/students', '/api/classes/:id/camera', '/api/classes/:id/qr.svg', '/api/join/:id', '/api/join/:id/sheet'],
  ...[
    '/api/join/:id/stages/:id',
    '/api/join/:id/recipes?without=:id',
    '/api/alone/:id',
    '/api/alone/:id/stages/:id',
    '/api/people',
  ],
  ...['/api/letters', '/api/rooms', '/api/kept', '/api/pictures/:id/:id', '/api/lessons?before=:id', '/api/:id', '/:id'],
].map((path) => `GET ${path}`);
const others = [
  'DELETE /api/rooms/:id',
  'DELETE /api/kept/:id',
  'DELETE /api/people/:id',
  'POST /api/classes/:id/links/:id/renew',
  'POST /api/classes/:id/letters',
];
const routes = [...Object.keys(bodies), ...reads, ...others];

const attacks = {
  async requests() {
    // A rehearsal is another process: not thousands of them.
    const calm = (body) => (body && typeof body === 'object' && 'rehearsal' in body ? { ...body, rehearsal: undefined } : body);
    const request = fc.constantFrom(...routes).chain((route) =>
      fc.record({
        route: fc.constant(route),
        names: fc.array(ids, { minLength: 3, maxLength: 3 }),
        body: bodies[route] ? arbitraryOf(bodies[route], 0.02) : fc.constant(undefined),
        known: fc.boolean(),
      }),
    );
    const list = fc.sample(request, { numRuns: count, seed });
    await all(list, async ({ route, names, body, known }) => {
      const [method, template] = route.split(' ');
      let k = 0;
      const path = template.replace(/:id/g, () => encodeURIComponent(safe(names[k++])));
      const text = body === undefined ? (method === 'POST' ? '{}' : undefined) : JSON.stringify(calm(body));
      await send(method, path, text, known ? { cookie } : {});
    });
  },

  async frames() {
    const frame = fc.oneof(
      { weight: 12, arbitrary: arbitraryOf(contract.ClientFrame, 0.05) },
      { weight: 1, arbitrary: fc.string().map((text) => text) },
    );
    const list = fc.sample(frame, { numRuns: count, seed });
    let socket = null;
    const open = () =>
      new Promise((done, fail) => {
        const fresh = new WebSocket(`ws://127.0.0.1:${port}/api/live/${one.code}?as=${['phone', 'desk'][socketCount++ % 2]}`, {
          headers: { origin: base, cookie },
        });
        fresh.on('open', () => {
          fresh.send(JSON.stringify({ type: 'hello', after: 0 }));
          done(fresh);
        });
        fresh.on('error', fail);
      });
    let socketCount = 0;
    for (const [k, one] of list.entries()) {
      if (!socket || socket.readyState !== WebSocket.OPEN || k % 150 === 0) {
        socket?.terminate();
        socket = await open();
      }
      socket.send(typeof one === 'string' && k % 2 ? one : JSON.stringify(one));
      if (k % 50 === 0) await new Promise((done) => setTimeout(done, 5));
    }
    socket?.terminate();
    // Somebody else finds the class as it should be.
    const { text } = await send('GET', `/api/join/${one.code}`);
    if (!text.includes(one.code)) counted.faults.push(`after the frames the class is not there: ${text}`);
  },

  async bodies() {
    const wide = (n) => `{${Array.from({ length: n }, (_, k) => `"k${k.toString(36)}":0`).join()}}`;
    const large = [
      () => '['.repeat(2 * 1024 * 1024 - 10),
      () => '{"a":'.repeat(400_000),
      () => wide(180_000),
      () => `{"document":${wide(150_000)}}`,
      () => `{"document":{"areas":[${'{},'.repeat(500_000)}{}]}}`,
      () => `{"document":{"areas":[${'[0,0],'.repeat(300_000)}0]}}`,
      () => `[${'0,'.repeat(1_000_000)}0]`,
      () => `{"document":"${'\\u0000'.repeat(340_000)}"}`,
      () => `"${'x'.repeat(2_000_000)}"`,
    ].map((make) => make());
    const small = [
      ...large.map((text) => text.slice(0, 60_000)),
      '',
      '{',
      'null',
      '[]',
      '{"name":{}}',
      wide(6000),
      '['.repeat(60_000),
    ];
    const targets = [
      'POST /api/session',
      'POST /api/lessons',
      `PUT /api/lessons/${lesson.id}`,
      'PUT /api/kept',
      'PUT /api/rooms',
      'POST /api/classes',
    ];
    const job = fc.record({
      target: fc.constantFrom(...targets),
      body: fc.oneof({ weight: 12, arbitrary: fc.constantFrom(...small) }, { weight: 1, arbitrary: fc.constantFrom(...large) }),
      known: fc.boolean(),
    });
    await all(fc.sample(job, { numRuns: count, seed }), async ({ target, body, known }) => {
      const [method, path] = target.split(' ');
      await send(method, path, body, known ? { cookie } : {});
    });
  },
};

/**
 * Four sockets ask for everything and never read, again and again for so many seconds, while twenty others talk: how long those wait for
 * their answers, beside how long they wait when nobody does that.
 */
attacks.deaf = async () => {
  const open = (role = 'phone') =>
    new Promise((done, fail) => {
      const socket = new WebSocket(`ws://127.0.0.1:${port}/api/live/${one.code}?as=${role}`, {
        headers: { origin: base, cookie },
      });
      socket.on('open', () => done(socket));
      socket.on('error', fail);
    });
  const desk = await open('desk');
  desk.send(JSON.stringify({ type: 'hello', after: 0 }));
  // A long log, of which everything can be asked for.
  for (let k = 0; k < 3000; k++) {
    desk.send(JSON.stringify({ type: 'command', id: `say${k}`, command: { type: 'say', text: 'x'.repeat(160) } }));
    if (k % 10 === 9) await new Promise((done) => setTimeout(done, 1010 / (count > 30 ? 1 : 10)));
    if (k > count * 10) break;
  }
  const talkers = await Promise.all(
    Array.from({ length: 20 }, async () => {
      const socket = await open();
      const waits = new Map();
      const times = [];
      socket.on('message', (data) => {
        const frame = JSON.parse(String(data));
        if (frame.type !== 'pong') return;
        times.push(performance.now() - waits.get(frame.sent));
        waits.delete(frame.sent);
      });
      socket.send(JSON.stringify({ type: 'hello', after: 0 }));
      return { times, ping: (k) => waits.set(k, performance.now()) && socket.send(JSON.stringify({ type: 'ping', sent: k })) };
    }),
  );
  const p95 = async (seconds) => {
    for (const one of talkers) one.times.length = 0;
    for (let k = 0; k < seconds * 4; k++) {
      for (const one of talkers) one.ping(k);
      await new Promise((done) => setTimeout(done, 250));
    }
    const all = talkers.flatMap((one) => one.times).sort((a, b) => a - b);
    return all[Math.floor(all.length * 0.95)] ?? Number.POSITIVE_INFINITY;
  };
  const calm = await p95(Math.min(10, count));
  let over = false;
  const deaf = Array.from({ length: 4 }, async () => {
    while (!over) {
      const socket = await open().catch(() => null);
      socket?.pause();
      for (let k = 0; k < 200 && socket?.readyState === WebSocket.OPEN; k++) {
        socket.send(JSON.stringify(k === 0 ? { type: 'hello', after: 0 } : { type: 'ping', sent: k }));
        await new Promise((done) => setTimeout(done, 5));
      }
      await new Promise((done) => setTimeout(done, 1000));
      socket?.terminate();
    }
  });
  const under = await p95(count);
  over = true;
  await Promise.all(deaf);
  counted.statuses = { 'p95 calm ms': Math.round(calm * 10) / 10, 'p95 beside deaf sockets ms': Math.round(under * 10) / 10 };
  counted.ratio = under / calm;
};

/** What can stand in an address at all. */
function safe(name) {
  const text = String(name).slice(0, 300);
  return text.isWellFormed?.() === false || /[\ud800-\udfff]/.test(text) ? 'odd' : text;
}

await attacks[kind]();
process.send(counted, () => process.exit(0));
