import { createHash } from 'node:crypto';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import type { AroundAnswer, Lesson, LessonAnswer, LessonCard, LessonRole, SharedAnswer, SharingAnswer } from '@viaticum/contract';
import sharp from 'sharp';
import type { Route } from '../guard/access.js';
import { type TestServer, testServer } from '../server.fixture.js';

let server: TestServer;
/** Cookies of who owns the lesson, who may change it, who may read it, and somebody else. */
const as: Record<LessonRole | 'outsider', string> = { owner: '', editor: '', reader: '', outsider: '' };
let lesson: LessonAnswer;

const ask = <T>(method: string, url: string, cookie: string, payload?: unknown) =>
  server.request(method, url, payload, cookie) as unknown as Promise<{
    status: number;
    body: T & { code?: string; message?: string };
  }>;
const make = async (cookie: string, document: Lesson) =>
  (await ask<LessonAnswer>('POST', '/api/lessons', cookie, { document })).body;
const linkTo = async (id: string, role: string): Promise<string> => {
  const { status, body } = await ask<{ address: string }>('POST', `/api/lessons/${id}/sharing/links`, as.owner, { role });
  expect(status).toBe(201);
  return body.address.split('/').at(-1) as string;
};
const follow = async (id: string, role: string, cookie: string) => ask('POST', `/api/shared/${await linkTo(id, role)}`, cookie);
const sharingOf = async (id: string, cookie: string) =>
  (await ask<SharingAnswer>('GET', `/api/lessons/${id}/sharing`, cookie)).body;

beforeAll(async () => {
  server = await testServer();
  as.owner = await server.signIn();
  for (const one of ['editor', 'reader', 'outsider'] as const) as[one] = await server.anotherInstructor();
});
afterAll(() => server.stop());
beforeEach(async () => {
  const { document } = await server.demoLesson(as.owner);
  lesson = await make(as.owner, document);
  expect((await follow(lesson.id, 'editor', as.editor)).status).toBe(200);
  expect((await follow(lesson.id, 'reader', as.reader)).status).toBe(200);
});
const realNow = Date.now;
afterEach(() => {
  Date.now = realNow;
});

describe('the routes of a lesson', () => {
  const order: (LessonRole | 'outsider')[] = ['outsider', 'reader', 'editor', 'owner'];
  const addressOf = (route: Route, id: string) => route.url.replace(':id', id).replace(/:\w+/g, '1');
  it('each states a role, and is closed to nobody, to another instructor and to every lesser role', async () => {
    const routes = server.app.routeTable.filter(({ url }) => url.startsWith('/api/lessons/:id'));
    expect(routes.length).toBeGreaterThan(20);
    expect(new Set(routes.map((route) => route.lesson))).toEqual(new Set(['reader', 'editor', 'owner']));
    for (const route of routes) {
      const url = addressOf(route, lesson.id);
      const said = (status: number) => [route.method, route.url, status];
      const body = ['POST', 'PUT'].includes(route.method) ? {} : undefined;
      expect(said((await ask(route.method, url, '', body)).status)).toEqual(said(401));
      expect(said((await ask(route.method, url, as.outsider, body)).status)).toEqual(said(404));
      for (const one of order.slice(1, order.indexOf(route.lesson as LessonRole))) {
        const { status, body: answer } = await ask(route.method, url, as[one as LessonRole], body);
        expect([...said(status), answer.code]).toEqual([
          ...said(403),
          route.lesson === 'owner' ? 'lesson-owner-only' : 'read-only',
        ]);
        expect(answer.message).toMatch(/\.$/);
      }
    }
  });
  it('each lets the role in that it states', async () => {
    // Deleting comes last: without its lesson no other route lets anybody in.
    const routes = server.app.routeTable.filter(({ url, method }) => url.startsWith('/api/lessons/:id') && method !== 'DELETE');
    for (const route of routes) {
      const body = ['POST', 'PUT'].includes(route.method) ? {} : undefined;
      const { status, body: answer } = await ask(route.method, addressOf(route, lesson.id), as[route.lesson as LessonRole], body);
      const closed = status === 401 || status === 403 || (status === 404 && /on your shelf/.test(String(answer.message)));
      expect([route.method, route.url, closed]).toEqual([route.method, route.url, false]);
    }
  });
});

