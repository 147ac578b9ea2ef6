import { spawn } from 'node:child_process';
import { createHash, randomBytes } from 'node:crypto';
import { mkdtemp, readdir, readFile, rm, stat, utimes, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { LessonAnswer, LessonCard } from '@viaticum/contract';
import JSZip from 'jszip';
import { createConnection } from 'mysql2/promise';
import { placeOf } from '../db/source.js';
import { type TestServer, testServer } from '../server.fixture.js';
import { noteMade, readMade } from './made.js';
import { isDue, keepNewest } from './plugin.js';
import { restore } from './restoring.js';
import { writeBackup } from './writing.js';

let server: TestServer;
let cookie: string;
let folder: string;
const fresh = () => (process.env.VIATICUM_TEST_DATABASE as string).replace('NAME', `t${randomBytes(6).toString('hex')}`);
beforeAll(async () => {
  server = await testServer();
  cookie = await server.signIn();
  folder = await mkdtemp(join(tmpdir(), 'viaticum-backup-'));
});
afterAll(async () => {
  await server.stop();
  await rm(folder, { recursive: true, force: true });
});

async function ask(url: string, sql: string, values: unknown[] = []): Promise<Record<string, unknown>[]> {
  const { database, ...place } = placeOf(url);
  const connection = await createConnection({ ...place, supportBigNumbers: true, bigNumberStrings: true, dateStrings: true });
  try {
    await connection.query(`CREATE DATABASE IF NOT EXISTS \`${database}\``);
    await connection.query(`USE \`${database}\``);
    return (await connection.query(sql, values))[0] as Record<string, unknown>[];
  } finally {
    await connection.end();
  }
}
const tablesIn = async (url: string): Promise<string[]> =>
  (await ask(url, 'SHOW TABLES')).map((row) => String(Object.values(row)[0])).sort();
/** All rows of all tables, but for when a migration was run. */
async function allOf(url: string): Promise<Record<string, string[]>> {
  const all: Record<string, string[]> = {};
  for (const table of await tablesIn(url)) {
    const rows = await ask(url, `SELECT * FROM \`${table}\``);
    all[table] = rows.map((row) => JSON.stringify(row)).sort();
  }
  return all;
}
async function filesIn(root: string): Promise<Record<string, string>> {
  const found: Record<string, string> = {};
  for (const name of await readdir(root, { recursive: true }).catch(() => [])) {
    if (!(await stat(join(root, name))).isFile()) continue;
    found[name] = createHash('sha256')
      .update(await readFile(join(root, name)))
      .digest('hex');
  }
  return found;
}
const backUp = (to: string) => writeBackup({ url: server.config.databaseUrl, dataFolder: server.config.dataFolder, to });

describe('a backup', () => {
  it('restored into an empty instance is the same, row by row and file by file, and a server runs on it', async () => {
    const { code } = await server.openClass(cookie);
    const phone = await server.connect(code, 'phone');
    await phone.hello();
    // Letters that end a line for some, and those of every kind.
    await phone.say({ type: 'join', firstName: 'Zoë\u2028🙂', kit: [] });
    phone.close();
    const to = join(folder, 'whole.zip');
    const written = await backUp(to);
    expect([written.missing, written.bytes, (await stat(to)).mode & 0o777]).toEqual([[], (await stat(to)).size, 0o600]);
    const [url, dataFolder] = [fresh(), await mkdtemp(join(folder, 'data-'))];
    const restored = await restore({ url, dataFolder, from: to });
    expect([restored.upgraded, restored.files]).toEqual([[], written.files]);
    const [was, is] = [await allOf(server.config.databaseUrl), await allOf(url)];
    expect(Object.keys(is)).toEqual(Object.keys(was));
    for (const table of Object.keys(was)) expect([table, is[table]]).toEqual([table, was[table]]);
    for (const kind of ['pictures', 'films']) {
      const there = await filesIn(join(server.config.dataFolder, kind));
      expect(Object.keys(there).length).toBeGreaterThan(0);
      expect(await filesIn(join(dataFolder, kind))).toEqual(there);
    }
    const { database } = placeOf(url);
    expect(await ask(url, 'SHOW DATABASES LIKE ?', [`${database}\\_%`])).toEqual([]);
    const again = await testServer({ databaseUrl: url, dataFolder });
    const as = await again.signIn();
    const cards = (await again.request('GET', '/api/lessons', undefined, as)).body as unknown as LessonCard[];
    expect(cards).toHaveLength(4);
    const desk = await again.connect(code, 'desk', as);
    await desk.hello();
    expect(Object.values(desk.state.students).map(({ firstName }) => firstName)).toEqual(['Zoë\u2028🙂']);
    desk.close();
    await again.stop();
  });
  it('is of one moment, however much is written meanwhile', async () => {
    const lesson = await server.demoLesson(cookie);
    const { code } = await server.openClass(cookie);
    let isOver = false;
    let revision = lesson.revision;
    const saving = (async () => {
      for (let n = 0; !isOver; n++) {
        const document = { ...lesson.document, title: `Meanwhile ${n}` };
        const answer = await server.request('PUT', `/api/lessons/${lesson.id}`, { baseRevision: revision, document }, cookie);
        revision = Number(answer.body.revision);
      }
    })();
    const joining = (async () => {
      for (let n = 0; !isOver && n < 50; n++) {
        const phone = await server.connect(code, 'phone');
        await phone.hello();
        await phone.say({ type: 'join', firstName: `P${n}`, kit: [] });
        phone.close();
      }
    })();
    for (let n = 0; n < 3; n++) {
      const to = join(folder, `meanwhile-${n}.zip`);
      await backUp(to);
      const url = fresh();
      await restore({ url, dataFolder: await mkdtemp(join(folder, 'data-')), from: to });
      // A lesson's revision is there, and a class's log goes as far as it says.
      expect(
        await ask(
          url,
          `SELECT l.id FROM lesson l WHERE NOT EXISTS
             (SELECT 1 FROM lesson_revision r WHERE r.lesson_id = l.id AND r.number = l.revision AND r.kind <> 'kept')`,
        ),
      ).toEqual([]);
      expect(
        await ask(
          url,
          `SELECT c.id FROM class c WHERE c.last_seq <> (SELECT MAX(seq) FROM class_event e WHERE e.class_id = c.id)
             OR c.last_seq <> (SELECT COUNT(*) FROM class_event e WHERE e.class_id = c.id)`,
        ),
      ).toEqual([]);
    }
    isOver = true;
    await Promise.all([saving, joining]);
    // The way back is the title that stood there.
    await server.request('PUT', `/api/lessons/${lesson.id}`, { baseRevision: revision, document: lesson.document }, cookie);
  });
  it('one at a time; what was broken off leaves nothing under its name', async () => {
    const [one, two] = await Promise.allSettled([backUp(join(folder, 'a.zip')), backUp(join(folder, 'b.zip'))]);
    expect([one.status, two.status].sort()).toEqual(['fulfilled', 'rejected']);
    await expect(backUp(join(folder, 'whole.zip', 'no-folder', 'x.zip'))).rejects.toThrow();
    const lost = writeBackup({
      url: server.config.databaseUrl.replace(/\/t\w+/, '/t_nowhere'),
      dataFolder: folder,
      to: join(folder, 'c.zip'),
    });
    await expect(lost).rejects.toThrow();
    expect((await readdir(folder)).filter((name) => /c\.zip|new$/.test(name))).toEqual([]);
  });
  it('says which files were not there any more, and takes the rest', async () => {
    const own = await testServer();
    const [sha] = (await ask(own.config.databaseUrl, 'SELECT sha256 FROM film_file')).map((row) => String(row.sha256)) as [
      string,
    ];
    await rm(join(own.config.dataFolder, 'films', sha.slice(0, 2), sha));
    const to = join(folder, 'lacks.zip');
    const { missing } = await writeBackup({ url: own.config.databaseUrl, dataFolder: own.config.dataFolder, to });
    expect(missing).toEqual([`films/${sha.slice(0, 2)}/${sha}`]);
    const restored = await restore({ url: fresh(), dataFolder: await mkdtemp(join(folder, 'data-')), from: to });
    expect(restored.missing).toEqual(missing);
    await own.stop();
  });
});

describe('a restore', () => {
  const into = async (url: string, from: string) => restore({ url, dataFolder: await mkdtemp(join(folder, 'data-')), from });
  it('goes over the demo as it came, and over nobody’s work', async () => {
    const demo = await testServer();
    const url = demo.config.databaseUrl;
    await demo.app.close();
    await into(url, join(folder, 'whole.zip'));
    expect((await ask(url, 'SELECT COUNT(*) AS n FROM class'))[0]?.n).toBe('1');
    const before = await allOf(url);
    await expect(into(url, join(folder, 'whole.zip'))).rejects.toThrow(/Somebody has worked in this Viaticum already/);
    expect(await allOf(url)).toEqual(before);
  });
  it.each([
    ['is no backup', async () => Buffer.from('a letter'), /no ZIP file/],
    [
      'is a package',
      async () => new JSZip().file('viaticum.json', '{}').generateAsync({ type: 'nodebuffer' }),
      /no backup of Viaticum/,
    ],
    [
      'lacks a table',
      async () => {
        const zip = await JSZip.loadAsync(await readFile(join(folder, 'whole.zip')));
        zip.remove('tables/lesson.jsonl');
        return zip.generateAsync({ type: 'nodebuffer' });
      },
      /The table lesson is missing/,
    ],
    [
      'was cut in its rows',
      async () => {
        const zip = await JSZip.loadAsync(await readFile(join(folder, 'whole.zip')));
        const rows = (await zip.file('tables/class_event.jsonl')?.async('text')) ?? '';
        zip.file('tables/class_event.jsonl', rows.slice(0, rows.indexOf('\n') + 1));
        return zip.generateAsync({ type: 'nodebuffer' });
      },
      /has 1 rows and should have/,
    ],
    [
      'is of a newer version',
      async () => {
        const zip = await JSZip.loadAsync(await readFile(join(folder, 'whole.zip')));
        const manifest = JSON.parse((await zip.file('viaticum-backup.json')?.async('text')) ?? '');
        manifest.migrations.push('Tomorrow1900000000099');
        zip.file('viaticum-backup.json', JSON.stringify(manifest));
        return zip.generateAsync({ type: 'nodebuffer' });
      },
      /newer Viaticum/,
    ],
  ])('of a file that %s says so, and the instance stays empty', async (_, make, said) => {
    const path = join(folder, 'odd.zip');
    await writeFile(path, await make());
    const url = fresh();
    await expect(into(url, path)).rejects.toThrow(said);
    expect(await tablesIn(url)).toEqual([]);
    // A sound one goes in afterwards, whatever the other left beside.
    await into(url, join(folder, 'whole.zip'));
    expect((await tablesIn(url)).length).toBeGreaterThan(20);
  });
});

describe('killed in the middle', () => {
  const cli = fileURLToPath(new URL('../../dist/backup/cli.js', import.meta.url));
  /** Runs a backup or a restore in a process of its own, which is killed after so many ms. Gives whether it had ended by then. */
  const killed = (what: string, file: string, url: string, dataFolder: string, afterMs: number): Promise<boolean> =>
    new Promise((done) => {
      const env = { ...process.env, VIATICUM_DATABASE_URL: url, VIATICUM_DATA: dataFolder };
      const child = spawn(process.execPath, [cli, what, file], { env, stdio: 'ignore' });
      const timer = setTimeout(() => child.kill('SIGKILL'), afterMs);
      child.once('exit', (code) => {
        clearTimeout(timer);
        done(code === 0);
      });
    });
  it('a restore leaves an empty instance or a whole one, and is done again', async () => {
    const whole = join(folder, 'whole.zip');
    const url = fresh();
    const dataFolder = await mkdtemp(join(folder, 'data-'));
    const counts: number[] = [];
    for (const afterMs of [300, 500, 700, 900, 1100, 1300, 1600]) {
      if (await killed('restore', whole, url, dataFolder, afterMs)) break;
      counts.push((await tablesIn(url)).length);
    }
    const all = (await tablesIn(server.config.databaseUrl)).length;
    expect(counts.every((count) => count === 0 || count === all)).toBe(true);
    if ((await tablesIn(url)).length === 0) await restore({ url, dataFolder, from: whole });
    expect(await ask(url, 'SELECT COUNT(*) AS n FROM class_event')).toEqual([{ n: '2' }]);
    expect((await readdir(join(dataFolder, 'pictures'), { recursive: true })).filter((name) => name.endsWith('.new'))).toEqual(
      [],
    );
  });
  it('a backup leaves no file under its name, and the next one is whole', async () => {
    const to = join(folder, 'killed.zip');
    const { databaseUrl, dataFolder } = server.config;
    let isWhole = false;
    for (const afterMs of [250, 350, 450]) isWhole ||= await killed('backup', to, databaseUrl, dataFolder, afterMs);
    if (!isWhole) expect(await readdir(folder)).not.toContain('killed.zip');
    expect(await killed('backup', to, databaseUrl, dataFolder, 30_000)).toBe(true);
    await restore({ url: fresh(), dataFolder: await mkdtemp(join(folder, 'data-')), from: to });
  });
});

describe('backups of earlier versions', () => {
  const frozen = fileURLToPath(new URL('../../assets/backups/', import.meta.url));
  it('one of every version of the tables is frozen here, is lifted to today’s, and its lesson is read and taught', async () => {
    const names = (await readdir(frozen)).sort((one, other) => one.slice(-16).localeCompare(other.slice(-16)));
    const here = (await ask(server.config.databaseUrl, 'SELECT name FROM migrations ORDER BY id')).map(({ name }) =>
      String(name),
    );
    // Accounts, history and what came later; a version that is added is frozen with `npm run freeze`.
    expect(names).toEqual(here.slice(3).map((name) => `${name}.zip`));
    // A server is started on the oldest, the middle and the newest; on each in npm run soak.
    const started = process.env.VIATICUM_SOAK ? names : [names[0], names[5], names.at(-1)];
    for (const name of names) {
      const [url, dataFolder] = [fresh(), await mkdtemp(join(folder, 'data-'))];
      const { upgraded } = await restore({ url, dataFolder, from: join(frozen, name) });
      expect([name, upgraded]).toEqual([name, here.slice(here.indexOf(name.replace('.zip', '')) + 1)]);
      if (!started.includes(name)) continue;
      const old = await testServer({ databaseUrl: url, dataFolder });
      const as = await old.signIn();
      const [card] = (await old.request('GET', '/api/lessons', undefined, as)).body as unknown as [LessonCard];
      expect([name, card.title]).toEqual([name, 'Two jugs on a sill']);
      const { body } = await old.request('GET', `/api/lessons/${card.id}`, undefined, as);
      expect((body as unknown as LessonAnswer).document.steps).toHaveLength(1);
      expect((await old.request('POST', '/api/classes', { lessonId: card.id }, as)).status).toBe(201);
      const classes = (await old.request('GET', '/api/classes', undefined, as)).body as unknown as {
        code: string;
        state: string;
      }[];
      const record = await old.request(
        'GET',
        `/api/classes/${classes.find(({ code }) => code === 'FRZ234')?.code}/record`,
        undefined,
        as,
      );
      expect([name, record.status]).toEqual([name, 200]);
      await old.stop();
    }
  });
});

describe('by night', () => {
  const at = (text: string) => new Date(text);
  it('is due once a night after three, at once where there was none, and when it was missed', () => {
    expect(isDue(undefined, at('2026-05-01T12:00:00'))).toBe(true);
    expect(isDue(at('2026-05-01T03:10:00').getTime(), at('2026-05-01T23:00:00'))).toBe(false);
    expect(isDue(at('2026-05-01T03:10:00').getTime(), at('2026-05-02T02:10:00'))).toBe(false);
    expect(isDue(at('2026-05-01T03:10:00').getTime(), at('2026-05-02T03:10:00'))).toBe(true);
    expect(isDue(at('2026-05-01T20:00:00').getTime(), at('2026-05-03T02:30:00'))).toBe(true);
  });
  it('seven are kept, and nothing else is taken away', async () => {
    const nights = await mkdtemp(join(folder, 'nights-'));
    for (let day = 1; day <= 9; day++) await writeFile(join(nights, `viaticum-2026-05-0${day}.zip`), 'x');
    await writeFile(join(nights, 'before-the-move.zip'), 'x');
    await utimes(join(nights, 'viaticum-2026-05-01.zip'), new Date(), new Date());
    expect(await keepNewest(nights)).toEqual(['viaticum-2026-05-01.zip', 'viaticum-2026-05-02.zip']);
    expect(await readdir(nights)).toHaveLength(8);
  });
  it('when they were made is told to who is signed in; a whole one is taken by the owner alone', async () => {
    const own = await testServer({ owner: { name: 'Ada Ames', password: 'three wet brushes' } });
    const ada = await own.signIn({ name: 'Ada Ames', password: 'three wet brushes' });
    const told = async (as: string) => (await own.request('GET', '/api/backups', undefined, as)).body;
    expect(await told(ada)).toEqual({ nightlyAt: null, elsewhereAt: null, mayMake: true, since: expect.any(String) });
    await noteMade(own.config.dataFolder, 'nightly', 7);
    expect(await readMade(own.config.dataFolder)).toMatchObject({ nightly: { bytes: 7 } });
    const taken = await fetch(`http://127.0.0.1:${own.port}/api/backup`, { headers: { cookie: ada } });
    const path = join(folder, 'taken.zip');
    await writeFile(path, Buffer.from(await taken.arrayBuffer()));
    const { rows } = await restore({ url: fresh(), dataFolder: await mkdtemp(join(folder, 'data-')), from: path });
    expect(rows).toBeGreaterThan(10);
    for (let n = 0; n < 50 && !(await readMade(own.config.dataFolder)).elsewhere; n++)
      await new Promise((done) => setTimeout(done, 20));
    const demo = await own.signIn();
    expect(await told(demo)).toEqual({
      nightlyAt: expect.any(String),
      elsewhereAt: expect.any(String),
      mayMake: false,
      since: expect.any(String),
    });
    expect((await own.request('GET', '/api/backup', undefined, demo)).status).toBe(403);
    await own.stop();
  });
});
