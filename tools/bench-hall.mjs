// A hall of phones: joining, a step to all, Done to the desk, and a server that is killed. Alone, or through several servers with Redis:
//   npm run bench:hall -- [--phones 300] [--servers 1]
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { connect } from 'node:net';
import { loadavg, tmpdir } from 'node:os';
import { join } from 'node:path';
import WebSocket from 'ws';
import { caller } from './caller.mjs';
import { build, database, debian, freePort, npmPackages, run, serve } from './setup.mjs';

const word = (name, usual) => {
  const at = process.argv.indexOf(`--${name}`);
  return at < 0 ? usual : Number(process.argv[at + 1]);
};
const PHONES = word('phones', 300);
const SERVERS = word('servers', 1);
/** All say Done within so many seconds. */
const DONES_S = 20;
const wait = (ms) => new Promise((done) => setTimeout(done, ms));
const quantile = (list, q) => [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * q))] ?? 0;
const row = (what, value, goal) => console.log(`${what.padEnd(44)} ${value.padStart(30)}   ${goal}`);
let ids = 0;

/** Processor time of a process so far, ms (Linux: hundredths of a second). */
function cpuMs(pid) {
  const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1].split(' ');
  return (Number(fields[11]) + Number(fields[12])) * 10;
}

/** A phone or a desk that keeps its place and finds another server when its own is gone. */
function follower(ports, first, code, as, cookie = '') {
  const self = {
    seq: 0,
    token: undefined,
    you: null,
    here: false,
    acks: new Map(),
    onEvent: null,
    port: ports[first % ports.length],
  };
  let turn = first;
  let socket;
  const open = () => {
    self.port = ports[turn++ % ports.length];
    const origin = `http://127.0.0.1:${self.port}`;
    socket = new WebSocket(`ws://127.0.0.1:${self.port}/api/live/${code}?as=${as}`, {
      headers: { origin, ...(cookie && { cookie }) },
      perMessageDeflate: false,
    });
    socket.on('open', () =>
      socket.send(JSON.stringify({ type: 'hello', after: self.seq, ...(self.token && { token: self.token }) })),
    );
    socket.on('message', (data) => {
      const frame = JSON.parse(String(data));
      if (frame.type === 'hello') self.here = true;
      if (frame.type === 'hello' || frame.type === 'events') {
        for (const event of frame.events) if (event.seq > self.seq) self.onEvent?.(event);
        self.seq = Math.max(self.seq, frame.to);
      }
      if (frame.type === 'ack' || frame.type === 'refused') {
        if (frame.token) {
          self.token = frame.token;
          self.you = frame.studentId;
        }
        self.acks.get(frame.id)?.(frame);
        self.acks.delete(frame.id);
      }
    });
    socket.on('error', () => undefined);
    socket.on('close', () => {
      self.here = false;
      if (!self.left) setTimeout(open, 300);
    });
  };
  self.say = (command) =>
    new Promise((done) => {
      const id = `h${ids++}`;
      self.acks.set(id, done);
      socket.send(JSON.stringify({ type: 'command', id, command }));
    });
  self.leave = () => {
    self.left = true;
    socket.terminate();
  };
  open();
  return self;
}

async function until(look, ms = 60_000) {
  const from = performance.now();
  while (!look()) {
    if (performance.now() - from > ms) throw new Error('waited in vain');
    await wait(5);
  }
  return performance.now() - from;
}

async function redisServer() {
  const port = await freePort();
  const child = spawn('redis-server', ['--port', String(port), '--bind', '127.0.0.1', '--save', '', '--appendonly', 'no'], {
    stdio: 'ignore',
  });
  for (let i = 0; i < 200; i++) {
    const answers = await new Promise((done) => {
      const probe = connect(port, '127.0.0.1', () => {
        probe.end();
        done(true);
      }).on('error', () => done(false));
    });
    if (answers) return { child, url: `redis://127.0.0.1:${port}` };
    await wait(50);
  }
  throw new Error('redis-server did not start.');
}

