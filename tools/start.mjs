// npm start: all set-up on a fresh machine, then the server. Ctrl-C ends everything it started.
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { build, database, debian, Halt, lives, npmPackages, phase, root, run, serve } from './setup.mjs';

run(async () => {
  const data = resolve(process.env.VIATICUM_DATA || join(root, '.viaticum'));
  const outside = process.env.VIATICUM_DATABASE_URL;
  mkdirSync(data, { recursive: true });
  const mark = join(data, 'running.json');
  if (existsSync(mark)) {
    const { pid } = JSON.parse(readFileSync(mark, 'utf8') || '{}');
    if (pid !== process.pid && lives(pid, 'tools/start.mjs'))
      throw new Halt(
        `Viaticum already runs on this data (process ${pid}). Stop it first, or give another folder in VIATICUM_DATA.`,
      );
  }
  writeFileSync(mark, JSON.stringify({ pid: process.pid }));
  console.log('Viaticum');
  let own = null;
  let server = null;
  let stopping = null;
  const stop = (code) => {
    stopping ??= (async () => {
      if (server && server.exitCode === null && server.signalCode === null) {
        const gone = new Promise((done) => server.once('exit', done));
        server.kill('SIGTERM');
        await gone;
      }
      await own?.stop();
      rmSync(mark, { force: true });
      process.exit(code);
    })();
    return stopping;
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => stop(0));
  try {
    if (!outside) await phase('Debian packages', () => debian({ mariadbd: 'mariadb-server' }));
    await phase('npm packages', npmPackages);
    await phase('build', build);
    if (!outside) {
      await phase('database', async () => {
        own = await database(data);
      });
    }
    let line = '';
    await phase('migrations, demo data, server', async () => {
      const started = await serve({ VIATICUM_DATA: data, VIATICUM_DATABASE_URL: outside ?? own.url('viaticum') });
      server = started.child;
      server.answered = true;
      line = started.line;
    });
    server.once('exit', () => stop(1));
    console.log(`\n${line}\nCtrl-C stops it.`);
  } catch (error) {
    console.error(`\n${error instanceof Halt ? error.message : error.stack}`);
    await stop(1);
  }
});
