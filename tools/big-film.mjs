// Part of npm run soak: a film of two gigabytes, sent by the protocol's known client over a line that is cut three times, loses a bit once, to
// a server that is killed twice; whole at the end, with no more than 100 MB of memory.
import { createHash, randomBytes } from 'node:crypto';
import { createReadStream, mkdtempSync, openSync, readFileSync, rmSync, writeSync } from 'node:fs';
import { connect, createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DefaultHttpStack, Upload } from 'tus-js-client';
import { caller } from './caller.mjs';
import { build, database, freePort, serve } from './setup.mjs';

const BYTES = Number(process.env.VIATICUM_FILM_BYTES || 2_000_000_000);
const PIECE = 8 * 1024 * 1024;
const folder = mkdtempSync(join(tmpdir(), 'viaticum-big-'));
const path = join(folder, 'film.webm');
const whole = createHash('sha256');
const handle = openSync(path, 'w');
const noise = randomBytes(PIECE);
for (let at = 0; at < BYTES; at += PIECE) {
  const piece = Buffer.from(noise.subarray(0, Math.min(PIECE, BYTES - at)));
  piece.writeUInt32BE(at === 0 ? 0x1a45dfa3 : (at / PIECE) >>> 0, 0);
  whole.update(piece);
  writeSync(handle, piece);
}
const sha256 = whole.digest('hex');

await build();
const own = await database(folder);
const port = await freePort();
const settings = {
  VIATICUM_PORT: String(port),
  VIATICUM_DATA: join(folder, 'data'),
  VIATICUM_DATABASE_URL: own.url('big'),
  VIATICUM_QUIET: '1',
};
let { child: server } = await serve(settings);
const url = `http://127.0.0.1:${port}`;
const ask = caller(url);
const { cookie } = await ask('POST', '/api/session', { name: 'demo', password: 'north light' });
const rss = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))?.[1] ?? 0) / 1000;

// Cut at these shares of the film; at one of them a bit is turned over; at two the server is killed.
const cuts = [0.15, 0.4, 0.75].map((share) => share * BYTES);
let flipAt = 0.3 * BYTES;
const kills = [0.55, 0.85].map((share) => share * BYTES);
let through = 0;
let [cut, killed, flipped] = [0, 0, 0];
let most = 0;
let base = 0;
const line = createServer((near) => {
  const far = connect(port, '127.0.0.1');
  for (const one of [near, far]) one.on('error', () => undefined);
  near.on('close', () => far.destroy());
  far.on('close', () => near.destroy());
  far.pipe(near);
  near.on('data', (chunk) => {
    if (through < flipAt && through + chunk.length >= flipAt && chunk.length > 1000) {
      chunk[chunk.length - 1] ^= 1;
      flipAt = Number.POSITIVE_INFINITY;
      flipped++;
    }
    through += chunk.length;
    if (cuts[0] !== undefined && through > cuts[0]) {
      cuts.shift();
      cut++;
      near.destroy();
      return;
    }
    if (kills[0] !== undefined && through > kills[0]) {
      kills.shift();
      killed++;
      near.destroy();
      void again();
      return;
    }
    if (!far.write(chunk)) {
      near.pause();
      far.once('drain', () => near.resume());
    }
  });
});
async function again() {
  server.kill('SIGKILL');
  await new Promise((done) => server.once('exit', done));
  ({ child: server } = await serve(settings));
  base = rss();
}
await new Promise((done) => line.listen(0, '127.0.0.1', done));
base = rss();
const look = setInterval(() => {
  try {
    most = Math.max(most, rss() - base);
  } catch {
    // It has just been killed.
  }
}, 100);

/** Each piece says its hash, as the page's own does. */
class Checked extends DefaultHttpStack {
  createRequest(method, address) {
    const request = super.createRequest(method, address);
    if (method !== 'PATCH') return request;
    const send = request.send.bind(request);
    request.send = async (body) => {
      const parts = [];
      for await (const part of body) parts.push(part);
      const piece = Buffer.concat(parts);
      request.setHeader('Upload-Checksum', `sha256 ${createHash('sha256').update(piece).digest('base64')}`);
      return send(piece);
    };
    return request;
  }
}
const begun = performance.now();
const place = await new Promise((done, failed) => {
  const upload = new Upload(createReadStream(path), {
    endpoint: `http://127.0.0.1:${line.address().port}/api/films`,
    chunkSize: PIECE,
    uploadSize: BYTES,
    retryDelays: [300, 600, 1000, 2000, 4000, 4000],
    headers: { cookie, origin: url },
    metadata: { name: 'big.webm' },
    httpStack: new Checked({}),
    onShouldRetry: () => true,
    onError: failed,
    onSuccess: () => done(new URL(upload.url).pathname),
  });
  upload.start();
});
const seconds = (performance.now() - begun) / 1000;
const { body } = await ask('POST', `${place}/finish`, { sha256 }, cookie);
clearInterval(look);
const isWhole = body.sha256 === sha256 && body.bytes === BYTES;
console.log(
  `a film of ${(BYTES / 1e9).toFixed(1)} GB: ${isWhole ? 'whole' : `NOT WHOLE (${JSON.stringify(body)})`} after ${seconds.toFixed(0)} s, ${cut} cuts, ${flipped} bits turned over, ${killed} kills; ${Math.round(most)} MB more memory at most`,
);
const isHeld = isWhole && cut === 3 && killed === 2 && flipped === 1 && most <= 100;
server.kill('SIGTERM');
line.close();
await own.stop();
rmSync(folder, { recursive: true, force: true });
process.exit(isHeld ? 0 : 1);
