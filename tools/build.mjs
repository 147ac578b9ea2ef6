// Compiles the packages, writes the browser's validators, builds the web application.
import { spawnSync } from 'node:child_process';
import { root } from './setup.mjs';

const steps = [
  [
    'node_modules/typescript/bin/tsc',
    '-b',
    'packages/contract',
    'packages/kernels',
    'packages/core',
    'packages/standins',
    'packages/print',
    'packages/server',
  ],
  ['tools/validators.mjs'],
  ['node_modules/typescript/bin/tsc', '-b', 'packages/web'],
  ['node_modules/vite/bin/vite.js', 'build', 'packages/web', '--logLevel', 'warn'],
];
for (const step of steps) {
  const { status } = spawnSync(process.execPath, step, { cwd: root, stdio: 'inherit' });
  if (status !== 0) process.exit(status ?? 1);
}
