// Kills the server and the database in the middle of a class, fills the disk, and looks whether anything acknowledged was lost and whether
// all stands up again by itself: what is started is npm start's own watcher, and nothing here starts anything again.
// node tools/crash.mjs --kills 10 --databases 10 --full 10 --phones 20
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, statfsSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { createConnection } from 'mysql2/promise';
import WebSocket from 'ws';
import { foldStretch, newClass, seenBy, stateHash } from '../packages/core/dist/class/index.js';
import { uniform } from '../packages/core/dist/pace/index.js';
import { classSocket } from '../packages/standins/dist/index.js';
import { freePort, lives, root } from './setup.mjs';

const { values } = parseArgs({
  options: {
    kills: { type: 'string', default: '10' },
    databases: { type: 'string', default: '10' },
    full: { type: 'string', default: '10' },
    phones: { type: 'string', default: '20' },
    seed: { type: 'string', default: '1' },
    // On a quiet machine: how long it takes until everybody is back is a fault as well.
    strict: { type: 'boolean', default: false },
  },
});
const [kills, databases, full, count, seed] = ['kills', 'databases', 'full', 'phones', 'seed'].map((name) =>
  Number(values[name]),
);
/** Goals of the longest time until everybody is back. */
const SERVER_BACK_MS = 5000;
const DATABASE_BACK_MS = 10_000;
/** Where time is no fault: after this long nobody comes back. */
const NEVER_MS = 90_000;
const DISK_MB = 220;

const wait = (ms) => new Promise((done) => setTimeout(done, ms));
const until = async (look, ms) => {
  const from = performance.now();
  while (!(await look())) {
    if (performance.now() - from > ms) return null;
    await wait(20);
  }
  return performance.now() - from;
};
const faults = [];
const check = (holds, fault) => {
  if (!holds) faults.push(fault);
};

const folder = mkdtempSync(join(tmpdir(), 'viaticum-crash-'));
spawnSync('chmod', ['755', folder]);
const data = join(folder, 'data');
mkdirSync(data);
// A small disk of our own, where this machine lets us have one.
const hasDisk = full > 0 && spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${DISK_MB}m,mode=0755`, 'tmpfs', data]).status === 0;
const port = await freePort();
const origin = `http://127.0.0.1:${port}`;
let said = '';
const start = spawn(process.execPath, [join(root, 'tools/start.mjs')], {
  cwd: root,
  env: { ...process.env, VIATICUM_PORT: String(port), VIATICUM_DATA: data },
  stdio: ['ignore', 'pipe', 'pipe'],
});
let over = false;
start.on('exit', () => {
  if (!over) check(false, `the watcher ended: ${said.slice(-600)}`);
});
for (const stream of [start.stdout, start.stderr])
  stream.on('data', (text) => {
    said = (said + text).slice(-8000);
  });
const end = async () => {
  over = true;
  start.kill('SIGTERM');
  await until(() => start.exitCode !== null || start.signalCode !== null, 15_000);
  if (hasDisk) spawnSync('umount', [data]);
  rmSync(folder, { recursive: true, force: true });
  for (const fault of faults) console.error(`  fault: ${fault}`);
  process.exit(faults.length === 0 ? 0 : 1);
};
if ((await until(() => said.includes('Viaticum is at'), 120_000)) === null) {
  faults.push(`it did not start: ${said}`);
  await end();
}
const running = () => JSON.parse(readFileSync(join(data, 'running.json'), 'utf8'));
const draw = uniform(seed);

const call = async (method, path, body, cookie = '') => {
  const answer = await fetch(`${origin}${path}`, {
    method,
    headers: { origin, 'content-type': 'application/json', ...(cookie && { cookie }) },
    ...(body && { body: JSON.stringify(body) }),
  });
  return { status: answer.status, cookie: answer.headers.get('set-cookie')?.split(';')[0], body: await answer.json() };
};
const { cookie } = await call('POST', '/api/session', { name: 'demo', password: 'north light' });
const lessons = (await call('GET', '/api/lessons', null, cookie)).body;
const invite = { startsAt: '2026-12-05T17:30:00Z', timeZone: 'UTC', place: '', seats: 600, roster: [] };
const planned = await call('POST', '/api/classes/planned', { lessonId: lessons[0].id, invite }, cookie);
const { id, code } = (await call('POST', `/api/classes/${planned.body.code}/open`, {}, cookie)).body;

