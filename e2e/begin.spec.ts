import sharp from 'sharp';
import { photographed } from '../tools/demo/paint.mjs';
import { accessible, choose, expect, saved, test, topic } from './fixtures.js';

test('from a picture to a teachable lesson in four decisions: canvas, school, students, length', async ({
  signedIn: page,
}, info) => {
  const { width, height, rgb } = await photographed({ scene: 'lamp', width: 700, seed: 3 });
  const picture = info.outputPath('table-lamp.png');
  await sharp(rgb, { raw: { width, height, channels: 3 } })
    .png()
    .toFile(picture);
  await page.getByRole('button', { name: 'New lesson' }).click();
  await page.locator('input[type=file]').setInputFiles(picture);
  await expect(page.getByLabel('What will you paint?')).toHaveValue('Table lamp');
  await accessible(page, 'new lesson');
  await choose(page.getByLabel('Canvas'), '12 × 16 in');
  await choose(page.getByLabel('School'), 'Back to front, in dry layers');
  await expect(page.getByText('Soft overlaps come by themselves')).toBeVisible();
  await choose(page.getByLabel('Students'), 'improvers');
  await page.getByLabel('How long').fill('100');
  await page.getByRole('button', { name: 'Draft the lesson' }).click();
  await page.waitForURL(/\/steps$/, { timeout: 60_000 });
  const rail = page.getByRole('navigation', { name: 'Stations' });
  await expect(rail).toContainText(/\d+ areas/);
  await expect(rail).toContainText(/\d tubes, \d+ mixes/);
  await expect(rail).toContainText(/\d+ steps, \d h/);
  await expect(page.locator('[data-testid="beside"] [data-serious]')).toHaveCount(0);
  await expect(page.getByTestId('stage-name').first()).toHaveValue('Ground and drawing');
  await expect(page.getByTestId('length-strip')).toContainText('of 1 h 40 asked for');
  // Its stage pictures come near to the picture.
  await topic(page, 'Stages');
  await expect(page.getByText(/With half-closed eyes the last one is (close to|some way from) the picture/)).toBeVisible({
    timeout: 90_000,
  });
  await expect(page.locator('[data-testid="nearness"] polyline')).toBeVisible();
  await saved(page);
});

test('a picture that is none is refused with a sentence, and what was typed stays', async ({ signedIn: page }) => {
  await page.getByRole('button', { name: 'New lesson' }).click();
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: 'odd.png', mimeType: 'image/png', buffer: Buffer.from('this is no picture') });
  await page.getByLabel('What will you paint?').fill('A lamp');
  await page.getByRole('button', { name: 'Draft the lesson' }).click();
  await expect(page.getByRole('alert')).toBeVisible();
  await expect(page.getByLabel('What will you paint?')).toHaveValue('A lamp');
  await expect(page.getByRole('button', { name: 'Draft the lesson' })).toBeEnabled();
});
