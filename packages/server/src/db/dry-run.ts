import { type Connection, createConnection } from 'mysql2/promise';
import { createSchema, dropSchema, quoted, storedColumns } from './schemas.js';
import { type Place, placeOf, sourceAt } from './source.js';

export type DryRun = { pending: string[]; rows: number; seconds: number };

type Row = Record<string, string>;

/** Copies all tables of a database with their rows into another; columns that are computed compute themselves. Gives the count of rows. */
async function copy(connection: Connection, from: string, to: string): Promise<number> {
  const rows = async (sql: string, values: unknown[] = []) => (await connection.query(sql, values))[0] as unknown as Row[];
  const tables = await rows(
    "SELECT table_name AS name FROM information_schema.tables WHERE table_schema = ? AND table_type = 'BASE TABLE'",
    [from],
  );
  const columns = await storedColumns(connection, from);
  await connection.query('SET foreign_key_checks = 0');
  await connection.query(`USE ${quoted(to)}`);
  let copied = 0;
  for (const { name = '' } of tables) {
    const [made] = await rows(`SHOW CREATE TABLE ${quoted(from)}.${quoted(name)}`);
    await connection.query(String(made?.['Create Table']));
    const list = (columns.get(String(name)) ?? []).map(quoted).join(', ');
    const [done] = await connection.query(
      `INSERT INTO ${quoted(name)} (${list}) SELECT ${list} FROM ${quoted(from)}.${quoted(name)}`,
    );
    copied += (done as { affectedRows: number }).affectedRows;
  }
  await connection.query('SET foreign_key_checks = 1');
  return copied;
}

/**
 * Tries the migrations that are still to come on a copy of the database, which is thrown away afterwards; the database itself is only
 * read. Throws what a migration throws. It needs as much room as the database has once more.
 */
export async function dryRun(url: string): Promise<DryRun> {
  const place: Place = placeOf(url);
  const { database, ...server } = place;
  const trial = `${database}_dry_run`;
  const began = Date.now();
  const connection = await createConnection(server);
  try {
    await dropSchema(connection, trial);
    await createSchema(connection, trial);
    const rows = await copy(connection, database, trial);
    const source = sourceAt({ ...place, database: trial });
    await source.initialize();
    try {
      const done = await source.runMigrations();
      return { pending: done.map(({ name }) => name), rows, seconds: (Date.now() - began) / 1000 };
    } finally {
      await source.destroy();
    }
  } finally {
    await dropSchema(connection, trial).catch(() => undefined);
    await connection.end();
  }
}
