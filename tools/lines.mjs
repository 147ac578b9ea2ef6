// npm run lines: lines of code and the share of tests among them.
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { git, root } from './setup.mjs';

const isTest = (file) => /\.(test|fixture)\.tsx?$/.test(file) || /\/fixtures\/|\.fixture\./.test(file) || file.startsWith('e2e/');
const isData = (file) => file.endsWith('pigment/data.ts') || file.endsWith('colour/weights.ts');
const rows = new Map();
for (const file of git('ls-files', '-z', '--cached', '--others', '--exclude-standard').split('\0')) {
  if (!/\.(ts|tsx|mjs|css)$/.test(file) || isData(file)) continue;
  const lines = readFileSync(join(root, file), 'utf8')
    .split('\n')
    .filter((line) => line.trim()).length;
  const place = file.startsWith('packages/') ? file.split('/')[1] : file.split('/').length > 1 ? file.split('/')[0] : 'root';
  const row = rows.get(place) ?? { code: 0, tests: 0 };
  row[isTest(file) ? 'tests' : 'code'] += lines;
  rows.set(place, row);
}
let [code, tests] = [0, 0];
for (const [place, row] of [...rows].sort()) {
  console.log(`${place.padEnd(12)} ${String(row.code).padStart(6)} code ${String(row.tests).padStart(6)} tests`);
  code += row.code;
  tests += row.tests;
}
console.log(
  `${'all'.padEnd(12)} ${String(code).padStart(6)} code ${String(tests).padStart(6)} tests: ${Math.round((100 * tests) / (code + tests))} % of all lines are tests`,
);
