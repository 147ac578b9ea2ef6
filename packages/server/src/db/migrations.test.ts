import { afterAll, beforeAll, expect, it } from '@jest/globals';
import { type TestServer, testServer } from '../server.fixture.js';
import { dryRun } from './dry-run.js';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.stop());

const rows = async (sql: string, params: unknown[] = []) => {
  const [found] = await server.database.pool.query(sql, params);
  return found as Record<string, string>[];
};

/** Back to before a migration: that one and those after it are taken back. Gives them. */
async function undoFrom(name: string): Promise<string[]> {
  const names = (await rows('SELECT name FROM migrations ORDER BY id')).map((row) => row.name as string);
  const undone = names.slice(names.findIndex((one) => one.startsWith(name)));
  for (const _ of undone) await server.database.source.undoLastMigration();
  return undone;
}

it('what an earlier version stored is read in today’s words, and goes back as it was', async () => {
  const { source } = server.database;
  const undoWords = () => undoFrom('OneWord');
  const [owner] = await rows("SELECT id FROM instructor WHERE name = 'demo'");
  const [lesson] = await rows(
    'SELECT id, (SELECT MAX(id) FROM lesson_revision WHERE lesson_id = lesson.id) AS revision FROM lesson LIMIT 1',
  );
  await undoWords();
  const attic = { name: 'attic', airC: 17, humidity: 0.6, airSpeed: 0.1 };
  await rows('INSERT INTO room (id, owner_id, name, document) VALUES (?, ?, ?, ?)', [
    'r1',
    owner?.id,
    'attic',
    JSON.stringify(attic),
  ]);
  const kept = {
    kind: 'steps',
    name: 'two coats',
    steps: [
      { id: 's', zoneIds: [], markIds: [], title: 'say "zoneId": nothing' },
      { id: 't', zoneIds: ['a'], markIds: [], title: 't' },
    ],
  };
  await rows('INSERT INTO kept (id, owner_id, kind, name, document) VALUES (?, ?, ?, ?, ?)', [
    'k1',
    owner?.id,
    'steps',
    'two coats',
    JSON.stringify(kept),
  ]);
  await rows(
    "INSERT INTO class (id, code, owner_id, lesson_id, revision_id, secret, last_seq, phase, opened_at, rehearsal, invite, device_round, title) VALUES ('c1', 'KRN4WQ', ?, ?, ?, 'x', 1, 'running', 1, 0, NULL, '{}', 't')",
    [owner?.id, lesson?.id, lesson?.revision],
  );
  const touched = { type: 'touchTested', v: 1, zoneId: 'sky', dry: true };
  await rows("INSERT INTO class_event (class_id, seq, at, actor, command_id, body) VALUES ('c1', 1, 1, 'instructor', 'x', ?)", [
    JSON.stringify(touched),
  ]);

  await source.runMigrations();
  expect(JSON.parse((await rows("SELECT body FROM class_event WHERE class_id = 'c1'"))[0]?.body as string)).toEqual({
    type: 'touchTested',
    v: 1,
    areaId: 'sky',
    dry: true,
  });
  const cookie = await server.signIn();
  const rooms = (await server.request('GET', '/api/rooms', undefined, cookie)).body as unknown;
  expect(rooms).toEqual([{ id: 'r1', room: attic }]);
  const [steps] = (await server.request('GET', '/api/kept', undefined, cookie)).body as unknown as { kept: typeof kept }[];
  expect(steps?.kept.steps).toEqual([
    { id: 's', areaIds: [], wholeCanvas: true, markIds: [], title: 'say "zoneId": nothing' },
    { id: 't', areaIds: ['a'], markIds: [], title: 't' },
  ]);

  await undoWords();
  expect(await rows('SELECT id, name FROM room')).toEqual([{ id: 'r1', name: 'attic' }]);
  expect(JSON.parse((await rows("SELECT body FROM class_event WHERE class_id = 'c1'"))[0]?.body as string)).toEqual(touched);
  await source.runMigrations();
});

it('what is still to come is tried on a copy, with its rows; the database itself stays, and a migration that fails says so', async () => {
  const { source } = server.database;
  const address = server.config.databaseUrl;
  const state = async () => [
    await rows('SELECT name FROM migrations ORDER BY id'),
    await rows('SELECT id, name FROM instructor'),
  ];
  const whole = await dryRun(address);
  expect([whole.pending, whole.rows > 20]).toEqual([[], true]);
  const undone = await undoFrom('Accounts');
  const before = await state();
  const { pending } = await dryRun(address);
  expect(pending).toEqual(undone);
  expect(pending.length).toBeGreaterThan(1);
  expect(await state()).toEqual(before);
  // What stands in the way is found on the copy.
  await rows('ALTER TABLE instructor ADD COLUMN role INT NULL');
  await expect(dryRun(address)).rejects.toThrow(/role/);
  await rows('ALTER TABLE instructor DROP COLUMN role');
  expect(await state()).toEqual(before);
  expect(await rows("SHOW DATABASES LIKE '%dry_run'")).toEqual([]);
  await source.runMigrations();
});
