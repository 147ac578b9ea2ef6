import { createHash, randomBytes } from 'node:crypto';
import { readdir } from 'node:fs/promises';
import { connect, createServer, type Server, type Socket } from 'node:net';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { FILMS_PATH, type FilmFile, type FilmsAnswer, type LessonAnswer } from '@viaticum/contract';
import { Upload } from 'tus-js-client';
import { type TestServer, testServer } from '../server.fixture.js';

let server: TestServer;
let cookie: string;
beforeAll(async () => {
  server = await testServer();
  cookie = await server.signIn();
});
afterAll(() => server.stop());

/** Bytes that begin as a WebM does; nobody looks at what follows. */
const filmOf = (bytes: number): Buffer => Buffer.concat([Buffer.from([0x1a, 0x45, 0xdf, 0xa3]), randomBytes(bytes - 4)]);
const sha256 = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex');
const from = 'http://viaticum.test';

/** A line to the server that breaks after so many bytes, each number once, and may flip a bit once. */
function brokenLine(
  breaks: number[],
  flipAt = Number.POSITIVE_INFINITY,
): Promise<{ port: number; close: () => void; cuts: () => number }> {
  let through = 0;
  let cuts = 0;
  const open = new Set<Socket>();
  const line: Server = createServer((near) => {
    const far = connect(server.port, '127.0.0.1');
    for (const one of [near, far]) {
      open.add(one);
      one.on('error', () => undefined).on('close', () => open.delete(one));
    }
    far.pipe(near);
    near.on('data', (chunk) => {
      const own = Buffer.from(chunk);
      if (through < flipAt && through + own.length >= flipAt && own.length > 2000) {
        own[own.length - 1] = (own[own.length - 1] as number) ^ 1;
        flipAt = Number.POSITIVE_INFINITY;
      }
      through += own.length;
      if (breaks[0] !== undefined && through > breaks[0]) {
        breaks.shift();
        cuts++;
        near.destroy();
        far.destroy();
        return;
      }
      far.write(own);
    });
    near.on('end', () => far.end());
  });
  return new Promise((done) => {
    line.listen(0, '127.0.0.1', () => {
      const { port } = line.address() as { port: number };
      done({
        port,
        cuts: () => cuts,
        close: () => {
          for (const one of open) one.destroy();
          line.close();
        },
      });
    });
  });
}

/** Sends a film with the protocol's known client; gives the address of its upload. */
const sent = (film: Buffer, port: number, pieceBytes: number): Promise<string> =>
  new Promise((done, failed) => {
    const upload = new Upload(film as never, {
      endpoint: `http://127.0.0.1:${port}${FILMS_PATH}`,
      chunkSize: pieceBytes,
      retryDelays: [10, 10, 10, 10, 10],
      metadata: { name: 'The terraces.webm', type: 'video/webm' },
      headers: { cookie, origin: from },
      onError: failed,
      onSuccess: () => done(new URL(upload.url as string).pathname),
    });
    upload.start();
  });

describe('a film that is uploaded', () => {
  it('arrives whole over a line that breaks three times, by the known client of the protocol (tus-js-client)', async () => {
    const film = filmOf(3_000_000);
    const line = await brokenLine([400_000, 1_300_000, 2_100_000]);
    const path = await sent(film, line.port, 500_000);
    expect(line.cuts()).toBe(3);
    line.close();
    const finished = await server.request('POST', `${path}/finish`, { sha256: sha256(film) }, cookie);
    expect(finished.status).toBe(201);
    expect(finished.body).toMatchObject({
      sha256: sha256(film),
      type: 'video/webm',
      bytes: 3_000_000,
      name: 'The terraces.webm',
    });
    const whole = await server.request('GET', `${FILMS_PATH}/${sha256(film)}`, undefined, cookie);
    expect(whole.raw.equals(film)).toBe(true);
    expect(await readdir(join(server.config.dataFolder, 'films', 'parts'))).toEqual([]);
  }, 60_000);

  it('that changed on the way is found out, and nothing of it is kept', async () => {
    const film = filmOf(600_000);
    const line = await brokenLine([], 300_000);
    const path = await sent(film, line.port, 200_000);
    line.close();
    const { status, body } = await server.request('POST', `${path}/finish`, { sha256: sha256(film) }, cookie);
    expect([status, body.message]).toEqual([422, 'The film changed on the way. Nothing was kept; upload it again.']);
    expect(await readdir(join(server.config.dataFolder, 'films', 'parts'))).toEqual([]);
    expect((await server.request('GET', path, undefined, cookie)).status).toBe(404);
  }, 60_000);
});

