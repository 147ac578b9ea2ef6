// Makes everything ready (Debian packages, npm packages, build), then runs a tool that needs the build: node tools/ready.mjs FILE …
import { spawnSync } from 'node:child_process';
import { build, debian, npmPackages, phase, root, run } from './setup.mjs';

run(async () => {
  await phase('Debian packages', () => debian({ mariadbd: 'mariadb-server', chromium: 'chromium' }));
  await phase('npm packages', npmPackages);
  await phase('build', build);
  process.exit(spawnSync(process.execPath, process.argv.slice(2), { cwd: root, stdio: 'inherit' }).status ?? 1);
});
