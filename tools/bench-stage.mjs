// Rows of the bench about drafts, checks and stage pictures.
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { findings } from '../packages/core/dist/check/index.js';
import { planLesson } from '../packages/core/dist/plan/index.js';
import { offBySteps, stageInput } from '../packages/core/dist/stage/index.js';
import { stageSession } from '../packages/kernels/dist/painting/index.js';
import { begun } from './beginnings.mjs';
import { root } from './setup.mjs';

const WIDTH = 1200;
const middle = (list) => [...list].sort((a, b) => a - b)[list.length >> 1];

async function demo(name) {
  const lesson = JSON.parse(readFileSync(join(root, `packages/server/assets/demo/${name}.json`), 'utf8'));
  const height = Math.round((WIDTH * lesson.support.heightMm) / lesson.support.widthMm);
  const { data, info } = await sharp(join(root, `packages/server/assets/demo/${name}.jpg`))
    .resize(WIDTH, height, { fit: 'fill' })
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { lesson, picture: { width: info.width, height: info.height, data: new Uint8ClampedArray(data) } };
}

/** Seconds of every step, and what was painted. */
function paint(session, lesson, picture, wanted = []) {
  const from = performance.now();
  const input = stageInput(lesson, picture, WIDTH);
  const prepared = (performance.now() - from) / 1000;
  const seconds = [];
  let last = performance.now();
  const work = session.paint(input, wanted);
  let step = work.next();
  for (; !step.done; step = work.next()) {
    seconds.push((performance.now() - last) / 1000);
    last = performance.now();
  }
  return { prepared, seconds, all: (performance.now() - from) / 1000, canvases: step.value };
}

export async function stageRows(row) {
  for (const scene of ['balloons', 'kettle', 'star']) {
    const { lesson, seconds } = await begun(scene, { level: 'improver' });
    row(
      `a lesson from the picture: ${scene}`,
      `${lesson.areas.length} areas, ${lesson.mixes.length} mixes, ${lesson.steps.length} steps`,
      `${seconds.toFixed(1)} s`,
      '≤ 10 s',
    );
  }
  const { lesson, picture } = await demo('balloons');
  const session = stageSession();
  const cold = paint(session, lesson, picture);
  const painted = cold.seconds.filter((one) => one > 0.02);
  row(
    'stage pictures, cold',
    `${WIDTH} px, ${lesson.steps.length} steps`,
    `${middle(painted).toFixed(2)} s a stage, at most ${Math.max(...painted).toFixed(2)} s`,
    '≤ 1.5 s a stage',
  );
  const wool = await demo('wool');
  const over = paint(stageSession(), wool.lesson, wool.picture);
  const strokes = over.seconds.filter((one) => one > 0.02);
  row(
    'stage pictures with surfaces, cold',
    `${WIDTH} px, ${wool.lesson.steps.length} steps, ${wool.lesson.steps.filter((step) => step.pass).length} passes`,
    `${middle(strokes).toFixed(2)} s a stage, at most ${Math.max(...strokes).toFixed(2)} s`,
    '≤ 1.5 s a stage',
  );
  // Another mix in the step before last: what comes before stands.
  const late = lesson.steps.map((step) => (step.id === 's16' ? { ...step, mixIds: ['m-shade'] } : step));
  const warm = paint(session, { ...lesson, steps: late }, picture);
  row(
    'stage pictures, one late step changed',
    `${WIDTH} px, ${warm.seconds.length} steps painted anew`,
    `${(warm.all).toFixed(2)} s`,
    '≤ 0.7 s',
  );
  for (const [id, what] of [
    ['baskets', 'a small area moved'],
    ['trees', 'a middling area moved'],
    ['great', 'a large area moved'],
  ]) {
    const own = stageSession();
    paint(own, lesson, picture);
    const areas = lesson.areas.map((area) =>
      area.id === id
        ? { ...area, outline: area.outline.map((polygon) => polygon.map((ring) => ring.map(([x, y]) => [x + 4, y + 2]))) }
        : area,
    );
    const edited = Array.from({ length: 10 }, (_, i) => paint(own, i % 2 ? lesson : { ...lesson, areas }, picture).all);
    // The very first time is told apart: code that has just been loaded runs at half its speed.
    const [first, , , ...warm] = edited;
    row(
      `stage pictures, ${what}`,
      `${WIDTH} px, ${lesson.steps.length} steps mended`,
      `${middle(warm).toFixed(2)} s (first time ${first.toFixed(2)})`,
      '≤ 0.5 s',
    );
  }
  const { canvases } = paint(
    stageSession(),
    lesson,
    picture,
    lesson.steps.map((step) => step.id),
  );
  const offs = offBySteps(lesson, picture, canvases);
  row(
    'last stage picture against the picture, squinted',
    'demo lesson, mixes of its author',
    `ΔE00 ${offs.at(-1).mean.toFixed(1)}, p95 ${offs.at(-1).p95.toFixed(1)}`,
    '',
  );
  for (const scene of ['balloons', 'kettle', 'star']) {
    const made = await begun(scene, { level: 'improver' });
    const done = paint(stageSession(), made.lesson, made.picture, [made.lesson.steps.at(-1).id]);
    const end = offBySteps(made.lesson, made.picture, done.canvases).at(-1);
    row(
      `last stage picture against the picture: ${scene}`,
      `${WIDTH} px, mixes as found`,
      `ΔE00 ${end.mean.toFixed(1)}, p95 ${end.p95.toFixed(1)}`,
      '≤ 3, ≤ 6',
    );
  }
  const steps = Array.from({ length: 40 }, (_, k) => ({
    ...lesson.steps[k % 17],
    id: `k${k}`,
    stageId: lesson.stages[Math.min(3, Math.floor(k / 10))].id,
  }));
  const times = [];
  for (let i = 0; i < 15; i++) {
    const one = { ...lesson, steps: steps.map((step, k) => (k === 5 ? { ...step, doMin: 5 + i / 10 } : step)) };
    const plan = planLesson(one);
    const from = performance.now();
    findings(one, plan);
    times.push(performance.now() - from);
  }
  row(
    'all checks after an edit',
    `${steps.length} steps, ${lesson.areas.length} areas`,
    `${middle(times).toFixed(1)} ms`,
    '≤ 30 ms',
  );
}
