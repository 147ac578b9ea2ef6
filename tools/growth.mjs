// How much a year of teaching stores: a few classes are taught through the real log, by students who go on as people do, and what they
// leave on the disk is measured and reckoned up.  node tools/growth.mjs --classes 20 --students 20 --year 200
import { mkdtempSync, rmSync } from 'node:fs';
import { readdir, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { uniform } from '../packages/core/dist/pace/index.js';
import { buildApp } from '../packages/server/dist/app.js';
import { classLog } from '../packages/server/dist/classes/log/log.js';
import { readConfig } from '../packages/server/dist/config.js';
import { database } from './setup.mjs';

const { values } = parseArgs({
  options: {
    classes: { type: 'string', default: '20' },
    students: { type: 'string', default: '20' },
    year: { type: 'string', default: '200' },
  },
});
const [classes, students, year] = ['classes', 'students', 'year'].map((name) => Number(values[name]));
const folder = mkdtempSync(join(tmpdir(), 'viaticum-growth-'));
const own = await database(folder);
const config = readConfig(
  { VIATICUM_DATABASE_URL: own.url('growth'), VIATICUM_DATA: join(folder, 'data'), VIATICUM_QUIET: '1' },
  join(folder, 'none'),
);
const { app, database: db } = await buildApp(config);
const origin = config.publicUrl;
const call = async (method, url, payload, cookie) => {
  const answer = await app.inject({ method, url, headers: { origin, ...(cookie && { cookie }) }, ...(payload && { payload }) });
  return { body: answer.json(), cookie: String(answer.headers['set-cookie']).split(';')[0] };
};
const { cookie } = await call('POST', '/api/session', { name: 'demo', password: 'north light' });
const lessons = (await call('GET', '/api/lessons', null, cookie)).body;

/** Bytes of the tables and of the files that classes leave. */
async function stored() {
  await db.pool.query('ANALYZE TABLE class, class_event, class_student, lesson_revision, session, letter');
  const [rows] = await db.pool.query(
    'SELECT table_name AS name, data_length + index_length AS bytes FROM information_schema.tables WHERE table_schema = DATABASE()',
  );
  const files = async (path) => {
    let sum = 0;
    for (const entry of await readdir(path, { withFileTypes: true, recursive: true }).catch(() => []))
      if (entry.isFile()) sum += (await stat(join(entry.parentPath ?? entry.path, entry.name))).size;
    return sum;
  };
  return {
    tables: Object.fromEntries(rows.map(({ name, bytes }) => [name, Number(bytes)])),
    stages: await files(join(config.dataFolder, 'stages')),
    logs: await files(join(config.dataFolder, 'logs')),
  };
}

const draw = uniform(1);
const before = await stored();
let events = 0;
for (let k = 0; k < classes; k++) {
  // Half of the classes teach a lesson that was changed since the last.
  const lesson = lessons[k % lessons.length];
  if (k % 2 === 0) {
    const { body } = await call('GET', `/api/lessons/${lesson.id}`, null, cookie);
    await call(
      'PUT',
      `/api/lessons/${lesson.id}`,
      { baseRevision: body.revision, document: { ...body.document, title: `${lesson.title} ${k}` } },
      cookie,
    );
  }
  const one = (await call('POST', '/api/classes', { lessonId: lesson.id }, cookie)).body;
  const log = classLog(db.logs, one.id, () => undefined);
  await log.load();
  let ids = 0;
  const say = (actor, command) => log.command(`c${ids++}`, actor, command);
  const instructor = { kind: 'instructor' };
  const joined = await Promise.all(
    Array.from({ length: students }, (_, n) => say({ kind: 'guest' }, { type: 'join', firstName: `Student ${n}`, kit: [] })),
  );
  const people = joined.map(({ studentId }) => ({ kind: 'student', id: studentId }));
  const items = log.state.plan.items;
  for (const [index, item] of items.entries()) {
    await say(instructor, { type: 'goOn', from: index - 1 });
    if (item.stepId)
      for (const person of people) {
        if (draw() < 0.12) await say(person, { type: 'hand', studentId: person.id, reason: 'colour' });
        if (draw() < 0.8) await say(person, { type: 'done', studentId: person.id, stepId: item.stepId });
        if (log.state.students[person.id].hand) await say(instructor, { type: 'handDown', studentId: person.id });
      }
    if (draw() < 0.3) await say(instructor, { type: 'say', text: 'Look from a distance before you go on' });
    if (draw() < 0.2) await say(instructor, { type: 'extend', minutes: 2 });
  }
  await say(instructor, { type: 'end' });
  events += log.state.seq;
  log.close();
}
// Stage pictures are painted beside it.
for (let still = -1, now = 0; still !== now; ) {
  still = now;
  await new Promise((done) => setTimeout(done, 4000));
  now = (await stored()).stages;
}
const after = await stored();
const mb = (bytes) => `${((bytes * year) / classes / 1024 / 1024).toFixed(1)} MB`;
console.log(`${classes} classes of ${students}, ${Math.round(events / classes)} events each; in a year of ${year}:`);
for (const name of ['class_event', 'lesson_revision', 'class'])
  console.log(`  ${name.padEnd(18)} ${mb(after.tables[name] - before.tables[name])}`);
console.log(
  `  stage pictures     ${mb(after.stages - before.stages)} if all were kept; those that nobody looked at for 30 days go`,
);
console.log(`  logs               at most 45 MB (nine files of 5 MB)`);
await app.close();
await own.stop();
rmSync(folder, { recursive: true, force: true });
process.exit(0);
