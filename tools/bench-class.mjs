// The class connection under load: the server beside a bare broadcast with the same coalescing, in turns, in one run.
import { fork } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { loadavg, tmpdir } from 'node:os';
import { join } from 'node:path';
import WebSocket from 'ws';
import { caller } from './caller.mjs';
import { database, freePort } from './setup.mjs';

const quantile = (list, q) => [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * q))];
const wait = (ms) => new Promise((done) => setTimeout(done, ms));
let ids = 0;

/** One socket that counts frames and tells when a text came by. */
function socketTo(url, headers) {
  const socket = new WebSocket(url, { headers, perMessageDeflate: false });
  const self = { socket, frames: 0, wanted: null, heard: 0, acks: new Map() };
  socket.on('message', (data) => {
    if (self.wanted && data.includes(self.wanted)) {
      self.heard = performance.now();
      self.wanted = null;
    }
    if (data.includes('"type":"ack"')) {
      const { id } = JSON.parse(String(data));
      self.acks.get(id)?.(performance.now());
      self.acks.delete(id);
    } else if (data.includes('"type":"events"')) self.frames += 1;
  });
  return new Promise((done, fail) => {
    socket.on('error', fail);
    socket.on('open', () => {
      socket.send(JSON.stringify({ type: 'hello', after: 0 }));
      socket.once('message', () => done(self));
    });
  });
}
const sayTo = (one, command) =>
  new Promise((done) => {
    const id = `b${ids++}`;
    one.acks.set(id, done);
    one.socket.send(JSON.stringify({ type: 'command', id, command }));
  });

/** The time from a desk's sentence to each of its phones; ms. */
async function tell({ desk, phones }) {
  const text = `word ${ids++} x`;
  for (const phone of phones) phone.wanted = text;
  const from = performance.now();
  void sayTo(desk, { type: 'say', text });
  while (phones.some((phone) => phone.wanted) && performance.now() - from < 5000) await wait(2);
  return phones.map((phone) => phone.heard - from);
}

/** A burst of one answer from every phone, spread over a time; ms to the last acknowledgement, and frames that each phone got. */
async function burst(phones, spreadMs, command) {
  for (const phone of phones) phone.frames = 0;
  const from = performance.now();
  const acks = await Promise.all(
    phones.map(async (phone, k) => {
      if (spreadMs > 0) await wait((spreadMs * k) / phones.length);
      const sent = performance.now();
      return { sent, at: await sayTo(phone, command(phone)) };
    }),
  );
  await wait(120);
  return {
    lastMs: Math.max(...acks.map((one) => one.at)) - from,
    p95Ms: quantile(
      acks.map((one) => one.at - one.sent),
      0.95,
    ),
    frames: quantile(
      phones.map((phone) => phone.frames),
      0.5,
    ),
  };
}

