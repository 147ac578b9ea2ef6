// How well areas are proposed: our painted scenes with unseen noise, haze and grain, whose true regions are known.
//   npm run areas                                    table to docs/areas.md, page of pictures to .viaticum/areas
//   node tools/areas.mjs [--quick] [--each] [--scene kettle] [--page folder]
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { cutAreas, prepare, refineAreas, toEnd } from '../packages/core/dist/picture/index.js';
import { photographed, scenes } from './demo/paint.mjs';

const given = process.argv.slice(2);
const COUNTS = [1, 3, 5, 6, 10];
const quick = given.includes('--quick');
const folder = given.includes('--page') ? given[given.indexOf('--page') + 1] : null;
const only = given.includes('--scene') ? [given[given.indexOf('--scene') + 1]] : ['balloons', 'kettle', 'star'];
const width = (scene) => Math.round(Math.sqrt(1_800_000 / (scenes[scene].canvas.heightMm / scenes[scene].canvas.widthMm)));

const random = (seed) => () => {
  seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
  return seed / 2 ** 32;
};

/** Intersection over union of every true region with the area given it, or with the best area not yet taken. */
export function overlaps(truth, found, regions, areas, same) {
  const both = new Float64Array(regions * areas);
  const [a, b] = [new Float64Array(regions), new Float64Array(areas)];
  for (let i = 0; i < truth.length; i++) {
    both[truth[i] * areas + found[i]]++;
    a[truth[i]]++;
    b[found[i]]++;
  }
  const iou = (r, z) => both[r * areas + z] / (a[r] + b[z] - both[r * areas + z]);
  if (same) return Array.from({ length: regions }, (_, r) => (r < areas ? iou(r, r) : 0));
  const pairs = [];
  for (let r = 0; r < regions; r++) for (let z = 0; z < areas; z++) pairs.push([iou(r, z), r, z]);
  pairs.sort((x, y) => y[0] - x[0]);
  const out = new Array(regions).fill(0);
  const [taken, given] = [new Set(), new Set()];
  for (const [value, r, z] of pairs) {
    if (taken.has(r) || given.has(z)) continue;
    out[r] = value;
    taken.add(r);
    given.add(z);
  }
  return out;
}

/** Random taps inside each true region, at least two millimetres from its rim where it is that wide. */
export function tapsFor(truth, width, height, regions, perRegion, seed) {
  const next = random(seed);
  const inner = new Map();
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = y * width + x;
      const label = truth[at];
      const far =
        [5, 3, 1].find((d) =>
          [-d, d].every(
            (k) =>
              truth[y * width + Math.min(width - 1, Math.max(0, x + k))] === label &&
              truth[Math.min(height - 1, Math.max(0, y + k)) * width + x] === label,
          ),
        ) ?? 0;
      const key = label * 10 + far;
      if (!inner.has(key)) inner.set(key, []);
      inner.get(key).push(at);
    }
  const taps = [];
  for (let r = 0; r < regions; r++) {
    const places = [5, 3, 1, 0].map((far) => inner.get(r * 10 + far)).find((list) => list && list.length > 0) ?? [];
    for (let k = 0; k < perRegion && places.length > 0; k++) {
      const at = places[Math.floor(next() * places.length)];
      taps.push({ x: ((at % width) + 0.5) / width, y: (Math.floor(at / width) + 0.5) / height, area: r });
    }
  }
  return taps;
}

const mean = (list) => list.reduce((sum, value) => sum + value, 0) / list.length;
const palette = Array.from({ length: 24 }, (_, i) => [
  ((i * 97 + 60) % 200) + 40,
  ((i * 57 + 130) % 200) + 40,
  ((i * 151 + 20) % 200) + 40,
]);

async function show(name, { map }) {
  const data = Buffer.alloc(map.data.length * 3);
  for (let i = 0; i < map.data.length; i++) data.set(palette[map.data[i] % palette.length], i * 3);
  await sharp(data, { raw: { width: map.width, height: map.height, channels: 3 } })
    .resize({ width: 360 })
    .png()
    .toFile(join(folder, `${name}.png`));
}

