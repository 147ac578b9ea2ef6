// A lesson drafted from a photograph whose things are told by scripted marks, and what is measured on it.

import sharp from 'sharp';
import { commonSizes, emptyLesson } from '../packages/core/dist/document/index.js';
import { schoolOf } from '../packages/core/dist/draft/index.js';
import { beginLesson } from '../packages/core/dist/lesson-from-picture/index.js';
import { bordersOf, fittingSizes, guessByName } from '../packages/core/dist/picture/index.js';
import { heldMin, planLesson } from '../packages/core/dist/plan/index.js';
import { offBySteps, stageInput } from '../packages/core/dist/stage/index.js';
import { stageSession } from '../packages/kernels/dist/painting/index.js';
import { prepareScene, refinedLabels, walk } from '../packages/kernels/dist/things/index.js';

const WIDE = 1200;
export const toEnd = (work) => {
  let step = work.next();
  while (!step.done) step = work.next();
  return step.value;
};

/** What a thing is by the words of its truth, and what it is made of: as an instructor would say it. */
const kinds = {
  background: { role: 'background' },
  sky: { role: 'sky' },
  water: { role: 'water', surface: 'ripples' },
  ground: { role: 'ground' },
  boards: { role: 'ground', surface: 'boards' },
  foliage: { role: 'foliage', surface: 'leaves' },
  leaves: { role: 'foliage', surface: 'leaves' },
  grass: { role: 'ground', surface: 'grass' },
  fur: { role: 'subject', surface: 'short-fur' },
  hair: { role: 'subject', surface: 'long-hair' },
  feathers: { role: 'subject', surface: 'feathers' },
  petals: { role: 'subject', surface: 'petals' },
  skin: { role: 'subject', surface: 'skin' },
  stone: { role: 'made', surface: 'stone' },
  snow: { role: 'ground', surface: 'snow' },
  clouds: { role: 'sky', surface: 'clouds' },
  feature: { role: 'feature' },
  subject: { role: 'subject' },
};
const told = ({ name, role }) => {
  const known = kinds[role];
  const guess = guessByName(name);
  const surface = known?.surface ?? (known && known.role !== 'subject' ? undefined : (guess.surface ?? undefined));
  return { name: name[0].toUpperCase() + name.slice(1), role: known?.role ?? 'made', ...(surface ? { surface } : {}) };
};

/** A lattice is drawn by its lines over what is seen through it: both its legs, and one that goes to and fro between them. Points as shares of the canvas. */
function latticeLines(points) {
  const ys = points.map(([, y]) => y);
  const [top, bottom] = [Math.max(0, Math.min(...ys)), Math.min(1, Math.max(...ys))];
  const rows = Array.from({ length: BRACES + 1 }, (_, k) => top + ((bottom - top) * (k + 0.02)) / (BRACES + 0.04));
  const across = rows.flatMap((y) => {
    const xs = points.flatMap(([x1, y1], i) => {
      const [x2, y2] = points[(i + 1) % points.length];
      return y1 > y === y2 > y ? [] : [x1 + ((y - y1) / (y2 - y1)) * (x2 - x1)];
    });
    return xs.length > 0 ? [{ y, left: Math.min(...xs), right: Math.max(...xs) }] : [];
  });
  const legs = ['left', 'right'].map((side) => across.map((row) => [row[side], row.y]));
  return [...legs, across.map((row, k) => [k % 2 === 0 ? row.left : row.right, row.y])].filter((line) => line.length > 1);
}
const BRACES = 12;
const LATTICE_MM = 1.6;

/** Degrees of bend in 10 mm along the borders between things, at steps of 2 mm. */
export function bend({ arcs }) {
  let [turned, length] = [0, 0];
  for (const { points, left, right, closed } of arcs) {
    if (left < 0 || right < 0) continue;
    const line = closed ? [...points, points[0]] : points;
    const even = [line[0]];
    let over = 0;
    for (let i = 1; i < line.length; i++) {
      const [[ax, ay], [bx, by]] = [line[i - 1], line[i]];
      const span = Math.hypot(bx - ax, by - ay);
      for (let at = 2 - over; at <= span; at += 2) even.push([ax + ((bx - ax) * at) / span, ay + ((by - ay) * at) / span]);
      over = (over + span) % 2;
    }
    for (let i = 1; i + 1 < even.length; i++) {
      const [a, b] = [1, 0].map((k) => Math.atan2(even[i + 1 - k][1] - even[i - k][1], even[i + 1 - k][0] - even[i - k][0]));
      turned += Math.abs(((b - a + 3 * Math.PI) % (2 * Math.PI)) - Math.PI);
      length += 2;
    }
  }
  return length > 0 ? (((turned * 180) / Math.PI) * 10) / length : 0;
}

/**
 * The lesson of a photograph: on the canvas that cuts off least, its things told by marks (shares of the photograph). Gives the lesson, what
 * was measured, and its stages as PNGs.
 */
