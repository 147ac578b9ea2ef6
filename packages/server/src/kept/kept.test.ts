import { afterAll, beforeAll, expect, it } from '@jest/globals';
import type { Kept, KeptAnswer, Step } from '@viaticum/contract';
import { defaultSchool } from '@viaticum/core/document';
import { type TestServer, testServer } from '../server.fixture.js';

let server: TestServer;
let cookie: string;
beforeAll(async () => {
  server = await testServer();
  cookie = await server.signIn();
});
afterAll(() => server.stop());

const step: Step = {
  id: 'rim',
  stageId: 'st',
  kind: 'paint',
  title: 'Rim lights',
  areaIds: [],
  markIds: [],
  mixIds: [],
  needs: 'touchDry',
  technique: 'loaded',
  say: 'Only on one side. <b>Nothing</b> more.',
  watch: '',
  checkpoint: '',
  finish: '',
};
const lights: Kept = { kind: 'steps', name: 'my rim lights', steps: [step] };
const save = (kept: unknown, as: string | undefined = cookie) => server.request('PUT', '/api/kept', { kept }, as);
const list = async () => (await server.request('GET', '/api/kept', undefined, cookie)).body as unknown as KeptAnswer[];

it('steps and methods are kept, replaced under their name, listed and taken away', async () => {
  expect((await save(lights)).status).toBe(200);
  await save({ ...lights, steps: [{ ...step, title: 'Rim lights, later' }] });
  await save({ kind: 'method', name: 'my rim lights', school: defaultSchool, method: { name: 'mine', coats: 2 } });
  const all = await list();
  expect(all.map(({ kept }) => [kept.kind, kept.name])).toEqual([
    ['method', 'my rim lights'],
    ['steps', 'my rim lights'],
  ]);
  const [, steps] = all;
  // Words come back as they were written, as text.
  expect(steps?.kept).toMatchObject({ steps: [{ title: 'Rim lights, later', say: step.say }] });
  expect((await server.request('DELETE', `/api/kept/${steps?.id}`, undefined, cookie)).status).toBe(204);
  expect((await server.request('DELETE', `/api/kept/${steps?.id}`, undefined, cookie)).status).toBe(404);
  expect(await list()).toHaveLength(1);
});

it('two at once leave one', async () => {
  await Promise.all(Array.from({ length: 5 }, () => save({ ...lights, name: 'tufts' })));
  expect((await list()).filter(({ kept }) => kept.name === 'tufts')).toHaveLength(1);
});

it('without a name, without steps, and without signing in it is refused', async () => {
  expect((await save({ ...lights, name: '   ' })).body.message).toMatch(/needs a name/);
  expect((await save({ ...lights, steps: [] })).status).toBe(400);
  expect((await save({ ...lights, more: 1 })).status).toBe(400);
  expect((await server.request('PUT', '/api/kept', { kept: lights })).status).toBe(401);
  expect((await server.request('GET', '/api/kept')).status).toBe(401);
  expect((await server.request('DELETE', '/api/kept/x')).status).toBe(401);
});