describe('a shared lesson', () => {
  it('stands on the shelf of who shares it, with whose it is', async () => {
    const list = (await ask<LessonCard[]>('GET', '/api/lessons', as.reader)).body;
    expect(list.find(({ id }) => id === lesson.id)).toMatchObject({ role: 'reader', by: 'demo' });
    const own = (await ask<LessonCard[]>('GET', '/api/lessons', as.owner)).body;
    expect(own.find(({ id }) => id === lesson.id)).toMatchObject({ role: 'owner', by: null });
    expect((await ask<LessonCard[]>('GET', '/api/lessons', as.outsider)).body).toEqual([]);
  });
  it('is read with its picture and its stages, and taught, by who may read it; saved by who may change it', async () => {
    const sha = lesson.document.references[0]?.pictureSha256 as string;
    const read = await ask<LessonAnswer>('GET', `/api/lessons/${lesson.id}`, as.reader);
    expect(read.body).toMatchObject({ role: 'reader', document: { title: lesson.document.title } });
    expect((await ask('GET', `/api/pictures/${sha}/thumb`, as.reader)).status).toBe(200);
    expect((await ask('GET', `/api/pictures/${sha}/thumb`, as.outsider)).status).toBe(404);
    expect((await ask('POST', '/api/classes', as.reader, { lessonId: lesson.id })).status).toBe(201);
    expect((await ask('POST', '/api/classes', as.outsider, { lessonId: lesson.id })).status).toBe(404);
    const save = { baseRevision: 1, document: { ...lesson.document, title: 'By two hands' } };
    expect((await ask('PUT', `/api/lessons/${lesson.id}`, as.editor, save)).body).toMatchObject({ revision: 2 });
    expect((await ask<LessonAnswer>('GET', `/api/lessons/${lesson.id}`, as.owner)).body.document.title).toBe('By two hands');
  });
  it('a picture that a co-editor puts in is seen by all who share it; one is not seen by naming it', async () => {
    const picture = async (cookie: string, grey: number) => {
      const png = await sharp({ create: { width: 40, height: 30, channels: 3, background: { r: grey, g: 90, b: 120 } } })
        .png()
        .toBuffer();
      const form = new FormData();
      form.append('picture', new Blob([new Uint8Array(png)], { type: 'image/png' }), 'p.png');
      const answer = await fetch(`http://127.0.0.1:${server.port}/api/pictures`, {
        ...{ method: 'POST', body: form, headers: { cookie, origin: 'http://viaticum.test' } },
      });
      expect(answer.status).toBe(201);
      expect(((await answer.json()) as { sha256: string }).sha256).toBe(createHash('sha256').update(png).digest('hex'));
      return createHash('sha256').update(png).digest('hex');
    };
    const [his, strange] = [await picture(as.editor, 10), await picture(as.outsider, 200)];
    const [first, ...rest] = lesson.document.references;
    const references = [
      { ...(first as object), pictureSha256: his },
      ...rest,
      { ...(first as object), id: 'other', pictureSha256: strange },
    ];
    const save = { baseRevision: 1, document: { ...lesson.document, references } };
    expect((await ask('PUT', `/api/lessons/${lesson.id}`, as.editor, save)).status).toBe(200);
    const seen = async (sha: string, cookie: string) => (await ask('GET', `/api/pictures/${sha}/work`, cookie)).status;
    expect([await seen(his, as.owner), await seen(his, as.reader), await seen(his, as.outsider)]).toEqual([200, 200, 404]);
    expect([await seen(strange, as.owner), await seen(strange, as.reader), await seen(strange, as.editor)]).toEqual([
      404, 404, 404,
    ]);
    const sharer = (await sharingOf(lesson.id, as.owner)).people.find(({ role }) => role === 'reader');
    await ask('DELETE', `/api/lessons/${lesson.id}/sharing/people/${sharer?.id}`, as.owner);
    expect(await seen(his, as.reader)).toBe(404);
  });
  it('duplicated is a lesson of one’s own, which keeps its picture when it is shared no more', async () => {
    const { document } = (await ask<LessonAnswer>('GET', `/api/lessons/${lesson.id}`, as.reader)).body;
    const copy = await make(as.reader, { ...document, title: 'A copy' });
    await ask('DELETE', `/api/lessons/${lesson.id}/sharing/me`, as.reader);
    const at = `/api/pictures/${document.references[0]?.pictureSha256}/thumb`;
    expect((await ask('GET', at, as.reader)).status).toBe(200);
    expect((await ask('GET', `/api/lessons/${copy.id}/finished`, as.reader)).status).toBe(200);
    // Who names a picture that they do not see does not come to own it.
    await make(as.outsider, { ...document, title: 'Guessed' });
    expect((await ask('GET', at, as.outsider)).status).toBe(404);
  });
  it('is shared no more by its owner, or left by who shares it; a role is changed', async () => {
    const { people, owner } = await sharingOf(lesson.id, as.owner);
    expect([owner, people.map(({ role }) => role).sort()]).toEqual(['demo', ['editor', 'reader']]);
    const reader = people.find(({ role }) => role === 'reader');
    const at = `/api/lessons/${lesson.id}/sharing/people/${reader?.id}`;
    expect((await ask('PUT', at, as.owner, { role: 'editor' })).status).toBe(204);
    expect((await ask<LessonAnswer>('GET', `/api/lessons/${lesson.id}`, as.reader)).body.role).toBe('editor');
    expect((await ask('DELETE', `/api/lessons/${lesson.id}/sharing/me`, as.reader)).status).toBe(204);
    expect((await ask('GET', `/api/lessons/${lesson.id}`, as.reader)).status).toBe(404);
    expect((await ask('DELETE', `/api/lessons/${lesson.id}/sharing/me`, as.owner)).status).toBe(404);
    expect((await ask('DELETE', at, as.owner)).status).toBe(404);
  });
  it('in the bin is gone from every shelf', async () => {
    await ask('DELETE', `/api/lessons/${lesson.id}`, as.owner);
    expect((await ask('GET', `/api/lessons/${lesson.id}`, as.editor)).status).toBe(404);
    expect((await ask<LessonCard[]>('GET', '/api/lessons', as.editor)).body.map(({ id }) => id)).not.toContain(lesson.id);
  });
});

