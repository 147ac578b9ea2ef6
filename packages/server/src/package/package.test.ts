import { createHash } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { BroughtIn, Course, Lesson, LessonAnswer, LessonCard, PackageManifest } from '@viaticum/contract';
import { Ajv } from 'ajv';
import JSZip from 'jszip';
import sharp from 'sharp';
import { type TestServer, testServer } from '../server.fixture.js';

let here: TestServer;
let elsewhere: TestServer;
let cookie: string;
let there: string;
beforeAll(async () => {
  [here, elsewhere] = await Promise.all([testServer(), testServer()]);
  cookie = await here.signIn();
  there = await elsewhere.anotherInstructor();
});
afterAll(() => Promise.all([here.stop(), elsewhere.stop()]));

const sha = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');
async function send(server: TestServer, path: string, as: string, bytes: Uint8Array) {
  const form = new FormData();
  form.append('file', new Blob([new Uint8Array(bytes)]), 'x');
  const answer = await fetch(`http://127.0.0.1:${server.port}${path}`, {
    ...{ method: 'POST', body: form, headers: { cookie: as, origin: 'http://viaticum.test' } },
  });
  return { status: answer.status, body: (await answer.json()) as BroughtIn & { message: string; sha256: string } };
}
const bringIn = (bytes: Uint8Array, as = there, server = elsewhere) => send(server, '/api/package', as, bytes);
const shelf = async (server: TestServer, as: string) =>
  (await server.request('GET', '/api/lessons', undefined, as)).body as unknown as LessonCard[];
const textOf = async (server: TestServer, as: string, id: string): Promise<string> => {
  const answer = String((await server.request('GET', `/api/lessons/${id}`, undefined, as)).raw);
  return answer.slice(answer.indexOf('"document":') + 11, -1);
};
const packed = async (url = '/api/package', as = cookie) => {
  const { status, raw, headers } = await here.request('GET', url, undefined, as);
  expect([status, headers['content-type']]).toEqual([200, 'application/zip']);
  return raw as Buffer;
};
/** A package with something changed in it. */
async function changed(bytes: Uint8Array, change: (zip: JSZip, manifest: PackageManifest) => unknown): Promise<Uint8Array> {
  const zip = await JSZip.loadAsync(bytes);
  const manifest = JSON.parse((await zip.file('viaticum.json')?.async('text')) ?? '') as PackageManifest;
  await change(zip, manifest);
  if (zip.file('viaticum.json')) zip.file('viaticum.json', JSON.stringify(manifest));
  return zip.generateAsync({ type: 'uint8array' });
}

