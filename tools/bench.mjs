// npm run bench: how fast the heart of it is, with the size of the work. Starts its own database and server.
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { cpus, loadavg, tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { coatTimes } from '../packages/core/dist/coat/index.js';
import { planLesson } from '../packages/core/dist/plan/index.js';
import { mixColour } from '../packages/kernels/dist/mixing/index.js';
import { classRows } from './bench-class.mjs';
import { filmRows, filmServingRows } from './bench-film.mjs';
import { keepRows } from './bench-keep.mjs';
import { kitRows } from './bench-kit.mjs';
import { pageRows } from './bench-page.mjs';
import { paintRows } from './bench-paint.mjs';
import { editingRows, pictureRows } from './bench-picture.mjs';
import { paceRows, planRows } from './bench-plan.mjs';
import { stageRows } from './bench-stage.mjs';
import { transferRows } from './bench-transfer.mjs';
import { build, database, freePort, root, run, serve } from './setup.mjs';

const rows = [];
const row = (what, size, measured, goal) => {
  rows.push([what, size, measured, goal]);
  console.log(`${what.padEnd(48)} ${size.padEnd(34)} ${measured.padStart(20)}   ${goal}`);
};
const quantile = (list, q) => [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * q))];
/** Median ms of several rounds after a warm-up. */
function timed(work, rounds = 9, warm = 3) {
  for (let i = 0; i < warm; i++) work(i);
  const times = [];
  for (let i = 0; i < rounds; i++) {
    const from = performance.now();
    work(i + warm);
    times.push(performance.now() - from);
  }
  return quantile(times, 0.5);
}

function computation() {
  const demo = JSON.parse(readFileSync(join(root, 'packages/server/assets/demo/balloons.json'), 'utf8'));
  const steps = [...demo.steps, ...demo.steps.slice(2, 9).map((step, i) => ({ ...step, id: `more${i}` }))];
  const lesson = { ...demo, steps };
  // Each round has another room, so that nothing is remembered but the areas, as when humidity is dragged.
  const inRoom = (i) => ({ ...lesson, room: { ...lesson.room, humidity: 0.3 + i / 100 } });
  row(
    'plan in its order, another humidity',
    `${steps.length} steps, ${lesson.areas.length} areas`,
    `${timed((i) => planLesson(inRoom(i)), 25, 8).toFixed(1)} ms`,
    '≤ 10 ms',
  );
  row(
    'plan with the areas worked out anew',
    `${steps.length} steps, ${lesson.areas.length} areas`,
    `${timed((i) => planLesson({ ...inRoom(i), areas: [...lesson.areas] }), 9).toFixed(1)} ms`,
    '',
  );
  const recipe = [
    { pigment: 'PW6', parts: 3 },
    { pigment: 'PB29', parts: 2 },
    { pigment: 'PBr7-BU', parts: 1 },
    { pigment: 'PR122', parts: 'touch' },
  ];
  const mixes = 20_000;
  row(
    'mixColour',
    `4 tubes, ${mixes} mixes`,
    `${(
      (timed(() => {
        for (let k = 0; k < mixes; k++) mixColour(recipe);
      }) /
        mixes) *
        1000
    ).toFixed(1)} µs`,
    '≤ 20 µs',
  );
  const techniques = ['wash', 'block-in', 'blend', 'loaded'];
  row(
    '1 000 coatTimes',
    '4 techniques, 10 rooms',
    `${timed(() => {
      for (let k = 0; k < 1000; k++)
        coatTimes({ technique: techniques[k % 4] }, { airC: 18 + (k % 10), humidity: 0.3 + (k % 5) / 10, airSpeed: 0.1 });
    }, 5).toFixed(0)} ms`,
    '≤ 400 ms',
  );
}

