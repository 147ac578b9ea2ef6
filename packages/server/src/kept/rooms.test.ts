import { afterAll, beforeAll, expect, it } from '@jest/globals';
import type { Room, SavedRoom } from '@viaticum/contract';
import { type TestServer, testServer } from '../server.fixture.js';

let server: TestServer;
let cookie: string;
beforeAll(async () => {
  server = await testServer();
  cookie = await server.signIn();
});
afterAll(() => server.stop());

const attic: Room = { name: 'attic', airC: 18, humidity: 0.6, airSpeed: 0.1, seats: 8, dryers: { count: 2, watts: 1200 } };
const save = (room: unknown, as = cookie) => server.request('PUT', '/api/rooms', { room }, as);
const list = async (as = cookie) => (await server.request('GET', '/api/rooms', undefined, as)).body as unknown as SavedRoom[];

it('a room is saved, replaced under its name, listed and taken away', async () => {
  const { status, body } = await save(attic);
  expect([status, (body as unknown as SavedRoom).room]).toEqual([200, attic]);
  await save({ ...attic, airC: 24 });
  await save({ ...attic, name: 'hall' });
  const rooms = await list();
  expect(rooms.map(({ room }) => [room.name, room.airC])).toEqual([
    ['attic', 24],
    ['hall', 18],
  ]);
  const { id } = rooms[0] as SavedRoom;
  expect((await server.request('DELETE', `/api/rooms/${id}`, undefined, cookie)).status).toBe(204);
  expect((await server.request('DELETE', `/api/rooms/${id}`, undefined, cookie)).status).toBe(404);
  expect((await list()).map(({ room }) => room.name)).toEqual(['hall']);
});

it('two saves at once leave one room', async () => {
  await Promise.all(Array.from({ length: 6 }, (_, i) => save({ ...attic, name: 'cellar', airC: 10 + i })));
  expect((await list()).filter(({ room }) => room.name === 'cellar')).toHaveLength(1);
});

it('air that cannot be is refused with a sentence, and nobody else sees or removes a room', async () => {
  const { status, body } = await save({ ...attic, humidity: 1.4 });
  expect([status, body.message]).toEqual([400, 'Humidity must lie between 0 and 100 %. Enter what the room’s hygrometer shows.']);
  expect((await save({ ...attic, name: '  ' })).body.message).toMatch(/needs a name/);
  expect((await server.request('GET', '/api/rooms')).status).toBe(401);
  expect((await server.request('PUT', '/api/rooms', { room: attic })).status).toBe(401);
  expect((await server.request('DELETE', '/api/rooms/x')).status).toBe(401);
});

it('at the limit another room is refused, and one of this name is still replaced', async () => {
  const full = 100 - (await list()).length;
  for (let i = 0; i < full; i++) await save({ ...attic, name: `room ${i}` });
  const { status, body } = await save({ ...attic, name: 'one more' });
  expect([status, body.code]).toEqual([409, 'too-many']);
  expect((await save({ ...attic, name: 'room 0', airC: 31 })).status).toBe(200);
  const rooms = await list();
  expect(rooms).toHaveLength(100);
  expect(rooms.find(({ room }) => room.name === 'room 0')?.room.airC).toBe(31);
});
