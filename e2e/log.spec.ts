import type { Locator, Page } from '@playwright/test';
import sharp from 'sharp';
import { accessible, expect, openDemo, saved, test, topic, total } from './fixtures.js';

test('classes noted by hand suggest an edit with what it is known from; it is taken, undone, refused; they are found by their words', async ({
  signedIn: page,
}) => {
  await openDemo(page, 'log');
  const learnt = page.getByTestId('suggestions').getByRole('listitem');
  await expect(page.getByText(/^Nothing yet that would be worth changing/)).toBeVisible();

  await test.step('what took how long in two classes without the application', async () => {
    await topic(page, 'By hand');
    await page.getByRole('button', { name: 'Put it into the log' }).click();
    await expect(page.getByText('Enter how long at least one step took.')).toBeVisible();
    for (const [minutes, remark] of [
      ['23', 'the stove was on'],
      ['25', 'a wedding next door'],
    ] as const) {
      await page.getByLabel('Minutes of Tone the whole canvas').fill(minutes);
      await page.getByLabel('What to note of Tone the whole canvas').fill(remark);
      await page.getByRole('button', { name: 'Put it into the log' }).click();
      await expect(page.getByText('It stands in the log.').last()).toBeVisible();
      await expect(page.getByLabel('Minutes of Tone the whole canvas')).toHaveValue('');
    }
    await accessible(page, 'a class noted by hand');
  });

  await test.step('both are listed, and each is found by a word of its own', async () => {
    await topic(page, 'Classes');
    const listed = page.getByTestId('logged').getByRole('listitem');
    await expect(listed).toHaveCount(2);
    await page.getByLabel('Find in what was taught').fill('wedd');
    await page.keyboard.press('Enter');
    await expect(listed).toHaveCount(1);
    await expect(listed).toContainText('took 25 min');
    await listed.getByText(/steps?$/).click();
    await expect(listed).toContainText('a wedding next door');
    await accessible(page, 'the classes that were taught');
  });

  await test.step('the edit they suggest is taken at one stroke, and undone', async () => {
    await topic(page, 'What classes taught');
    const before = await total(page).innerText();
    await expect(learnt).toHaveCount(1);
    await expect(learnt).toContainText('“Tone the whole canvas” took 24 min');
    await expect(learnt).toContainText(/(23 and 25|25 and 23) min in 2 classes, planned 8/);
    await accessible(page, 'what classes suggest');
    await learnt.getByRole('button', { name: 'Take it' }).click();
    await expect(total(page)).not.toHaveText(before);
    await saved(page);
    await expect(learnt).toHaveCount(0);
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(total(page)).toHaveText(before);
    await expect(learnt).toHaveCount(1);
  });

  await test.step('what is refused stays away', async () => {
    await learnt.getByRole('button', { name: 'Not for this lesson' }).click();
    await expect(learnt).toHaveCount(0);
    await saved(page);
    await page.reload();
    await expect(page.getByText(/^Nothing yet that would be worth changing/)).toBeVisible();
  });
});

/** A canvas as it was painted, photographed flat on a dark table; the upper half a little darker than it should be. */
async function photographed(page: Page, file: string): Promise<string> {
  const at = (path: string) => page.request.get(new URL(path, page.url()).href);
  const cards = (await (await at('/api/lessons')).json()) as { id: string; revision: number }[];
  const card = cards.find(({ id }) => page.url().includes(id));
  const picture = await (await at(`/api/lessons/${card?.id}/finished?of=${card?.revision}`)).body();
  const canvas = await sharp(picture).resize(960, 1200, { fit: 'fill' }).png().toBuffer();
  const shade = await sharp({ create: { width: 960, height: 500, channels: 4, background: { r: 0, g: 0, b: 0, alpha: 0.2 } } })
    .png()
    .toBuffer();
  const painted = await sharp(canvas)
    .composite([{ input: shade, left: 0, top: 0 }])
    .png()
    .toBuffer();
  await sharp({ create: { width: 1200, height: 1440, channels: 3, background: '#4a4038' } })
    .composite([{ input: painted, left: 120, top: 120 }])
    .jpeg({ quality: 92 })
    .toFile(file);
  return file;
}
const noteByHand = async (page: Page) => {
  await topic(page, 'By hand');
  await page.getByLabel('Minutes of Tone the whole canvas').fill('9');
  await page.getByRole('button', { name: 'Put it into the log' }).click();
  await expect(page.getByText('It stands in the log.').last()).toBeVisible();
};

