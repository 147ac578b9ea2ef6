// Part of npm run bench: what is kept. Saving a long lesson, a shelf of five hundred, finding in it, a package and a backup.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { writeBackup } from '../packages/server/dist/backup/writing.js';

const LESSONS = 500;
const STEPS = 60;
const at = (list, share) => [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * share))];
const said = (times) => `median ${at(times, 0.5).toFixed(0)} ms, p95 ${at(times, 0.95).toFixed(0)}`;
const timed = async (work) => {
  const from = performance.now();
  await work();
  return performance.now() - from;
};

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
}
