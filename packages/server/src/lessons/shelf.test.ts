import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Course, CourseKit, FoundLesson, LessonAnswer, LessonCard } from '@viaticum/contract';
import { LessonEntity } from '../db/entities.js';
import { type TestServer, testServer } from '../server.fixture.js';

let server: TestServer;
let cookie: string;
let other: string;
beforeAll(async () => {
  server = await testServer();
  cookie = await server.signIn();
  other = await server.anotherInstructor();
});
afterAll(() => server.stop());

const ask = <T>(method: string, url: string, payload?: unknown, as = cookie) =>
  server.request(method, url, payload, as) as unknown as Promise<{ status: number; body: T }>;
const shelf = async (as = cookie) => (await ask<LessonCard[]>('GET', '/api/lessons', undefined, as)).body;
const find = async (words: string, as = cookie) =>
  (await ask<FoundLesson[]>('GET', `/api/shelf/found?words=${encodeURIComponent(words)}`, undefined, as)).body;
const titleOf = async (id: string) => (await shelf()).find((one) => one.id === id)?.title;

describe('a lesson on the shelf', () => {
  it('is put away and labelled by one instructor for themselves', async () => {
    const [{ id }] = (await shelf()) as [LessonCard];
    expect((await ask('PUT', `/api/lessons/${id}/place`, { isArchived: true, labels: ['autumn', 'beginners'] })).status).toBe(
      204,
    );
    expect((await shelf()).find((one) => one.id === id)).toMatchObject({ isArchived: true, labels: ['autumn', 'beginners'] });
    expect((await ask('PUT', `/api/lessons/${id}/place`, { isArchived: false, labels: [] })).status).toBe(204);
    expect((await shelf()).find((one) => one.id === id)).toMatchObject({ isArchived: false, labels: [] });
    expect((await ask('PUT', `/api/lessons/${id}/place`, { isArchived: true, labels: [] }, other)).status).toBe(404);
    expect((await ask('PUT', `/api/lessons/${id}/place`, { isArchived: true, labels: [' '] })).status).toBe(400);
  });
  it('is found by its title, its areas, its mixes and what its steps say, whatever the case and accents', async () => {
    const { document } = await server.demoLesson(cookie);
    const fresh = (await ask<LessonAnswer>('POST', '/api/lessons', {
      document: {
        ...document,
        title: 'Kräne am Kai',
        areas: document.areas.map((area, k) => (k === 0 ? { ...area, name: 'quay wall 100% wet' } : area)),
        steps: document.steps.map((step, k) => (k === 1 ? { ...step, say: 'Drag the bristles **dry** over the tooth.' } : step)),
      },
    })) as { body: LessonAnswer };
    const { id } = fresh.body;
    expect((await find('krane')).map((one) => one.id)).toEqual([id]);
    expect(await find('QUAY wall')).toEqual([{ id, places: [{ kind: 'area', name: 'quay wall 100% wet', excerpt: '' }] }]);
    const [said] = await find('bristles tooth');
    expect([said?.id, said?.places[0]?.kind, said?.places[0]?.excerpt]).toEqual([
      id,
      'step',
      expect.stringContaining('bristles dry over'),
    ]);
    // Words that stand in several places of it.
    expect((await find('kai bristles quay')).map((one) => one.id)).toEqual([id]);
    expect(await find('bristles nowhere')).toEqual([]);
    // A per cent sign is a letter like another.
    expect((await find('100%')).map((one) => one.id)).toEqual([id]);
    expect(await find('%')).toHaveLength(1);
    expect(await find('krane', other)).toEqual([]);
    // Found by its new words after it was saved.
    await ask('PUT', `/api/lessons/${id}`, { baseRevision: 1, document: { ...fresh.body.document, title: 'Herons' } });
    expect(await find('krane')).toEqual([]);
    expect((await find('herons')).map((one) => one.id)).toEqual([id]);
  });
  it('saved before there was anything to find it by, it is found after the next start', async () => {
    await server.database.source.manager.update(LessonEntity, { title: 'Herons' }, { words: null });
    expect(await find('quay wall')).toEqual([]);
    const next = await testServer({ databaseUrl: server.config.databaseUrl, dataFolder: server.config.dataFolder });
    expect(await find('quay wall')).toHaveLength(1);
    await next.app.close();
  });
});

describe('a course', () => {
  it('holds lessons in an order, and what all of them need together', async () => {
    const lessons = (await shelf()).slice(0, 3).map(({ id }) => id);
    const made = await ask<Course>('POST', '/api/courses', { title: ' Three evenings ', lessonIds: lessons });
    expect([made.status, made.body.title, made.body.lessonIds]).toEqual([201, 'Three evenings', lessons]);
    const at = `/api/courses/${made.body.id}`;
    const turned = [...lessons].reverse();
    expect((await ask<Course>('PUT', at, { title: 'Three evenings', lessonIds: turned })).body.lessonIds).toEqual(turned);
    const { body: kit } = await ask<CourseKit>('GET', `${at}/kit`);
    expect(kit.heads).toBe(12);
    expect(kit.lines.find(({ key }) => key === 'easel')).toMatchObject({ amount: '13', of: [0, 1, 2] });
    expect((await ask<Course[]>('GET', '/api/courses')).body).toHaveLength(1);
    expect((await ask('GET', `${at}/kit`, undefined, other)).status).toBe(404);
    expect((await ask('PUT', at, { title: 'Mine', lessonIds: [] }, other)).status).toBe(404);
    expect((await ask<Course[]>('GET', '/api/courses', undefined, other)).body).toEqual([]);
  });
  it('leaves out what is in the bin, and what it may not read; both stand in it again when they are back', async () => {
    const [{ id: courseId, lessonIds }] = (await ask<Course[]>('GET', '/api/courses')).body as [Course];
    const [first] = lessonIds as [string];
    await ask('DELETE', `/api/lessons/${first}`);
    expect((await ask<Course[]>('GET', '/api/courses')).body[0]?.lessonIds).toEqual(lessonIds.slice(1));
    await ask('POST', `/api/lessons/${first}/restore`, {});
    expect((await ask<Course[]>('GET', '/api/courses')).body[0]?.lessonIds).toEqual(lessonIds);
    const foreign = (await ask<Course>('POST', '/api/courses', { title: 'Not mine', lessonIds }, other)).body;
    expect(foreign.lessonIds).toEqual([]);
    expect((await ask<CourseKit>('GET', `/api/courses/${foreign.id}/kit`, undefined, other)).body.lines).toEqual([]);
    expect(await titleOf(first)).toBeTruthy();
    expect((await ask('DELETE', `/api/courses/${courseId}`)).status).toBe(204);
    expect((await ask('DELETE', `/api/courses/${courseId}`)).status).toBe(404);
  });
});
