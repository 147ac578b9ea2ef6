// npm run backup -- FILE: the whole of this Viaticum in one file, also while it runs. npm run restore -- FILE: that again, in an empty one.
import { spawnSync } from 'node:child_process';
import { resolve } from 'node:path';
import { instance } from './instance.mjs';
import { build, Halt, npmPackages, phase, root, run } from './setup.mjs';

run(async () => {
  const [what, file] = process.argv.slice(2);
  if (!file || !['backup', 'restore'].includes(what)) throw new Halt(`Say which file: npm run ${what ?? 'backup'} -- FILE`);
  await phase('npm packages', npmPackages);
  await phase('build', build);
  const restores = what === 'restore';
  const { data, url, stop } = await instance({
    ...{ whileRunning: !restores, isNew: restores },
    ...(restores ? { schema: 'viaticum%' } : {}),
  });
  const { status } = spawnSync(
    process.execPath,
    ['packages/server/dist/backup/cli.js', what, resolve(process.env.INIT_CWD || '.', file)],
    {
      cwd: root,
      stdio: 'inherit',
      env: { ...process.env, VIATICUM_DATABASE_URL: url, VIATICUM_DATA: data },
    },
  );
  await stop();
  process.exit(status ?? 1);
});
