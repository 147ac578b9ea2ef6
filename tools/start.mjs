// npm start: all set-up on a fresh machine, then the server. What it started is watched and started again; Ctrl-C ends it all.
import { existsSync, mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { certificateIn } from './certificate.mjs';
import { dataFolder, runsOn } from './instance.mjs';
import { build, database, debian, Halt, launch, npmPackages, phase, run, serve } from './setup.mjs';

/** So many ends within a minute are a loop: it is of no use to go on. */
const MOST_ENDS = 5;
const MINUTE = 60_000;
const PAUSE = 100;
/** When the server has settled, the next one is made ready. */
const SPARE_AFTER = 2000;
const wait = (ms) => new Promise((done) => setTimeout(done, ms));

/** Starts something again whenever it ends, until it is told to stop; gives up with the reason where that does not help. */
function watched(name, start, giveUp) {
  const ends = [];
  let stopping = false;
  const again = async (why) => {
    for (let words = why; !stopping; ) {
      const now = Date.now();
      ends.push(now);
      if (ends.filter((at) => now - at < MINUTE).length > MOST_ENDS)
        return giveUp(`${name} ended ${MOST_ENDS + 1} times within a minute. The last time:\n${words}`);
      console.error(
        `${new Date(now).toISOString().slice(11, 19)} ${name} ended and is started again. ${words.split('\n').at(-1)}`,
      );
      await wait(PAUSE);
      try {
        if (!stopping) watch(await start());
        return;
      } catch (error) {
        words = error.message;
      }
    }
  };
  const watch = ({ ended }) => void ended.then((why) => !stopping && again(why));
  return {
    watch,
    stop() {
      stopping = true;
    },
  };
}

/** The certificate that was made for this machine's addresses, where it is opened to others and names no other. */
function certificateFor(data) {
  const { cert, key } = certificateIn(data);
  const isOnlyHere = /^(127\.|localhost$|::1$|$)/.test(process.env.VIATICUM_HOST ?? '');
  if (isOnlyHere || process.env.VIATICUM_TLS_CERT || !existsSync(cert)) return {};
  return { VIATICUM_TLS_CERT: cert, VIATICUM_TLS_KEY: key };
}

run(async () => {
  const data = dataFolder();
  const outside = process.env.VIATICUM_DATABASE_URL;
  mkdirSync(data, { recursive: true });
  const mark = join(data, 'running.json');
  const other = runsOn(data);
  if (other)
    throw new Halt(
      `Viaticum already runs on this data (process ${other}). Stop it first, or give another folder in VIATICUM_DATA.`,
    );
  let own = null;
  let server = null;
  let spare = null;
  const noted = () => {
    try {
      writeFileSync(mark, JSON.stringify({ pid: process.pid, server: server?.pid, database: own?.pid }));
    } catch (error) {
      if (error.code !== 'ENOSPC') throw error;
    }
  };
  noted();
  console.log('Viaticum');
  let stopping = null;
  const stop = (code) => {
    stopping ??= (async () => {
      for (const one of watching) one.stop();
      if (server && server.exitCode === null && server.signalCode === null) {
        const gone = new Promise((done) => server.once('exit', done));
        server.kill('SIGTERM');
        await gone;
      }
      spare?.kill('SIGTERM');
      await own?.stop();
      rmSync(mark, { force: true });
      process.exit(code);
    })();
    return stopping;
  };
  const giveUp = (why) => {
    console.error(`\n${why}\nViaticum stops. Its log is in ${join(data, 'logs')}.`);
    return stop(1);
  };
  const startDatabase = async () => {
    own = await database(data, { schema: 'viaticum' });
    noted();
    return own;
  };
  const startServer = async () => {
    const env = { VIATICUM_DATA: data, VIATICUM_DATABASE_URL: outside ?? own.url('viaticum'), ...certificateFor(data) };
    const ready = spare?.exitCode === null && spare.signalCode === null ? spare : undefined;
    spare = null;
    const started = await serve(env, ready);
    server = started.child;
    noted();
    setTimeout(() => {
      if (!stopping) spare = launch(env, { isSpare: true });
    }, SPARE_AFTER);
    return started;
  };
  const databases = watched('The database', startDatabase, giveUp);
  const servers = watched('The server', startServer, giveUp);
  const watching = [databases, servers];
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => stop(0));
  try {
    if (!outside) await phase('Debian packages', () => debian({ mariadbd: 'mariadb-server' }));
    await phase('npm packages', npmPackages);
    await phase('build', build);
    if (!outside)
      await phase('database', async () => {
        databases.watch(await startDatabase());
      });
    let line = '';
    await phase('migrations, demo data, server', async () => {
      const started = await startServer();
      line = started.line;
      servers.watch(started);
    });
    console.log(`\n${line}\nCtrl-C stops it.`);
  } catch (error) {
    console.error(`\n${error instanceof Halt ? error.message : error.stack}`);
    await stop(1);
  }
});
