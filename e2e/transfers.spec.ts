import { readFile, writeFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { accessible, choose, expect, goTo, joinPhone, openClass, openDemo, saved, slideTo, test, topic } from './fixtures.js';

const drawn = (page: Page) => expect(page.getByText(/[1-9]\d* lines, \d+ points/)).toBeVisible({ timeout: 60_000 });
const countOf = async (page: Page) => Number(/(\d+) lines/.exec(await page.getByText(/\d+ lines, \d+ points/).innerText())?.[1]);
const openKettle = async (page: Page) => {
  await page.getByRole('link', { name: 'Open A copper kettle and two mugs' }).click();
  await page.waitForURL(/\/steps(\/\w+)?$/);
  await goTo(page, 'Transfers');
  await drawn(page);
};
const download = async (page: Page, name: string) => {
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name, exact: true }).click()]);
  return { name: file.suggestedFilename(), bytes: await readFile(await file.path()) };
};

test('lines: more and fewer, one left out and back, one drawn by keyboard, saved as SVG and brought back at its size', {
  tag: '@soak',
}, async ({ signedIn: page }) => {
  await openDemo(page, 'transfers');
  await drawn(page);
  const middle = await countOf(page);
  await slideTo(page.getByRole('slider', { name: /How much is drawn/ }), 0.2);
  await expect.poll(() => countOf(page)).toBeLessThan(middle);
  await slideTo(page.getByRole('slider', { name: /How much is drawn/ }), 0.65);
  await expect.poll(() => countOf(page)).toBe(middle);
  const list = page.getByLabel(/^Lines\. Click a line/);
  await list.click();
  await page.locator('.ant-select-item-option').nth(1).click();
  await page.getByRole('button', { name: 'Leave it out' }).click();
  await expect(page.getByRole('button', { name: /Bring back the line/ })).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(() => countOf(page)).toBe(middle);
  // A line of one's own: cross, point, cross, point, end.
  await page.getByRole('button', { name: 'Pen', exact: true }).click();
  await page.keyboard.press('Space');
  for (let i = 0; i < 3; i++) await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Space');
  await page.keyboard.press('Enter');
  await expect.poll(() => countOf(page)).toBe(middle + 1);
  await choose(list, 'your line 1');
  await page.getByRole('button', { name: 'Mirror a copy' }).click();
  await expect.poll(() => countOf(page)).toBe(middle + 2);
  const { bytes } = await download(page, 'Save as SVG');
  expect(bytes.toString()).toContain('width="406.4mm"');
  await page.locator('input[accept^=".svg"]').setInputFiles({ name: 'own.svg', mimeType: 'image/svg+xml', buffer: bytes });
  await expect(page.getByText(/lines brought at its own size/)).toBeVisible();
  await saved(page);
});

test('an SVG that cannot be used is refused in a sentence; scripts are left out', async ({ signedIn: page }) => {
  await openDemo(page, 'transfers');
  await drawn(page);
  const bring = (text: string) =>
    page.locator('input[accept^=".svg"]').setInputFiles({ name: 'a.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(text) });
  await bring('<!DOCTYPE svg [<!ENTITY a "b">]><svg><text>&a;</text></svg>');
  await expect(page.getByRole('alert')).toContainText('entities of its own');
  await bring('nothing');
  await expect(page.getByRole('alert')).toContainText(/SVG/);
  await bring('<svg viewBox="0 0 10 10" width="50%"><script>document.title="gone"</script><path d="M1 1L9 9"/></svg>');
  await expect(page.getByText(/One line brought; the file says no size.*Left out: script/)).toBeVisible();
  expect(await page.title()).not.toBe('gone');
});

test('when: edges that paint would bury get a second transfer, which is a step of the lesson; ways say how well each line shows', async ({
  signedIn: page,
}) => {
  await openDemo(page, 'transfers');
  await drawn(page);
  await topic(page, 'When');
  await expect(page.getByTestId('moment')).toHaveCount(1);
  const missing = await page.locator('[data-testid="buried"] li').count();
  for (let i = 0; i < missing; i++) await page.locator('[data-testid="buried"] li button').first().click();
  await expect(page.getByText('No line is painted over before it is used.')).toBeVisible();
  await expect(page.getByTestId('moment')).toHaveCount(1 + missing);
  await page.getByTestId('moment').nth(1).click();
  await topic(page, 'Ways');
  await expect(page.getByText(/^For “Trace again: /).first()).toBeVisible();
  await page.getByText('chalk or white on the back').first().click();
  await page.getByRole('button', { name: 'Take this' }).first().click();
  await expect(page.getByText('this lesson').first()).toBeVisible();
  await saved(page);
});

test('constructions say how by hand with this canvas’s numbers; a landmark is pointed at; a reflection follows its thing', {
  tag: '@soak',
}, async ({ signedIn: page }) => {
  await openDemo(page, 'transfers');
  await drawn(page);
  await topic(page, 'Constructions');
  for (const kind of [
    'envelope',
    'radial figure',
    'circle in perspective',
    'evenly spaced things',
    'vanishing guides',
    'cast shadow',
    'simple shapes',
    'thirds',
    'diagonals',
  ]) {
    await choose(page.getByLabel('Add', { exact: true }), kind);
    await page.getByRole('button', { name: 'Add', exact: true }).click();
  }
  const byHand = page.locator('.ant-collapse-header', { hasText: 'By hand' });
  await expect(byHand).toHaveCount(10);
  await byHand.nth(2).click();
  await expect(page.getByText(/Step the same string round the circle: it divides it in exactly 6/)).toBeVisible();
  await page.getByRole('button', { name: 'New landmark' }).click();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Space');
  await expect(page.getByLabel('Landmarks').last()).toHaveValue('landmark 4');
  // Areas gathered to a thing; its reflection has as many areas, and a name of its own among the things.
  await goTo(page, 'Picture');
  await topic(page, 'Things');
  await page.getByRole('checkbox', { name: /great balloon/i }).check();
  await page.getByRole('button', { name: /Make.*thing|Gather/ }).click();
  await goTo(page, 'Transfers');
  await topic(page, 'Reflections');
  await page.getByRole('button', { name: 'Reflect it' }).click();
  await expect(page.getByRole('heading', { name: /reflected/ })).toBeVisible();
  await expect(page.getByRole('navigation', { name: 'Stations' }).getByText('11 areas')).toBeVisible();
  await page.getByLabel('It stands at (mm from the top)').fill('300');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/The water lies 11 13\/16 in below the top/)).toBeVisible();
  await saved(page);
});

