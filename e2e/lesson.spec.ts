import { writeFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { accessible, choose, expect, openDemo, saved, signIn, test, topic, withStep } from './fixtures.js';

test('a new lesson: canvas, picture, crop, areas, tubes, a mix, steps and a plan', async ({ signedIn: page }, info) => {
  await page.getByRole('button', { name: 'New lesson' }).click();
  await page.getByLabel('What will you paint?').fill('Kite over the quarry');
  await choose(page.getByLabel('Canvas'), '8 × 10 in');
  await page.getByRole('button', { name: 'Put it on the shelf' }).click();
  await page.waitForURL(/\/picture$/);

  const picture = info.outputPath('landscape.png');
  await sharp({ create: { width: 900, height: 600, channels: 3, background: '#3a6ea5' } })
    .composite([{ input: { create: { width: 900, height: 250, channels: 3, background: '#a5803a' } }, left: 0, top: 350 }])
    .png()
    .toFile(picture);
  await page.locator('[data-testid="picture-upload"] input[type=file]').setInputFiles(picture);
  await choose(page.getByLabel('Where the picture comes from'), 'own photo');
  await topic(page, 'Crop');
  // 3 : 2 on 4 : 5: what is lost is 1 − (4/5)·(2/3) = 47 %.
  await expect(page.getByText('The crop leaves out 47 % of the picture.')).toBeVisible();
  await page.getByLabel('Size of the picture').focus();
  for (let i = 0; i < 20; i++) await page.keyboard.press('ArrowLeft');
  await expect(page.getByText(/of the canvas has no picture under it/)).toBeVisible();
  await page.getByRole('button', { name: 'Fill the canvas' }).click();
  await expect(page.getByText('The crop leaves out 47 % of the picture.')).toBeVisible();
  await topic(page, 'Areas');

  // The first area by mouse, over the whole face.
  await page.getByRole('button', { name: 'Draw', exact: true }).click();
  const face = page.getByRole('button', { name: /^Draw an area\. By keyboard/ });
  const box = await face.boundingBox();
  if (!box) throw new Error('no canvas');
  const at = (x: number, y: number) => page.mouse.click(box.x + box.width * x, box.y + box.height * y);
  await at(0.002, 0.002);
  await at(0.998, 0.002);
  await at(0.998, 0.998);
  await at(0.002, 0.998);
  await page.keyboard.press('Enter');
  // The focus goes on to its name.
  await expect(page.getByLabel('Name of area 1')).toBeFocused();
  await page.getByLabel('Name of area 1').fill('sky');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^51[2-6] cm²$/)).toBeVisible();
  // The second by keyboard: a triangle at the foot.
  await page.getByRole('button', { name: 'Draw', exact: true }).click();
  await page.keyboard.press('Space');
  for (let i = 0; i < 4; i++) await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Space');
  for (let i = 0; i < 4; i++) await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Space');
  await page.keyboard.press('Enter');
  await expect(page.getByText('32 cm²', { exact: true })).toBeVisible(); // 80 mm × 80 mm / 2
  // Stacked sheets: the front one takes its area from the one behind.
  await expect(page.getByText(/^48[0-4] cm²$/)).toBeVisible();
  // A point moved so that the outline crosses itself is refused and nothing changes.
  await page.getByRole('button', { name: 'Draw', exact: true }).click();
  for (const key of ['Space', 'Shift+ArrowLeft', 'Space', 'Shift+ArrowUp', 'Space']) await page.keyboard.press(key);
  await page.keyboard.press('Backspace');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('three different points');
  await page.keyboard.press('Escape');
  await expect(page.getByLabel(/Name of area/)).toHaveCount(1);
  await page.getByLabel('Name of area 2').fill('quarry');
  await page.keyboard.press('Enter');

  await page.getByRole('link', { name: /Paints/ }).click();
  for (const tube of ['titanium white', 'ultramarine']) {
    await page.getByLabel('Add a tube', { exact: true }).click();
    await page.keyboard.type(tube);
    await page.keyboard.press('Enter');
    await page.keyboard.press('Escape');
  }
  await page.getByRole('button', { name: 'New mix' }).click();
  await choose(page.getByLabel('Add a tube to the recipe'), 'white');
  await choose(page.getByLabel('Add a tube to the recipe'), 'ultramarine');
  await choose(page.getByLabel('Parts of white'), '4');
  await expect(page.getByTestId('mix').getByText('4 white : 1 ultramarine')).toBeVisible();
  await choose(page.getByLabel('Mean of an area'), 'sky');
  await expect(page.getByTestId('mix-off')).toBeVisible();
  const off = await page.getByTestId('mix-off').innerText();
  await choose(page.getByLabel('Parts of ultramarine'), 'a speck');
  await expect(page.getByTestId('mix-off')).not.toHaveText(off);
  await page.getByRole('button', { name: 'Pick from the picture' }).click();
  await page.getByTestId('pick').click({ position: { x: 100, y: 40 } });
  await page.getByRole('button', { name: 'darker' }).click();

  await page.getByRole('link', { name: /Steps/ }).click();
  await page.getByRole('button', { name: 'New step' }).click();
  await page.getByLabel('Title').fill('Sky, first layer');
  await page.getByLabel('Where').click();
  await page.keyboard.type('sky');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await page.getByLabel('Mixes', { exact: true }).click();
  await page.keyboard.type('mix');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await withStep(page, 'Duplicate');
  await choose(page.getByLabel('What it needs beneath'), 'on touch-dry');
  await expect(page.getByTestId('pause')).toBeVisible();
  await expect(page.getByText('Let the sky dry').first()).toBeVisible();
  await page.getByLabel('Minutes to do').fill('-4');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('Minutes cannot be negative');
  await saved(page);

  // All of it is there after a reload.
  await page.reload();
  await expect(page.getByText('Let the sky dry').first()).toBeVisible();
  // Undo over the whole lesson begins anew with each opening; within it, everything goes back.
  await page
    .getByRole('button', { name: /Sky, first layer/ })
    .first()
    .click();
  await withStep(page, 'Delete');
  await expect(page.getByTestId('pause')).toBeHidden();
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('pause')).toBeVisible();
  await page.keyboard.press('Control+Shift+z');
  await expect(page.getByTestId('pause')).toBeHidden();
});

