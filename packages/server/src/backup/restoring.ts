import { access, mkdir, rename } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { createInterface } from 'node:readline';
import { Ajv } from 'ajv';
import { type Connection, createConnection } from 'mysql2/promise';
import { createSchema, dropSchema, quoted } from '../db/schemas.js';
import { placeOf, sourceAt } from '../db/source.js';
import { type OpenZip, openZip, UnsoundZip } from '../package/zip.js';
import { BackupManifest } from './format.js';

const isManifest = new Ajv({ strict: false }).compile(BackupManifest);
const MOST_MANIFEST = 4 * 1024 ** 2;
const MOST_FILE = 64 * 1024 ** 3;
/** Rows that go to the database in one statement, and how many letters. */
const ROWS_AT_ONCE = 500;
const LETTERS_AT_ONCE = 4_000_000;

export type Restored = { rows: number; files: number; missing: string[]; madeAt: string; upgraded: string[] };

/**
 * Restores a backup into an empty instance. The rows are put into a database beside, lifted to today's form there, and take the place of
 * the empty one in one statement: ended at any moment, all of it is there or nothing. Throws a sentence where the backup is not sound, is
 * of a newer version, or the instance is not empty.
 */
export async function restore({ url, dataFolder, from }: { url: string; dataFolder: string; from: string }): Promise<Restored> {
  let zip: OpenZip;
  try {
    zip = await openZip(from, { entries: 5_000_000, unfoldedBytes: 1024 ** 5 });
  } catch (fault) {
    throw fault instanceof UnsoundZip ? new Error(`${from} cannot be restored. ${fault.message}`) : fault;
  }
  const { database, ...server } = placeOf(url);
  const beside = `${database}_restore`;
  const before = `${database}_before`;
  const connection = await createConnection({ ...server, charset: 'utf8mb4', timezone: 'Z' });
  try {
    const manifest = await manifestOf(zip);
    await assertEmpty(connection, database);
    const files = await putFiles(zip, dataFolder);
    for (const name of [beside, before]) await dropSchema(connection, name);
    for (const name of [database, beside, before]) await createSchema(connection, name);
    const place = { ...server, database: beside };
    await migrate(place, manifest.migrations);
    const rows = await putRows(zip, connection, beside, manifest);
    const upgraded = await migrate(place);
    await swap(connection, { database, beside, before });
    return { rows, files, missing: manifest.missing, madeAt: manifest.madeAt, upgraded };
  } catch (fault) {
    throw fault instanceof UnsoundZip ? new Error(`${from} cannot be restored. ${fault.message}`) : fault;
  } finally {
    zip.close();
    for (const name of [beside, before]) await dropSchema(connection, name).catch(() => undefined);
    await connection.end().catch(() => undefined);
  }
}

async function manifestOf(zip: OpenZip): Promise<BackupManifest> {
  if (!zip.has('viaticum-backup.json')) throw new UnsoundZip('It is no backup of Viaticum: it has no viaticum-backup.json.');
  let said: unknown;
  try {
    said = JSON.parse(await zip.text('viaticum-backup.json', MOST_MANIFEST));
  } catch {
    throw new UnsoundZip('Its viaticum-backup.json cannot be read.');
  }
  if (!isManifest(said)) throw new UnsoundZip('Its viaticum-backup.json is not as it should be.');
  for (const table of Object.keys(said.tables))
    if (!zip.has(`tables/${table}.jsonl`)) throw new UnsoundZip(`The table ${table} is missing from it.`);
  return said;
}

/** An instance in which nobody has worked: no tables at all, or the demo as it came. */
async function assertEmpty(connection: Connection, database: string): Promise<void> {
  const [tables] = await connection.query(
    "SELECT table_name AS name FROM information_schema.tables WHERE table_schema = ? AND table_name IN ('instructor', 'class')",
    [database],
  );
  if ((tables as unknown[]).length === 0) return;
  const [[found]] = (await connection.query(
    `SELECT (SELECT COUNT(*) FROM ${quoted(database)}.instructor WHERE name <> 'demo') AS others,
       (SELECT COUNT(*) FROM ${quoted(database)}.class) AS classes`,
  )) as unknown as [[{ others: number; classes: number }]];
  if (found.others + found.classes > 0)
    throw new Error(
      'Somebody has worked in this Viaticum already, and a restore would replace that. Restore into an empty one: give another folder in VIATICUM_DATA, or another database.',
    );
}

