// A Viaticum's data and database, for what is done to them from outside: running or not, on this machine or elsewhere.
import { existsSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { database, debian, Halt, lives, phase, root, runningDatabase } from './setup.mjs';

export const dataFolder = () => resolve(process.env.VIATICUM_DATA || join(root, '.viaticum'));

/** The process that runs Viaticum on a data folder; null where none does. */
export function runsOn(data) {
  const mark = join(data, 'running.json');
  if (!existsSync(mark)) return null;
  const { pid } = JSON.parse(readFileSync(mark, 'utf8') || '{}');
  return pid !== process.pid && lives(pid, 'tools/start.mjs') ? pid : null;
}

/**
 * The database of this Viaticum: one elsewhere, ours that runs, or ours started for this. `schema` is what the account may use, `isNew`
 * that there may be no data yet, `whileRunning` that it is no hindrance that Viaticum runs. Gives its address and how it is let go.
 */
export async function instance({ schema = 'viaticum', isNew = false, whileRunning = false } = {}) {
  const data = dataFolder();
  const outside = process.env.VIATICUM_DATABASE_URL;
  if (outside) return { data, url: outside, stop: async () => {} };
  if (!isNew && !existsSync(join(data, 'db-password'))) throw new Halt(`There is no Viaticum in ${data} yet.`);
  const pid = runsOn(data);
  if (pid && !whileRunning) throw new Halt(`Viaticum runs on this data (process ${pid}). Stop it first.`);
  if (pid) return { data, url: runningDatabase(data, 'viaticum'), stop: async () => {} };
  await phase('Debian packages', () => debian({ mariadbd: 'mariadb-server' }));
  const own = await database(data, { schema });
  return { data, url: own.url('viaticum'), stop: own.stop };
}
