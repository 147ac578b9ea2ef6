import type { ObjectLiteral, SelectQueryBuilder } from 'typeorm';

/**
 * The newest of a table by a column of time, at most so many; with `before` those that stand behind the row of that id. One query, steady
 * where several have one time. `query` selects from `table` under its own name.
 */
export function newest<T extends ObjectLiteral>(
  query: SelectQueryBuilder<T>,
  {
    table,
    property,
    column,
    most,
    before,
  }: { table: string; property: string; column: string; most: number; before?: string | undefined },
): Promise<T[]> {
  query.orderBy(`${table}.${property}`, 'DESC').addOrderBy(`${table}.id`, 'DESC').limit(most);
  if (before)
    query.andWhere(
      `(${table}.${column}, ${table}.id) < (SELECT one.${column}, one.id FROM ${table} AS one WHERE one.id = :before)`,
      {
        before,
      },
    );
  return query.getMany();
}