describe('a link', () => {
  it('says what it leads to before it is followed, and takes nothing from who may do more', async () => {
    const token = await linkTo(lesson.id, 'reader');
    const look = async (cookie: string) => (await ask<SharedAnswer>('GET', `/api/shared/${token}`, cookie)).body;
    expect(await look(as.outsider)).toMatchObject({ lessonId: lesson.id, owner: 'demo', role: 'reader', has: null });
    expect(await look(as.editor)).toMatchObject({ has: 'editor' });
    await ask('POST', `/api/shared/${token}`, as.editor);
    await ask('POST', `/api/shared/${token}`, as.owner);
    expect((await ask<LessonAnswer>('GET', `/api/lessons/${lesson.id}`, as.editor)).body.role).toBe('editor');
    expect((await ask<LessonAnswer>('GET', `/api/lessons/${lesson.id}`, as.owner)).body.role).toBe('owner');
    expect((await ask('GET', `/api/shared/${token}`, '')).status).toBe(401);
  });
  it('leads nowhere once it was taken back, its time is over, or its lesson is in the bin', async () => {
    const [back, old, binned] = [
      await linkTo(lesson.id, 'reader'),
      await linkTo(lesson.id, 'reader'),
      await linkTo(lesson.id, 'reader'),
    ];
    const { links } = await sharingOf(lesson.id, as.owner);
    expect((await sharingOf(lesson.id, as.editor)).links).toEqual([]);
    // By their time of making: two are from before.
    await ask('DELETE', `/api/lessons/${lesson.id}/sharing/links/${links[2]?.id}`, as.owner);
    expect((await ask('POST', `/api/shared/${back}`, as.outsider)).status).toBe(404);
    Date.now = () => realNow() + 15 * 86_400_000;
    expect((await ask('POST', `/api/shared/${old}`, await server.signIn())).status).toBe(404);
    Date.now = realNow;
    await ask('DELETE', `/api/lessons/${lesson.id}`, as.owner);
    expect((await ask('POST', `/api/shared/${binned}`, as.outsider)).status).toBe(404);
  });
});

describe('who has a lesson open', () => {
  const here = async (cookie: string, seat: string, place = 'paints') =>
    (await ask<AroundAnswer>('POST', `/api/lessons/${lesson.id}/here`, cookie, { seat, place })).body;
  it('sees the others, where they are and what they may do, until they have told nothing for a while', async () => {
    expect((await here(as.owner, 'first', 'steps')).people).toEqual([]);
    expect((await here(as.editor, 'second')).people).toMatchObject([
      { seat: 'first', name: 'demo', place: 'steps', role: 'owner', isYou: false },
    ]);
    expect((await here(as.owner, 'third')).people).toMatchObject([
      { seat: 'first', isYou: true },
      { seat: 'second', role: 'editor', isYou: false },
    ]);
    Date.now = () => realNow() + 6000;
    expect((await here(as.owner, 'first')).people).toEqual([]);
  });
  it('is told which revision there is, and by whom', async () => {
    const save = { baseRevision: 1, document: { ...lesson.document, title: 'Anew' } };
    await ask('PUT', `/api/lessons/${lesson.id}`, as.editor, save);
    const { revision, savedBy } = await here(as.owner, 'first');
    expect([revision, savedBy]).toEqual([2, expect.stringMatching(/^other-/)]);
    expect(await ask('POST', `/api/lessons/${lesson.id}/here`, as.outsider, { seat: 'x', place: '' })).toMatchObject({
      status: 404,
    });
  });
});
