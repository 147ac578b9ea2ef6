import { type ChildProcess, spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { mkdtemp, rm } from 'node:fs/promises';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { AxeBuilder } from '@axe-core/playwright';
import { type Browser, test as base, expect, type Locator, type Page } from '@playwright/test';
import { createConnection } from 'mysql2/promise';
import { topic } from '../tools/topic.mjs';

export { topic };

export type Server = {
  url: string;
  /** The instructor of this test, with the demo lessons and the demo's password. */
  name: string;
  pid: () => number;
  /** Kills the process as a crash does. */
  kill: () => Promise<void>;
  start: () => Promise<void>;
};

const freePort = () =>
  new Promise<number>((done) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => done(port));
    });
  });

/** Who owns the servers of these tests. */
export const owner = { name: 'Ada Ames', password: 'three wet brushes' };

type Shared = { server: Omit<Server, 'name'>; database: string; stop: () => Promise<void> };

export async function startServer(more: Record<string, string> = {}): Promise<Shared> {
  const address = process.env.VIATICUM_TEST_DATABASE;
  if (!address) throw new Error('The browser tests need a database. Run npm test, which starts one.');
  const port = await freePort();
  const dataFolder = await mkdtemp(join(tmpdir(), 'viaticum-e2e-'));
  const database = address.replace('NAME', `e${randomBytes(6).toString('hex')}`);
  const env = {
    ...process.env,
    VIATICUM_PORT: String(port),
    VIATICUM_DATA: dataFolder,
    VIATICUM_DATABASE_URL: database,
    VIATICUM_QUIET: '1',
    // It has an owner, so that its door asks nobody to become that.
    VIATICUM_OWNER: owner.name,
    VIATICUM_OWNER_PASSWORD: owner.password,
    ...more,
  };
  let child: ChildProcess;
  const start = () =>
    new Promise<void>((done, fail) => {
      child = spawn(process.execPath, ['packages/server/dist/main.js'], { env, stdio: ['ignore', 'pipe', 'inherit'] });
      child.stdout?.on('data', (text) => String(text).includes('Viaticum is at') && done());
      child.once('exit', (code) => fail(new Error(`the server ended with ${code}`)));
    });
  const end = (signal: NodeJS.Signals) =>
    new Promise<void>((done) => {
      if (child.exitCode !== null || child.signalCode !== null) return done();
      child.removeAllListeners('exit');
      child.once('exit', () => done());
      child.kill(signal);
    });
  await start();
  return {
    database,
    server: {
      url: `${more.VIATICUM_TLS_CERT ? 'https' : 'http'}://127.0.0.1:${port}`,
      pid: () => child.pid as number,
      kill: () => end('SIGKILL'),
      start,
    },
    stop: async () => {
      await end('SIGTERM');
      await rm(dataFolder, { recursive: true, force: true });
    },
  };
}

/** A new instructor with the demo's lessons as they ship, so that tests share a server and nothing else. */
async function newInstructor(database: string): Promise<string> {
  const address = new URL(database);
  const socketPath = address.searchParams.get('socket');
  const connection = await createConnection({
    user: address.username || 'root',
    password: decodeURIComponent(address.password),
    database: address.pathname.slice(1),
    ...(socketPath ? { socketPath } : { host: address.hostname, port: Number(address.port || 3306) }),
  });
  const fresh = () => randomBytes(6).toString('hex');
  const [id, name] = [fresh(), `teacher-${fresh()}`];
  await connection.query(
    "INSERT INTO instructor (id, name, password_hash) SELECT ?, ?, password_hash FROM instructor WHERE name = 'demo'",
    [id, name],
  );
  await connection.query(
    "INSERT INTO picture_owner (sha256, instructor_id) SELECT sha256, ? FROM picture_owner JOIN instructor ON instructor_id = id WHERE name = 'demo'",
    [id],
  );
  await connection.query(
    "INSERT INTO film_owner (sha256, instructor_id) SELECT sha256, ? FROM film_owner JOIN instructor ON instructor_id = id WHERE name = 'demo'",
    [id],
  );
  const [lessons] = await connection.query(
    "SELECT lesson.id FROM lesson JOIN instructor ON owner_id = instructor.id WHERE name = 'demo'",
  );
  for (const lesson of lessons as { id: string }[]) {
    const own = fresh();
    await connection.query(
      'INSERT INTO lesson (id, owner_id, revision, updated_at, title, card, words) SELECT ?, ?, revision, updated_at, title, card, words FROM lesson WHERE id = ?',
      [own, id, lesson.id],
    );
    await connection.query(
      `INSERT INTO lesson_revision (lesson_id, number, kind, author_id, document, created_at)
       SELECT ?, number, kind, ?, document, created_at FROM lesson_revision WHERE lesson_id = ?`,
      [own, id, lesson.id],
    );
  }
  await connection.end();
  return name;
}

