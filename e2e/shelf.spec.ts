import { accessible, choose, expect, test } from './fixtures.js';

test('a shelf in order: found by what stands in it, labelled, put away, taught as a course, saved and brought in again', async ({
  signedIn: page,
  server,
}) => {
  await page.goto(`${server.url}/`);
  const open = (title: string) => page.getByRole('link', { name: `Open ${title}`, exact: true });
  const act = async (title: string, what: string) => {
    await page.getByRole('button', { name: `What to do with ${title}`, exact: true }).click();
    await page.getByRole('menuitem', { name: what, exact: true }).click();
  };
  await expect(open('Balloons over the terraces')).toBeVisible();
  await act('Balloons over the terraces', 'Labels');
  await page.getByRole('combobox', { name: 'Labels' }).fill('autumn');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Keep these labels' }).click();
  await expect(open('Balloons over the terraces')).toContainText('autumn');
  await accessible(page, 'a labelled shelf');

  await page.getByLabel('Find in all lessons').getByRole('searchbox').fill('near ridge');
  await expect(page.getByText('1 lesson', { exact: true })).toBeVisible();
  await expect(open('Balloons over the terraces')).toContainText('area: near ridge');
  await page.getByLabel('Find in all lessons').getByRole('searchbox').fill('no such thing');
  await expect(page.getByText('No lesson here fits.')).toBeVisible();
  await page.getByLabel('Find in all lessons').getByRole('searchbox').fill('');

  await act('An eight-point star tile', 'Put away');
  await expect(open('An eight-point star tile')).toHaveCount(0);
  await page.getByText('Put away', { exact: true }).click();
  await expect(open('An eight-point star tile')).toBeVisible();
  await act('An eight-point star tile', 'Put back on the shelf');
  await page.getByText('On the shelf', { exact: true }).click();

  await page.getByRole('button', { name: 'New course' }).click();
  await page.getByLabel('What is the course called?').fill('Two evenings');
  await page.getByRole('button', { name: 'Make the course' }).click();
  const add = page.getByRole('combobox', { name: 'Add a lesson' });
  await choose(add, 'A ball of wool on old boards');
  await expect(page.getByText(/^1 lesson, /)).toBeVisible();
  await choose(add, 'Balloons over the terraces');
  await expect(page.getByRole('heading', { name: 'For the whole course' })).toBeVisible();
  await expect(page.getByRole('row').filter({ hasText: 'easel' })).toContainText('every lesson');
  await accessible(page, 'a course');
  // By keyboard: the first comes second.
  await page.getByRole('button', { name: 'Move A ball of wool on old boards' }).focus();
  await page.keyboard.press('Space');
  await expect(page.getByText('A ball of wool on old boards would be number 1.')).toBeAttached();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByText('A ball of wool on old boards would be number 2.')).toBeAttached();
  await page.keyboard.press('Space');
  await expect(page.getByRole('listitem').first()).toContainText('Balloons over the terraces');
  await page.reload();
  await expect(page.getByRole('listitem').first()).toContainText('Balloons over the terraces');

  await page.setViewportSize({ width: 360, height: 640 });
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(360);
  await page.goto(`${server.url}/`);
  await expect(page.getByRole('link', { name: 'Open the course Two evenings' })).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(360);
  await page.setViewportSize({ width: 1280, height: 800 });

  // Saved as a file, deleted, and brought in again.
  const coming = page.waitForEvent('download');
  await act('Balloons over the terraces', 'Save as a file');
  const file = await (await coming).path();
  expect((await coming).suggestedFilename()).toBe('Balloons over the terraces.zip');
  const bringIn = () =>
    page.locator('input[type=file]').first().setInputFiles({ name: 'x.zip', mimeType: 'application/zip', buffer });
  const buffer = await import('node:fs/promises').then(({ readFile }) => readFile(file));
  await bringIn();
  await expect(page.getByText('What is in this file stands here already: 1 lesson.')).toBeVisible();
  await act('Balloons over the terraces', 'Delete');
  await expect(open('Balloons over the terraces')).toHaveCount(0);
  await bringIn();
  await expect(page.getByText('1 lesson came in.')).toBeVisible();
  await expect(open('Balloons over the terraces')).toBeVisible();
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles({ name: 'x.zip', mimeType: 'application/zip', buffer: Buffer.from('no') });
  await expect(page.getByText('This package cannot be brought in. It is no ZIP file, or was cut off.')).toBeVisible();
});
