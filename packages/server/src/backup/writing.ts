import { createWriteStream } from 'node:fs';
import { access, mkdir, open, rename, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { type Connection, createConnection } from 'mysql2/promise';
import yazl from 'yazl';
import { quoted, storedColumns } from '../db/schemas.js';
import { placeOf } from '../db/source.js';
import { BACKUP_LOCK, type BackupManifest } from './format.js';

type Files = { name: string; path: string }[];

/** The pictures and films that the rows name, and those of them that are not on the disk. */
async function filesOf(connection: Connection, tables: ReadonlyMap<string, unknown>, dataFolder: string) {
  const hashes = async (table: string): Promise<string[]> => {
    if (!tables.has(table)) return [];
    const [rows] = await connection.query(`SELECT sha256 FROM ${quoted(table)} ORDER BY sha256`);
    return (rows as { sha256: string }[]).map(({ sha256 }) => sha256);
  };
  const named = [
    ...(await hashes('picture')).flatMap((sha) =>
      ['full', 'work', 'thumb'].map((rendition) => `pictures/${sha.slice(0, 2)}/${sha}/${rendition}`),
    ),
    ...(await hashes('film_file')).map((sha) => `films/${sha.slice(0, 2)}/${sha}`),
  ];
  const files: Files = [];
  const missing: string[] = [];
  for (const name of named) {
    const path = join(dataFolder, name);
    await access(path).then(
      () => files.push({ name, path }),
      () => missing.push(name),
    );
  }
  return { files, missing };
}

/** Rows of a table, a line of JSON each: a list in the order of the columns. Nothing is held but what is under way. */
async function* linesOf(connection: Connection, table: string, columns: readonly string[], counted: (rows: number) => void) {
  const sql = `SELECT ${columns.map(quoted).join(', ')} FROM ${quoted(table)}`;
  const rows = (connection as unknown as { connection: { query: (o: object) => { stream: () => Readable } } }).connection
    .query({ sql, rowsAsArray: true })
    .stream();
  let count = 0;
  for await (const row of rows) {
    count += 1;
    // Two letters that JSON leaves as they are, and that end a line for who reads by lines.
    yield `${JSON.stringify(row).replace(/[\u2028\u2029]/g, (letter) => (letter === '\u2028' ? '\\u2028' : '\\u2029'))}\n`;
  }
  counted(count);
}

export type Written = { tables: number; rows: number; files: number; missing: string[]; bytes: number };

/**
 * Writes a backup of a database and of the files that it names, as a ZIP, however much is written meanwhile: all rows are of one moment,
 * and files are never changed. Until it is whole it stands under another name. Throws where another backup is being written.
 */
export async function writeBackup({ url, dataFolder, to }: { url: string; dataFolder: string; to: string }): Promise<Written> {
  await mkdir(dirname(to), { recursive: true, mode: 0o700 });
  const fresh = `${to}.new`;
  try {
    const written = await streamBackup({ url, dataFolder }, async (stream) => {
      await pipeline(stream, createWriteStream(fresh, { mode: 0o600 }));
      const handle = await open(fresh, 'r+');
      try {
        await handle.sync();
        return (await handle.stat()).size;
      } finally {
        await handle.close();
      }
    });
    await rename(fresh, to);
    return written;
  } catch (fault) {
    await rm(fresh, { force: true });
    throw fault;
  }
}

/** {@link writeBackup} into whatever takes the stream and says how many bytes it had. */
export async function streamBackup(
  { url, dataFolder }: { url: string; dataFolder: string },
  take: (stream: Readable) => Promise<number>,
): Promise<Written> {
  const { database, ...server } = placeOf(url);
  const connection = await createConnection({
    ...server,
    ...{ database, charset: 'utf8mb4', timezone: 'Z', supportBigNumbers: true, bigNumberStrings: true, dateStrings: true },
  });
  try {
    const [[lock]] = (await connection.query('SELECT GET_LOCK(?, 0) AS got', [BACKUP_LOCK])) as unknown as [
      [{ got: number | string }],
    ];
    if (Number(lock.got) !== 1) throw new Error('Another backup is being written. Wait until it is done.');
    await connection.query('SET TRANSACTION ISOLATION LEVEL REPEATABLE READ');
    await connection.query('START TRANSACTION WITH CONSISTENT SNAPSHOT');
    const tables = await storedColumns(connection, database);
    const [made] = await connection.query('SELECT name FROM migrations ORDER BY id');
    const { files, missing } = await filesOf(connection, tables, dataFolder);
    const manifest: BackupManifest = {
      ...{ format: 'viaticum-backup', version: 1, madeAt: new Date().toISOString(), missing },
      migrations: (made as { name: string }[]).map(({ name }) => name),
      tables: {},
    };
    const zip = new yazl.ZipFile();
    // Each is opened when the one before it is written: a table at a time, on the one connection that sees this moment.
    for (const [table, columns] of tables)
      zip.addReadStreamLazy(`tables/${table}.jsonl`, { compressionLevel: 5 }, (ready) => {
        const lines = linesOf(connection, table, columns, (rows) => {
          manifest.tables[table] = { columns, rows };
        });
        ready(null, Readable.from(lines, { objectMode: false }));
      });
    for (const { name, path } of files) zip.addFile(path, name, { compress: false });
    zip.addReadStreamLazy('viaticum-backup.json', (ready) => ready(null, Readable.from([JSON.stringify(manifest, null, 2)])));
    zip.end();
    const stream = zip.outputStream as unknown as Readable;
    zip.on('error', (fault: Error) => stream.destroy(fault));
    const bytes = await take(stream);
    // Which migrations there were is no row of anybody's.
    const rows = Object.entries(manifest.tables).reduce((sum, [table, one]) => sum + (table === 'migrations' ? 0 : one.rows), 0);
    return { tables: tables.size, rows, files: files.length, missing, bytes };
  } finally {
    // Its lock and its moment go with it.
    connection.destroy();
  }
}