/** Each worker has a server and a database of its own; every test an instructor of its own, with the demo's lessons. */
export const test = base.extend<{ server: Server; signedIn: Page; closed: undefined }, { shared: Shared }>({
  // Windows and phones that a test opened by itself go with it: left open they ask their server every second, in every later test.
  closed: [
    async ({ browser }, use) => {
      await use(undefined);
      for (const context of browser.contexts()) await context.close();
    },
    { auto: true },
  ],
  shared: [
    // biome-ignore lint/correctness/noEmptyPattern: the fixture needs none
    async ({}, use) => {
      const shared = await startServer();
      await use(shared);
      await shared.stop();
    },
    { scope: 'worker', timeout: 60_000 },
  ],
  server: async ({ shared }, use) => {
    await use({ ...shared.server, name: await newInstructor(shared.database) });
  },
  signedIn: async ({ page, server }, use) => {
    const faults: string[] = [];
    page.on('pageerror', (error) => faults.push(error.message));
    // Nothing may be asked for that the page's own policy forbids.
    page.on('console', (said) => said.text().includes('Content Security Policy') && faults.push(said.text()));
    await signIn(page, server);
    await use(page);
    expect(faults).toEqual([]);
  },
});
export { expect };

export async function signIn(page: Page, server: Server): Promise<void> {
  // As someone who works with both open: what is worth knowing, and the section.
  await page.addInitScript(() => {
    localStorage.setItem('viaticum-tour-seen', 'true');
    localStorage.getItem('viaticum-beside') ?? localStorage.setItem('viaticum-beside', 'true');
    localStorage.getItem('viaticum-ribbon') ?? localStorage.setItem('viaticum-ribbon', '{"steps/":"half","class/":"half"}');
  });
  await page.goto(server.url);
  await page.getByLabel('Name').fill(server.name);
  await page.getByLabel('Password').fill('north light');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('heading', { name: 'Your shelf' })).toBeVisible();
}

export async function openDemo(page: Page, station = 'steps'): Promise<void> {
  await page.getByRole('link', { name: 'Open Balloons over the terraces' }).click();
  await page.waitForURL(/\/steps$/);
  if (station !== 'steps') await goTo(page, station);
}

/** Goes to a station by its link in the rail. */
export async function goTo(page: Page, station: string): Promise<void> {
  await page
    .getByRole('navigation', { name: 'Stations' })
    .getByRole('link', { name: new RegExp(`^${station}`, 'i') })
    .click();
  await page.waitForURL(new RegExp(`/${station.toLowerCase()}`));
}

/** Chooses in a field by the words of a choice. */
export async function choose(field: Locator, said: string): Promise<void> {
  const page = field.page();
  await field.click();
  const list = page.locator('.ant-select-dropdown:not(.ant-select-dropdown-hidden)').last();
  await list
    .locator('.ant-select-item-option')
    .filter({ has: page.getByText(said, { exact: true }) })
    .first()
    .click();
}

/** What a field shows as chosen. */
export const chosenIn = (field: Locator): Locator =>
  field.locator('xpath=ancestor::div[contains(concat(" ", @class, " "), " ant-select ")]');

/** Turns a slider by its keys until it stands at a value, or next to it. */
export async function slideTo(slider: Locator, value: number): Promise<void> {
  await slider.focus();
  const off = async () => Number(await slider.getAttribute('aria-valuenow')) - value;
  const first = await off();
  for (let k = 0; k < 400 && (await off()) * first > 1e-9; k++) await slider.press(first > 0 ? 'ArrowLeft' : 'ArrowRight');
}

