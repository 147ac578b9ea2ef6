// A process of the bench: the server itself, and beside it a bare broadcast to the same number of sockets, measured by the same clock.
import { parseArgs } from 'node:util';
import { WebSocketServer } from 'ws';
import { fold, newClass } from '../packages/core/dist/class/index.js';
import { buildApp } from '../packages/server/dist/app.js';
import { classLog } from '../packages/server/dist/classes/log/log.js';
import { readConfig } from '../packages/server/dist/config.js';

const { values } = parseArgs({ options: { bare: { type: 'string' } } });
const FLUSH_MS = 50;
const config = readConfig(process.env, '/nowhere');
const { app, database } = await buildApp(config);
await app.listen({ host: config.host, port: config.port });

/** What any class connection must do at the least: tell everybody, at once for the desk, else within 50 ms, and answer the author. */
const rooms = new Map();
new WebSocketServer({ port: Number(values.bare), host: '127.0.0.1', perMessageDeflate: false }).on(
  'connection',
  (socket, request) => {
    const code = request.url;
    const room = rooms.get(code) ?? rooms.set(code, { sockets: new Set(), pending: [], timer: null }).get(code);
    room.sockets.add(socket);
    const flush = () => {
      clearTimeout(room.timer);
      room.timer = null;
      const bytes = Buffer.from(JSON.stringify({ type: 'events', events: room.pending }));
      room.pending = [];
      for (const one of room.sockets) one.send(bytes, { binary: false });
    };
    socket.on('close', () => room.sockets.delete(socket));
    socket.on('message', (data) => {
      const { type, id, command } = JSON.parse(String(data));
      if (type === 'hello') return socket.send(JSON.stringify({ type: 'hello', events: [] }));
      room.pending.push({ seq: 1, at: Date.now(), actor: 'instructor', body: command });
      if (command.type === 'say') flush();
      else room.timer ??= setTimeout(flush, FLUSH_MS);
      socket.send(JSON.stringify({ type: 'ack', id, seq: 1 }));
    });
  },
);

const jobs = {
  heap() {
    globalThis.gc?.();
    globalThis.gc?.();
    return process.memoryUsage().heapUsed;
  },
  /** Milliseconds for so many commands: all waiting in a class's queue, and each in a transaction of its own. */
  async append({ classId, otherId, count }) {
    const log = classLog(database.logs, classId, () => undefined);
    await log.load();
    const join = (k) => ({ type: 'join', firstName: `P${k}`, kit: [] });
    const from = performance.now();
    await Promise.all(Array.from({ length: count }, (_, k) => log.command(`q${k}`, { kind: 'guest' }, join(k))));
    const queued = performance.now() - from;
    const connection = await database.pool.getConnection();
    const [[row]] = await connection.query('SELECT last_seq AS head FROM class WHERE id = ?', [otherId]);
    const single = performance.now();
    for (let k = 0; k < count; k++) {
      const seq = row.head + 1 + k;
      await connection.query('START TRANSACTION');
      await connection.query('SELECT last_seq FROM class WHERE id = ? FOR UPDATE', [otherId]);
      await connection.query('INSERT INTO class_event (class_id, seq, at, actor, command_id, body) VALUES (?, ?, ?, ?, ?, ?)', [
        otherId,
        seq,
        Date.now(),
        'guest',
        `s${k}`,
        JSON.stringify({ type: 'joined', v: 1, studentId: `s${k}`, firstName: `P${k}`, kit: [] }),
      ]);
      await connection.query('UPDATE class SET last_seq = ? WHERE id = ?', [seq, otherId]);
      await connection.query('COMMIT');
    }
    const each = performance.now() - single;
    connection.release();
    log.close();
    return { queued, each };
  },
  /** Milliseconds to fold so many events, and to read them back from the database and fold them. */
  async fold({ classId, count }) {
    const [rows] = await database.pool.query(
      'SELECT seq, at, actor, command_id, body FROM class_event WHERE class_id = ? ORDER BY seq',
      [classId],
    );
    const events = rows.map((row) => ({ seq: row.seq, at: Number(row.at), actor: row.actor, body: JSON.parse(row.body) }));
    const students = events.flatMap((event) => (event.body.type === 'joined' ? [event.body.studentId] : []));
    const more = [];
    for (let seq = events.length + 1; seq <= count; seq++) {
      const studentId = students[seq % students.length];
      const body = seq % 2 ? { type: 'handRaised', v: 1, studentId, reason: 'colour' } : { type: 'handLowered', v: 1, studentId };
      more.push({ seq, at: Date.now(), actor: studentId, body });
    }
    for (let i = 0; i < more.length; i += 500)
      await database.pool.query('INSERT INTO class_event (class_id, seq, at, actor, command_id, body) VALUES ?', [
        more.slice(i, i + 500).map((one) => [classId, one.seq, one.at, one.actor, `f${one.seq}`, JSON.stringify(one.body)]),
      ]);
    await database.pool.query('UPDATE class SET last_seq = ? WHERE id = ?', [count, classId]);
    const all = [...events, ...more];
    const times = Array.from({ length: 5 }, () => {
      const state = newClass();
      const from = performance.now();
      for (const event of all) fold(state, event);
      return performance.now() - from;
    });
    const reads = [];
    for (let i = 0; i < 5; i++) {
      const log = classLog(database.logs, classId, () => undefined);
      const from = performance.now();
      await log.load();
      reads.push(performance.now() - from);
      log.close();
    }
    const middle = (list) => list.sort((a, b) => a - b)[2];
    return { fold: middle(times), read: middle(reads) };
  },
};
process.on('message', async ({ job, args }) => process.send({ job, answer: await jobs[job](args) }));
process.on('disconnect', () => process.exit(0));
process.send({ job: 'ready' });
