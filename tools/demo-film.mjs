// npm run demo:film: draws the film of the kettle lesson from its own stages, in Chromium, and writes where its steps are in it.
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { placesIn, timelineOf } from '../packages/core/dist/film/index.js';
import { build, database, debian, freePort, root, run, serve } from './setup.mjs';
import { topic } from './topic.mjs';

const assets = join(root, 'packages/server/assets/demo');
const SECONDS = 90;
const SIZE = { widthPx: 480, heightPx: 270 };

run(async () => {
  await debian({ mariadbd: 'mariadb-server', chromium: 'chromium' });
  await build();
  const folder = mkdtempSync(join(tmpdir(), 'viaticum-film-'));
  const own = await database(folder);
  const port = await freePort();
  const { child } = await serve({
    VIATICUM_PORT: String(port),
    VIATICUM_OWNER: 'Ada Ames',
    VIATICUM_OWNER_PASSWORD: 'three wet brushes',
    VIATICUM_DATA: join(folder, 'data'),
    VIATICUM_DATABASE_URL: own.url('film'),
    VIATICUM_QUIET: '1',
  });
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript(() => localStorage.setItem('viaticum-tour-seen', 'true'));
  await page.goto(`http://127.0.0.1:${port}`);
  await page.getByLabel('Name').fill('demo');
  await page.getByLabel('Password').fill('north light');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page
    .getByRole('link', { name: /kettle/ })
    .first()
    .click();
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: /Video/ }).click();
  await topic(page, 'Length');
  await page.getByText('Summary').click();
  await page.getByRole('textbox', { name: 'Length' }).fill(String(SECONDS));
  await page.keyboard.press('Enter');
  const key = page.getByRole('button', { name: 'small, to send' });
  await page.waitForFunction(
    () => [...document.querySelectorAll('button')].some((one) => one.textContent === 'small, to send' && !one.disabled),
    null,
    { timeout: 60_000 },
  );
  const [file] = await Promise.all([page.waitForEvent('download', { timeout: 180_000 }), key.click()]);
  await file.saveAs(join(assets, 'kettle.webm'));
  const lesson = JSON.parse(readFileSync(join(assets, 'kettle.json'), 'utf8'));
  const cuts = [{ id: 'summary', name: 'Summary', isShort: true, lengthSec: SECONDS }];
  const about = {
    id: 'demo-film',
    name: 'The kettle in ninety seconds',
    durationMs: SECONDS * 1000,
    ...SIZE,
    ...placesIn(lesson, timelineOf({ ...lesson, film: { cuts } }, 'summary'), SECONDS * 1000),
  };
  writeFileSync(join(assets, 'kettle.film.json'), `${JSON.stringify(about, null, 2)}\n`);
  await browser.close();
  child.kill('SIGTERM');
  await own.stop();
  rmSync(folder, { recursive: true, force: true });
  console.log(`  kettle.webm, ${about.chapters.length} chapters`);
});
