import { type ChildProcess, spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { mkdtemp, rm } from 'node:fs/promises';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { AxeBuilder } from '@axe-core/playwright';
import { type Browser, test as base, expect, type Page } from '@playwright/test';

export type Server = {
  url: string;
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

async function startServer(): Promise<{ server: Server; stop: () => Promise<void> }> {
  const address = process.env.VIATICUM_TEST_DATABASE;
  if (!address) throw new Error('The browser tests need a database. Run npm test, which starts one.');
  const port = await freePort();
  const dataFolder = await mkdtemp(join(tmpdir(), 'viaticum-e2e-'));
  const env = {
    ...process.env,
    VIATICUM_PORT: String(port),
    VIATICUM_DATA: dataFolder,
    VIATICUM_DATABASE_URL: address.replace('NAME', `e${randomBytes(6).toString('hex')}`),
    VIATICUM_QUIET: '1',
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
    server: { url: `http://127.0.0.1:${port}`, pid: () => child.pid as number, kill: () => end('SIGKILL'), start },
    stop: async () => {
      await end('SIGTERM');
      await rm(dataFolder, { recursive: true, force: true });
    },
  };
}

/** Every test has a server and a database of its own, with the demo data. */
export const test = base.extend<{ server: Server; signedIn: Page }>({
  // biome-ignore lint/correctness/noEmptyPattern: the fixture needs none
  server: async ({}, use) => {
    const { server, stop } = await startServer();
    await use(server);
    await stop();
  },
  signedIn: async ({ page, server }, use) => {
    const faults: string[] = [];
    page.on('pageerror', (error) => faults.push(error.message));
    await signIn(page, server);
    await use(page);
    expect(faults).toEqual([]);
  },
});
export { expect };

export async function signIn(page: Page, server: Server): Promise<void> {
  await page.goto(server.url);
  await page.getByLabel('Name').fill('demo');
  await page.getByLabel('Password').fill('north light');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('heading', { name: 'Your shelf' })).toBeVisible();
}

export async function openDemo(page: Page, station = 'steps'): Promise<void> {
  await page.getByRole('link', { name: 'Open Balloons over the terraces' }).click();
  await page.waitForURL(/\/steps$/);
  if (station !== 'steps')
    await page
      .getByRole('navigation', { name: 'Stations' })
      .getByRole('link', { name: new RegExp(station, 'i') })
      .click();
}

/** Turns the picture or the paints station to a topic. */
export const topic = (page: Page, name: string) =>
  page
    .getByRole('navigation', { name: /^What to (look at|work on)$/ })
    .getByRole('button', { name, exact: true })
    .click();

export const saved = (page: Page) => expect(page.locator('[data-save="saved"]')).toBeVisible();

/** Opens a class from the open lesson and goes to its desk; gives the code. */
export async function openClass(page: Page): Promise<string> {
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: /Class/ }).click();
  await saved(page);
  await page.getByRole('button', { name: 'Open a class' }).click();
  const code = await page.locator('.class-code').first().innerText();
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

/** No serious or critical finding of axe on the present view. */
export async function accessible(page: Page, view: string): Promise<void> {
  const { violations } = await new AxeBuilder({ page }).analyze();
  const serious = violations.filter((one) => one.impact === 'serious' || one.impact === 'critical');
  expect(serious.map((one) => `${view}: ${one.id}: ${one.nodes.map((node) => node.html.slice(0, 140)).join(' | ')}`)).toEqual([]);
}
