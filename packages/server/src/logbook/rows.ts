import { logCsv, resultsCsv } from '@viaticum/core/log';
import type { EntityManager } from 'typeorm';
import type { ZipFile } from 'yazl';
import { ClassLogEntity } from '../db/entities.js';
import { slug } from '../package/names.js';
import { logIn } from './stored.js';

/** So many classes are held at once where all are read. */
const READ_AT_ONCE = 200;

/** Puts all that is logged for an instructor into a package: one table, and one of each class, which is read again where one is noted by hand. */
export async function putLog(zip: ZipFile, manager: EntityManager, ownerId: string): Promise<void> {
  const tables: string[] = [];
  for (let skip = 0; ; skip += READ_AT_ONCE) {
    const rows = await manager.find(ClassLogEntity, {
      where: { ownerId },
      order: { at: 'ASC', id: 'ASC' },
      skip,
      take: READ_AT_ONCE,
    });
    const logs = rows.map((row) => ({ id: row.id, log: logIn(row) })).filter(({ log }) => log.items.length > 0);
    for (const { id, log } of logs) {
      const name = `${log.at.slice(0, 10)}-${slug(log.title)}-${id.replace(/[^\w]/g, '_')}`;
      zip.addBuffer(Buffer.from(`\uFEFF${logCsv([log])}`), `log/classes/${name}.csv`);
      if (log.results?.length) zip.addBuffer(Buffer.from(`\uFEFF${resultsCsv(log)}`), `log/canvases/${name}.csv`);
    }
    if (logs.length > 0)
      tables.push(
        logCsv(
          logs.map(({ log }) => log),
          tables.length === 0,
        ),
      );
    if (rows.length < READ_AT_ONCE) break;
  }
  if (tables.length > 0) zip.addBuffer(Buffer.from(`\uFEFF${tables.join('')}`), 'log/log.csv');
}
