// Requests and frames as the contract's schemas describe them, and as they do not; and bodies that cost more to read than to send. No answer
// may be a 5xx, nothing may hang, and the server must go on answering others meanwhile.
// node tools/fuzz.mjs --requests 20000 --frames 5000 --bodies 10000
import { fork } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { monitorEventLoopDelay } from 'node:perf_hooks';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { database, freePort, serve } from './setup.mjs';

const { values } = parseArgs({
  options: {
    requests: { type: 'string', default: '20000' },
    frames: { type: 'string', default: '5000' },
    bodies: { type: 'string', default: '10000' },
    // Seconds for which four sockets ask for everything and read nothing.
    deaf: { type: 'string', default: '60' },
    seed: { type: 'string', default: '1' },
    // On a quiet machine: how long others wait is a fault as well.
    strict: { type: 'boolean', default: false },
  },
});
/** The longest that others may wait. */
const MOST_BLOCK_MS = 50;
const MOST_GROWN_MB = 50;
const MOST_SLOWER = 2;

const folder = mkdtempSync(join(tmpdir(), 'viaticum-fuzz-'));
const own = await database(folder);
const port = await freePort();
const { child } = await serve({
  VIATICUM_PORT: String(port),
  VIATICUM_DATA: join(folder, 'data'),
  VIATICUM_DATABASE_URL: own.url('fuzz'),
  VIATICUM_QUIET: '1',
  VIATICUM_BLOCKS: '1',
  VIATICUM_TRUST_PROXY: '127.0.0.1',
});
/** How long the server's event loop was blocked, as it says itself. */
let blocked = 0;
child.on('message', ({ blockedMs }) => {
  blocked = Math.max(blocked, blockedMs ?? 0);
});
const faults = [];
/** A process that attacks; gives what it counted. */
const attack = (kind, count) =>
  new Promise((done) => {
    const attacker = fork(fileURLToPath(new URL('fuzz/attack.mjs', import.meta.url)), [
      kind,
      String(count),
      String(port),
      values.seed,
    ]);
    let counted = null;
    attacker.on('message', (message) => {
      counted = message;
    });
    attacker.on('exit', () => done(counted ?? { faults: [`${kind}: the attacker ended without a word`] }));
  });

/** Resident memory of the server, MB. */
const memory = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))?.[1]) / 1024;

for (const kind of ['requests', 'frames', 'bodies', 'deaf']) {
  const count = Number(values[kind]);
  if (count === 0) continue;
  blocked = 0;
  // What a process that does nothing is kept waiting by this machine at the same time.
  const idle = monitorEventLoopDelay({ resolution: 5 });
  idle.enable();
  const from = performance.now();
  const [rss, { faults: found, statuses = {}, slowestMs = 0, ratio = 0 }] = [memory(), await attack(kind, count)];
  faults.push(...found.slice(0, 5));
  idle.disable();
  const waited = idle.max / 1e6;
  if (values.strict && kind === 'bodies' && blocked - waited > MOST_BLOCK_MS)
    faults.push(`the event loop was blocked for ${Math.round(blocked)} ms by a body`);
  if (kind === 'deaf') {
    const grown = memory() - rss;
    console.log(
      `four sockets that never read for ${count} s: memory grew by ${Math.round(grown)} MB, ${JSON.stringify(statuses)}`,
    );
    if (values.strict && grown > MOST_GROWN_MB) faults.push(`deaf sockets cost ${Math.round(grown)} MB`);
    if (values.strict && ratio > MOST_SLOWER) faults.push(`others wait ${ratio.toFixed(1)} times as long beside deaf sockets`);
    continue;
  }
  console.log(
    `${kind}: ${count} in ${((performance.now() - from) / 1000).toFixed(1)} s, ${JSON.stringify(statuses)}, slowest answer ${Math.round(slowestMs)} ms, event loop blocked at most ${Math.round(blocked)} ms (a process that did nothing: ${Math.round(waited)} ms)`,
  );
  if (child.exitCode !== null || child.signalCode !== null) {
    faults.push(`the server ended in ${kind}`);
    break;
  }
}
child.kill('SIGTERM');
await own.stop();
rmSync(folder, { recursive: true, force: true });
for (const fault of faults) console.error(`  fault: ${fault}`);
process.exit(faults.length === 0 ? 0 : 1);
