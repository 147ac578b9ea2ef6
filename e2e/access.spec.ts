import type { Page } from '@playwright/test';
import { accessible, expect, goTo, joinPhone, openClass, openDemo, openRoom, test, topic } from './fixtures.js';

/** Nothing serious by axe, and nothing that scrolls sideways. */
async function sound(view: string, on: Page): Promise<void> {
  await accessible(on, view);
  const over = await on.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
  expect([view, over]).toEqual([view, 0]);
}

test('axe finds nothing serious on any topic of the picture station', { tag: '@soak' }, async ({ signedIn: page }) => {
  await openDemo(page, 'picture');
  for (const name of ['Source', 'Crop', 'Values', 'Compare', 'Things', 'Edges', 'Composition', 'Light']) {
    await topic(page, name);
    await page.waitForTimeout(300);
    await sound(name, page);
  }
  await topic(page, 'Areas');
  await page.getByLabel('Name of sky').focus();
  await page.getByRole('button', { name: 'Show painted edges' }).click();
  await sound('an area', page);
  await page.getByRole('button', { name: 'Propose areas' }).click();
  await expect(page.getByRole('button', { name: /^Take these/ })).toBeEnabled({ timeout: 20_000 });
  await sound('proposed areas', page);
});

test('axe finds nothing serious on any topic of the paints station', { tag: '@soak' }, async ({ signedIn: page }) => {
  await openDemo(page, 'paints');
  await expect(page.getByText('nearest').first()).toBeVisible({ timeout: 30_000 });
  await sound('mixes', page);
  for (const name of ['Tubes', 'Families', 'Smaller palette', 'Without a tube', 'Palette sheet']) {
    await topic(page, name);
    await page.waitForTimeout(400);
    await sound(name, page);
  }
});

test('axe finds nothing serious on any view, and no page scrolls sideways', async ({ page, server, browser, signedIn }) => {
  void signedIn;
  const check = (view: string, on = page) => sound(view, on);
  await check('shelf');
  await page.getByRole('button', { name: 'New lesson' }).click();
  await check('new lesson');
  await page.keyboard.press('Escape');
  await openDemo(page);
  await page
    .getByRole('button', { name: /Near ridge/ })
    .first()
    .click();
  await expect(page.getByLabel('Title')).toBeVisible();
  await check('steps');
  await page.getByRole('button', { name: 'As a table' }).click();
  await check('ribbon as a table');
  await openRoom(page);
  await check('room');
  await page.keyboard.press('Escape');
  for (const station of ['Picture', 'Paints', 'Log', 'Class']) {
    await goTo(page, station);
    await page.waitForLoadState('networkidle');
    await check(station);
  }
  const code = await openClass(page);
  const phone = await joinPhone(browser, server, code, 'Mara');
  await check('desk before the start');
  await page.keyboard.press('ArrowRight');
  await expect(phone.getByRole('button', { name: 'Done' })).toBeVisible();
  await check('follow step', phone);
  await phone.getByRole('button', { name: 'I need a hand' }).click();
  await check('follow hand', phone);
  await phone.getByRole('button', { name: 'the colour' }).click();
  await check('desk with a hand');
  await page.keyboard.press('ArrowRight');
  await expect(phone.getByText('Drying pause')).toBeVisible();
  await check('follow pause', phone);
  const visitor = await (await browser.newContext({ viewport: { width: 360, height: 740 } })).newPage();
  await visitor.goto(`${server.url}/join`);
  await check('join', visitor);
  await visitor.goto(`${server.url}/sign-in`);
  await check('sign-in', visitor);
});

test('every station has a key of its own; keys can be switched off', async ({ signedIn: page }) => {
  await openDemo(page);
  const rail = page.getByRole('navigation', { name: 'Stations' });
  await expect(rail.getByRole('link')).toHaveCount(8);
  await page.keyboard.press('8');
  await page.waitForURL(/\/log/);
  await page.keyboard.press('3');
  await page.waitForURL(/\/steps$/);
  await page.keyboard.press('?');
  await page.getByLabel('Single-letter keys are on').uncheck();
  await page.keyboard.press('Escape');
  await page.keyboard.press('1');
  expect(page.url()).toMatch(/\/steps$/);
});

test('the content policy holds: no script of a page is refused, none from elsewhere is asked for', async ({ page, server }) => {
  const asked: string[] = [];
  const refused: string[] = [];
  page.on('request', (request) => asked.push(request.url()));
  page.on('console', (message) => /Content Security Policy/.test(message.text()) && refused.push(message.text()));
  for (const path of ['/sign-in', '/join', '/']) await page.goto(`${server.url}${path}`, { waitUntil: 'networkidle' });
  expect(asked.filter((url) => !url.startsWith(server.url) && !url.startsWith('data:'))).toEqual([]);
  expect(refused).toEqual([]);
  expect((await page.request.get(`${server.url}/assets/missing.js`)).status()).toBe(404);
});
