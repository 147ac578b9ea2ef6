// npm test: set-up, lint, types, Jest and the browser tests against a throwaway database. Ends with one line of counts.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { grouped } from './grouped.mjs';
import { lint, lints } from './lint.mjs';
import { build, database, debian, npmPackages, phase, root, run } from './setup.mjs';

const node = (words, env = {}) =>
  spawnSync(process.execPath, words, { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } }).status === 0;

/** A program beside others; what it says is printed when it has ended. */
const beside = (words) =>
  new Promise((done) => {
    const child = spawn(process.execPath, words, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
    let said = '';
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (text) => {
        said += text;
      });
    child.on('exit', (code) => {
      process.stdout.write(said);
      done(code === 0);
    });
  });

run(async () => {
  const folder = mkdtempSync(join(tmpdir(), 'viaticum-test-'));
  const counts = { passed: 0, failed: 0 };
  let own = null;
  const end = async (code) => {
    await own?.stop();
    rmSync(folder, { recursive: true, force: true });
    process.exit(code);
  };
  process.on('SIGINT', () => end(130));
  process.on('SIGTERM', () => end(143));
  await phase('Debian packages', () =>
    debian({ mariadbd: 'mariadb-server', chromium: 'chromium', 'redis-server': 'redis-server' }),
  );
  await phase('npm packages', npmPackages);
  await phase('build', build);
  await phase('database', async () => {
    own = await database(folder);
  });
  const env = { VIATICUM_TEST_DATABASE: own.url('NAME') };
  const step = (name, ok) => {
    console.log(`${ok ? '  ✓' : '  ✗'} ${name}`);
    counts[ok ? 'passed' : 'failed'] += 1;
  };
  console.log('\nlint and types');
  const looked = Object.keys(lints).map(async (name) => [name, await lint(name)]);
  const typed = ['-b', '-p tsconfig.tests.json', '-p packages/kernels/tsconfig.tests.json'].map((words) =>
    beside(['node_modules/typescript/bin/tsc', ...words.split(' ')]),
  );
  for (const [name, ok] of await Promise.all(looked)) step(name, ok);
  step('types', (await Promise.all(typed)).every(Boolean));

  console.log('\nunit and server tests');
  const jestFile = join(folder, 'jest.json');
  const suites = grouped();
  const jest = node(
    [
      '--experimental-vm-modules',
      '--no-warnings',
      'node_modules/jest/bin/jest.js',
      '--json',
      `--outputFile=${jestFile}`,
      '--runTestsByPath',
      ...suites.files,
    ],
    env,
  );
  suites.done();
  if (existsSync(jestFile)) {
    const result = JSON.parse(readFileSync(jestFile, 'utf8'));
    counts.passed += result.numPassedTests;
    counts.failed += result.numFailedTests + result.numRuntimeErrorTestSuites;
    if (!jest && result.numFailedTests + result.numRuntimeErrorTestSuites === 0) counts.failed += 1;
  } else counts.failed += 1;

  console.log('\na class under crashes, load and nonsense, in small');
  // Beside each other: they wait more than they work.
  const [crash, load, fuzz] = await Promise.all([
    beside(['tools/crash.mjs', '--kills', '2', '--databases', '1', '--full', '1', '--phones', '8']),
    beside(['tools/bench-class.mjs', '--small']),
    beside(['tools/fuzz.mjs', '--requests', '400', '--frames', '300', '--bodies', '150', '--deaf', '3']),
  ]);
  step('crash run', crash);
  step('load run', load);
  step('fuzz run', fuzz);

  console.log('\nbrowser tests');
  const browserFile = join(root, 'test-results', 'browser.json');
  rmSync(browserFile, { force: true });
  const browser = node(['node_modules/@playwright/test/cli.js', 'test', ...process.argv.slice(2)], env);
  if (existsSync(browserFile)) {
    const { stats } = JSON.parse(readFileSync(browserFile, 'utf8'));
    counts.passed += stats.expected + stats.flaky;
    counts.failed += stats.unexpected;
    if (stats.flaky > 0) console.log(`\npassed only at the second try: ${stats.flaky} (marked flaky above)`);
    if (!browser && stats.unexpected === 0) counts.failed += 1;
  } else counts.failed += 1;

  console.log(`\ntests: ${counts.passed} passed, ${counts.failed} failed`);
  await end(counts.failed === 0 ? 0 : 1);
});
