// npm run freeze: a small backup of each version of the tables that has none yet in packages/server/assets/backups. A test restores them all.
import { existsSync, mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createConnection } from 'mysql2/promise';
import { buildApp } from '../packages/server/dist/app.js';
import { writeBackup } from '../packages/server/dist/backup/writing.js';
import { placeOf, sourceAt } from '../packages/server/dist/db/source.js';
import { database, debian, root } from './setup.mjs';

/** Before the fourth there were no classes, and nobody has such data. */
const FIRST = 3;
const ORIGIN = 'http://viaticum.test';
const frozen = join(root, 'packages', 'server', 'assets', 'backups');
const data = mkdtempSync(join(tmpdir(), 'viaticum-freeze-'));
await debian({ mariadbd: 'mariadb-server' });
const own = await database(data);
const url = own.url('viaticum');
mkdirSync(frozen, { recursive: true });

/** One instructor, a lesson with one step, a class that somebody joined. */
async function work() {
  const { app } = await buildApp({
    ...{ host: '127.0.0.1', port: 0, publicUrl: ORIGIN, dataFolder: data, databaseUrl: url, webFolder: join(data, 'none') },
    ...{ origins: new Set([ORIGIN]), addresses: [], tls: null, redisUrl: null, trustProxy: false },
    ...{ demoPassword: null, owner: null, bodyMs: 20_000, quiet: true },
  });
  let cookie = '';
  const ask = async (method, address, payload) => {
    const answer = await app.inject({ method, url: address, payload, headers: { origin: ORIGIN, cookie } });
    if (answer.headers['set-cookie']) cookie = String(answer.headers['set-cookie']).split(';')[0];
    return answer.statusCode === 204 ? null : answer.json();
  };
  await ask('POST', '/api/session', { name: 'demo', password: 'north light' });
  const [{ id }] = await ask('GET', '/api/lessons');
  const { document } = await ask('GET', `/api/lessons/${id}`);
  const { areas, steps, ...rest } = document;
  const [step] = steps.filter(({ wholeCanvas }) => wholeCanvas);
  const small = {
    ...{ ...rest, title: 'Two jugs on a sill', references: [], things: [], areas: [], film: undefined, kit: undefined },
    ...{ steps: [{ ...step, areaIds: [] }], marks: [], passages: [], samples: [], variants: [], setAside: [] },
    drawing: { ...rest.drawing, own: [], edits: [], constructions: [], landmarks: [] },
    planning: { ...rest.planning, pins: [] },
  };
  const made = await ask('POST', '/api/lessons', { document: JSON.parse(JSON.stringify(small)) });
  if (!made.id) throw new Error(made.message);
  const { code } = await ask('POST', '/api/classes', { lessonId: made.id });
  await app.close();
  return { lessonId: made.id, code };
}

const { lessonId, code } = await work();
const place = placeOf(url);
const connection = await createConnection(place);
await connection.query("UPDATE class SET code = 'FRZ234' WHERE code = ?", [code]);
await connection.query('DELETE FROM lesson WHERE id <> ?', [lessonId]);
for (const table of ['session', 'picture_owner', 'picture', 'film_owner', 'film_file'])
  await connection.query(`DELETE FROM ${table}`);
const source = sourceAt(place);
await source.initialize();
for (;;) {
  const [names] = await connection.query('SELECT name FROM migrations ORDER BY id');
  if (names.length <= FIRST) break;
  const to = join(frozen, `${names.at(-1).name}.zip`);
  if (!existsSync(to)) {
    const { bytes } = await writeBackup({ url, dataFolder: data, to });
    console.log(`${to.slice(root.length + 1)}  ${bytes} bytes`);
  }
  await source.undoLastMigration();
}
await source.destroy();
await connection.end();
await own.stop();
rmSync(data, { recursive: true, force: true });