run(async () => {
  await debian({ mariadbd: 'mariadb-server', 'redis-server': 'redis-server' });
  await npmPackages();
  await build();
  const folder = mkdtempSync(join(tmpdir(), 'viaticum-hall-'));
  const own = await database(folder);
  const redis = SERVERS > 1 ? await redisServer() : null;
  const servers = [];
  for (let i = 0; i < SERVERS; i++) {
    const port = await freePort();
    const { child } = await serve({
      VIATICUM_PORT: String(port),
      VIATICUM_DATA: join(folder, `server-${i}`),
      VIATICUM_DATABASE_URL: own.url('hall'),
      VIATICUM_QUIET: '1',
      ...(redis && { VIATICUM_REDIS_URL: redis.url }),
    });
    servers.push({ port, child });
  }
  const ports = servers.map(({ port }) => port);
  const origin = `http://127.0.0.1:${ports[0]}`;
  const call = caller(origin);
  const { cookie } = await call('POST', '/api/session', { name: 'demo', password: 'north light' });
  const lessonId = (await call('GET', '/api/lessons', null, cookie)).body[0].id;
  const invite = { startsAt: '2026-12-05T17:30:00Z', timeZone: 'UTC', place: '', seats: 1200, roster: [] };
  const planned = await call('POST', '/api/classes/planned', { lessonId, invite }, cookie);
  const { code } = (await call('POST', `/api/classes/${planned.body.code}/open`, {}, cookie)).body;
  const desk = follower([ports[0]], 0, code, 'desk', cookie);
  await until(() => desk.here);
  console.log(`${PHONES} phones, ${SERVERS} ${SERVERS === 1 ? 'server' : 'servers with Redis'}, the phones on the same machine`);

  const phones = [];
  const from = performance.now();
  for (let k = 0; k < PHONES; k += 25) {
    const some = Array.from({ length: Math.min(25, PHONES - k) }, (_, i) => follower(ports, k + i, code, 'phone'));
    await until(() => some.every((one) => one.here));
    await Promise.all(some.map((one, i) => one.say({ type: 'join', firstName: `Phone ${k + i}`, kit: [] })));
    phones.push(...some);
  }
  row('joining', `${((performance.now() - from) / 1000).toFixed(1)} s`, PHONES >= 1000 ? '≤ 60 s' : '');
  await until(() => phones.every((one) => one.you));

  const steps = [];
  for (let turn = 0; turn < 4; turn++) {
    const heard = [];
    const said = performance.now();
    for (const phone of phones)
      phone.onEvent = (event) => event.body.type === 'itemStarted' && heard.push(performance.now() - said);
    await desk.say(turn % 2 === 0 ? { type: 'goTo', from: turn === 0 ? -1 : 1, to: 0 } : { type: 'goTo', from: 0, to: 1 });
    await until(() => heard.length >= phones.length);
    steps.push(...heard);
    await wait(300);
  }
  for (const phone of phones) phone.onEvent = null;
  row(
    'a step to all phones, middle and 95 %',
    `${quantile(steps, 0.5).toFixed(0)} and ${quantile(steps, 0.95).toFixed(0)} ms`,
    SERVERS > 1 ? '≤ 1 s' : '≤ 500 ms',
  );
  await desk.say({ type: 'goTo', from: 1, to: 0 });

  const plan = (await call('GET', `/api/classes/${code}/record`, null, cookie)).body.events[0].body.plan;
  const { stepId } = plan.items[0];
  const saidAt = new Map();
  const toDesk = [];
  desk.onEvent = (event) => {
    const at = event.body.type === 'stepDone' ? saidAt.get(event.body.studentId) : undefined;
    if (at !== undefined) toDesk.push(performance.now() - at);
  };
  const cpu = servers.map(({ child }) => cpuMs(child.pid));
  const began = performance.now();
  const acked = phones.map(async (phone, k) => {
    await wait((DONES_S * 1000 * k) / phones.length);
    saidAt.set(phone.you, performance.now());
    return phone.say({ type: 'done', studentId: phone.you, stepId });
  });
  await Promise.all(acked);
  await until(() => toDesk.length >= phones.length);
  const took = performance.now() - began;
  const used = servers.map(({ child }, i) => (cpuMs(child.pid) - cpu[i]) / took);
  row(
    `Done to the desk, all within ${DONES_S} s`,
    `${quantile(toDesk, 0.5).toFixed(0)} and ${quantile(toDesk, 0.95).toFixed(0)} ms`,
    SERVERS > 1 ? '≤ 500 ms' : '≤ 300 ms',
  );
  row('of a core meanwhile', used.map((share) => `${(100 * share).toFixed(0)} %`).join(', '), SERVERS > 1 ? '' : '≤ 35 %');

  if (SERVERS > 1) {
    const killed = servers[SERVERS - 1];
    const theirs = phones.filter((phone) => phone.port === killed.port);
    killed.child.kill('SIGKILL');
    await until(() => theirs.every((phone) => !phone.here));
    const backMs = await until(() => phones.every((phone) => phone.here));
    row(`kill -9 of one server, its ${theirs.length} phones back`, `${(backMs / 1000).toFixed(1)} s`, '≤ 5 s');
  }
  const { events } = (await call('GET', `/api/classes/${code}/record`, null, cookie)).body;
  const kept = new Set(events.flatMap((event) => (event.body.type === 'stepDone' ? [event.body.studentId] : [])));
  row('Dones acknowledged and in the log', `${phones.length} and ${kept.size}`, 'all');
  row(
    'load of the machine after it',
    loadavg()
      .map((one) => one.toFixed(2))
      .join(', '),
    '',
  );
  for (const one of [desk, ...phones]) one.leave();
  for (const { child } of servers) child.kill('SIGTERM');
  redis?.child.kill('SIGTERM');
  await wait(1500);
  await own.stop();
  rmSync(folder, { recursive: true, force: true });
  process.exit(kept.size === phones.length ? 0 : 1);
});
