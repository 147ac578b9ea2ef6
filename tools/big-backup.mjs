// Part of npm run soak: a Viaticum with a film of five gigabytes is backed up and restored; neither takes more than 200 MB of memory.
import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { createReadStream, mkdirSync, mkdtempSync, openSync, readFileSync, rmSync, statSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createConnection } from 'mysql2/promise';
import { placeOf } from '../packages/server/dist/db/source.js';
import { build, database, freePort, root, serve } from './setup.mjs';

const BYTES = Number(process.env.VIATICUM_BACKUP_BYTES || 5_000_000_000);
const MOST_MB = 200;
const folder = mkdtempSync(join(tmpdir(), 'viaticum-backup-'));
await build();
const own = await database(folder);
const data = join(folder, 'data');
const url = own.url('one');
const { child } = await serve({
  VIATICUM_PORT: String(await freePort()),
  VIATICUM_DATA: data,
  VIATICUM_DATABASE_URL: url,
  VIATICUM_QUIET: '1',
});
child.kill('SIGTERM');

// The film of the demo is exchanged for a long one under its name.
const connection = await createConnection(placeOf(url));
const [[{ sha256 }]] = await connection.query('SELECT sha256 FROM film_file LIMIT 1');
await connection.end();
const place = (where) => join(where, 'films', sha256.slice(0, 2), sha256);
rmSync(place(data));
const handle = openSync(place(data), 'w');
const piece = Buffer.alloc(8 * 1024 * 1024, 7);
for (let at = 0; at < BYTES; at += piece.length) {
  piece.writeUInt32BE((at / piece.length) >>> 0, 0);
  writeSync(handle, piece, 0, Math.min(piece.length, BYTES - at));
}
const hashOf = (path) =>
  new Promise((done) => {
    const hash = createHash('sha256');
    createReadStream(path)
      .on('data', (chunk) => hash.update(chunk))
      .on('end', () => done(hash.digest('hex')));
  });

/** Runs a backup or a restore; gives its seconds and the most memory that it had, MB. */
const measured = (what, file, address, where) =>
  new Promise((done, fail) => {
    const began = Date.now();
    let most = 0;
    const one = spawn(process.execPath, ['packages/server/dist/backup/cli.js', what, file], {
      cwd: root,
      stdio: 'inherit',
      env: { ...process.env, VIATICUM_DATABASE_URL: address, VIATICUM_DATA: where },
    });
    const timer = setInterval(() => {
      try {
        most = Math.max(most, Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${one.pid}/status`, 'utf8'))?.[1] ?? 0) / 1000);
      } catch {
        // It has just ended.
      }
    }, 100);
    one.on('exit', (code) => {
      clearInterval(timer);
      if (code === 0) done({ seconds: (Date.now() - began) / 1000, most });
      else fail(new Error(`the ${what} ended with ${code}`));
    });
  });
const file = join(folder, 'backup.zip');
const backup = await measured('backup', file, url, data);
const there = join(folder, 'there');
mkdirSync(there);
const restored = await measured('restore', file, own.url('two'), there);
const same = (await hashOf(place(data))) === (await hashOf(place(there)));
const told = (one) => `${one.seconds.toFixed(1)} s, at most ${one.most.toFixed(0)} MB of memory`;
console.log(
  `a backup of ${(statSync(file).size / 1e9).toFixed(1)} GB: ${told(backup)}; restored: ${told(restored)}; ${same ? 'the same' : 'NOT the same'}`,
);
await own.stop();
rmSync(folder, { recursive: true, force: true });
process.exit(same && Math.max(backup.most, restored.most) < MOST_MB ? 0 : 1);
