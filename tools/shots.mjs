// npm run shots: the pictures of docs/screenshots, from the demo data, in a server and database of their own.
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import sharp from 'sharp';
import { build, database, debian, freePort, npmPackages, root, run, serve } from './setup.mjs';
import { topic } from './topic.mjs';

const folder = join(root, 'docs/screenshots');
const only = process.argv.slice(2);
const desk = { width: 1280, height: 800 };
const phone = { width: 390, height: 844 };

/** Signs in on a new page. */
async function instructor(browser, url) {
  const page = await (await browser.newContext({ viewport: desk })).newPage();
  await page.addInitScript(() => localStorage.setItem('viaticum-tour-seen', 'true'));
  await page.goto(url);
  await page.getByLabel('Name').fill('demo');
  await page.getByLabel('Password').fill('north light');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.getByRole('heading', { name: 'Your shelf' }).waitFor();
  return page;
}

async function student(browser, url, code, name) {
  const page = await (await browser.newContext({ viewport: phone, hasTouch: true, isMobile: true })).newPage();
  await page.goto(`${url}/join/${code}`);
  await page.getByLabel('Your first name').fill(name);
  await page.getByRole('button', { name: 'Join' }).click();
  await page.getByText('Your place is ready').waitFor();
  return page;
}

/** Everything drawn: fonts, pictures, the worker's answers. */
async function settled(page) {
  await page.evaluate(() => document.fonts.ready);
  await page.waitForLoadState('networkidle');
  await page.waitForTimeout(900);
}

async function shoot(page, name) {
  if (only.length > 0 && !only.includes(name)) return;
  await settled(page);
  await page.screenshot({ path: join(folder, `${name}.png`) });
  console.log(`  ${name}`);
}

const station = async (page, name) => {
  await page
    .getByRole('navigation', { name: 'Stations' })
    .getByRole('link', { name: new RegExp(name) })
    .click();
};

async function lessonViews(page) {
  await shoot(page, 'shelf');
  await beginView(page);
  await surfaceViews(page);
  await page.getByRole('link', { name: 'Open Balloons over the terraces' }).click();
  await page.waitForURL(/\/steps(\/\w+)?$/);
  await page.getByTestId('step-line').nth(2).click();
  await page.getByTestId('step-form').waitFor();
  await shoot(page, 'steps');
  await planViews(page);
  await station(page, 'Picture');
  await pictureViews(page);
  await station(page, 'Paints');
  await page.locator('[data-testid="mix"]', { hasText: 'near ridge' }).click();
  await page.locator('[data-testid="found"] li').nth(1).waitFor({ timeout: 60_000 });
  await page.getByText(/Looking through all recipes/).waitFor({ state: 'hidden', timeout: 60_000 });
  await shoot(page, 'paints');
  await station(page, 'Transfers');
  await transferViews(page);
  await station(page, 'Kit');
  await kitViews(page);
  await station(page, 'Class');
}

/** Paint for the group. */
async function kitViews(page) {
  await page.getByTestId('kit-tubes').waitFor();
  await shoot(page, 'kit');
}

/** The kettle lesson as a film: its length, and on the phone of who paints it alone. */
async function videoViews(page, browser, url) {
  if (only.length > 0 && !only.some((name) => ['video', 'follow-film'].includes(name))) return;
  await page.goto(`${url}/`);
  await page.getByRole('link', { name: /^Open A copper kettle/ }).click();
  await page.waitForURL(/\/steps(\/\w+)?$/);
  await station(page, 'Video');
  await topic(page, 'Length');
  // The key that saves the film waits for all that is painted in it.
  await page.locator('button:enabled', { hasText: 'Save as a film' }).waitFor({ timeout: 60_000 });
  await page
    .getByTestId('track')
    .getByRole('button', { name: /S022: filling/ })
    .click();
  await shoot(page, 'video');
  const lesson = page.url().match(/lesson\/([^/]+)/)[1];
  const answer = await page.request.post(`${url}/api/lessons/${lesson}/alone`, { data: {}, headers: { origin: url } });
  const { address } = await answer.json();
  const alone = await (await browser.newContext({ viewport: phone, hasTouch: true, isMobile: true })).newPage();
  await alone.goto(url + new URL(address).pathname);
  await alone.getByRole('button', { name: /^Begin/ }).click();
  await alone.getByRole('button', { name: /^Film/ }).click();
  await alone.waitForFunction(() => (document.querySelector('video')?.currentTime ?? 0) > 9, null, { timeout: 60_000 });
  await alone.getByRole('button', { name: 'Pause' }).click();
  await shoot(alone, 'follow-film');
  await alone.close();
}