test('files that are no pictures are refused with a sentence', async ({ signedIn: page }, info) => {
  await openDemo(page, 'picture');
  await topic(page, 'Source');
  const text = info.outputPath('notes.jpg');
  await writeFile(text, 'these are words');
  await page.locator('[data-testid="picture-upload"] input[type=file]').setInputFiles(text);
  await expect(page.getByRole('alert')).toContainText('not a JPEG, PNG or WebP');
  await expect(page.getByText('10 areas')).toBeVisible();
  await topic(page, 'Crop');
  await expect(page.getByText('The whole picture is on the canvas.')).toBeVisible();
});

test('squint, outlines, a point moved by keyboard and by mouse', async ({ signedIn: page }) => {
  await openDemo(page, 'picture');
  await page.keyboard.press('v');
  await expect(page.locator('[data-testid="easel-view"] g[filter]')).toBeVisible();
  await page.keyboard.press('v');
  await page.getByLabel('Name of baskets').focus();
  const point = page.getByRole('button', { name: /^Point 1:/ }).first();
  const before = await point.getAttribute('aria-label');
  await point.focus();
  for (let i = 0; i < 6; i++) await page.keyboard.press('ArrowUp');
  await expect(point).not.toHaveAttribute('aria-label', before ?? '');
  await page.keyboard.press('Control+z');
  const moved = await point.getAttribute('aria-label');
  const box = await point.boundingBox();
  if (!box) throw new Error('no point');
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x - 14, box.y - 8, { steps: 4 });
  await page.mouse.up();
  await expect(point).not.toHaveAttribute('aria-label', moved ?? '');
  await saved(page);
});

test('the raking light moves the canvas map', async ({ signedIn: page }) => {
  await openDemo(page);
  const map = page.locator('[data-testid="canvas-map"] [data-scale] svg');
  await expect(map).toHaveAttribute('aria-label', 'before the first step');
  const bare = await map.locator('path').count();
  for (let i = 0; i < 8; i++) await page.keyboard.press('Shift+ArrowRight');
  await expect(map).toHaveAttribute('aria-label', /^step \d+, at 1:\d\d$/);
  expect(await map.locator('path').count()).toBeGreaterThan(bare);
  const section = await page.getByTestId('ribbon-section').boundingBox();
  if (!section) throw new Error('no ribbon');
  await page.mouse.click(section.x + section.width * 0.95, section.y + 80);
  await expect(map).toHaveAttribute('aria-label', /at (2|3):\d\d$/);
});

test('a mend takes a finding away and can be undone; one set aside keeps its word', async ({ signedIn: page }) => {
  await openDemo(page);
  const beside = page.getByRole('complementary', { name: 'Worth knowing' });
  // So long a blend outlasts its paint.
  await page.locator('[data-testid="step-line"]').nth(2).click();
  await page.getByLabel('Minutes to do').fill('40');
  await page.keyboard.press('Enter');
  await expect(beside).toContainText(/Blending takes 1\d min, the paint stays workable 7 min\./);
  await beside.getByRole('button', { name: 'Keep it wet with mist' }).click();
  await expect(beside).not.toContainText('the paint stays workable 7 min');
  await page.keyboard.press('Control+z');
  await expect(beside).toContainText('the paint stays workable 7 min');
  await beside.getByRole('button', { name: 'Set aside' }).first().click();
  await beside.getByLabel('Why?').fill('they paint in pairs');
  await page.keyboard.press('Enter');
  await expect(beside).toContainText('Set aside: “they paint in pairs”');
});