/** What is done with the whole step that is marked. */
export async function withStep(page: Page, act: string): Promise<void> {
  await page.getByRole('button', { name: 'More for this step' }).click();
  await page.getByRole('menuitem', { name: act }).click();
}

/** Opens the room; what is changed in it holds when it is kept. */
export async function openRoom(page: Page): Promise<Locator> {
  await page.getByRole('button', { name: /Change the room/ }).click();
  const room = page.getByRole('dialog', { name: 'The room' });
  await room.getByRole('spinbutton', { name: /^Temperature, °[CF]/ }).waitFor();
  return room;
}
export async function keepRoom(room: Locator): Promise<void> {
  await room.getByRole('button', { name: 'Keep this room' }).click();
  await room.waitFor({ state: 'hidden' });
}

export const saved = (page: Page) => expect(page.locator('[data-save="saved"]')).toBeVisible();

/** Begins a rehearsal of the open lesson with so many simulated students, at its desk; gives the code. */
export async function openRehearsal(page: Page, students: number, sensor: boolean): Promise<string> {
  await goTo(page, 'Class');
  await saved(page);
  await topic(page, 'Rehearse');
  await page.getByLabel('Students', { exact: true }).fill(String(students));
  await page.keyboard.press('Enter');
  if (!sensor) await page.getByLabel('A simulated sensor tells the room’s air').uncheck();
  await page.getByRole('button', { name: 'Begin the rehearsal' }).click();
  await page.waitForURL(/\/desk\//);
  return page.url().split('/').at(-1) as string;
}

/** Turns what stands beside the desk. */
export const beside = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'What to see beside' }).getByRole('button', { name, exact: true }).click();

/** Goes on though paint is wet or most are left behind: the key asks once more. */
export async function goOnAnyway(page: Page): Promise<void> {
  await page.keyboard.press('PageDown');
  await expect(page.getByText('Press again to go on all the same')).toBeVisible();
  await page.keyboard.press('PageDown');
}

/** Opens a class from the open lesson and goes to its desk; gives the code. */
export async function openClass(page: Page): Promise<string> {
  await goTo(page, 'Class');
  await saved(page);
  await page.getByRole('button', { name: 'Open a class' }).click();
  const code = await page.getByTestId('class-code').first().innerText();
  await page.getByRole('link', { name: 'Go to the desk' }).first().click();
  await expect(page.getByText('Easels appear here')).toBeVisible();
  return code;
}

export async function joinPhone(
  browser: Browser,
  server: Server,
  code: string,
  name: string,
  size = { width: 390, height: 844 },
): Promise<Page> {
  const context = await browser.newContext({ viewport: size, hasTouch: true, isMobile: true });
  const phone = await context.newPage();
  await phone.goto(`${server.url}/join/${code}`);
  await phone.getByLabel('Your first name').fill(name);
  await phone.getByRole('button', { name: 'Join' }).click();
  await expect(phone.getByText('Your place is ready')).toBeVisible();
  return phone;
}

/** No finding of axe that is more than minor on the present view. */
export async function accessible(page: Page, view: string): Promise<void> {
  // A page that has not drawn anything yet has nothing to be judged.
  await page.getByRole('heading').first().waitFor();
  // What is fading in or out has no colours of its own yet.
  await page.evaluate(() =>
    Promise.all(
      document
        .getAnimations()
        .filter((one) => one.effect?.getComputedTiming().iterations !== Number.POSITIVE_INFINITY)
        .map((one) => one.finished.catch(() => undefined)),
    ),
  );
  const { violations } = await new AxeBuilder({ page }).options({ resultTypes: ['violations'] }).analyze();
  const found = violations.filter((one) => one.impact !== 'minor');
  expect(found.map((one) => `${view}: ${one.id}: ${one.nodes.map((node) => node.html.slice(0, 140)).join(' | ')}`)).toEqual([]);
}

/** The air of another season, taken for the room. */
export const season = async (page: Page, name: string) => {
  const room = await openRoom(page);
  await choose(room.getByLabel('Air as in'), name);
  await keepRoom(room);
};

/** How long the lesson on the bench is, as it stands in its header. */
export const total = (page: Page) => page.locator('[data-testid="bench-time"] b');
