// How well things are told apart on photographs with hand-made truth and scripted marks:
//   npm run photos -- FOLDER [--strokes]
// FOLDER holds pictures, marks.mjs (marks by picture: { thing, kind, points in px of the truth }) and truth/ (NAME.png: grey value =
// label; truth.json: names, roles, which belong to the subject). Nothing of it comes into the repository.
import { readdirSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import sharp from 'sharp';
import { liveLabels, prepareScene, refinedLabels, walk } from '../packages/kernels/dist/things/index.js';

const [given] = process.argv.slice(2).filter((one) => !one.startsWith('-'));
if (!given) {
  console.error('Name a folder of photographs: npm run photos -- FOLDER');
  process.exit(1);
}
const folder = resolve(given);
const truths = JSON.parse(readFileSync(join(folder, 'truth', 'truth.json'), 'utf8'));
const { marks } = await import(pathToFileURL(join(folder, 'marks.mjs')).href);
const files = readdirSync(folder);

const toEnd = (work) => {
  let step = work.next();
  while (!step.done) step = work.next();
  return step.value;
};
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

/** Three strokes: the longest over the subject, the two longest over the rest. */
function threeStrokes(list, subject) {
  const long = (mark) =>
    mark.points.slice(1).reduce((sum, [x, y], i) => sum + Math.hypot(x - mark.points[i][0], y - mark.points[i][1]), 0);
  const of = (isSubject) =>
    list.filter((mark) => subject.has(mark.thing) === isSubject && mark.kind !== 'tap').sort((a, b) => long(b) - long(a));
  return [...of(true).slice(0, 1), ...of(false).slice(0, 2)].map((mark) => ({ ...mark, thing: subject.has(mark.thing) ? 1 : 0 }));
}

const all = [];
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
  const strokes = threeStrokes(list, subject);
  const three = overlap(
    refinedLabels(scene, walk(scene, strokes, 2)),
    (one) => one === 1,
    labels,
    (one) => subject.has(one),
  );
  all.push({ guided: mean(each), three });
  console.log(
    `${name.padEnd(12)} ${String(list.length).padStart(2)} marks: overlap ${two(mean(each))} (while drawing ${two(mean(liveEach))}), three strokes ${two(three)}; prepared ${prepareMs.toFixed(0)} ms, answer ${(walkMs + liveMs).toFixed(0)} ms, borders ${refineMs.toFixed(0)} ms`,
  );
  console.log(`             ${truth.labels.map((one, k) => `${one.name} ${two(each[k])}`).join(', ')}`);
}
console.log(
  `mean overlap ${two(mean(all.map((one) => one.guided)))}, least ${two(Math.min(...all.map((one) => one.guided)))}; three strokes ${two(mean(all.map((one) => one.three)))}`,
);