export async function measure() {
  const rows = [];
  for (const scene of only) {
    for (const seed of quick ? [11] : [11, 23, 37]) {
      const painted = await photographed({ scene, seed, width: width(scene) });
      const { labels: truth, names, rgb } = painted;
      const data = new Uint8ClampedArray(painted.width * painted.height * 4).fill(255);
      for (let i = 0; i < truth.length; i++) data.set(rgb.subarray(i * 3, i * 3 + 3), i * 4);
      const picture = { width: painted.width, height: painted.height, data };
      const regions = names.length;
      const from = performance.now();
      const segmentation = toEnd(prepare(picture));
      const draft = cutAreas(segmentation, regions);
      const drafted = performance.now();
      const refined = refineAreas(segmentation, draft);
      const done = performance.now();
      const row = {
        scene,
        seed,
        auto: mean(overlaps(truth, refined.map.data, regions, refined.areas)),
        draftMs: drafted - from,
        fullMs: done - from,
        taps: {},
      };
      if (folder) {
        mkdirSync(folder, { recursive: true });
        await sharp(rgb, { raw: { width: painted.width, height: painted.height, channels: 3 } })
          .resize({ width: 360 })
          .png()
          .toFile(join(folder, `${scene}-${seed}.png`));
        await show(`${scene}-${seed}-auto`, refined);
      }
      for (const count of COUNTS) {
        const scores = [];
        let tapMs = 0;
        for (const draw of quick ? [1, 2] : [1, 2, 3]) {
          const taps = tapsFor(truth, painted.width, painted.height, regions, count, seed * 100 + draw);
          const start = performance.now();
          const cut = cutAreas(segmentation, regions, taps);
          tapMs = Math.max(tapMs, performance.now() - start);
          const fine = refineAreas(segmentation, cut);
          const each = overlaps(truth, fine.map.data, regions, fine.areas, fine.areas === regions);
          scores.push(mean(each));
          row.each = each.map((value, r) => `${names[r]} ${value.toFixed(2)}`);
          if (folder && draw === 1) await show(`${scene}-${seed}-${count}`, fine);
        }
        row.taps[count] = { mean: mean(scores), worst: Math.min(...scores), tapMs };
      }
      rows.push(row);
      console.log(
        `${scene.padEnd(9)} ${seed}  auto ${row.auto.toFixed(2)}  ${Object.entries(row.taps)
          .map(([k, t]) => `${k}: ${t.mean.toFixed(2)} (worst ${t.worst.toFixed(2)}, ${t.tapMs.toFixed(0)} ms)`)
          .join('  ')}  draft ${row.draftMs.toFixed(0)} ms, full ${row.fullMs.toFixed(0)} ms`,
      );
      if (given.includes('--each')) console.log(`   ${row.each.join(', ')}`);
    }
  }
  return rows;
}

function report(rows) {
  const counts = COUNTS;
  const lines = rows.map(
    ({ scene, seed, auto, taps }) =>
      `| ${scene}, seed ${seed} | ${auto.toFixed(2)} | ${counts.map((k) => `${taps[k].mean.toFixed(2)} (${taps[k].worst.toFixed(2)})`).join(' | ')} |`,
  );
  const all = counts.map(
    (k) =>
      `${mean(rows.map((row) => row.taps[k].mean)).toFixed(2)} (${Math.min(...rows.map((row) => row.taps[k].worst)).toFixed(2)})`,
  );
  writeFileSync(
    new URL('../docs/areas.md', import.meta.url),
    `# How well areas are proposed

Mean intersection over union of proposed with true regions at the true number of areas: automatic, then with so many random taps an
area (three draws each; the worst in brackets). The pictures are our painted scenes at 1.8 megapixels with noise, haze and grain of
seeds that nothing was tuned on. Written by \`npm run areas\`, which also makes a page with the results as pictures.

| scene | automatic | 1 tap | 3 taps | 5 taps | 6 taps | 10 taps |
|---|---|---|---|---|---|---|
${lines.join('\n')}
| **all** | ${mean(rows.map((row) => row.auto)).toFixed(2)} | ${all.join(' | ')} |

Goals: with at most five taps an area a mean of 0.85, the worst picture 0.75; automatic only where each thing has its own
colour. The balloons are striped and the cloth is checked: there taps are the tool.
`,
  );
  if (!folder) return;
  const cell = (name) => `<td><img src="${name}.png" width="240" alt="${name}"></td>`;
  const body = rows.map(
    ({ scene, seed }) =>
      `<tr><th>${scene} ${seed}</th>${['', '-auto', ...counts.map((k) => `-${k}`)].map((end) => cell(`${scene}-${seed}${end}`)).join('')}</tr>`,
  );
  writeFileSync(
    join(folder, 'index.html'),
    `<!doctype html><meta charset="utf-8"><title>Areas</title><style>body{font:15px sans-serif;background:#e7e7e7}td{padding:3px}</style><table><tr><th></th><th>picture</th><th>automatic</th>${counts.map((k) => `<th>${k} taps</th>`).join('')}</tr>${body.join('')}</table>`,
  );
  console.log(`pictures: ${join(folder, 'index.html')}`);
}

if (process.argv[1]?.endsWith('areas.mjs')) {
  const rows = await measure();
  if (!quick && only.length > 1) report(rows);
}
