// Plays the scripted classes of a file through the product's own commands and fold, and holds what they expect against what comes out:
//   npm run classes -- FILE [case …]
import { readFileSync } from 'node:fs';
import { type ClassCases, judgeClass } from '@viaticum/core/fixtures';

const [file, ...only] = process.argv.slice(2).filter((one) => !one.startsWith('-'));
if (!file) {
  console.error('Name a file of scripted classes: npm run classes -- FILE');
  process.exit(1);
}
const all = JSON.parse(readFileSync(file, 'utf8')) as ClassCases;
const count = { held: 0, missed: 0, open: 0 };
for (const one of all.cases) {
  if (only.length > 0 && !only.includes(one.id)) continue;
  console.log(`\n${one.id}  ${one.title}`);
  for (const { what, value, held } of judgeClass(all, one)) {
    console.log(`  ${held === null ? 'open  ' : held ? 'held  ' : 'MISSED'}  ${what}: ${value}`);
    count[held === null ? 'open' : held ? 'held' : 'missed']++;
  }
}
console.log(`\n${count.held} held, ${count.missed} missed, ${count.open} not played yet`);
if (count.missed > 0) process.exitCode = 1;