test('two windows on one lesson: the second is told, both versions are kept, the person chooses', { tag: '@soak' }, async ({
  signedIn: page,
  server,
  browser,
}) => {
  await openDemo(page);
  const other = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await signIn(other, server);
  // What the first saves does not come in here by itself, as on a slow line.
  await other.route('**/here', (route) => route.abort());
  await openDemo(other);
  await page.getByLabel('Name this lesson').fill('First window');
  await page.keyboard.press('Enter');
  await saved(page);
  await other.getByLabel('Name this lesson').fill('Second window');
  await other.keyboard.press('Enter');
  await expect(other.getByRole('dialog', { name: 'Saved elsewhere meanwhile' })).toBeVisible();
  await expect(other.getByRole('dialog')).toContainText('First window');
  await expect(other.getByRole('dialog')).toContainText('called “Second window”');
  await accessible(other, 'two versions');
  await other.getByRole('button', { name: 'Go on with mine' }).click();
  await saved(other);
  // The choice can be taken back, and made again.
  await other.getByRole('button', { name: 'Undo' }).click();
  await expect(other.getByLabel('Name this lesson')).toHaveValue('First window');
  await other.getByRole('button', { name: 'Redo' }).click();
  await expect(other.getByLabel('Name this lesson')).toHaveValue('Second window');
  await saved(other);
  // The first window hears of it without being asked.
  await expect(page.getByLabel('Name this lesson')).toHaveValue('Second window');

  // What lies apart is joined without a question.
  const room = (of: Page) => of.getByRole('button', { name: /^Change the room/ });
  await page.getByLabel('Name this lesson').fill('Third window');
  await page.keyboard.press('Enter');
  await saved(page);
  const before = await room(other).innerText();
  await room(other).click();
  await other.getByRole('spinbutton', { name: 'Temperature, °C' }).fill('14');
  await other.keyboard.press('Enter');
  await other.getByRole('button', { name: 'Keep this room' }).click();
  await expect(other.getByText(/joined with yours: called “Third window”/)).toBeVisible();
  await saved(other);
  await expect(room(page)).not.toHaveText(before);
  await expect(page.getByLabel('Name this lesson')).toHaveValue('Third window');

  // Every version is there still: the first is looked at, named, and gone back to.
  await page.getByRole('button', { name: 'Versions' }).click();
  const drawer = page.getByRole('dialog', { name: 'Earlier versions' });
  // What was said meanwhile has faded.
  await expect(page.locator('.ant-message-notice')).toHaveCount(0);
  await accessible(page, 'versions');
  const first = drawer.getByRole('listitem').filter({ hasText: 'stood when two met' }).last();
  await first.getByRole('button', { name: /^Look at/ }).click();
  await expect(first).toContainText('called “Third window”, was “First window”');
  await first.getByLabel('Name').fill('before the evening class');
  await first.getByRole('button', { name: 'Name it' }).click();
  await expect(first).toContainText('“before the evening class”');
  await first.getByRole('button', { name: 'Go back to this' }).click();
  await expect(page.getByLabel('Name this lesson')).toHaveValue('First window');
  await saved(page);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByLabel('Name this lesson')).toHaveValue('Third window');
});

test('the server away while editing: said calmly, kept in the browser, sent when it is back, also after a closed tab', async ({
  signedIn: page,
  server,
}) => {
  await openDemo(page);
  await expect(page.getByLabel('Name this lesson')).toBeVisible();
  await server.kill();
  await page.getByLabel('Name this lesson').fill('Written without a server');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('status').filter({ hasText: 'kept in this browser' })).toBeVisible();
  await server.start();
  await saved(page);
  // A tab closed before the answer came: the next opening sends it.
  await page.route('**/api/lessons/*', (route) => (route.request().method() === 'PUT' ? route.abort() : route.continue()));
  await page.getByLabel('Name this lesson').fill('Closed in the middle');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('status').filter({ hasText: 'kept in this browser' })).toBeVisible();
  const again = await page.context().newPage();
  await page.close();
  await again.goto(server.url);
  // Where the browser still got its last words out, the shelf knows the newer name already.
  await again.getByRole('link', { name: /^Open (Written without a server|Closed in the middle)$/ }).click();
  await expect(again.getByLabel('Name this lesson')).toHaveValue('Closed in the middle');
  await saved(again);
  await again.reload();
  await expect(again.getByLabel('Name this lesson')).toHaveValue('Closed in the middle');
});