describe('a package of lessons', () => {
  it('is read by hand: what lies in it, lessons as JSON that hold to the schema beside them, pictures', async () => {
    const bytes = await packed();
    const zip = await JSZip.loadAsync(bytes);
    const read = async (name: string) => JSON.parse((await zip.file(name)?.async('text')) ?? 'null');
    const manifest = (await read('viaticum.json')) as PackageManifest;
    expect(manifest.lessons).toHaveLength(4);
    const ajv = new Ajv({ strict: false });
    expect(ajv.validate(await read('schema/package.schema.json'), manifest)).toBe(true);
    const isLesson = ajv.compile(await read('schema/lesson.schema.json'));
    for (const { file, pictures } of manifest.lessons) {
      expect([file, isLesson(await read(file))]).toEqual([file, true]);
      expect(pictures.length).toBeGreaterThan(0);
    }
    for (const { file, contentSha256 } of manifest.pictures) {
      const picture = (await zip.file(file)?.async('uint8array')) as Uint8Array;
      expect(sha(picture)).toBe(contentSha256);
      expect((await sharp(picture).metadata()).exif).toBeUndefined();
    }
    expect(await zip.file('README.txt')?.async('text')).toContain('Bring it in');
  });
  it('brought in elsewhere its lessons are the same to the last byte, with their pictures, courses and kept things', async () => {
    const room = { name: 'attic', airC: 17, humidity: 0.6, airSpeed: 0.1 };
    await here.request('PUT', '/api/rooms', { room }, cookie);
    const own = await shelf(here, cookie);
    const lessonIds = own.slice(0, 2).map(({ id }) => id);
    await here.request('POST', '/api/courses', { title: 'Two evenings', lessonIds }, cookie);
    const { status, body } = await bringIn(await packed());
    expect([status, body.added.length, body.there, body.courses, body.kept]).toEqual([201, 4, [], 1, 1]);
    for (const { id, title } of body.added) {
      const mine = own.find((one) => one.title === title) as LessonCard;
      const text = await textOf(elsewhere, there, id);
      expect([title, text === (await textOf(here, cookie, mine.id))]).toEqual([title, true]);
      const [picture] = (JSON.parse(text) as Lesson).references;
      const at = `/api/pictures/${picture?.pictureSha256}/work`;
      expect((await elsewhere.request('GET', at, undefined, there)).status).toBe(200);
    }
    const courses = (await elsewhere.request('GET', '/api/courses', undefined, there)).body as unknown as Course[];
    const cards = await shelf(elsewhere, there);
    expect(courses[0]?.lessonIds.map((id) => cards.find((one) => one.id === id)?.title)).toEqual(
      own.slice(0, 2).map(({ title }) => title),
    );
    expect((await elsewhere.request('GET', '/api/rooms', undefined, there)).body).toEqual([{ id: expect.any(String), room }]);
    // Brought in once more nothing is there twice.
    const again = await bringIn(await packed());
    expect([again.body.added, again.body.there.length, again.body.courses, again.body.kept]).toEqual([[], 4, 0, 0]);
    expect(await shelf(elsewhere, there)).toHaveLength(4);
    // Found by what stands in it.
    const found = (await elsewhere.request('GET', '/api/shelf/found?words=ridge', undefined, there)).body as unknown as unknown[];
    expect(found.length).toBeGreaterThan(0);
  });
  it('of one lesson holds that one, also for who may only read it; nobody else', async () => {
    const [{ id, title }] = (await shelf(here, cookie)) as [LessonCard];
    const zip = await JSZip.loadAsync(await packed(`/api/lessons/${id}/package`));
    const manifest = JSON.parse((await zip.file('viaticum.json')?.async('text')) ?? '') as PackageManifest;
    expect(manifest.lessons.map((one) => one.title)).toEqual([title]);
    const stranger = await here.anotherInstructor();
    expect((await here.request('GET', `/api/lessons/${id}/package`, undefined, stranger)).status).toBe(404);
  });
  it('with a lesson of an earlier version is lifted to today’s', async () => {
    const [{ id }] = (await shelf(here, cookie)) as [LessonCard];
    const old = await changed(await packed(`/api/lessons/${id}/package`), async (zip, { lessons: [one] }) => {
      const document = JSON.parse((await zip.file(one?.file ?? '')?.async('text')) ?? '');
      // As version 0 had it: the air in percent.
      const { humidity, ...room } = document.room;
      zip.file(
        one?.file ?? '',
        JSON.stringify({
          ...document,
          schemaVersion: 0,
          title: 'From long ago',
          room: { ...room, humidityPercent: humidity * 100 },
        }),
      );
    });
    const { status, body } = await bringIn(old);
    expect([status, body.added[0]?.title]).toEqual([201, 'From long ago']);
    const { document } = (await elsewhere.request('GET', `/api/lessons/${body.added[0]?.id}`, undefined, there))
      .body as unknown as LessonAnswer;
    expect(document.schemaVersion).toBeGreaterThan(8);
  });
});

