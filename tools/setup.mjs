// What start, test, dev and the rest have in common: phases, packages, build, database. No dependencies: it runs before any
// package is installed.
import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { connect, createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = fileURLToPath(new URL('..', import.meta.url)).replace(/\/$/, '');
process.env.PATH = `${process.env.PATH}:/usr/sbin:/sbin`;

/** A sentence for the person at the keyboard; printed without a stack. */
export class Halt extends Error {}

/** Runs one phase and prints its name and seconds. */
export async function phase(name, work) {
  const from = Date.now();
  process.stdout.write(`  ${name.padEnd(34, ' ')}`);
  const note = await work();
  process.stdout.write(`${((Date.now() - from) / 1000).toFixed(1).padStart(6)} s${note ? `  ${note}` : ''}\n`);
}

/** Runs a main function; a Halt is printed as its sentence alone. */
export function run(main) {
  main().catch((error) => {
    console.error(error instanceof Halt ? `\n${error.message}` : error);
    process.exit(1);
  });
}

export const has = (program) => (process.env.PATH ?? '').split(':').some((folder) => existsSync(join(folder, program)));

/** Debian packages by the program each brings; installed through apt when root or by sudo without a password. */
export async function debian(wanted) {
  const missing = Object.entries(wanted)
    .filter(([program]) => !has(program))
    .map(([, name]) => name);
  if (missing.length === 0) return 'present';
  const line = `apt-get update && apt-get install -y --no-install-recommends ${missing.join(' ')}`;
  const isRoot = process.getuid?.() === 0;
  const sudo = !isRoot && has('sudo') && spawnSync('sudo', ['-n', 'true']).status === 0;
  if (!has('apt-get') || (!isRoot && !sudo))
    throw new Halt(`Missing on this machine: ${missing.join(', ')}. Type this, then start again:\n  sudo sh -c "${line}"`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const done = spawnSync(isRoot ? 'sh' : 'sudo', isRoot ? ['-c', line] : ['-n', 'sh', '-c', line], { env, encoding: 'utf8' });
  if (done.status !== 0)
    throw new Halt(
      `Debian packages could not be installed: ${missing.join(', ')}.\n${done.stderr?.trim().split('\n').at(-1) ?? ''}\nType this, then start again:\n  ${line}`,
    );
  return `installed ${missing.join(', ')}`;
}

const stampFile = (name) => join(root, 'node_modules', '.cache', `viaticum-${name}`);
const stamped = (name) => (existsSync(stampFile(name)) ? readFileSync(stampFile(name), 'utf8') : '');
function stamp(name, value) {
  mkdirSync(join(root, 'node_modules', '.cache'), { recursive: true });
  writeFileSync(stampFile(name), value);
}

/** Files below a folder that git would track, for hashing. */
function* sources(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    if (['node_modules', 'dist', 'dist-types', 'generated'].includes(entry.name) || entry.name.endsWith('.tsbuildinfo')) continue;
    const path = join(folder, entry.name);
    if (entry.isDirectory()) yield* sources(path);
    else yield path;
  }
}

function hashOf(paths) {
  const hash = createHash('sha256');
  for (const path of paths) hash.update(path.slice(root.length)).update('\0').update(readFileSync(path));
  return hash.digest('hex');
}

/** npm packages, as the lock file names them; skipped when nothing changed. */
export async function npmPackages() {
  const wanted = hashOf([join(root, 'package-lock.json')]) + process.version;
  if (stamped('packages') === wanted && existsSync(join(root, 'node_modules', 'fastify'))) return 'unchanged';
  const done = spawnSync('npm', ['ci', '--include=dev', '--no-audit', '--no-fund'], { cwd: root, encoding: 'utf8' });
  if (done.status !== 0)
    throw new Halt(
      `npm packages could not be installed:\n${(done.stderr || done.stdout).trim().split('\n').slice(-4).join('\n')}`,
    );
  stamp('packages', wanted);
}

/** Compiles everything and builds the web application; skipped when nothing changed. */
export async function build() {
  const roots = ['packages', 'tsconfig.base.json', 'tsconfig.json', 'package-lock.json', 'tools/build.mjs'];
  const paths = roots.flatMap((name) =>
    statSync(join(root, name)).isDirectory() ? [...sources(join(root, name))] : [join(root, name)],
  );
  const wanted = hashOf(paths.filter((path) => !/\.(test|fixture)\.tsx?$/.test(path)).sort());
  if (
    stamped('build') === wanted &&
    existsSync(join(root, 'packages/server/dist/main.js')) &&
    existsSync(join(root, 'packages/web/dist/index.html'))
  )
    return 'unchanged';
  const done = spawnSync(process.execPath, [join(root, 'tools/build.mjs')], { cwd: root, encoding: 'utf8' });
  if (done.status !== 0)
    throw new Halt(`The build failed:\n${`${done.stdout}${done.stderr}`.trim().split('\n').slice(-30).join('\n')}`);
  stamp('build', wanted);
}

const wait = (ms) => new Promise((done) => setTimeout(done, ms));

/** Whether a process lives and is the program it is taken for. */
export function lives(pid, program) {
  try {
    process.kill(pid, 0);
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(program);
  } catch {
    return false;
  }
}

async function endProcess(pid, program) {
  if (!lives(pid, program)) return;
  process.kill(pid, 'SIGTERM');
  for (let i = 0; i < 100 && lives(pid, program); i++) await wait(100);
  if (lives(pid, program)) process.kill(pid, 'SIGKILL');
}

/**
 * Our own MariaDB in a data folder, reached by its socket only. An instance left over from a killed start is ended first.
 * Gives its address for a database name, and how to stop it.
 */
export async function database(dataFolder) {
  const data = resolve(dataFolder);
  mkdirSync(data, { recursive: true });
  const folder = join(data, 'db');
  const near = join(data, 'db.sock');
  const socket =
    near.length < 100 ? near : join(tmpdir(), `viaticum-${createHash('sha256').update(data).digest('hex').slice(0, 12)}.sock`);
  const pidFile = join(data, 'db.pid');
  const user = process.getuid?.() === 0 ? ['--user=root'] : [];
  if (existsSync(pidFile)) await endProcess(Number(readFileSync(pidFile, 'utf8')), folder);
  if (!existsSync(join(folder, 'mysql'))) {
    rmSync(folder, { recursive: true, force: true });
    const done = spawnSync(
      'mariadb-install-db',
      ['--no-defaults', ...user, `--datadir=${folder}`, '--auth-root-authentication-method=normal', '--skip-test-db'],
      { encoding: 'utf8' },
    );
    if (done.status !== 0)
      throw new Halt(
        `MariaDB could not set up its data in ${folder}: ${(done.stderr || done.error?.message || '').trim().split('\n').at(-1)}`,
      );
  }
  let said = '';
  const server = spawn(
    'mariadbd',
    [
      '--no-defaults',
      ...user,
      `--datadir=${folder}`,
      `--socket=${socket}`,
      `--pid-file=${pidFile}`,
      '--skip-networking',
      '--skip-log-bin',
      '--character-set-server=utf8mb4',
      '--collation-server=utf8mb4_unicode_ci',
      '--max-allowed-packet=64M',
      '--innodb-buffer-pool-size=128M',
      '--innodb-flush-log-at-trx-commit=1',
      '--default-time-zone=+00:00',
    ],
    { detached: true, stdio: ['ignore', 'ignore', 'pipe'] },
  );
  server.stderr.on('data', (text) => {
    said = (said + text).slice(-4000);
  });
  let ended = false;
  server.on('exit', () => {
    ended = true;
  });
  server.on('error', (error) => {
    said = error.message;
    ended = true;
  });
  for (let i = 0; ; i++) {
    if (await answers(socket)) break;
    if (ended || i > 300) {
      const reason =
        said
          .split('\n')
          .filter((line) => /ERROR/.test(line))
          .at(-1) ?? said.trim().split('\n').at(-1);
      throw new Halt(`MariaDB did not start: ${reason ?? 'no answer for 30 seconds'}. Its data are in ${folder}.`);
    }
    await wait(100);
  }
  return {
    url: (name) => `mariadb://root@localhost/${name}?socket=${encodeURIComponent(socket)}`,
    pid: server.pid,
    stop: () => endProcess(server.pid, folder),
  };
}

function answers(socket) {
  return new Promise((done) => {
    const probe = connect(socket, () => {
      probe.destroy();
      done(true);
    });
    probe.on('error', () => done(false));
  });
}

/** A port that nobody listens on. */
export function freePort() {
  return new Promise((done) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address();
      server.close(() => done(port));
    });
  });
}

/** Starts the server and resolves when it answers; rejects with the sentence it printed where it does not. */
export function serve(env) {
  const child = spawn(process.execPath, [join(root, 'packages/server/dist/main.js')], {
    cwd: root,
    env: { ...process.env, ...env },
    stdio: ['ignore', 'pipe', 'pipe', 'ipc'],
  });
  return new Promise((done, fail) => {
    let said = '';
    child.stdout.on('data', (text) => {
      const line = String(text);
      if (line.includes('Viaticum is at')) done({ child, line: line.trim() });
    });
    child.stderr.on('data', (text) => {
      said += text;
      process.stderr.write(child.answered ? text : '');
    });
    child.on('exit', () => fail(new Halt(said.trim() || 'The server ended without a word.')));
  });
}

export const git = (...words) => execFileSync('git', words, { cwd: root, encoding: 'utf8' });
