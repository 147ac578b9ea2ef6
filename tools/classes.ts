// Plays the scripted classes of a file through the product's own commands and fold, and holds what they expect against what comes out; or
// simulated classes of fourteen people, and says how well their screens would know them:
//   npm run classes -- FILE [case …]
//   npm run classes -- --simulated 20 [--lesson FILE]
import { readFileSync } from 'node:fs';
import { upgradeLesson } from '@viaticum/core/document';
import { type ClassCases, demoLesson, judgeClass, shownOf, simulatedClass } from '@viaticum/core/fixtures';
import { planLesson } from '@viaticum/core/plan';

const words = process.argv.slice(2);
const simulated = words.indexOf('--simulated');
const lesson = words.indexOf('--lesson');
const [file, ...only] = words.filter((one) => !one.startsWith('-'));

function simulate(count: number): void {
  const own = words[lesson + 1] ?? '';
  const { plan } = planLesson(lesson < 0 ? demoLesson() : upgradeLesson(JSON.parse(readFileSync(own, 'utf8'))));
  const found = shownOf(Array.from({ length: count }, (_, k) => simulatedClass(plan, 1000 + 77 * k)));
  const row = (what: string, value: string, goal: string) => console.log(`${what.padEnd(46)} ${value.padStart(16)}   ${goal}`);
  console.log(`${count} classes of fourteen on ${lesson < 0 ? 'the demo lesson' : own}, ${plan.items.length} items`);
  row('step now right', `${(100 * found.stepRight).toFixed(1)} %`, '≥ 92 %');
  row('lateness off by, on average', `${found.lateOffMin.toFixed(2)} min`, '≤ 0.5 min');
  row('stuck students found', `${found.stuckFound} of ${found.stuck}`, '≥ 95 %');
  row('shown as in need who are not, a class hour', `${found.wronglyMinAnHour.toFixed(1)} min`, '≤ 20 min');
  row('a look, middle and 95 %', `${found.costP50.toFixed(3)} and ${found.costP95.toFixed(3)} ms`, '≤ 0.15 ms');
}

function judge(path: string): void {
  const all = JSON.parse(readFileSync(path, 'utf8')) as ClassCases;
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
}

if (simulated >= 0) simulate(Number(words[simulated + 1]) || 20);
else if (file) judge(file);
else {
  console.error('Name a file of scripted classes: npm run classes -- FILE, or npm run classes -- --simulated 20');
  process.exitCode = 1;
}
