// The kit rows of the bench: amounts worked out after a change, tubes packed, and the lesson pack as a file.
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { newStudio, packParts } from '../packages/contract/dist/index.js';
import { kitFindings, kitLines, kitPaint, packTubes } from '../packages/core/dist/kit/index.js';
import { planLesson } from '../packages/core/dist/plan/index.js';
import { packPdf } from '../packages/print/dist/index.js';
import { root } from './setup.mjs';

const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];

export async function kitRows(row) {
  const lesson = JSON.parse(readFileSync(join(root, 'packages/server/assets/demo/balloons.json'), 'utf8'));
  const plan = planLesson(lesson);
  const times = [];
  for (let i = 0; i < 25; i++) {
    const own = { ...lesson, kit: { heads: 8 + i } };
    const from = performance.now();
    const paint = kitPaint(own, plan.plan, newStudio);
    kitLines(own, plan, paint);
    kitFindings(own, paint, newStudio);
    times.push(performance.now() - from);
  }
  const size = `${lesson.steps.length} steps, ${lesson.mixes.length} mixes`;
  row('kit, another number of painters', size, `${median(times.slice(5)).toFixed(1)} ms`, '≤ 10 ms');
  const sizes = [37, 75, 150, 250, 500].map((ml) => ({ ml, priceMinor: Math.round(100 * ml ** 0.8) }));
  const packs = Array.from({ length: 50 }, () => {
    const from = performance.now();
    packTubes(441, sizes, 3);
    return performance.now() - from;
  });
  row('tubes packed exactly', '441 ml, 5 sizes, 3 places', `${median(packs).toFixed(1)} ms`, '≤ 5 ms');
  // Pictures of a usual size; what is painted on them plays no part.
  const noise = (seed) =>
    sharp({
      create: {
        width: 520,
        height: 650,
        channels: 3,
        noise: { type: 'gaussian', mean: 120 + seed, sigma: 30 },
        background: '#888',
      },
    })
      .jpeg({ quality: 84 })
      .toBuffer();
  const pictures = new Map(await Promise.all(lesson.steps.map(async ({ id }, i) => [id, await noise(i)])));
  const options = { kind: 'instructor', paper: 'a4', isLarge: false, parts: [...packParts] };
  await packPdf(lesson, newStudio, pictures, options);
  const before = process.memoryUsage().rss;
  const from = performance.now();
  const { bytes, pages } = await packPdf(lesson, newStudio, pictures, options);
  const took = performance.now() - from;
  const grown = Math.max(0, process.memoryUsage().rss - before) / 1e6;
  row(
    'lesson pack, pictures at hand',
    `${lesson.steps.length} steps, ${pages} pages, ${(bytes.length / 1e6).toFixed(1)} MB`,
    `${(took / 1000).toFixed(2)} s`,
    '≤ 3 s',
  );
  row('memory of it, beyond the process', 'resident', `${grown.toFixed(0)} MB`, '≤ 150 MB');
}