const place = { url: `ws://127.0.0.1:${port}`, origin, code };
const acked = new Map();
/** The desk, by a plain connection that is made anew whenever it breaks. */
const desk = { frames: [], socket: null, isHere: false };
(function sit() {
  if (over) return;
  const socket = new WebSocket(`${place.url}/api/live/${code}?as=desk`, { headers: { origin, cookie } });
  desk.socket = socket;
  socket.on('message', (text) => {
    const frame = JSON.parse(String(text));
    if (frame.type === 'hello') desk.isHere = true;
    desk.frames.push(frame);
  });
  socket.on('error', () => undefined);
  socket.on('close', () => {
    desk.isHere = false;
    setTimeout(sit, 300);
  });
  socket.on('open', () => socket.send(JSON.stringify({ type: 'hello', after: 0 })));
})();
const phones = Array.from({ length: count }, () => classSocket(place, 'phone'));
let ids = 0;
const say = (phone, command) => {
  const commandId = `crash-${ids++}`;
  return phone.say(command, commandId).then((ok) => ok && acked.set(commandId, command.type));
};
await Promise.all(phones.map((phone, k) => say(phone, { type: 'join', firstName: `P${k}`, kit: [] })));
await until(() => desk.isHere, 5000);
desk.socket.send(JSON.stringify({ type: 'command', id: 'start', command: { type: 'goOn', from: -1 } }));
await until(() => phones.every((phone) => phone.state.current), 5000);

let busy = true;
const saying = (async () => {
  const all = [];
  while (busy) {
    for (const phone of phones) {
      const { state, you } = phone;
      const stepId = state.plan?.items[state.current?.index ?? 0]?.stepId;
      if (!you || !stepId || draw() > 0.08) continue;
      const student = state.students[you];
      const command =
        draw() < 0.4
          ? { type: 'rename', studentId: you, firstName: `N${ids}` }
          : draw() < 0.5
            ? { type: student?.hand ? 'handDown' : 'hand', studentId: you, ...(student?.hand ? {} : { reason: 'colour' }) }
            : { type: 'done', studentId: you, stepId };
      all.push(say(phone, command));
    }
    await wait(40);
  }
  return all;
})();

/** Everybody is connected, and something that is said is written. */
const allBack = async (ms) => {
  const from = performance.now();
  const here = await until(() => phones.every((phone) => phone.isHere), ms);
  if (here === null) return null;
  const [phone] = phones;
  const written = await Promise.race([
    say(phone, { type: 'rename', studentId: phone.you, firstName: `B${ids}` }),
    wait(ms).then(() => null),
  ]);
  return written === null ? null : performance.now() - from;
};
const slowest = { server: 0, database: 0, disk: 0 };
const fell = async (what, goal) => {
  const back = await allBack(NEVER_MS);
  check(back !== null, `${what}: not everybody is back`);
  check(!values.strict || back === null || back <= goal, `${what}: back after ${Math.round(back)} ms, goal ${goal} ms`);
  if (back !== null) slowest[what] = Math.max(slowest[what], back);
  // Not more often than the watcher takes for a loop.
  await wait(kills + databases > 5 ? 12_500 : 400);
};
for (let k = 0; k < Math.max(kills, databases); k++) {
  if (k < kills) {
    await wait(150 + draw() * 700);
    process.kill(running().server, 'SIGKILL');
    await wait(50);
    await fell('server', SERVER_BACK_MS);
  }
  if (k < databases) {
    await wait(150 + draw() * 700);
    process.kill(running().database, 'SIGKILL');
    await wait(50);
    await fell('database', DATABASE_BACK_MS);
  }
}