test('prints: a PDF at true size with its sheets, one small sheet, and paper that is too small is refused', async ({
  signedIn: page,
}) => {
  await openDemo(page, 'transfers');
  await drawn(page);
  await topic(page, 'Prints');
  await choose(page.getByLabel('Paper'), 'A4');
  await expect(page.getByText(/16 × 20 in: \d+ sheets/)).toBeVisible();
  const large = await download(page, 'Make the PDF');
  expect(large.name).toBe('Balloons over the terraces, template, A4.pdf');
  expect(large.bytes.subarray(0, 5).toString()).toBe('%PDF-');
  await expect(page.getByText(/\d+ pages, \d+ kB/)).toBeVisible();
  const small = await download(page, 'One sheet, smaller, with the grid');
  expect(small.name).toBe('Balloons over the terraces, template, one small sheet.pdf');
  expect(small.bytes.length).toBeLessThan(large.bytes.length);
  await page.getByLabel('Overlap (mm)').fill('60');
  await page.keyboard.press('Tab');
  await page.getByLabel('Margin the printer needs (mm)').fill('60');
  await page.keyboard.press('Tab');
  await expect(page.getByText(/16 × 20 in: \d+ sheets/)).toBeVisible();
});

test('a photograph of a drawing is found, straightened and judged in words; one of nothing is refused', async ({
  signedIn: page,
}, info) => {
  await openKettle(page);
  const { bytes } = await download(page, 'Save as SVG');
  const lines = bytes.toString().replace('stroke-width="0.35"', 'stroke-width="0.9"');
  const photo = async (text: string) => {
    const paper = await sharp(Buffer.from(text), { density: 60 })
      .flatten({ background: '#f2efe8' })
      .resize(1100)
      .png()
      .toBuffer();
    const turned = await sharp(paper).rotate(3, { background: '#7a6a58' }).toBuffer();
    const file = info.outputPath(`photo${text.length}.jpg`);
    const table = sharp({ create: { width: 1500, height: 1200, channels: 3, background: '#7a6a58' } });
    await writeFile(
      file,
      await table
        .composite([{ input: turned, left: 160, top: 150 }])
        .jpeg({ quality: 90 })
        .toBuffer(),
    );
    return file;
  };
  await topic(page, 'Check');
  const choose = page.locator('input[accept="image/png,image/jpeg,image/webp"]');
  await choose.setInputFiles(await photo(lines));
  await expect(page.getByText('The corners were found')).toBeVisible();
  await page.getByRole('button', { name: 'Compare' }).click();
  await expect(page.getByRole('heading', { name: /Everything is where it should be/ })).toBeVisible({ timeout: 60_000 });
  // All lines drawn 7 % too wide about the left edge.
  await choose.setInputFiles(
    await photo(lines.replace('<g fill="none"', '<g transform="translate(-14 0) scale(1.07 1)" fill="none"')),
  );
  await page.getByRole('button', { name: 'Compare' }).click();
  await expect(page.getByTestId('check-found')).toContainText(/kettle.*too wide/i, { timeout: 60_000 });
  await choose.setInputFiles(
    await photo('<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 406 305" width="406mm" height="305mm"/>'),
  );
  await page.getByRole('button', { name: 'Compare' }).click();
  await expect(page.getByRole('alert')).toContainText('too blurred or too pale', { timeout: 60_000 });
  await choose.setInputFiles({ name: 'a.png', mimeType: 'image/png', buffer: Buffer.from('no picture') });
  await expect(page.getByRole('alert')).toContainText('no picture that can be read');
});

