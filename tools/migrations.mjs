// npm run migrations: tries the migrations that are still to come on a copy of the database, which stays as it is.
import { spawnSync } from 'node:child_process';
import { instance } from './instance.mjs';
import { build, npmPackages, phase, root, run } from './setup.mjs';

run(async () => {
  await phase('npm packages', npmPackages);
  await phase('build', build);
  const { url, stop } = await instance({ schema: 'viaticum%' });
  const { status } = spawnSync(process.execPath, ['packages/server/dist/dry-run.js'], {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, VIATICUM_DATABASE_URL: url },
  });
  await stop();
  process.exit(status ?? 1);
});