/** The disk is filled to the last byte; reading goes on, writing says so, and when there is space again all is written by itself. */
const filler = join(data, 'filler');
const leave = () => {
  const { bavail, bsize } = statfsSync(data);
  return bavail * bsize;
};
for (let k = 0; k < (hasDisk ? full : 0); k++) {
  const before = running();
  desk.frames.length = 0;
  spawnSync('dd', ['if=/dev/zero', `of=${filler}`, 'bs=64k'], { stdio: 'ignore' });
  // Lessons are large: a few saves need new room in the tables.
  let refused = null;
  const saves = [];
  for (let n = 0; n < 60 && !refused; n++) {
    const one = await call('GET', `/api/lessons/${lessons[0].id}`, null, cookie);
    check(one.status === 200, `a lesson could not be read while the disk was full: ${one.status}`);
    if (one.status !== 200) break;
    const made = await call('POST', '/api/lessons', { document: one.body.document }, cookie);
    saves.push(made.status);
    if (made.status !== 201) refused = made;
  }
  check(
    refused?.status === 507,
    `writing on a full disk was answered ${refused?.status ?? saves.join()}: ${refused?.body?.message}`,
  );
  check((await call('GET', `/api/join/${code}/sheet`)).status === 200, 'the sheet could not be read while the disk was full');
  rmSync(filler, { force: true });
  const from = performance.now();
  const back = await allBack(NEVER_MS);
  check(back !== null, `${k}: nothing was written after the disk had space again`);
  const one = await call('GET', `/api/lessons/${lessons[0].id}`, null, cookie);
  const made = await call('POST', '/api/lessons', { document: one.body.document }, cookie);
  check(made.status === 201, `a lesson could not be stored after the disk had space again: ${made.status}`);
  slowest.disk = Math.max(slowest.disk, performance.now() - from);
  check(lives(running().server, 'main.js') && running().server === before.server, 'a full disk ended the server');
  check(running().database === before.database, 'a full disk ended the database');
  // The lessons that were made only to fill the disk.
  await query(
    'DELETE FROM lesson WHERE id NOT IN (SELECT lesson_id FROM class) AND title = (SELECT title FROM class WHERE id = ?) AND revision = 1',
    [id],
  );
  check(leave() > 0, 'the disk is still full');
}
busy = false;
await Promise.race([Promise.all(await saying), wait(15_000)]);

async function query(sql, params) {
  const connection = await createConnection({
    user: 'viaticum',
    password: readFileSync(join(data, 'db-password'), 'utf8').trim(),
    database: 'viaticum',
    socketPath: socketOf(),
  });
  const [rows] = await connection.query(sql, params);
  await connection.end();
  return rows;
}
function socketOf() {
  const near = join(data, 'run', 'db.sock');
  if (existsSync(near)) return near;
  throw new Error('the database’s socket is not where it is looked for');
}
// Names stand apart from the log.
const rows = await query(
  `SELECT e.seq, e.at, e.actor, e.command_id, e.body, n.first_name FROM class_event e
   LEFT JOIN class_name n ON n.class_id = e.class_id AND n.seq = e.seq WHERE e.class_id = ? ORDER BY e.seq`,
  [id],
);
const [row] = await query('SELECT last_seq FROM class WHERE id = ?', [id]);
const stored = new Set(rows.map((one) => one.command_id));
check(
  rows.every((one, i) => one.seq === i + 1),
  'the sequence has a gap or a double',
);
check(row.last_seq === rows.length, `the class says ${row.last_seq} events, the log has ${rows.length}`);
// A command that changed nothing is acknowledged without an event; joins and new names always change something.
const lasting = [...acked].filter(([, type]) => type === 'join' || type === 'rename');
for (const [commandId, type] of lasting)
  check(stored.has(commandId), `an acknowledged ${type} is not in the database: ${commandId}`);
check(stored.size === rows.length, 'a command was carried out twice');
const events = rows.map(({ seq, at, actor, body, first_name: firstName }) => ({
  ...{ seq, at: Number(at), actor },
  body: { ...JSON.parse(body), ...(firstName === null ? {} : { firstName }) },
}));
check(
  events.every(({ body }) => body.firstName !== ''),
  'an event has lost its name',
);
/** What a phone holds of the log; how far it was told that nothing more is for it does not matter. */
const print = (state) => stateHash({ ...state, seq: 0 });
const ownPrint = (studentId) => {
  const own = events.flatMap((event) => seenBy({ sees: 'own', studentId }, event) ?? []);
  return print(foldStretch(newClass(), own, events.length));
};
const isWhole = (phone) => print(phone.state) === ownPrint(phone.you);
await until(() => phones.every(isWhole), 5000);
const off = phones.filter((phone) => !isWhole(phone)).length;
check(off === 0, `${off} of ${phones.length} phones hold something else than the log has for them`);
for (const phone of phones) phone.leave();
const ms = (name) => `${Math.round(slowest[name])} ms`;
console.log(
  `${kills} kills of the server (all back in ${ms('server')}), ${databases} of the database (${ms('database')}), ${
    hasDisk ? `${full} full disks (written again in ${ms('disk')})` : 'no disk of our own to fill here'
  }, ${count} phones: ${acked.size} acknowledged (${lasting.length} that must show), ${rows.length} events`,
);
await end();
