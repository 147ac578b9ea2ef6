// npm run migrations: tries the migrations that are still to come on a copy of the database, which stays as it is.
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { build, database, debian, Halt, lives, npmPackages, phase, root, run } from './setup.mjs';

run(async () => {
  const data = resolve(process.env.VIATICUM_DATA || join(root, '.viaticum'));
  const outside = process.env.VIATICUM_DATABASE_URL;
  if (!outside && !existsSync(data)) throw new Halt(`There is no data in ${data} yet: nothing is to be migrated.`);
  const mark = join(data, 'running.json');
  if (!outside && existsSync(mark)) {
    const { pid } = JSON.parse(readFileSync(mark, 'utf8') || '{}');
    if (lives(pid, 'tools/start.mjs')) throw new Halt(`Viaticum runs on this data (process ${pid}). Stop it first.`);
  }
  if (!outside) await phase('Debian packages', () => debian({ mariadbd: 'mariadb-server' }));
  await phase('npm packages', npmPackages);
  await phase('build', build);
  const own = outside ? null : await database(data, { schema: 'viaticum%' });
  const url = outside ?? own.url('viaticum');
  const { status } = spawnSync(process.execPath, ['packages/server/dist/dry-run.js'], {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, VIATICUM_DATABASE_URL: url },
  });
  await own?.stop();
  process.exit(status ?? 1);
});