/** Pictures and films; each is put in its place whole, and one that is there already is the same. */
async function putFiles(zip: OpenZip, dataFolder: string): Promise<number> {
  const names = zip.names().filter((name) => /^(pictures|films)\/[0-9a-f]{2}\/[0-9a-f]{64}(\/(full|work|thumb))?$/.test(name));
  for (const name of names) {
    const path = join(dataFolder, name);
    const isThere = await access(path).then(
      () => true,
      () => false,
    );
    if (isThere) continue;
    await mkdir(dirname(path), { recursive: true, mode: 0o700 });
    await zip.extract(name, `${path}.new`, MOST_FILE);
    await rename(`${path}.new`, path);
  }
  return names.length;
}

/** Runs migrations up to those that are named, or all; gives which were run. */
async function migrate(place: ReturnType<typeof placeOf>, upTo?: readonly string[]): Promise<string[]> {
  const source = sourceAt(place, upTo);
  await source.initialize();
  try {
    return (await source.runMigrations()).map(({ name }) => name);
  } finally {
    await source.destroy();
  }
}

async function putRows(zip: OpenZip, connection: Connection, schema: string, { tables }: BackupManifest): Promise<number> {
  await connection.query(`USE ${quoted(schema)}`);
  await connection.query(
    'SET foreign_key_checks = 0, unique_checks = 0, sql_mode = CONCAT(@@sql_mode, ",NO_AUTO_VALUE_ON_ZERO")',
  );
  let all = 0;
  for (const [table, { columns, rows }] of Object.entries(tables)) {
    // Which migrations there are is known by having run them.
    if (table === 'migrations') continue;
    const sql = `INSERT INTO ${quoted(table)} (${columns.map(quoted).join(', ')}) VALUES ?`;
    let batch: unknown[][] = [];
    let letters = 0;
    let put = 0;
    const flush = async () => {
      if (batch.length === 0) return;
      await connection.query(sql, [batch]);
      put += batch.length;
      batch = [];
      letters = 0;
    };
    for await (const line of createInterface({
      input: await zip.stream(`tables/${table}.jsonl`),
      crlfDelay: Number.POSITIVE_INFINITY,
    })) {
      if (line === '') continue;
      batch.push(JSON.parse(line) as unknown[]);
      letters += line.length;
      if (batch.length >= ROWS_AT_ONCE || letters > LETTERS_AT_ONCE) await flush();
    }
    await flush();
    if (put !== rows) throw new UnsoundZip(`The table ${table} has ${put} rows and should have ${rows}.`);
    all += put;
  }
  await connection.query('SET foreign_key_checks = 1, unique_checks = 1');
  return all;
}

/** The tables beside take the place of those that are there, all in one statement. */
async function swap(
  connection: Connection,
  { database, beside, before }: { database: string; beside: string; before: string },
): Promise<void> {
  const tablesIn = async (schema: string) => {
    const [rows] = await connection.query(
      "SELECT table_name AS name FROM information_schema.tables WHERE table_schema = ? AND table_type = 'BASE TABLE'",
      [schema],
    );
    return (rows as { name: string }[]).map(({ name }) => quoted(name));
  };
  const old = await tablesIn(database);
  const fresh = await tablesIn(beside);
  const moves = [
    ...old.map((name) => `${quoted(database)}.${name} TO ${quoted(before)}.${name}`),
    ...fresh.map((name) => `${quoted(beside)}.${name} TO ${quoted(database)}.${name}`),
  ];
  await connection.query('SET foreign_key_checks = 0');
  await connection.query(`RENAME TABLE ${moves.join(', ')}`);
  await connection.query('SET foreign_key_checks = 1');
}
