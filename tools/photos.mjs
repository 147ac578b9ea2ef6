// How well things are told apart on photographs with hand-made truth and scripted marks:
//   npm run photos -- FOLDER [--level improver] [--page FOLDER]     (the page of pictures: .viaticum/photos where nothing is said)
// FOLDER holds pictures, marks.mjs (marks by picture: { thing, kind, points in px of the truth }) and truth/ (NAME.png: grey value =
// label; truth.json: names, roles, which belong to the subject). Nothing of it comes into the repository.
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import sharp from 'sharp';
import { budgetOf } from '../packages/core/dist/draft/index.js';
import { cutAreas, prepare, refineAreas } from '../packages/core/dist/picture/index.js';
import { resampleLabels } from '../packages/kernels/dist/raster/index.js';
import { liveLabels, prepareScene, proposeThings, refinedLabels, walk } from '../packages/kernels/dist/things/index.js';
import { photoLesson, toEnd } from './photo-lesson.mjs';

const [given] = process.argv.slice(2).filter((one) => !one.startsWith('-'));
const option = (name, otherwise) => (process.argv.includes(name) ? process.argv[process.argv.indexOf(name) + 1] : otherwise);
const level = option('--level', 'beginner');
const page = resolve(option('--page', '.viaticum/photos'));
if (!given) {
  console.error('Name a folder of photographs: npm run photos -- FOLDER');
  process.exit(1);
}
const folder = resolve(given);
const truths = JSON.parse(readFileSync(join(folder, 'truth', 'truth.json'), 'utf8'));
const { marks } = await import(pathToFileURL(join(folder, 'marks.mjs')).href);
const files = readdirSync(folder);

const timed = (work) => {
  const from = performance.now();
  const value = work();
  return [value, performance.now() - from];
};

async function pictureOf(name) {
  const file = files.find((one) => one.startsWith(`${name}.`));
  const { data, info } = await sharp(join(folder, file)).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data: new Uint8ClampedArray(data) };
}

/** The truth as labels at the size of a scene, by nearest. */
async function truthAt(name, { width, height }) {
  const { data, info } = await sharp(join(folder, 'truth', `${name}.png`))
    .greyscale()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const out = new Uint8Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const sx = Math.min(info.width - 1, Math.floor(((x + 0.5) * info.width) / width));
      const sy = Math.min(info.height - 1, Math.floor(((y + 0.5) * info.height) / height));
      out[y * width + x] = data[(sy * info.width + sx) * info.channels];
    }
  return out;
}

/** Shared pixels over all pixels of either (intersection over union). */
function overlap(one, isOne, other, isOther) {
  let [both, either] = [0, 0];
  for (let i = 0; i < one.length; i++) {
    const [a, b] = [isOne(one[i]), isOther(other[i])];
    if (a && b) both++;
    if (a || b) either++;
  }
  return either > 0 ? both / either : 0;
}
const mean = (list) => list.reduce((sum, one) => sum + one, 0) / Math.max(1, list.length);
const two = (value) => value.toFixed(2);

/** Three strokes: over the largest thing of the subject, and over the two largest others; of each the longest scripted one. */
function threeStrokes(list, subject, labels) {
  const sizes = new Map();
  for (const label of labels) sizes.set(label, (sizes.get(label) ?? 0) + 1);
  const long = ({ points }) =>
    points.slice(1).reduce((sum, [x, y], i) => sum + Math.hypot(x - points[i][0], y - points[i][1]), 0);
  const longestOn = (thing) =>
    list.filter((mark) => mark.thing === thing && mark.kind === 'stroke').sort((a, b) => long(b) - long(a))[0] ?? [];
  const largest = (isSubject) =>
    [...sizes.keys()].filter((thing) => subject.has(thing) === isSubject).sort((a, b) => sizes.get(b) - sizes.get(a));
  return [...largest(true).slice(0, 1), ...largest(false).slice(0, 2)]
    .flatMap(longestOn)
    .map((mark) => ({ ...mark, thing: subject.has(mark.thing) ? 1 : 0 }));
}

/** Areas by colour alone, at the size of a scene. */
function byColour(picture, { width, height }) {
  const segmentation = toEnd(prepare(picture));
  const { map } = refineAreas(segmentation, cutAreas(segmentation, budgetOf(level).areas));
  return resampleLabels(map, width, height).data;
}

