// Kills the server (and its database) in the middle of a class and looks whether anything acknowledged was lost.
// node tools/crash.mjs --kills 30 --databases 5 --phones 50
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { createConnection } from 'mysql2/promise';
import WebSocket from 'ws';
import { fold, newClass, stateHash } from '../packages/core/dist/class/index.js';
import { uniform } from '../packages/core/dist/pace/index.js';
import { classSocket } from '../packages/standins/dist/index.js';
import { database, freePort, serve } from './setup.mjs';

const { values } = parseArgs({
  options: {
    kills: { type: 'string', default: '30' },
    databases: { type: 'string', default: '5' },
    phones: { type: 'string', default: '50' },
    seed: { type: 'string', default: '1' },
  },
});
const [kills, databases, count, seed] = ['kills', 'databases', 'phones', 'seed'].map((name) => Number(values[name]));
const BACK_MS = 3000;
const wait = (ms) => new Promise((done) => setTimeout(done, ms));
const faults = [];
const check = (holds, fault) => {
  if (!holds) faults.push(fault);
};

const folder = mkdtempSync(join(tmpdir(), 'viaticum-crash-'));
let own = await database(folder);
const port = await freePort();
const env = {
  VIATICUM_PORT: String(port),
  VIATICUM_DATA: join(folder, 'data'),
  VIATICUM_DATABASE_URL: own.url('crash'),
  VIATICUM_QUIET: '1',
};
const origin = `http://127.0.0.1:${port}`;
let server = await serve(env);
const draw = uniform(seed);

const call = async (method, path, body, cookie = '') => {
  const answer = await fetch(`${origin}${path}`, {
    method,
    headers: { origin, 'content-type': 'application/json', ...(cookie && { cookie }) },
    ...(body && { body: JSON.stringify(body) }),
  });
  return { cookie: answer.headers.get('set-cookie')?.split(';')[0], body: await answer.json() };
};
const { cookie } = await call('POST', '/api/session', { name: 'demo', password: 'north light' });
const lessons = (await call('GET', '/api/lessons', null, cookie)).body;
const { id, code } = (await call('POST', '/api/classes', { lessonId: lessons[0].id }, cookie)).body;

const place = { url: `ws://127.0.0.1:${port}`, origin, code };
const acked = new Map();
/** The instructor goes on by a plain connection of their own, again and again. */
const desk = () =>
  new Promise((done) => {
    const socket = new WebSocket(`${place.url}/api/live/${code}?as=desk`, { headers: { origin, cookie } });
    const frames = [];
    socket.on('message', (data) => frames.push(JSON.parse(String(data))));
    socket.on('error', () => undefined);
    socket.on('close', () => done(null));
    socket.on('open', () => {
      socket.send(JSON.stringify({ type: 'hello', after: 0 }));
      done({ socket, frames });
    });
  });
const phones = Array.from({ length: count }, () => classSocket(place, 'phone'));
let ids = 0;
const say = (phone, command) => {
  const commandId = `crash-${ids++}`;
  return phone.say(command, commandId).then((ok) => ok && acked.set(commandId, command.type));
};
await Promise.all(phones.map((phone, k) => say(phone, { type: 'join', firstName: `P${k}`, kit: [] })));
const first = await desk();
first.socket.send(JSON.stringify({ type: 'command', id: 'start', command: { type: 'goOn', from: -1 } }));
await wait(300);
first.socket.close();

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

/** A few times the database goes down as well, at the same moment or alone. */
const withDatabase = new Set(
  Array.from({ length: databases }, (_, i) => Math.floor(((i + 0.5) * kills) / Math.max(1, databases))),
);
let slowest = 0;
for (let k = 0; k < kills; k++) {
  await wait(150 + draw() * 700);
  if (withDatabase.has(k)) {
    process.kill(Number(readFileSync(join(folder, 'db.pid'), 'utf8')), 'SIGKILL');
    if (draw() < 0.5) await wait(draw() * 200);
    own = await database(folder);
    if (draw() < 0.5) {
      // Only the database was gone: the same server goes on.
      await wait(600);
      continue;
    }
  }
  server.child.kill('SIGKILL');
  await wait(20 + draw() * 200);
  server = await serve(env);
  const from = performance.now();
  while (!phones.every((phone) => phone.isHere) && performance.now() - from < 10_000) await wait(10);
  slowest = Math.max(slowest, performance.now() - from);
}
busy = false;
await Promise.race([Promise.all(await saying), wait(15_000)]);

const place2 = new URL(own.url('crash'));
const connection = await createConnection({
  user: 'root',
  database: 'crash',
  ...(place2.searchParams.get('socket')
    ? { socketPath: place2.searchParams.get('socket') }
    : { host: place2.hostname, port: Number(place2.port) }),
});
const [rows] = await connection.query(
  'SELECT seq, at, actor, command_id, body FROM class_event WHERE class_id = ? ORDER BY seq',
  [id],
);
const [[row]] = await connection.query('SELECT last_seq FROM class WHERE id = ?', [id]);
await connection.end();
const stored = new Set(rows.map((one) => one.command_id));
const kept = rows.map((one) => one.seq);
check(
  kept.every((seq, i) => seq === i + 1),
  'the sequence has a gap or a double',
);
check(row.last_seq === rows.length, `the class says ${row.last_seq} events, the log has ${rows.length}`);
// A command that changed nothing is acknowledged without an event; joins and new names always change something.
const lasting = [...acked].filter(([, type]) => type === 'join' || type === 'rename');
for (const [commandId, type] of lasting)
  check(stored.has(commandId), `an acknowledged ${type} is not in the database: ${commandId}`);
check(new Set(rows.map((one) => one.command_id)).size === rows.length, 'a command was carried out twice');
const fresh = newClass();
for (const one of rows) fold(fresh, { seq: one.seq, at: Number(one.at), actor: one.actor, body: JSON.parse(one.body) });
for (const end = Date.now() + 5000; Date.now() < end && !phones.every((phone) => phone.state.seq === rows.length); )
  await wait(20);
const hashes = new Set([fresh, ...phones.map((phone) => phone.state)].map(stateHash));
check(hashes.size === 1, `${hashes.size} different states at the end`);
check(slowest < BACK_MS, `the last phone was back after ${Math.round(slowest)} ms`);
for (const phone of phones) phone.leave();
server.child.kill('SIGTERM');
await own.stop();
rmSync(folder, { recursive: true, force: true });
console.log(
  `${kills} kills of the server, ${withDatabase.size} of the database, ${count} phones: ${acked.size} acknowledged (${lasting.length} that must show), ${rows.length} events, last phone back after ${Math.round(slowest)} ms`,
);
for (const fault of faults) console.error(`  fault: ${fault}`);
process.exit(faults.length === 0 ? 0 : 1);
