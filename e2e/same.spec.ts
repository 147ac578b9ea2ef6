import { readFile } from 'node:fs/promises';
import { resolve } from 'node:path';
import * as here from '@viaticum/kernels/student';
import { expect, test } from './fixtures.js';

const FOLDER = resolve('packages/kernels/dist/student');

/** Two hundred students of whom now this, now that is heard: what is believed of each at the end, and at looks in between. */
function prints(student: typeof here): string[] {
  let state = 20261130;
  // Whole numbers alone, so that this too is the same everywhere.
  const random = (): number => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 4294967296;
  };
  return Array.from({ length: 200 }, () => {
    const one = student.newcomer(
      (['beginner', 'improver', 'experienced'] as const)[Math.floor(random() * 3)] ?? 'beginner',
      0,
      0,
    );
    const steps: { start: number; left: number | null; rung: number }[] = [];
    const looks: string[] = [];
    let at = 2;
    for (let k = 0; k < 12; k++) {
      const last = steps.at(-1);
      if (last) last.left = at;
      steps.push({ start: at + 3, left: null, rung: student.rungOf(120 + Math.floor(random() * 900)) });
      student.classWentOn(one, steps, at);
      const lasts = 8 + Math.floor(random() * 24);
      if (random() < 0.5) student.saidDone(one, steps, Math.max(0, k - (random() < 0.3 ? 1 : 0)), at + lasts - 2, 'self');
      else if (random() < 0.3) student.saidSign(one, k, [at + 5, 1024, 170]);
      else if (random() < 0.2) student.saidLeftOut(one, k);
      const { stepNow, late, tail } = student.known(one, steps, at + lasts);
      looks.push(`${stepNow} ${late.mean} ${late.chance} ${tail}`);
      at += lasts;
    }
    return `${student.fingerprint(one)} ${looks.join('|')}`;
  });
}

test('what is believed of students is the same in this browser as on the server, to the last bit', async ({ page }) => {
  await page.route('http://same.test/**', async (route) => {
    const name = new URL(route.request().url()).pathname.slice(1);
    if (!/^[a-z-]+\.js$/.test(name))
      return route.fulfill({ contentType: 'text/html', body: '<!doctype html><title>same</title>' });
    return route.fulfill({ contentType: 'text/javascript', body: await readFile(resolve(FOLDER, name), 'utf8') });
  });
  await page.goto('http://same.test/');
  const there = await page.evaluate(
    async ([address, source]) => {
      const student = await import(address as string);
      return new Function('student', `return (${source})(student)`)(student) as string[];
    },
    ['http://same.test/index.js', prints.toString()],
  );
  expect(there).toEqual(prints(here));
});