test('canvases are measured against the picture, their photographs stay here until somebody agrees; heaps that were left, an aim, the end', async ({
  signedIn: page,
}, info) => {
  test.setTimeout(180_000);
  await openDemo(page, 'log');
  await noteByHand(page);

  await test.step('what was left of the heaps', async () => {
    await topic(page, 'Classes');
    const one = page.getByTestId('logged').getByRole('listitem').first();
    await one.getByText('By student, touches, paint left').click();
    await one.getByLabel('Left of high sky').getByText('half', { exact: true }).click();
    await one.getByLabel('Grams left of low sky').fill('20');
    await one.getByLabel('Grams left of low sky').press('Enter');
    await accessible(page, 'a class of the log in full');
    await one.getByRole('button', { name: 'Note what was left' }).click();
    await expect(one.getByText('Noted.')).toBeVisible();
    await topic(page, 'Reckoned with');
    await expect(page.getByRole('row', { name: /Paint that is used/ })).toContainText('2 heaps of 1 class');
    await accessible(page, 'what is reckoned with');
  });

  await test.step('a canvas: its corners are found, it is measured and laid beside the picture', async () => {
    await topic(page, 'Canvases');
    await expect(page.getByText('It takes five measured canvases to tell of the group.')).toBeVisible();
    const file = page.locator('input[type=file]');
    await file.setInputFiles({ name: 'odd.jpg', mimeType: 'image/jpeg', buffer: Buffer.from('no picture') });
    await expect(page.getByRole('alert')).toBeVisible();
    await file.setInputFiles(await photographed(page, info.outputPath('canvas.jpg')));
    await expect(page.getByText('The corners of the canvas were found.')).toBeVisible({ timeout: 30_000 });
    await page.getByRole('button', { name: 'Measure this canvas' }).click();
    await expect(page.getByTestId('canvas-compared')).toContainText(/Measured: \d+ areas in value/, { timeout: 90_000 });
    const canvas: Locator = page.getByTestId('canvases').getByRole('listitem');
    await expect(canvas).toHaveCount(1);
    await accessible(page, 'canvases that were measured');
    // It is shared by an act, with what was said to that; and no more by another.
    await canvas.getByRole('button', { name: 'Share', exact: true }).click();
    await expect(page.getByRole('button', { name: 'Share it' })).toBeDisabled();
    await page.getByLabel('What was said to that').fill('Ida said yes, 1 December');
    await page.getByRole('button', { name: 'Share it' }).click();
    await expect(canvas).toContainText('shared: Ida said yes, 1 December');
    await canvas.getByRole('button', { name: 'Share no more' }).click();
    await expect(canvas).not.toContainText('Ida');
  });

  await test.step('an aim is meant, not made', async () => {
    await topic(page, 'Pace');
    await page.getByLabel('Your aim for the next time').fill('120');
    await page.keyboard.press('Enter');
    await saved(page);
    await page.reload();
    await expect(page.getByLabel('Your aim for the next time')).toHaveValue('120');
    await accessible(page, 'pace over classes');
  });

  await test.step('the end: dates are worked out, and reminders lie in the outbox', async () => {
    await topic(page, 'Finish');
    const dates = page.getByTestId('finish-dates').getByRole('row');
    await expect(dates.first()).toContainText('Into the rack');
    await expect(dates.last()).toContainText('Pack');
    await page.getByRole('button', { name: 'Write reminders to the outbox' }).click();
    await expect(page.getByText(/reminders? in the outbox\./)).toBeVisible();
    await accessible(page, 'finish and after');
    const letters = (await (await page.request.get(new URL('/api/letters', page.url()).href)).json()) as {
      subject: string;
      dueAt: string | null;
    }[];
    expect(letters.some(({ subject, dueAt }) => subject.startsWith('Pack: ') && dueAt !== null)).toBe(true);
  });
});