export async function photoLesson(file, truth, marks, truthMap, level) {
  const meta = await sharp(file).metadata();
  const [best] = fittingSizes(
    { widthPx: meta.width, heightPx: meta.height },
    commonSizes.filter(({ unit }) => unit === 'in'),
  );
  const { widthMm: a, heightMm: b } = best.size;
  const size = { unit: 'in', widthMm: best.isLying ? Math.max(a, b) : a, heightMm: best.isLying ? Math.min(a, b) : b };
  const width = WIDE;
  const height = Math.round((WIDE * size.heightMm) / size.widthMm);
  const { data } = await sharp(file)
    .resize(width, height, { fit: 'cover' })
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const picture = { width, height, data: new Uint8ClampedArray(data) };
  const scale = Math.max(width / meta.width, height / meta.height);
  const [ox, oy] = [(meta.width * scale - width) / 2, (meta.height * scale - height) / 2];
  const placed = ([x, y]) => [(x * meta.width * scale - ox) / width, (y * meta.height * scale - oy) / height];
  const own = marks.map((mark) => ({ ...mark, points: mark.points.map(placed) }));
  const from = performance.now();
  const scene = toEnd(prepareScene(picture));
  const labels = refinedLabels(scene, walk(scene, own, truth.labels.length));
  const map = { width: scene.width, height: scene.height, data: Int32Array.from(labels) };
  let count = 0;
  const ids = () => `i${++count}`;
  const empty = emptyLesson('Photograph', size, ids);
  // What one sees through is no area: its lines are drawn, as an instructor would.
  const solid = truth.labels.filter(({ role }) => role !== 'lattice');
  const numbered = own.filter(({ thing }) => solid.some(({ label }) => label === thing));
  const solidMarks = numbered.map((mark) => ({ ...mark, thing: solid.findIndex(({ label }) => label === mark.thing) }));
  const seen = solid.length === truth.labels.length ? labels : refinedLabels(scene, walk(scene, solidMarks, solid.length));
  const inMm = ([x, y]) => [Math.max(0, Math.min(1, x)) * size.widthMm, Math.max(0, Math.min(1, y)) * size.heightMm];
  const lines = truth.labels
    .filter(({ role }) => role === 'lattice')
    .map(({ name, label }) => ({
      name: name[0].toUpperCase() + name.slice(1),
      along: own
        .filter(({ thing }) => thing === label)
        .flatMap(({ points }) => latticeLines(points).map((line) => line.map(inMm))),
      widthMm: LATTICE_MM,
      taper: 0,
    }));
  const toldMap = { width: scene.width, height: scene.height, data: Int32Array.from(seen) };
  const lesson = toEnd(
    beginLesson({ ...empty, level, school: schoolOf('layers') }, picture, ids, {
      told: { map: toldMap, things: solid.map(told) },
      lines,
    }),
  );
  const draftS = (performance.now() - from) / 1000;
  const planned = planLesson(lesson);
  const painted = lesson.steps.filter((step) => step.kind === 'paint');
  const wanted = [painted[0], painted[painted.length >> 1], lesson.steps.at(-1)].map((step) => step.id);
  const began = performance.now();
  const stages = toEnd(
    stageSession().paint(
      stageInput(lesson, picture, width),
      lesson.steps.map((step) => step.id),
    ),
  );
  const stageS = (performance.now() - began) / 1000;
  const off = offBySteps(lesson, picture, stages).at(-1)?.mean ?? Number.NaN;
  const mmPerPx = size.widthMm / map.width;
  const truthBorders = bordersOf(truthMap, truth.labels.length, size.widthMm / truthMap.width, 0.3);
  const roles = new Map(lesson.areas.map((area) => [area.id, area.role]));
  // What is practised is practised for the step after it. A step of several things is parted between them.
  const minutes = new Map();
  let practised = 0;
  for (const step of lesson.steps) {
    const { doMin } = planned.minutes.get(step.id);
    if (step.kind === 'practise') practised += doMin;
    if (step.kind !== 'paint') continue;
    const ids = step.areaIds.map((id) => (['subject', 'feature'].includes(roles.get(id)) ? 'subject' : id));
    for (const id of ids) minutes.set(id, (minutes.get(id) ?? 0) + (doMin + practised) / ids.length);
    practised = 0;
  }
  const subjectMin = minutes.get('subject') ?? 0;
  const paintedMin = [...minutes.values()].reduce((sum, one) => sum + one, 0);
  minutes.delete('subject');
  const largestOtherMin = Math.max(0, ...minutes.values());
  const png = ({ data: bytes, width: w, height: h }) =>
    sharp(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength), { raw: { width: w, height: h, channels: 4 } })
      .removeAlpha()
      .resize({ width: 560 })
      .png()
      .toBuffer();
  return {
    lesson,
    planned,
    endMin: planned.plan.endMin,
    heldShare: heldMin(lesson, planned) / planned.plan.endMin,
    subjectShare: subjectMin / paintedMin,
    subjectMin,
    largestOtherMin,
    off,
    bend: bend(bordersOf(map, truth.labels.length, mmPerPx, 0.25, undefined, true)),
    truthBend: bend(truthBorders),
    draftS,
    stageS: stageS / Math.max(1, painted.length),
    pictures: await Promise.all([png(picture), ...wanted.map((id) => png(stages.get(id)))]),
  };
}
