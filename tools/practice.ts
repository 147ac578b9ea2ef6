// Drafts and plans the cases of a file and holds what they expect against what comes out:
//   npm run practice -- FILE [case …]
import { readFileSync } from 'node:fs';
import { judgePractice, type PracticeCase } from '@viaticum/core/fixtures';

const [file = new URL('../packages/core/src/fixtures/practice-cases.json', import.meta.url), ...only] = process.argv
  .slice(2)
  .filter((one) => !one.startsWith('-'));
const isLong = process.argv.includes('--steps');
const { cases } = JSON.parse(readFileSync(file, 'utf8')) as { cases: PracticeCase[] };
let [held, missed] = [0, 0];
for (const one of cases) {
  if (only.length > 0 && !only.includes(one.id)) continue;
  const judged = judgePractice(one);
  console.log(`\n${judged.id}  ${judged.title}`);
  for (const { what, value, held: holds } of judged.held) {
    console.log(`  ${holds ? 'held  ' : 'MISSED'}  ${what}: ${value}`);
    if (holds) held++;
    else missed++;
  }
  if (isLong && judged.plan && judged.lesson)
    for (const item of judged.plan.plan.items) {
      const step = judged.lesson.steps.find((entry) => entry.id === item.stepId);
      console.log(
        `     ${item.startMin.toFixed(1).padStart(6)} ${(item.endMin - item.startMin).toFixed(1).padStart(5)}  ${item.kind === 'step' ? `${item.title} (${step?.technique ?? step?.kind}${step?.load ? `, ${step.load}` : ''})` : `— ${item.title}: ${item.reason ?? ''}`}`,
      );
    }
}
console.log(`\n${held} held, ${missed} missed`);
if (missed > 0) process.exitCode = 1;
