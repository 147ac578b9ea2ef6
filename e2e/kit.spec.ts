import { readFile } from 'node:fs/promises';
import { accessible, choose, expect, openDemo, saved, test, topic } from './fixtures.js';

test('the kit: amounts follow the group, prices and sharing; mixed ahead; a list ticked on a phone; the pack', async ({
  signedIn: page,
  browser,
  server,
}) => {
  await openDemo(page);
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: /Kit/ }).click();
  const rows = page.getByTestId('kit-tubes').locator('tbody tr.ant-table-row');
  const white = rows.filter({ hasText: 'white' }).first();
  const groupMl = async () => Number((await white.getByRole('cell').nth(3).innerText()).match(/\d+/)?.[0]);
  const twelve = await groupMl();
  expect(twelve).toBeGreaterThan(300);
  await page.getByLabel('Painters', { exact: true }).fill('6');
  await page.keyboard.press('Enter');
  await expect.poll(groupMl).toBeLessThan(twelve * 0.62);
  // What cannot be is said under the field, and nothing changes.
  await page.getByLabel('Painters', { exact: true }).fill('2.5');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Count whole people: 12, not 12 and a half.')).toBeVisible();
  await accessible(page, 'kit, paint');
  // A size with its price, and what is in the cupboard.
  await white.getByRole('button', { name: 'Sizes and prices of white' }).click();
  const prices = page.getByRole('tooltip');
  await prices.getByLabel('Size, ml').fill('500');
  await prices.getByLabel('Price').fill('x');
  await prices.getByRole('button', { name: 'Add a size' }).click();
  await expect(prices.getByText('This is no price. Write it as 7.80.')).toBeVisible();
  await prices.getByLabel('Price').fill('23,50');
  await prices.getByRole('button', { name: 'Add a size' }).click();
  await expect(white).toContainText('2 × 500 ml, 47.00 EUR');
  // To be sure there is more to buy.
  const cash = async () =>
    Number((await page.locator('.ant-statistic').filter({ hasText: 'To buy' }).innerText()).match(/[\d.]+/)?.[0]);
  const usual = await cash();
  await page.getByText('nine classes in ten').click();
  await expect.poll(cash).toBeGreaterThan(usual);
  await page.keyboard.press('Escape');
  await white.getByLabel('have, ml: white').fill('2000');
  await page.keyboard.press('Enter');
  await expect(white).toContainText('in the cupboard');
  await white.getByRole('button', { name: /Expand row/ }).click();
  await expect(page.getByText(/canvas [\d.]+ ml, brush [\d.]+ ml/).first()).toBeVisible();

  await topic(page, 'Mixed ahead');
  const low = page.getByTestId('kit-premix').getByRole('row').filter({ hasText: 'low sky' });
  await expect(low).toContainText(/portions of/);
  await expect(low).toContainText(/Measure: [\d.]+ ml white/);
  const labels = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Labels (PDF)' }).click();
  expect((await readFile(await (await labels).path())).subarray(0, 5).toString()).toBe('%PDF-');
  await accessible(page, 'kit, mixed ahead');

  await topic(page, 'Brushes and things');
  const rigger = page.getByTestId('kit-brushes').getByRole('row').filter({ hasText: 'rigger 2' });
  await expect(rigger.getByRole('cell').nth(2)).toHaveText('7');
  await rigger.getByRole('checkbox').check();
  await expect(rigger.getByRole('cell').nth(2)).toHaveText('4');
  await page.getByLabel('What', { exact: true }).fill('cotton buds');
  await page.getByRole('button', { name: 'Add it' }).click();
  await expect(page.getByRole('cell', { name: 'cotton buds', exact: true })).toBeVisible();

  await topic(page, 'Who brings what');
  await page.getByText('students bring their tools').click();
  await expect(page.getByTestId('letter')).toContainText('– rigger 2');
  await expect(page.getByTestId('letter')).toContainText('You need not buy: white');
  await saved(page);
  await page.getByRole('button', { name: 'Make the link' }).click();
  const link = page.getByRole('region', { name: 'Tick it on a phone' }).getByRole('link');
  const address = (await link.getAttribute('href')) as string;
  const phone = await (
    await browser.newContext({ viewport: { width: 360, height: 640 }, hasTouch: true, isMobile: true })
  ).newPage();
  await phone.goto(address.replace(/^https?:\/\/[^/]+/, server.url));
  await expect(phone.getByText('for 6 painters')).toBeVisible();
  const apron = phone.getByRole('checkbox', { name: /cotton buds/ });
  await apron.check();
  await expect(phone.getByText(/^1 of \d+$/)).toBeVisible();
  await phone.context().setOffline(true);
  const water = phone.getByRole('checkbox', { name: /canvas 16/ });
  await water.check();
  await expect(phone.getByText('No connection just now. Ticks are kept and sent later.')).toBeVisible();
  await phone.context().setOffline(false);
  await expect(phone.getByText('No connection just now. Ticks are kept and sent later.')).toBeHidden();
  const other = await (await browser.newContext()).newPage();
  await other.goto(address.replace(/^https?:\/\/[^/]+/, server.url));
  await expect(other.getByText(/^2 of \d+$/)).toBeVisible();
  await phone.getByText('Preparing', { exact: true }).click();
  await expect(phone.getByText(/Read the air at the easels/)).toBeVisible();
  expect(await phone.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth)).toBe(true);
  await accessible(phone, 'lists on a phone');

  await topic(page, 'Room and cautions');
  await expect(page.getByTestId('cautions')).toContainText('contains manganese');
  await page.getByLabel('Fee, each').fill('45.00');
  await page.getByLabel('Fee, each').blur();
  await expect(page.getByText(/^It pays from \d+ students? on\.$/)).toBeVisible();
  await accessible(page, 'kit, room');

  await topic(page, 'Lesson pack');
  await saved(page);
  await page.getByRole('tree', { name: 'Parts' }).getByText('Practice sheet').scrollIntoViewIfNeeded();
  const pack = page.waitForEvent('download', { timeout: 120_000 });
  await page.getByRole('button', { name: 'Make the pack' }).click();
  const bytes = await readFile(await (await pack).path());
  expect(bytes.subarray(0, 5).toString()).toBe('%PDF-');
  expect(bytes.length).toBeGreaterThan(200_000);
  await expect(page.getByTestId('pack-made')).toContainText(/^\d+ pages, [\d.]+ MB\.\s*$/);
  await accessible(page, 'kit, pack');
});

