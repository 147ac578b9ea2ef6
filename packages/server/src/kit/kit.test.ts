import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { newStudio } from '@viaticum/contract';
import { type TestServer, testServer } from '../server.fixture.js';

let server: TestServer;
let cookie: string;
beforeAll(async () => {
  server = await testServer();
  cookie = await server.signIn();
});
afterAll(() => server.stop());

type Lists = {
  sheet: { title: string; heads: number; lists: Record<string, { key: string; costMinor?: number }[]> };
  ticks: Record<string, number>;
};
const tokenOf = (address: string): string => address.split('/').at(-1) as string;

describe('a studio', () => {
  it('is as new until something is said, and then as it was said, for its instructor alone', async () => {
    expect((await server.request('GET', '/api/studio', undefined, cookie)).body).toEqual(newStudio);
    const own = { ...newStudio, currency: 'JPY', prices: [{ paint: 'PW6 artist', sizeMl: 75, priceMinor: 690 }], rack: 8 };
    expect((await server.request('PUT', '/api/studio', own, cookie)).status).toBe(204);
    expect((await server.request('GET', '/api/studio', undefined, cookie)).body).toEqual(own);
    const other = await server.anotherInstructor();
    expect((await server.request('GET', '/api/studio', undefined, other)).body).toEqual(newStudio);
    const wrong = await server.request('PUT', '/api/studio', { ...own, currency: 'yen' }, cookie);
    expect(wrong.status).toBe(400);
    const negative = { ...own, stock: [{ paint: 'PW6 artist', ml: -3 }] };
    expect((await server.request('PUT', '/api/studio', negative, cookie)).status).toBe(400);
    expect((await server.request('PUT', '/api/studio', { ...newStudio }, cookie)).status).toBe(204);
  });
});

describe('the lists of a lesson on a phone', () => {
  it('are read and ticked by the link, until it is made anew', async () => {
    const { id } = await server.demoLesson(cookie);
    expect((await server.request('GET', `/api/lessons/${id}/kit-link`, undefined, cookie)).body).toEqual({ address: '' });
    const made = (await server.request('POST', `/api/lessons/${id}/kit-link`, {}, cookie)).body as unknown as { address: string };
    const token = tokenOf(made.address);
    expect((await server.request('GET', `/api/lessons/${id}/kit-link`, undefined, cookie)).body).toEqual(made);
    const read = async () => (await server.request('GET', `/api/lists/${token}`)).body as unknown as Lists;
    const first = await read();
    expect(first.sheet).toMatchObject({ title: 'Balloons over the terraces', heads: 12 });
    expect(Object.keys(first.sheet.lists)).toEqual(['shopping', 'preparing', 'packing']);
    for (const list of Object.values(first.sheet.lists)) expect(list.length).toBeGreaterThan(3);
    const [one, other] = first.sheet.lists.shopping as [{ key: string }, { key: string }];
    const tick = (ticks: object[]) => server.request('POST', `/api/lists/${token}/ticks`, { ticks });
    await tick([
      { item: one.key, on: true, at: 1 },
      { item: other.key, on: true, at: 1 },
      { item: one.key, on: true, at: 2 },
    ]);
    await tick([{ item: other.key, on: false, at: 3 }]);
    expect(Object.keys((await read()).ticks)).toEqual([one.key]);
    expect((await tick([{ item: '', on: true, at: 1 }])).status).toBe(400);
    const again = (await server.request('POST', `/api/lessons/${id}/kit-link`, {}, cookie)).body as unknown as {
      address: string;
    };
    expect(again.address).not.toBe(made.address);
    expect((await server.request('GET', `/api/lists/${token}`)).status).toBe(404);
    // What was ticked stays with the lesson.
    const after = (await server.request('GET', `/api/lists/${tokenOf(again.address)}`)).body as unknown as Lists;
    expect(Object.keys(after.ticks)).toEqual([one.key]);
  });
  it('nobody else makes a link to a lesson', async () => {
    const { id } = await server.demoLesson(cookie);
    const other = await server.anotherInstructor();
    expect((await server.request('POST', `/api/lessons/${id}/kit-link`, {}, other)).status).toBe(404);
    expect((await server.request('GET', '/api/lists/guessed')).status).toBe(404);
  });
});

describe('letters', () => {
  it('ask who came before only for what they lack', async () => {
    const lesson = await server.demoLesson(cookie);
    const document = { ...lesson.document, kit: { by: 'mixed' as const } };
    const put = await server.request('PUT', `/api/lessons/${lesson.id}`, { baseRevision: lesson.revision, document }, cookie);
    expect(put.status).toBe(200);
    const person = (await server.request('POST', '/api/people', { firstName: 'Ines' }, cookie)).body as unknown as { id: string };
    const has = [{ personId: person.id, things: ['brush rigger-2', 'apron'] }];
    await server.request('PUT', '/api/studio', { ...newStudio, has }, cookie);
    const invite = {
      startsAt: '2026-12-05T17:30:00Z',
      timeZone: 'UTC',
      place: '',
      seats: 6,
      roster: [{ firstName: 'Ines', personId: person.id }, { firstName: 'Jonas' }],
    };
    const { code } = (await server.request('POST', '/api/classes/planned', { lessonId: lesson.id, invite }, cookie))
      .body as unknown as {
      code: string;
    };
    await server.request('POST', `/api/classes/${code}/letters`, {}, cookie);
    const letters = (await server.request('GET', '/api/letters', undefined, cookie)).body as unknown as {
      to: string;
      text: string;
    }[];
    const of = (name: string) => letters.find(({ to }) => to === name)?.text ?? '';
    expect(of('Jonas')).toMatch(/– rigger 2\n[\s\S]*– apron/);
    expect(of('Ines')).toMatch(/– 2 in flat/);
    expect(of('Ines')).not.toMatch(/rigger 2|apron/);
  });
});