export async function classRows(row, { phones = 500, classes = 50, each = 20, rounds = 30 } = {}) {
  const folder = mkdtempSync(join(tmpdir(), 'viaticum-load-'));
  const own = await database(folder);
  const [port, bare] = [await freePort(), await freePort()];
  const origin = `http://127.0.0.1:${port}`;
  const host = fork(new URL('./bench-class-host.mjs', import.meta.url), ['--bare', String(bare)], {
    execArgv: ['--expose-gc'],
    env: {
      ...process.env,
      VIATICUM_PORT: String(port),
      VIATICUM_DATA: folder,
      VIATICUM_DATABASE_URL: own.url('load'),
      VIATICUM_QUIET: '1',
    },
  });
  const told = (job) =>
    new Promise((done, fail) => {
      const listen = (message) => {
        if (message.job !== job) return;
        host.off('message', listen);
        done(message.answer);
      };
      host.on('message', listen);
      host.once('exit', () => fail(new Error('the host of the bench ended')));
    });
  const ask = (job, args) => {
    const answer = told(job);
    host.send({ job, args });
    return answer;
  };
  await told('ready');
  const call = caller(origin);
  const { cookie } = await call('POST', '/api/session', { name: 'demo', password: 'north light' });
  const lessonId = (await call('GET', '/api/lessons', null, cookie)).body[0].id;
  // A hall: planned for as many as come from this one address.
  const invite = { startsAt: '2026-12-05T17:30:00Z', timeZone: 'UTC', place: '', seats: 600, roster: [] };
  const open = async () => {
    const planned = await call('POST', '/api/classes/planned', { lessonId, invite }, cookie);
    return (await call('POST', `/api/classes/${planned.body.code}/open`, {}, cookie)).body;
  };
  const joined = async (code, count) => {
    const list = [];
    for (let i = 0; i < count; i += 50)
      list.push(
        ...(await Promise.all(
          Array.from({ length: Math.min(50, count - i) }, () =>
            socketTo(`ws://127.0.0.1:${port}/api/live/${code}?as=phone`, { origin }),
          ),
        )),
      );
    await Promise.all(
      list.map(
        (phone) =>
          new Promise((done) => {
            const id = `j${ids++}`;
            const listen = (data) => {
              if (!data.includes(`"id":"${id}"`)) return;
              phone.socket.off('message', listen);
              phone.studentId = JSON.parse(String(data)).studentId;
              if (!phone.studentId) throw new Error(`not joined: ${data}`);
              done();
            };
            phone.socket.on('message', listen);
            phone.socket.send(JSON.stringify({ type: 'command', id, command: { type: 'join', firstName: `P${id}`, kit: [] } }));
          }),
      ),
    );
    return list;
  };
  const bareRoom = async (code, count) => {
    const connect = () => socketTo(`ws://127.0.0.1:${bare}/${code}`, {});
    const desk = await connect();
    const list = [];
    for (let i = 0; i < count; i += 50)
      list.push(...(await Promise.all(Array.from({ length: Math.min(50, count - i) }, connect))));
    return { desk, phones: list };
  };
  const room = async (count) => {
    const { code, id } = await open();
    const desk = await socketTo(`ws://127.0.0.1:${port}/api/live/${code}?as=desk`, { origin, cookie });
    return { id, code, desk, phones: await joined(code, count) };
  };

  // What a class takes by itself is there with the first few: the rest is what each socket more takes.
  const { code, ...first } = await room(Math.min(20, phones / 4));
  await wait(500);
  const heapBefore = await ask('heap');
  const more = await joined(code, phones - first.phones.length);
  const large = { ...first, phones: [...first.phones, ...more] };
  await wait(500);
  const perSocket = ((await ask('heap')) - heapBefore) / more.length / 1000;
  const large2 = await bareRoom('large', phones);
  const real = [];
  const plain = [];
  const compare = async (ours, theirs, n) => {
    real.length = 0;
    plain.length = 0;
    for (let i = 0; i < n; i++) {
      // In turns, so that whatever else the machine does meets both.
      for (const r of ours) real.push(...(await tell(r)));
      for (const r of theirs) plain.push(...(await tell(r)));
      await wait(250);
    }
    const [p50, p95, b50, b95] = [quantile(real, 0.5), quantile(real, 0.95), quantile(plain, 0.5), quantile(plain, 0.95)];
    return {
      said: `p50 ${p50.toFixed(1)} (bare ${b50.toFixed(1)}), p95 ${p95.toFixed(1)} (${b95.toFixed(1)}) ms`,
      ratio: `${(p50 / b50).toFixed(1)}×, ${(p95 / b95).toFixed(1)}×`,
    };
  };
  await tell(large);
  await tell(large2);
  const one = await compare([large], [large2], rounds);
  row(
    `Desk to phones, 1 class × ${phones}`,
    `${rounds} events, ${real.length} arrivals`,
    `${one.said}; ${one.ratio}`,
    'p50 ≤ 3×, p95 ≤ 2.5× bare',
  );

  const hand = (phone) => ({ type: 'hand', studentId: phone.studentId, reason: 'colour' });
  const down = (phone) => ({ type: 'handDown', studentId: phone.studentId });
  const spread = await burst(large.phones, 3000, hand);
  row(
    `${phones} answers in 3 s`,
    `${phones} commands`,
    `last ack ${spread.lastMs.toFixed(0)} ms, p95 ${spread.p95Ms.toFixed(0)} ms, ${spread.frames} frames a phone`,
    '≤ 3 100 ms',
  );
  const at = await burst(large.phones, 0, down);
  const plainAt = await burst(large2.phones, 0, () => ({ type: 'handDown', studentId: 'x' }));
  row(
    `${phones} answers at once`,
    `${phones} commands`,
    `last ack ${at.lastMs.toFixed(0)} ms (bare ${plainAt.lastMs.toFixed(0)}), ${((phones / at.lastMs) * 1000).toFixed(0)} events/s, ${at.frames} frames a phone`,
    '',
  );
  row('heap a socket', `${phones} sockets, everything of the class`, `${perSocket.toFixed(1)} kB`, '≤ 15 kB');
  for (const r of [large, large2]) for (const socket of [r.desk, ...r.phones]) socket.socket.terminate();
  await wait(500);

  const many = [];
  const many2 = [];
  for (let k = 0; k < classes; k++) {
    many.push(await room(each));
    many2.push(await bareRoom(`m${k}`, each));
  }
  const all = await compare(many, many2, Math.max(2, Math.round(rounds / 10)));
  row(
    `Desk to phones, ${classes} classes × ${each}`,
    `${real.length} arrivals`,
    `${all.said}; ${all.ratio}`,
    'p50 ≤ 3×, p95 ≤ 2.5× bare',
  );
  const rush = await burst(
    many.flatMap((r) => r.phones),
    0,
    hand,
  );
  row(
    `${classes * each} answers at once in ${classes} classes`,
    `${classes * each} commands`,
    `last ack ${rush.lastMs.toFixed(0)} ms, ${(((classes * each) / rush.lastMs) * 1000).toFixed(0)} events/s`,
    '',
  );
  for (const r of [...many, ...many2]) for (const socket of [r.desk, ...r.phones]) socket.socket.terminate();

  const [a, b] = [await open(), await open()];
  const { queued, each: single } = await ask('append', { classId: a.id, otherId: b.id, count: 500 });
  row(
    'append with 500 waiting, beside a transaction each',
    '500 commands',
    `${queued.toFixed(0)} ms beside ${single.toFixed(0)} ms: ${(single / queued).toFixed(0)}×`,
    '≥ 10×',
  );
  const { fold, read } = await ask('fold', { classId: a.id, count: 10_000 });
  row('10 000 events folded', 'one class', `${fold.toFixed(1)} ms`, '≤ 20 ms');
  row('10 000 events read back and folded', 'one class', `${read.toFixed(0)} ms`, '≤ 300 ms');
  row(
    'load of the machine after it',
    '',
    loadavg()
      .map((one) => one.toFixed(2))
      .join(', '),
    '',
  );
  host.disconnect();
  await new Promise((done) => host.once('exit', done));
  await own.stop();
  rmSync(folder, { recursive: true, force: true });
}

// By itself it prints its rows; with --small it is a check that all of it still runs.
if (process.argv[1]?.endsWith('bench-class.mjs')) {
  const small = process.argv.includes('--small') ? { phones: 40, classes: 4, each: 5, rounds: 5 } : {};
  let rows = 0;
  await classRows((...cells) => {
    rows += 1;
    console.log(cells.join(' | '));
    if (cells.some((cell) => /NaN|undefined|Infinity/.test(cell))) process.exitCode = 1;
  }, small);
  if (rows < 10) process.exitCode = 1;
}