describe('the protocol (tus 1.0.0)', () => {
  const begin = async (bytes: number) => {
    const { headers, status } = await server.request('POST', FILMS_PATH, undefined, cookie, { 'upload-length': String(bytes) });
    expect(status).toBe(201);
    return String(headers.location);
  };
  const put = (path: string, offset: number, bytes: Buffer, more: Record<string, string> = {}) =>
    server.request('PATCH', path, bytes, cookie, {
      'content-type': 'application/offset+octet-stream',
      'upload-offset': String(offset),
      ...more,
    });

  it('says what it can, where an upload stands, and refuses a piece that does not follow', async () => {
    const said = await server.request('OPTIONS', FILMS_PATH);
    expect(said.headers).toMatchObject({ 'tus-version': '1.0.0', 'tus-extension': 'creation,checksum,termination' });
    const film = filmOf(1000);
    const path = await begin(1000);
    expect((await put(path, 0, film.subarray(0, 400))).headers['upload-offset']).toBe('400');
    expect((await put(path, 300, film.subarray(300, 400))).status).toBe(409);
    const stands = await server.request('HEAD', path, undefined, cookie);
    expect(stands.headers).toMatchObject({ 'upload-offset': '400', 'upload-length': '1000', 'cache-control': 'no-store' });
    expect((await put(path, 400, Buffer.alloc(900))).status).toBe(409);
    expect((await server.request('POST', `${path}/finish`, { sha256: sha256(film) }, cookie)).body.code).toBe('not-whole');
    expect((await server.request('DELETE', path, undefined, cookie)).status).toBe(204);
    expect((await server.request('HEAD', path, undefined, cookie)).status).toBe(404);
  });
  it('a piece with a wrong checksum does not count, one with the right one does', async () => {
    const film = filmOf(500);
    const path = await begin(500);
    const checksum = (bytes: Buffer) => `sha256 ${createHash('sha256').update(bytes).digest('base64')}`;
    const wrong = await put(path, 0, film, { 'upload-checksum': checksum(filmOf(500)) });
    expect([wrong.status, wrong.body.code]).toEqual([460, 'checksum']);
    expect((await server.request('HEAD', path, undefined, cookie)).headers['upload-offset']).toBe('0');
    expect((await put(path, 0, film, { 'upload-checksum': checksum(film) })).status).toBe(204);
    expect((await server.request('POST', `${path}/finish`, { sha256: sha256(film) }, cookie)).status).toBe(201);
  });
  it('goes on after the server was killed in the middle of a piece: what was written and not said to be there is cut off', async () => {
    const film = filmOf(2000);
    const path = await begin(2000);
    await put(path, 0, film.subarray(0, 700));
    const id = path.split('/').at(-1) as string;
    const { appendFile } = await import('node:fs/promises');
    await appendFile(join(server.config.dataFolder, 'films', 'parts', id), Buffer.alloc(333, 7));
    expect((await server.request('HEAD', path, undefined, cookie)).headers['upload-offset']).toBe('700');
    expect((await put(path, 700, film.subarray(700))).status).toBe(204);
    expect((await server.request('POST', `${path}/finish`, { sha256: sha256(film) }, cookie)).status).toBe(201);
  });
  it('says in a sentence what is no film, what is too large, and that two are enough at once', async () => {
    const pdf = Buffer.concat([Buffer.from('%PDF-1.7 '), randomBytes(100)]);
    const path = await begin(pdf.length);
    await put(path, 0, pdf);
    const refused = await server.request('POST', `${path}/finish`, { sha256: sha256(pdf) }, cookie);
    expect([refused.status, refused.body.message]).toEqual([
      415,
      'This is not a film (it begins like a PDF). MP4 or WebM can be used.',
    ]);
    const asked = (bytes: string) => server.request('POST', FILMS_PATH, undefined, cookie, { 'upload-length': bytes });
    expect((await asked('9000000000')).status).toBe(413);
    expect((await asked('a lot')).status).toBe(400);
    const two = [await begin(1000), await begin(1000)];
    expect((await asked('1000')).status).toBe(429);
    for (const one of two) await server.request('DELETE', one, undefined, cookie);
  });
});

