import { type Static, Type } from 'typebox';
import type { EntityManager } from 'typeorm';

/** Held while a backup is written: nothing is taken from the disk then. */
export const BACKUP_LOCK = 'viaticum-backup';

/** `viaticum-backup.json` in a backup: of which version its tables are, and how many rows each has. */
export const BackupManifest = Type.Object({
  format: Type.Literal('viaticum-backup'),
  version: Type.Literal(1),
  madeAt: Type.String(),
  migrations: Type.Array(Type.String(), { minItems: 1 }),
  tables: Type.Record(
    Type.String({ pattern: '^\\w+$' }),
    Type.Object({ columns: Type.Array(Type.String({ pattern: '^\\w+$' })), rows: Type.Integer({ minimum: 0 }) }),
  ),
  /** Files that rows name and that were not there any more. */
  missing: Type.Array(Type.String()),
});
export type BackupManifest = Static<typeof BackupManifest>;

/** Whether a backup is being written, here or by another process. */
export async function isBackingUp(manager: EntityManager): Promise<boolean> {
  const [row] = await manager.query<{ free: number | string | null }[]>('SELECT IS_FREE_LOCK(?) AS free', [BACKUP_LOCK]);
  return Number(row?.free) === 0;
}
