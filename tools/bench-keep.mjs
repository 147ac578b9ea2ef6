// Part of npm run bench: what is kept. Saving a long lesson, a shelf of five hundred, finding in it, a package and a backup, the log.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createConnection } from 'mysql2/promise';
import { writeBackup } from '../packages/server/dist/backup/writing.js';
import { placeOf } from '../packages/server/dist/db/source.js';

const LESSONS = 500;
const STEPS = 60;
const at = (list, share) => [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * share))];
const said = (times) => `median ${at(times, 0.5).toFixed(0)} ms, p95 ${at(times, 0.95).toFixed(0)}`;
const timed = async (work) => {
  const from = performance.now();
  await work();
  return performance.now() - from;
};

const CLASSES = 1000;
const ITEMS = 20;
const REMARKS = ['the stove was on', 'curves took long', 'two came late', 'ridges too dark', 'sky still wet'];

/** The log of a busy studio: so many classes of one lesson, a room each ten, four touched coats and twelve students in each. */
async function logRows(row, each, { document, lessonId, databaseUrl }) {
  const connection = await createConnection(placeOf(databaseUrl));
  const [[{ owner_id: ownerId }]] = await connection.query('SELECT owner_id FROM lesson WHERE id = ?', [lessonId]);
  const steps = document.steps.slice(0, ITEMS);
  const wave = (k) => Math.sin(k * 12.9898);
  for (let c = 0; c < CLASSES; c += 100) {
    const values = Array.from({ length: 100 }, (_, k) => {
      const n = c + k;
      const remark = REMARKS[n % REMARKS.length];
      const items = Array.from({ length: ITEMS }, (_, i) => {
        const step = steps[i % steps.length];
        const about = { kind: 'step', stepId: step.id, title: step.title, technique: step.technique ?? null, planned: 6 };
        return { ...about, actual: 6 + 2 * wave(n + i), present: 12, done: 10, assumed: 2, asks: i % 3, reasons: [], note: '' };
      });
      const at = Date.UTC(2023, 0, 1) + n * 86_400_000;
      const card = {
        ...{
          kind: 'class',
          title: document.title,
          lessonId,
          at: new Date(at).toISOString(),
          room: document.room.name,
          air: null,
        },
        ...{ students: 12, level: 'beginner', plannedMin: 120, actualMin: 130, finished: 11, items, note: remark },
      };
      const touches = Array.from({ length: 4 }, (_, i) => ({
        ...{ stepId: steps[i].id, technique: steps[i].technique ?? null },
        ...{ predictedMin: 10, wetAtMin: 9 + wave(n + i), dryAtMin: 11.5 + wave(n + i) },
      }));
      const paces = Array.from({ length: 12 * 8 }, (_, i) => {
        const planned = 6;
        const took = planned * Math.exp(0.3 * wave(n * 7 + i));
        return { stepId: steps[i % 8].id, technique: null, planned, from: took - 1, to: took + 1, who: Math.floor(i / 8) };
      });
      const words = [card.title, card.room, ...items.map((item) => item.title), remark].join('\n');
      return [`bench${n}`, ownerId, lessonId, null, null, at, JSON.stringify(card), JSON.stringify({ touches, paces }), words];
    });
    await connection.query('INSERT INTO class_log (id, owner_id, lesson_id, class_id, code, at, card, facts, words) VALUES ?', [
      values,
    ]);
  }
  await connection.end();
  const size = `${CLASSES} classes of ${ITEMS} rows`;
  row('the log, a page of 40', size, said(await each('/api/log')), '≤ 200 ms');
  row('found in the log', `“stove” in ${CLASSES} classes`, said(await each('/api/log?words=stove')), '≤ 300 ms');
  const suggesting = await each(`/api/lessons/${lessonId}/suggestions`, 5);
  row('what all of them suggest for a lesson', `${CLASSES * 4} coats, 24 × 12 students`, said(suggesting), '');
  const calibrating = await each(`/api/lessons/${lessonId}/calibrations`, 5);
  row('what all of them teach of drying, pace, help', `${CLASSES * 4} coats, 24 × 12 students`, said(calibrating), '');
}

/** `lessonId` names a lesson of the demo; the server works on `databaseUrl` and `dataFolder`. */
export async function keepRows(row, { origin, call, cookie, lessonId, databaseUrl, dataFolder }) {
  const { document } = (await call('GET', `/api/lessons/${lessonId}`, null, cookie)).json;
  const steps = Array.from({ length: STEPS }, (_, i) => ({ ...document.steps[i % document.steps.length], id: `s${i}` }));
  const long = { ...document, steps, passages: [], planning: { ...document.planning, pins: [] }, film: undefined };
  const made = (await call('POST', '/api/lessons', { document: long }, cookie)).json;
  const saves = [];
  let { revision } = made;
  for (let i = 0; i < 60; i++) {
    const body = { baseRevision: revision, document: { ...long, title: `Saved ${i}` } };
    saves.push(
      await timed(async () => {
        revision = (await call('PUT', `/api/lessons/${made.id}`, body, cookie)).json.revision;
      }),
    );
  }
  const kb = Math.round(JSON.stringify(long).length / 1000);
  row('a lesson is saved, on the server', `${STEPS} steps, ${kb} kB, 60 times`, said(saves.slice(5)), 'p95 ≤ 50 ms');
  const there = (await call('GET', '/api/lessons', null, cookie)).json.length;
  for (let i = there; i < LESSONS; i++)
    await call('POST', '/api/lessons', { document: { ...document, title: `Lesson ${i}` } }, cookie);
  const each = async (path, times = 20) => {
    const all = [];
    for (let i = 0; i < times; i++) all.push(await timed(() => call('GET', path, null, cookie)));
    return all;
  };
  row('the shelf', `${LESSONS} lessons`, said(await each('/api/lessons')), '≤ 200 ms');
  row('found on the shelf', `“near ridge” in ${LESSONS} lessons`, said(await each('/api/shelf/found?words=near%20ridge')), '');
  const bytes = async () => (await (await fetch(`${origin}/api/package`, { headers: { cookie } })).arrayBuffer()).byteLength;
  let size = 0;
  const packed = await timed(async () => {
    size = await bytes();
  });
  row('all lessons as a package', `${LESSONS} lessons, ${(size / 1e6).toFixed(1)} MB`, `${(packed / 1000).toFixed(1)} s`, '');
  const folder = mkdtempSync(join(tmpdir(), 'viaticum-bench-backup-'));
  let written = null;
  const took = await timed(async () => {
    written = await writeBackup({ url: databaseUrl, dataFolder, to: join(folder, 'all.zip') });
  });
  const { rows, files } = written;
  row('a backup', `${rows} rows, ${files} files, ${(written.bytes / 1e6).toFixed(1)} MB`, `${(took / 1000).toFixed(1)} s`, '');
  rmSync(folder, { recursive: true, force: true });
  await logRows(row, each, { document, lessonId, databaseUrl });
}
