// npm run dev: the server from its sources, started again on every change, and Vite's development server in front of it.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { build, database, debian, npmPackages, phase, root, run } from './setup.mjs';

run(async () => {
  await phase('Debian packages', () => debian({ mariadbd: 'mariadb-server' }));
  await phase('npm packages', npmPackages);
  await phase('build', build);
  let own;
  await phase('database', async () => {
    own = await database(join(root, '.viaticum'));
  });
  const port = process.env.VIATICUM_PORT || '4870';
  const env = {
    ...process.env,
    VIATICUM_PORT: port,
    VIATICUM_PUBLIC_URL: 'http://localhost:5173',
    VIATICUM_DATA: join(root, '.viaticum'),
    VIATICUM_DATABASE_URL: own.url('viaticum'),
  };
  const start = (...words) => spawn(process.execPath, words, { cwd: root, env, stdio: 'inherit' });
  const children = [
    start('node_modules/typescript/bin/tsc', '-b', '--watch', '--preserveWatchOutput', 'packages/server'),
    start('--watch', 'packages/server/dist/main.js'),
    start('node_modules/vite/bin/vite.js', 'packages/web'),
  ];
  const stop = async () => {
    for (const child of children) child.kill('SIGTERM');
    await own.stop();
    process.exit(0);
  };
  process.on('SIGINT', stop);
  process.on('SIGTERM', stop);
});