test('a group on canvases of two sizes: who paints the smaller one, what it takes of paint, supports and brushes', async ({
  signedIn: page,
}) => {
  await openDemo(page);
  await topic(page, 'For others');
  await page.getByRole('button', { name: 'New variant' }).click();
  const card = page.getByTestId('variant-card');
  await card.getByTestId('stage-name').fill('Small canvas');
  await page.keyboard.press('Enter');
  await choose(card.getByLabel('Canvas', { exact: true }), '8 × 10 in');
  await expect(card).toContainText('On a canvas of 8 × 10 in.');
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: /Kit/ }).click();
  const white = page.getByTestId('kit-tubes').locator('tbody tr.ant-table-row').filter({ hasText: 'white' }).first();
  const groupMl = async () => Number((await white.getByRole('cell').nth(3).innerText()).match(/\d+/)?.[0]);
  const twelve = await groupMl();
  await page.getByLabel('Of them: Small canvas').fill('6');
  await page.keyboard.press('Enter');
  await expect.poll(groupMl).toBeLessThan(twelve * 0.9);
  expect(await groupMl()).toBeGreaterThan(twelve * 0.5);
  // More than there are is met with a sentence.
  await page.getByLabel('Of them: Small canvas').fill('20');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/20 would paint variants, which is more than paint at all/)).toBeVisible();
  await topic(page, 'Brushes and things');
  await expect(page.getByTestId('kit-brushes').getByText('for Small canvas').first()).toBeVisible();
  const things = page.getByRole('region', { name: 'Everything else' });
  // Six and one teaching canvas of the lesson's size, six small ones; one in ten to spare of each.
  await expect(things.getByRole('row').filter({ hasText: '8 × 10 in' })).toContainText('7');
  await expect(things.getByRole('row').filter({ hasText: 'canvas 16' })).toContainText('8');
  await topic(page, 'Before the class');
  await page.getByLabel('People who prepare').fill('2');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/all 2 together/).first()).toBeVisible();
  await expect(page.getByText(/person 2/).first()).toBeVisible();
  await accessible(page, 'kit, before the class');
});
