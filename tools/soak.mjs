// npm run soak: what npm test does in small, at its full size: plans and drafts at random, every browser test, two hundred phones, crashes and load.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { database, debian, root } from './setup.mjs';

const folder = mkdtempSync(join(tmpdir(), 'viaticum-soak-'));
await debian({ mariadbd: 'mariadb-server', chromium: 'chromium', 'redis-server': 'redis-server' });
const own = await database(folder);
const node = (words, env = {}) =>
  spawnSync(process.execPath, words, { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } }).status === 0;
const jest = ['--experimental-vm-modules', '--no-warnings', 'node_modules/jest/bin/jest.js'];
const parts = [
  'core/src/plan',
  'kernels/src/scheduling',
  'core/src/document/sound',
  'core/src/draft',
  'core/src/lesson-from-picture',
  'core/src/transfer/compare',
  'server/src/classes/equal',
  'server/src/lessons/save',
].map((name) => `packages/${name}`);
const held = [
  node([...jest, ...parts], { VIATICUM_SOAK: '10', VIATICUM_TEST_DATABASE: own.url('NAME') }),
  node(['node_modules/@playwright/test/cli.js', 'test'], { VIATICUM_SOAK: '1', VIATICUM_TEST_DATABASE: own.url('NAME') }),
  node(['tools/crash.mjs', '--strict']),
  node(['tools/fuzz.mjs', '--strict']),
  node(['tools/big-film.mjs']),
  node(['tools/big-backup.mjs']),
  node(['tools/bench-class.mjs']),
];
await own.stop();
rmSync(folder, { recursive: true, force: true });
console.log(`soak: ${held.filter(Boolean).length} of ${held.length} held`);
process.exit(held.every(Boolean) ? 0 : 1);