function bundles() {
  const folder = join(root, 'packages/web/dist');
  const size = (file) => gzipSync(readFileSync(join(folder, file))).length / 1000;
  const scripts = (page) => [
    ...new Set(
      [...readFileSync(join(folder, page), 'utf8').matchAll(/(?:src|href)="\/(assets\/[^"]+\.js)"/g)].map((found) => found[1]),
    ),
  ];
  const imports = (file, seen = new Set()) => {
    if (seen.has(file)) return seen;
    seen.add(file);
    for (const [, name] of readFileSync(join(folder, file), 'utf8').matchAll(/(?:from|import)\s*["']\.\/([^"']+\.js)["']/g))
      imports(`assets/${name}`, seen);
    return seen;
  };
  const total = (files) => [...files].reduce((sum, file) => sum + size(file), 0);
  const all = readdirSync(join(folder, 'assets'));
  // The station itself is the largest of the files that are called after it; others hold its words.
  const chunk = (prefix) =>
    `assets/${
      all
        .filter((file) => file.startsWith(prefix) && file.endsWith('.js'))
        .sort((one, other) => size(`assets/${other}`) - size(`assets/${one}`))[0]
    }`;
  const follow = new Set(scripts('follow.html').flatMap((file) => [...imports(file)]));
  row('initial JavaScript of Follow', `${follow.size} files, gzip`, `${total(follow).toFixed(0)} kB`, '≤ 200 kB');
  const workbench = new Set(
    [...scripts('index.html'), chunk('workbench-'), chunk('steps-')].flatMap((file) => [...imports(file)]),
  );
  row(
    'initial JavaScript of the workbench at Steps',
    `${workbench.size} files, gzip`,
    `${total(workbench).toFixed(0)} kB`,
    '≤ 520 kB',
  );
}

/** Editing a lesson on a server of its own. */
async function editing() {
  const folder = mkdtempSync(join(tmpdir(), 'viaticum-bench-'));
  const own = await database(folder);
  const port = await freePort();
  const { child } = await serve({
    VIATICUM_PORT: String(port),
    VIATICUM_OWNER: 'Ada Ames',
    VIATICUM_OWNER_PASSWORD: 'three wet brushes',
    VIATICUM_DATA: folder,
    VIATICUM_DATABASE_URL: own.url('bench'),
    VIATICUM_QUIET: '1',
  });
  const origin = `http://127.0.0.1:${port}`;
  const call = async (method, path, body, cookie = '') => {
    const response = await fetch(origin + path, {
      method,
      headers: { origin, cookie, 'content-type': 'application/json' },
      ...(body ? { body: JSON.stringify(body) } : {}),
    });
    return { json: await response.json(), cookie: response.headers.get('set-cookie')?.split(';')[0] ?? cookie };
  };
  const { cookie } = await call('POST', '/api/session', { name: 'demo', password: 'north light' });
  const [lessonId, another] = (await call('GET', '/api/lessons', null, cookie)).json.map((one) => one.id);
  await editingRows(row, { origin, call, cookie, lessonId });
  await pageRows(row, { origin, call, cookie, lessonId: another });
  await filmServingRows(row, { url: origin, pid: child.pid, cookie });
  await keepRows(row, { origin, call, cookie, lessonId: another, databaseUrl: own.url('bench'), dataFolder: folder });
  child.kill('SIGTERM');
  await new Promise((done) => child.once('exit', done));
  await own.stop();
  rmSync(folder, { recursive: true, force: true });
}

run(async () => {
  await build();
  console.log(`${cpus().length} × ${cpus()[0]?.model.trim()}, Node ${process.version}, load ${loadavg()[0].toFixed(2)}\n`);
  const parts = {
    computation,
    plans: () => planRows(row),
    pace: () => paceRows(row),
    kit: () => kitRows(row),
    film: () => filmRows(row),
    paints: () => paintRows(row),
    pictures: () => pictureRows(row),
    stages: () => stageRows(row),
    transfers: () => transferRows(row),
    bundles,
    editing,
    classes: () => classRows(row),
  };
  // `npm run bench -- editing bundles`: these parts alone; the table in docs is written by a whole run only.
  const asked = process.argv.slice(2);
  const unknown = asked.filter((name) => !(name in parts));
  if (unknown.length > 0)
    throw new Error(`No part is called ${unknown.join(', ')}. There are: ${Object.keys(parts).join(', ')}.`);
  for (const [name, part] of Object.entries(parts)) if (asked.length === 0 || asked.includes(name)) await part();
  if (asked.length > 0) return;
  const table = [
    '| what | size of the work | measured | goal |',
    '|---|---|---|---|',
    ...rows.map((cells) => `| ${cells.join(' | ')} |`),
  ].join('\n');
  writeFileSync(
    join(root, 'docs/performance.md'),
    `# Performance\n\nThe latest run of \`npm run bench\`, on ${cpus().length} cores, Node ${process.version}, load before it ${loadavg()[0].toFixed(2)}. Speeds are measured here and never asserted in\ntests: machines differ, and a slow one must not turn a right answer into a wrong one.\n\n${table}\n`,
  );
});