describe('a package that is not sound is refused with a sentence, and nothing of it is there', () => {
  const cases: [string, RegExp, (bytes: Uint8Array) => Promise<Uint8Array> | Uint8Array][] = [
    ['is no ZIP', /no ZIP file/, () => Buffer.from('a letter')],
    ['was cut off', /no ZIP file/, (bytes) => bytes.subarray(0, bytes.length - 400)],
    ['was not saved from here', /has no viaticum.json/, (bytes) => changed(bytes, (zip) => zip.remove('viaticum.json'))],
    [
      'is of a newer version',
      /newer Viaticum/,
      (bytes) => changed(bytes, (_, manifest) => Object.assign(manifest, { version: 2 })),
    ],
    [
      'lacks a picture',
      /A picture of “.*” .* is missing/,
      (bytes) => changed(bytes, (_, manifest) => Object.assign(manifest, { pictures: [] })),
    ],
    ['lacks a file', /is missing from it/, (bytes) => changed(bytes, (zip, { lessons: [one] }) => zip.remove(one?.file ?? ''))],
    [
      'holds another picture than it says',
      /changed or damaged/,
      (bytes) => changed(bytes, (zip, { pictures: [one] }) => zip.file(one?.file ?? '', new Uint8Array([1, 2, 3]))),
    ],
    [
      'holds what is no lesson',
      /“lessons\/.*json”: /,
      (bytes) => changed(bytes, (zip, { lessons: [one] }) => zip.file(one?.file ?? '', '{"schemaVersion":3,"tubes":7}')),
    ],
    [
      'holds a lesson of a newer version',
      /written by a newer Viaticum/,
      (bytes) => changed(bytes, (zip, { lessons: [one] }) => zip.file(one?.file ?? '', '{"schemaVersion":999}')),
    ],
    ['leads elsewhere', /leads elsewhere/, (bytes) => changed(bytes, (zip) => zip.file('../../etc/passwd', 'x'))],
    [
      'names a place elsewhere',
      /not as it should be/,
      (bytes) => changed(bytes, (_, { lessons: [one] }) => Object.assign(one ?? {}, { file: '../secret.json' })),
    ],
    [
      'is a bomb',
      /larger than such a file is/,
      async (bytes) => {
        const zip = await JSZip.loadAsync(bytes);
        const {
          lessons: [one],
        } = JSON.parse((await zip.file('viaticum.json')?.async('text')) ?? '') as PackageManifest;
        zip.file(one?.file ?? '', Buffer.alloc(30 * 1024 ** 2, '['), { compression: 'DEFLATE' });
        return zip.generateAsync({ type: 'uint8array' });
      },
    ],
    [
      'unfolds to more than it says',
      /cannot be unfolded|no ZIP|table of contents/,
      async (bytes) => {
        const zip = await JSZip.loadAsync(bytes);
        zip.file('viaticum.json', Buffer.alloc(4 * 1024 ** 2, ' '), { compression: 'DEFLATE' });
        const out = Buffer.from(await zip.generateAsync({ type: 'uint8array' }));
        // Both places that say how large it is say ten bytes.
        for (let at = out.indexOf('viaticum.json'); at >= 0; at = out.indexOf('viaticum.json', at + 1))
          for (const back of [30, 46])
            if (out.readUInt32LE(at - back) === (back === 30 ? 0x04034b50 : 0x02014b50))
              out.writeUInt32LE(10, at - back + (back === 30 ? 22 : 24));
        return out;
      },
    ],
  ];
  it.each(cases)('one that %s', async (_, said, make) => {
    const as = await elsewhere.anotherInstructor();
    const [{ id }] = (await shelf(here, cookie)) as [LessonCard];
    const { status, body } = await bringIn(await make(await packed(`/api/lessons/${id}/package`)), as);
    expect([status, body.message]).toEqual([422, expect.stringMatching(said)]);
    expect(body.message).toMatch(/^This package cannot be brought in\. .*[.!]$/);
    expect(await shelf(elsewhere, as)).toEqual([]);
    // What was sent is gone from the disk.
    const { readdir } = await import('node:fs/promises');
    expect(await readdir(`${elsewhere.config.dataFolder}/uploads`)).toEqual([]);
  });
});

describe('a picture under a name that nobody can check', () => {
  const grey = (level: number) =>
    sharp({ create: { width: 60, height: 40, channels: 3, background: { r: level, g: level, b: level } } });
  const withPicture = async (bytes: Uint8Array, name: string) => {
    const [{ id }] = (await shelf(here, cookie)) as [LessonCard];
    return changed(await packed(`/api/lessons/${id}/package`), async (zip, manifest) => {
      const [one] = manifest.lessons;
      const text = String(await zip.file(one?.file ?? '')?.async('text'));
      const [first] = manifest.pictures;
      zip.file(one?.file ?? '', text.replaceAll(String(first?.sha256), name));
      zip.file('pictures/x.jpg', bytes);
      manifest.pictures = [{ sha256: name, file: 'pictures/x.jpg', contentSha256: sha(bytes) }];
    });
  };
  it('shows nobody another’s picture: the package must hold that picture itself', async () => {
    const secret = await grey(90).jpeg().toBuffer();
    const { body } = await send(elsewhere, '/api/pictures', there, secret);
    const thief = await elsewhere.anotherInstructor();
    const other = await grey(200).jpeg().toBuffer();
    const refused = await bringIn(await withPicture(other, body.sha256), thief);
    expect([refused.status, refused.body.message]).toEqual([422, expect.stringMatching(/another than the one/)]);
    expect((await elsewhere.request('GET', `/api/pictures/${body.sha256}/full`, undefined, thief)).status).toBe(404);
    // Who has it in a package of their own, stored a little otherwise, has it here as well.
    const same = await grey(90).jpeg({ quality: 70 }).toBuffer();
    expect((await bringIn(await withPicture(same, body.sha256), thief)).status).toBe(201);
    expect((await elsewhere.request('GET', `/api/pictures/${body.sha256}/full`, undefined, thief)).status).toBe(200);
  });
  it('gives way to the picture that the name belongs to', async () => {
    const real = await grey(30).png().toBuffer();
    const impostor = await grey(240).jpeg().toBuffer();
    const as = await elsewhere.anotherInstructor();
    expect((await bringIn(await withPicture(impostor, sha(real)), as)).status).toBe(201);
    const level = async (who: string) => {
      const { raw } = await elsewhere.request('GET', `/api/pictures/${sha(real)}/full`, undefined, who);
      return (await sharp(raw).stats()).channels[0]?.mean as number;
    };
    expect(await level(as)).toBeGreaterThan(200);
    expect((await send(elsewhere, '/api/pictures', there, real)).body.sha256).toBe(sha(real));
    expect(await level(there)).toBeLessThan(40);
  });
});