describe('a film that is watched', () => {
  const film = filmOf(5000);
  let file: FilmFile;
  beforeAll(async () => {
    const { headers } = await server.request('POST', FILMS_PATH, undefined, cookie, { 'upload-length': '5000' });
    await server.request('PATCH', String(headers.location), film, cookie, {
      'content-type': 'application/offset+octet-stream',
      'upload-offset': '0',
    });
    file = (await server.request('POST', `${headers.location}/finish`, { sha256: sha256(film) }, cookie))
      .body as unknown as FilmFile;
  });
  const get = (headers: Record<string, string>, url = `${FILMS_PATH}/${file.sha256}`, as = cookie) =>
    server.request('GET', url, undefined, as, headers);

  it('comes by ranges (RFC 9110)', async () => {
    const part = await get({ range: 'bytes=1000-1999' });
    expect([part.status, part.headers['content-range']]).toEqual([206, 'bytes 1000-1999/5000']);
    expect(part.raw.equals(film.subarray(1000, 2000))).toBe(true);
    expect((await get({ range: 'bytes=-100' })).raw.equals(film.subarray(4900))).toBe(true);
    const beyond = await get({ range: 'bytes=9000-' });
    expect([beyond.status, beyond.headers['content-range']]).toEqual([416, 'bytes */5000']);
    expect((await get({ range: 'bytes=0-9', 'if-range': '"another"' })).status).toBe(200);
    expect((await get({ range: 'bytes=0-9', 'if-range': `"${file.sha256}"` })).status).toBe(206);
    expect((await get({ 'if-none-match': `"${file.sha256}"` })).status).toBe(304);
    expect((await get({})).headers).toMatchObject({ 'accept-ranges': 'bytes', 'content-type': 'video/webm' });
  });
  it('by its owner, and by who has the link to a lesson beside which it stands; by nobody else', async () => {
    const other = await server.anotherInstructor();
    expect((await get({}, undefined, other)).status).toBe(404);
    expect((await get({}, undefined, '')).status).toBe(401);
    const lesson: LessonAnswer = await server.demoLesson(cookie);
    const [step] = lesson.document.steps;
    const joined = {
      id: 'f1',
      name: 'The whole lesson',
      fileSha256: file.sha256,
      type: file.type,
      bytes: file.bytes,
      durationMs: 60_000,
      widthPx: 320,
      heightPx: 180,
      chapters: [{ stepId: step?.id as string, fromMs: 0, toMs: 60_000 }],
      strokes: [],
    };
    const tokenOf = async (): Promise<string> => {
      const { body } = await server.request('POST', `/api/lessons/${lesson.id}/alone`, {}, cookie);
      return String(body.address).split('/').at(-1) as string;
    };
    const before = await tokenOf();
    expect((await get({}, `/api/alone/${before}/films/${file.sha256}`, '')).status).toBe(404);
    const document = { ...lesson.document, film: { films: [joined] } };
    await server.request('PUT', `/api/lessons/${lesson.id}`, { baseRevision: lesson.revision, document }, cookie);
    const link = await tokenOf();
    const sheet = await server.request('GET', `/api/alone/${link}`);
    expect((sheet.body as { sheet: { films: unknown[] } }).sheet.films).toEqual([joined]);
    const watched = await get({ range: 'bytes=0-99' }, `/api/alone/${link}/films/${file.sha256}`, '');
    expect([watched.status, watched.raw.equals(film.subarray(0, 100))]).toEqual([206, true]);
    expect((await get({}, `/api/alone/${link}/films/${'0'.repeat(64)}`, '')).status).toBe(404);
    const { code } = await server.openClass(cookie);
    expect((await get({}, `/api/join/${code}/films/${file.sha256}`, '')).status).toBe(200);
  });
  it('goes with its owner', async () => {
    const list = (await server.request('GET', FILMS_PATH, undefined, cookie)).body as unknown as FilmsAnswer;
    expect(list.films.map((one) => one.sha256)).toContain(file.sha256);
    expect((await server.request('DELETE', `${FILMS_PATH}/${file.sha256}`, undefined, cookie)).status).toBe(204);
    expect((await get({})).status).toBe(404);
    const left = await readdir(join(server.config.dataFolder, 'films', file.sha256.slice(0, 2)));
    expect(left).not.toContain(file.sha256);
  });
});

describe('a lesson that is filmed', () => {
  it('is ticked on a phone by its link; a note sent twice is one note', async () => {
    const { id } = await server.demoLesson(cookie);
    expect((await server.request('GET', `/api/lessons/${id}/shoot-link`, undefined, cookie)).body).toEqual({ address: '' });
    const made = (await server.request('POST', `/api/lessons/${id}/shoot-link`, {}, cookie)).body as { address?: string };
    const token = String(made.address).split('/').at(-1);
    const read = async () =>
      (await server.request('GET', `/api/shoot/${token}`)).body as unknown as {
        sheet: { takes: { id: string; slate: string }[] };
        notes: { id: string; kind: string }[];
      };
    const first = await read();
    expect(first.sheet.takes.length).toBeGreaterThan(20);
    expect(first.notes).toEqual([]);
    const takeId = first.sheet.takes[0]?.id as string;
    const notes = [
      { id: 'n1', at: 1000, takeId, kind: 'started' },
      { id: 'n2', at: 61_000, takeId, kind: 'stopped' },
    ];
    for (let k = 0; k < 2; k++) await server.request('POST', `/api/shoot/${token}/notes`, { notes });
    expect((await read()).notes.map((one) => one.id)).toEqual(['n1', 'n2']);
    const good = { notes: [{ id: 'n3', at: 62_000, takeId, kind: 'good' }] };
    expect((await server.request('POST', `/api/lessons/${id}/shoot`, good, cookie)).body).toHaveLength(3);
    const wrong = await server.request('POST', `/api/shoot/${token}/notes`, { notes: [{ ...notes[0], kind: 'cut' }] });
    expect(wrong.status).toBe(400);
    await server.request('POST', `/api/lessons/${id}/shoot-link`, {}, cookie);
    expect((await server.request('GET', `/api/shoot/${token}`)).status).toBe(404);
  });
});