test('a tablet is measured by a card, then shows the template at true size', { tag: '@soak' }, async ({ signedIn: page }) => {
  await openKettle(page);
  await topic(page, 'Tablet');
  await page.getByRole('link', { name: 'Open it full screen' }).click();
  const size = page.getByRole('slider', { name: /Size of the frame/ });
  const rail = await page.locator('.ant-slider').boundingBox();
  if (!rail) throw new Error('no slider');
  await page.mouse.click(rail.x + rail.width * 0.25, rail.y + rail.height / 2);
  const pxPerMm = Number(await size.getAttribute('aria-valuenow'));
  expect(pxPerMm).toBeCloseTo(5, 0);
  const card = await page.getByTestId('trace-card').boundingBox();
  expect(card?.width).toBeCloseTo(85.6 * pxPerMm, 0);
  await accessible(page, 'measuring a tablet');
  await page.getByRole('button', { name: 'They agree' }).click();
  await expect(page.locator('[data-testid="trace-sheet"] path')).toHaveAttribute('d', /C/, { timeout: 60_000 });
  const sheet = await page.getByTestId('trace-sheet').boundingBox();
  expect(sheet?.width).toBeCloseTo(406.4 * pxPerMm, 0);
  await page.getByRole('application').focus();
  await page.keyboard.press('ArrowRight');
  await expect.poll(async () => (await page.getByTestId('trace-sheet').boundingBox())?.x).toBeCloseTo((sheet?.x ?? 0) - 24, 0);
  await accessible(page, 'tracing');
});

test('axe finds nothing serious on any topic of the transfers station', { tag: '@soak' }, async ({ signedIn: page }) => {
  await openDemo(page, 'transfers');
  await drawn(page);
  for (const name of ['Lines', 'When', 'Ways', 'Constructions', 'Reflections', 'Prints', 'Check', 'Tablet']) {
    await topic(page, name);
    await page.waitForTimeout(300);
    await accessible(page, name);
  }
});

test('on a phone the drawing is copied cell by cell, with ticks', { tag: '@soak' }, async ({
  signedIn: page,
  browser,
  server,
}) => {
  await openDemo(page);
  const code = await openClass(page);
  const phone = await joinPhone(browser, server, code, 'Ida');
  await page
    .getByRole('button', { name: /Start|Go on/ })
    .first()
    .click();
  await expect(phone.getByRole('heading', { level: 1 })).toBeVisible();
  for (let i = 0; i < 4 && !(await phone.getByRole('group', { name: /Cell by cell/ }).isVisible()); i++) {
    await page.waitForTimeout(700);
    await page.keyboard.press('ArrowRight');
    await page.waitForTimeout(700);
  }
  await expect(phone.getByRole('group', { name: /Cell by cell.*Cell A1, 0 of 20/ })).toBeVisible();
  await phone.getByRole('button', { name: 'Drawn', exact: true }).click();
  await expect(phone.getByRole('group', { name: /Cell B1, 1 of 20/ })).toBeVisible();
  await accessible(phone, 'a cell of the grid on a phone');
});

test('a motif on rings: its distances typed as a ruler has them, followed by hand, printed by the sector, painted as marks', async ({
  signedIn: page,
}) => {
  await openKettle(page);
  await topic(page, 'Constructions');
  await choose(page.getByRole('combobox', { name: 'Add', exact: true }), 'motif on rings');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByLabel('from (in), ring 1').fill('5/8');
  await page.getByLabel('to (in), ring 1').fill('1 7/8');
  await page.keyboard.press('Tab');
  await expect(page.getByLabel('to (in), ring 1')).toHaveValue('1 7/8');
  await page.getByLabel('wide (in), ring 1').fill('no length');
  await page.keyboard.press('Tab');
  await expect(page.getByLabel('wide (in), ring 1')).not.toHaveValue('no length');
  await choose(page.getByLabel('Unit of ring 2'), 'spiral');
  await page.getByRole('button', { name: 'One more ring' }).click();
  await page.getByRole('checkbox', { name: 'every other one mirrored' }).last().check();
  await page.getByText('By hand', { exact: true }).last().click();
  const hand = page.getByRole('listitem').filter({ hasText: 'On every spoke lay the ruler' });
  await expect(hand).toContainText('mark 5/8, 1 7/8');
  await expect(page.getByText(/Ring 1: 8 times a drop, .* from 5\/8 in to 1 7\/8 in/)).toBeVisible();
  await accessible(page, 'a motif on rings');
  const { bytes } = await download(page, 'One sector (PDF)');
  expect(bytes.subarray(0, 5).toString()).toBe('%PDF-');
  await page.getByRole('button', { name: 'Paint them as marks' }).click();
  await expect(page.getByText('Its rings are marks now')).toBeVisible();
  await saved(page);
});
