// From a picture to a drafted lesson: three demo pictures and three more, with time, findings and how near the painted canvas comes.
//   npm run beginnings            table; with --page folder also a picture of each, reference beside the painted canvas
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { findings } from '../packages/core/dist/check/index.js';
import { emptyLesson } from '../packages/core/dist/document/index.js';
import { beginLesson } from '../packages/core/dist/lesson-from-picture/index.js';
import { planLesson } from '../packages/core/dist/plan/index.js';
import { offBySteps, stageInput } from '../packages/core/dist/stage/index.js';
import { stageSession } from '../packages/kernels/dist/painting/index.js';
import { photographed, scenes } from './demo/paint.mjs';

const given = process.argv.slice(2);
const option = (name, otherwise) => (given.includes(name) ? given[given.indexOf(name) + 1] : otherwise);
const folder = option('--page', null);
const level = option('--level', 'beginner');
const painted = Number(option('--width', 800));
const only = option('--scene', null);
const end = (work) => {
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
  }
};

/** A lesson begun with one of the scenes, as the tool gives it. */
export async function begun(scene, { level, school = {}, width = 1280 }) {
  const { canvas } = scenes[scene];
  const { width: w, height: h, rgb } = await photographed({ scene, width, seed: 1 });
  const { data } = await sharp(rgb, { raw: { width: w, height: h, channels: 3 } })
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const picture = { width: w, height: h, data: new Uint8ClampedArray(data) };
  let n = 0;
  const ids = () => `i${++n}`;
  const empty = emptyLesson(scene, { ...canvas, unit: 'cm' }, ids);
  const from = performance.now();
  const lesson = end(beginLesson({ ...empty, level, school: { ...empty.school, ...school } }, picture, ids));
  return { lesson, picture, seconds: (performance.now() - from) / 1000 };
}

if (process.argv[1]?.endsWith('beginnings.mjs')) {
  for (const scene of only ? [only] : Object.keys(scenes)) {
    const { lesson, picture, seconds } = await begun(scene, { level });
    const plan = planLesson(lesson);
    const found = findings(lesson, plan);
    const input = stageInput(lesson, picture, painted);
    const started = performance.now();
    const ids = lesson.steps.map((step) => step.id);
    const canvases = end(stageSession().paint(input, ids));
    const painting = (performance.now() - started) / 1000;
    const offs = offBySteps(lesson, picture, canvases);
    const last = offs.at(-1);
    console.log(
      `${scene.padEnd(9)} ${seconds.toFixed(1)} s  ${lesson.areas.length} areas ${lesson.mixes.length} mixes ${lesson.tubes.length} tubes ${lesson.steps.length} steps  ${Math.round(plan.plan.endMin)} min  painted ${painting.toFixed(1)} s  ΔE00 mean ${last.mean.toFixed(1)} p95 ${last.p95.toFixed(1)}`,
    );
    for (const one of found) console.log(`    ${one.serious ? 'SERIOUS' : '       '} ${one.rule}: ${one.about}: ${one.words}`);
    if (given.includes('--steps'))
      for (const [i, step] of lesson.steps.entries())
        console.log(
          `      ${step.title} [${step.technique ?? step.kind} ${step.coverShare ?? ''}] ${step.mixIds.map((id) => lesson.mixes.find((mix) => mix.id === id)?.name).join(', ')} ${offs[i]?.mean.toFixed(1)}`,
        );
    if (folder) {
      mkdirSync(folder, { recursive: true });
      const png = (of) =>
        sharp(Buffer.from(of.data), { raw: { width: of.width, height: of.height, channels: 4 } })
          .resize(600, 600, { fit: 'inside' })
          .png()
          .toBuffer();
      const half = ids[Math.floor(ids.length * 0.55)];
      const sides = [await png(picture), await png(canvases.get(half)), await png(canvases.get(ids.at(-1)))];
      await sharp({ create: { width: 1800, height: 600, channels: 3, background: '#888' } })
        .composite(sides.map((input, i) => ({ input, left: i * 600, top: 0 })))
        .png()
        .toFile(join(folder, `${scene}.png`));
    }
  }
}