const all = [];
const rows = [];
mkdirSync(page, { recursive: true });
for (const [name, truth] of Object.entries(truths)) {
  const picture = await pictureOf(name);
  const [scene, prepareMs] = timed(() => toEnd(prepareScene(picture)));
  const labels = await truthAt(name, scene);
  const numbers = new Map(truth.labels.map((one) => [one.name, one.label]));
  const subject = new Set(truth.labels.filter((one) => one.subject).map((one) => one.label));
  const list = (marks[name] ?? []).map(({ thing, kind, points }) => ({
    thing: numbers.get(thing),
    kind,
    points: points.map(([x, y]) => [x / truth.width, y / truth.height]),
  }));
  const count = truth.labels.length;
  walk(scene, list, count);
  const [walked, walkMs] = timed(() => walk(scene, list, count));
  const [live, liveMs] = timed(() => liveLabels(scene, walked));
  const [fine, refineMs] = timed(() => refinedLabels(scene, walked));
  const each = truth.labels.map(({ label }) =>
    overlap(
      fine,
      (one) => one === label,
      labels,
      (one) => one === label,
    ),
  );
  const liveEach = truth.labels.map(({ label }) =>
    overlap(
      live,
      (one) => one === label,
      labels,
      (one) => one === label,
    ),
  );
  const [proposal, proposeMs] = timed(() => proposeThings(scene));
  const subjectAt = proposal.things.findIndex((one) => one.kind === 'subject');
  // As the application does: where nothing stands out, a lesson without a mark has the areas that colour alone parts.
  const own =
    subjectAt < 0
      ? byColour(picture, scene)
      : refinedLabels(scene, walk(scene, [], proposal.things.length, { hint: proposal.labels }));
  const parts = own.reduce((most, one) => Math.max(most, one), 0) + 1;
  // Of what is proposed, the best for each true thing; of the subject the proposed one, or the best where none is.
  const alone = truth.labels.map(({ label }) =>
    Math.max(
      ...Array.from({ length: parts }, (_, k) =>
        overlap(
          own,
          (one) => one === k,
          labels,
          (one) => one === label,
        ),
      ),
    ),
  );
  const ownSubject =
    subjectAt < 0
      ? null
      : overlap(
          own,
          (one) => one === subjectAt,
          labels,
          (one) => subject.has(one),
        );
  const strokes = threeStrokes(list, subject, labels);
  const three = overlap(
    refinedLabels(
      scene,
      walk(scene, strokes, 2, { hint: subjectAt < 0 ? null : proposal.labels.map((one) => (one === subjectAt ? 1 : 0)) }),
    ),
    (one) => one === 1,
    labels,
    (one) => subject.has(one),
  );
  all.push({ guided: mean(each), three, alone: mean(alone), ownSubject });
  console.log(
    `${name.padEnd(12)} ${String(list.length).padStart(2)} marks: overlap ${two(mean(each))} (while drawing ${two(mean(liveEach))}), three strokes ${two(three)}; prepared ${prepareMs.toFixed(0)} ms, answer ${(walkMs + liveMs).toFixed(0)} ms, borders ${refineMs.toFixed(0)} ms`,
  );
  console.log(
    `             without a mark: ${proposal.things.map((one) => one.kind).join(', ')}; overlap ${two(mean(alone))}, subject ${ownSubject === null ? 'not proposed' : two(ownSubject)}, ${proposeMs.toFixed(0)} ms`,
  );
  console.log(`             ${truth.labels.map((one, k) => `${one.name} ${two(each[k])}`).join(', ')}`);
  const file = join(
    folder,
    files.find((one) => one.startsWith(`${name}.`)),
  );
  const truthFull = await truthAt(name, { width: truth.width, height: truth.height });
  const truthMap = { width: truth.width, height: truth.height, data: Int32Array.from(truthFull) };
  const made = await photoLesson(file, truth, list, truthMap, level);
  all.at(-1).made = made;
  console.log(
    `             lesson for a ${level}: ${made.endMin.toFixed(0)} min, ${Math.round(made.heldShare * 100)} % waiting, ${Math.round(made.subjectShare * 100)} % of the painting on the subject (${made.subjectMin.toFixed(0)} min, the most for another thing ${made.largestOtherMin.toFixed(0)}); last stage ΔE00 ${made.off.toFixed(1)}; borders bend ${made.bend.toFixed(0)}° in 10 mm (truth ${made.truthBend.toFixed(0)}°); draft ${made.draftS.toFixed(1)} s, a stage ${made.stageS.toFixed(2)} s`,
  );
  for (const [i, png] of made.pictures.entries()) writeFileSync(join(page, `${name}-${i}.png`), png);
  const steps = made.planned.plan.items.map((item) => {
    const step = made.lesson.steps.find((one) => one.id === item.stepId);
    return `<tr><td>${item.startMin.toFixed(0)}</td><td>${(item.endMin - item.startMin).toFixed(0)}</td><td>${step?.title ?? item.kind}</td><td>${step?.say ?? ''}</td></tr>`;
  });
  rows.push(
    `<h2>${name}</h2>${made.pictures.map((_, i) => `<img src="${name}-${i}.png" width="300">`).join(' ')}<table>${steps.join('')}</table>`,
  );
}
writeFileSync(
  join(page, 'index.html'),
  `<!doctype html><meta charset="utf-8"><title>Lessons from photographs</title><style>body{font:14px sans-serif}td{padding:2px 8px;vertical-align:top}</style>${rows.join('')}`,
);
console.log(
  `mean overlap ${two(mean(all.map((one) => one.guided)))}, least ${two(Math.min(...all.map((one) => one.guided)))}; three strokes ${two(mean(all.map((one) => one.three)))}; without a mark ${two(mean(all.map((one) => one.alone)))}, subject ${two(mean(all.flatMap((one) => one.ownSubject ?? [])))} where it is proposed`,
);
console.log(
  `lessons for a ${level}: ΔE00 ${mean(all.map((one) => one.made.off)).toFixed(1)} after the last stage, ${all.map((one) => one.made.endMin.toFixed(0)).join(', ')} min; page: ${page}/index.html`,
);
