import type { Connection } from 'mysql2/promise';

/** A name as it stands in a statement. */
export const quoted = (name: string): string => `\`${name.replaceAll('`', '``')}\``;

export const createSchema = (connection: Connection, name: string): Promise<unknown> =>
  connection.query(`CREATE DATABASE IF NOT EXISTS ${quoted(name)} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`);
export const dropSchema = (connection: Connection, name: string): Promise<unknown> =>
  connection.query(`DROP DATABASE IF EXISTS ${quoted(name)}`);

/** Columns of every table of a schema that are stored, not computed. */
export async function storedColumns(connection: Connection, schema: string): Promise<Map<string, string[]>> {
  const [rows] = await connection.query(
    `SELECT table_name AS name, column_name AS col FROM information_schema.columns
     WHERE table_schema = ? AND extra NOT LIKE '%GENERATED%' ORDER BY table_name, ordinal_position`,
    [schema],
  );
  const tables = new Map<string, string[]>();
  for (const { name, col } of rows as { name: string; col: string }[]) tables.set(name, [...(tables.get(name) ?? []), col]);
  return tables;
}