/** A lesson being begun: its picture, and the things in it. */
async function beginView(page) {
  await page.getByRole('button', { name: 'New lesson' }).click();
  await page.getByRole('dialog').locator('input[type="file"]').setInputFiles(join(root, 'packages/server/assets/demo/wool.jpg'));
  await page.getByRole('button', { name: 'Next: its things' }).click();
  const things = page.getByTestId('things').getByRole('listitem');
  await things.first().waitFor({ timeout: 30_000 });
  const face = await page.getByTestId('easel-face').boundingBox();
  const at = (x, y) => [face.x + face.width * x, face.y + face.height * y];
  for (let left = await things.count(); left > 0; left--)
    await things
      .last()
      .getByRole('button', { name: /^Drop / })
      .click();
  const strokes = [
    ['Grey wall', [0.95, 0.45], [0.93, 0.06], [0.06, 0.08], [0.12, 0.46]],
    ['Old boards', [0.05, 0.7], [0.2, 0.92], [0.9, 0.95], [0.93, 0.65]],
    ['Ball of wool', [0.36, 0.4], [0.6, 0.35], [0.66, 0.55], [0.5, 0.7], [0.4, 0.6]],
  ];
  for (const [name, first, ...rest] of strokes) {
    await page.getByRole('button', { name: 'A new thing' }).click();
    await page.mouse.move(...at(...first));
    await page.mouse.down();
    for (const place of rest) await page.mouse.move(...at(...place), { steps: 10 });
    await page.mouse.up();
    await page.keyboard.type(name);
  }
  await things.nth(2).getByText(/%/).waitFor();
  await page.getByText('Line', { exact: true }).click();
  await page.mouse.move(...at(0.68, 0.62));
  await page.mouse.down();
  for (const place of [
    [0.78, 0.7],
    [0.86, 0.69],
    [0.95, 0.78],
  ])
    await page.mouse.move(...at(...place), { steps: 10 });
  await page.mouse.up();
  await page.keyboard.type('Loose end');
  await shoot(page, 'begin-things');
  await page.getByRole('button', { name: 'Next: what fits' }).click();
  await page.getByTestId('fit-more').locator('img').waitFor({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Not now' }).click();
}

/** A lesson whose subject has a surface: its stages. */
async function surfaceViews(page) {
  await page.getByRole('link', { name: 'Open A ball of wool on old boards' }).click();
  await page.waitForURL(/\/steps(\/\w+)?$/);
  await topic(page, 'Stages');
  await page.locator('[data-testid="stage-strip"] img').nth(9).waitFor({ timeout: 90_000 });
  await page.locator('[data-testid="stage-strip"] button', { hasText: 'strands in the light' }).click();
  await page.getByTestId('nearness').scrollIntoViewIfNeeded();
  await shoot(page, 'steps-stages');
  await page.getByRole('link', { name: 'Shelf' }).click();
}

async function transferViews(page) {
  await page.getByText(/[1-9]\d* lines, \d+ points/).waitFor({ timeout: 60_000 });
  await shoot(page, 'transfers');
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save as SVG' }).click()]);
  // A student's drawing, too narrow and photographed askew.
  const lines = readFileSync(await file.path(), 'utf8')
    .replace('stroke-width="0.35"', 'stroke-width="0.9"')
    .replace('<g fill="none"', '<g transform="translate(11 0) scale(0.945 1)" fill="none"');
  const paper = await sharp(Buffer.from(lines), { density: 60 }).flatten({ background: '#f2efe8' }).resize(800).png().toBuffer();
  const turned = await sharp(paper).rotate(3, { background: '#7a6a58' }).toBuffer();
  const table = sharp({ create: { width: 1200, height: 1400, channels: 3, background: '#7a6a58' } });
  const buffer = await table
    .composite([{ input: turned, left: 170, top: 160 }])
    .jpeg()
    .toBuffer();
  await topic(page, 'Check');
  await page.locator('input[type="file"]').first().setInputFiles({ name: 'a.jpg', mimeType: 'image/jpeg', buffer });
  await page.getByText('The corners were found').waitFor();
  await page.getByRole('button', { name: 'Compare' }).click();
  await page.locator('[data-testid="check-found"] li').first().waitFor({ timeout: 60_000 });
  await page.getByTestId('check-overlay').scrollIntoViewIfNeeded();
  await shoot(page, 'transfers-check');
}

async function planViews(page) {
  await topic(page, 'Values');
  await page.getByRole('link', { name: 'Read through' }).click();
  await page.getByTestId('read-step').first().waitFor();
  await shoot(page, 'read-through');
  await page.getByRole('link', { name: 'Back to the bench' }).click();
  await page.waitForURL(/\/steps(\/\w+)?$/);
  await topic(page, 'List');
}

async function pictureViews(page) {
  await shoot(page, 'picture');
}

/** A rehearsal of the lesson, some way into it, looked back on. */
async function recordView(page, url) {
  await page.goto(`${url}/`);
  await page.getByRole('link', { name: 'Open Balloons over the terraces' }).click();
  await page.waitForURL(/\/steps(\/\w+)?$/);
  await station(page, 'Class');
  await topic(page, 'Rehearse');
  await page.getByRole('button', { name: 'Begin the rehearsal' }).click();
  await page.waitForURL(/\/desk\//);
  const code = page.url().split('/').at(-1);
  await page.getByText('12 easels').first().waitFor();
  await page.keyboard.press('ArrowRight');
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('button', { name: '×60' }).click();
  // On when most are done, or a pause is over.
  for (let i = 0; i < 9; i++) {
    const before = await page.locator('[data-testid="desk-glance"] h1').innerText();
    for (let k = 0; k < 80; k++) {
      await page.waitForTimeout(250);
      const done = /^(\d+) of (\d+) done/.exec(
        await page
          .getByTestId('desk-large')
          .first()
          .innerText()
          .catch(() => ''),
      );
      const isOver = (await page.getByTestId('clock').innerText()).includes('over');
      if (done ? Number(done[1]) >= 9 : isOver) break;
    }
    await page.keyboard.press('ArrowRight');
    // Where paint is wet or most are left behind the key asks once more.
    const again = page.getByText('Press again to go on all the same');
    if (await again.isVisible({ timeout: 400 }).catch(() => false)) await page.keyboard.press('ArrowRight');
    await page.waitForFunction(
      (title) => document.querySelector('[data-testid="desk-glance"] h1')?.textContent !== title,
      before,
    );
  }
  await page.getByRole('button', { name: '×1', exact: true }).click();
  await page.getByRole('button', { name: 'Now', exact: true }).click();
  await shoot(page, 'desk');
  await page.waitForTimeout(5500);
  await page.getByRole('button', { name: 'End the class' }).click();
  await page.getByRole('button', { name: 'End it for everyone' }).click();
  await page.goto(`${url}/class/${code}`);
  const slider = page.getByRole('slider', { name: 'Minute of the class' });
  for (let k = 0; k < 80; k++) await slider.press('ArrowRight');
  await shoot(page, 'record');
}

/** What three classes, noted by hand, suggest for the balloons. */
async function logView(page, url) {
  if (only.length > 0 && !only.includes('log')) return;
  const lessons = await (await page.request.get(`${url}/api/lessons`)).json();
  const { id } = lessons.find(({ title }) => title === 'Balloons over the terraces');
  const { document } = await (await page.request.get(`${url}/api/lessons/${id}`)).json();
  const slow = { 'Sky, blended from the top to the horizon': 22, 'Near ridge, a step darker': 10 };
  for (const [k, at] of ['2026-09-12', '2026-10-03', '2026-11-07'].entries()) {
    const items = document.steps.map(({ title, showMin, doMin }, i) => ({
      title,
      planned: (showMin ?? 0) + (doMin ?? 0),
      actual: i === 11 ? null : slow[title] ? slow[title] + k : (showMin ?? 0) + (doMin ?? 0),
      note: title in slow ? 'the blend was worked too long' : '',
    }));
    const byHand = { title: document.title, at, students: 9 + k, items, note: k === 1 ? 'stove on, the air very dry' : '' };
    await page.request.post(`${url}/api/log/by-hand`, { headers: { origin: url }, data: { lessonId: id, byHand } });
  }
  await page.goto(`${url}/lesson/${id}/log`);
  await page.getByTestId('suggestions').getByRole('listitem').first().waitFor();
  await shoot(page, 'log');
}

async function classViews(page, browser, url) {
  await page.locator('[data-save="saved"]').waitFor();
  await topic(page, 'Invite');
  await page.getByLabel('Begins').fill('16 Jan 2027 18:30');
  await page.keyboard.press('Enter');
  await page.getByLabel('First names').fill('Mara\nKofi\nInes\nTomasz\nLin\nAmadou');
  await page.getByRole('button', { name: 'Plan this class' }).click();
  await page.getByRole('button', { name: 'Write to everybody' }).click();
  await page.getByText('6 letters lie in the outbox.').waitFor();
  await topic(page, 'Teach');
  await page.getByRole('button', { name: 'Open a class' }).click();
  const code = await page
    .locator('[data-testid="class-list"] li', { hasNotText: 'planned' })
    .getByTestId('class-code')
    .first()
    .innerText();
  await shoot(page, 'class');
  await page.getByRole('link', { name: 'Go to the desk' }).first().click();
  await page.getByText('Easels appear here').waitFor();
  const students = [];
  for (const name of ['Mara', 'Kofi', 'Ines', 'Tomasz', 'Lin', 'Amadou']) students.push(await student(browser, url, code, name));
  const goOn = async (title) => {
    await page.keyboard.press('ArrowRight');
    const again = page.getByText('Press again to go on all the same');
    if (await again.isVisible({ timeout: 400 }).catch(() => false)) await page.keyboard.press('ArrowRight');
    await students[0].getByRole('heading', { name: title }).waitFor();
  };
  await goOn('Tone the whole canvas');
  for (const one of [0, 2, 3]) await students[one].getByRole('button', { name: 'Done' }).click();
  await students[1].getByRole('button', { name: 'I need a hand' }).click();
  await students[1].getByRole('button', { name: 'the colour' }).click();
  await page.getByTestId('needs-me').getByText('Kofi').waitFor();
  await page.waitForTimeout(5500);
  await shoot(students[4], 'follow');
  const wall = await (
    await browser.newContext({ viewport: { width: 1920, height: 1080 }, screen: { width: 1920, height: 1080 } })
  ).newPage();
  await wall.goto(`${url}/wall/${code}`);
  await wall.getByTestId('wall-mixes').waitFor({ timeout: 30_000 });
  await shoot(wall, 'wall');
  await wall.close();
  await goOn('Let the whole canvas dry');
  await shoot(students[0], 'follow-drying');
  return [page, ...students];
}

run(async () => {
  await debian({ mariadbd: 'mariadb-server', chromium: 'chromium' });
  await npmPackages();
  await build();
  mkdirSync(folder, { recursive: true });
  const data = mkdtempSync(join(tmpdir(), 'viaticum-shots-'));
  const own = await database(data);
  const port = await freePort();
  const { child } = await serve({
    VIATICUM_PORT: String(port),
    VIATICUM_OWNER: 'Ada Ames',
    VIATICUM_OWNER_PASSWORD: 'three wet brushes',
    VIATICUM_DATA: data,
    VIATICUM_DATABASE_URL: own.url('shots'),
    VIATICUM_QUIET: '1',
  });
  const url = `http://127.0.0.1:${port}`;
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--disable-background-networking'],
  });
  try {
    const page = await instructor(browser, url);
    await lessonViews(page);
    await classViews(page, browser, url);
    await recordView(page, url);
    await logView(page, url);
    await videoViews(page, browser, url);
  } finally {
    await browser.close();
    child.kill('SIGTERM');
    await new Promise((done) => child.once('exit', done));
    await own.stop();
    rmSync(data, { recursive: true, force: true });
  }
  console.log(`${readdirSync(folder).length} pictures in docs/screenshots`);
});
