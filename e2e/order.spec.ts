import { expect, openDemo, saved, test } from './fixtures.js';

const total = async (page: import('@playwright/test').Page) => {
  const text = await page.locator('.order-plan', { hasText: 'your order' }).innerText();
  return text;
};

test('an order with less waiting is found, shown beside the author’s, taken, and undone', async ({ signedIn: page }) => {
  await openDemo(page);
  const first = page.locator('.step-row').first();
  await expect(first).toBeVisible();
  const titles = () => page.locator('.step-row').allInnerTexts();
  const before = await titles();
  const time = page.locator('.wb-time, header').first();
  const was = await time.innerText();
  await page.getByRole('button', { name: 'Is there an order with less waiting?' }).click();
  await expect(page.getByRole('button', { name: 'Take this order' })).toBeVisible({ timeout: 60_000 });
  expect(await total(page)).toContain('3 h 23');
  await expect(page.locator('.order-plan', { hasText: 'least waiting' })).toContainText(/^.*[23] h \d\d, .*of it waiting/s);
  await expect(page.getByText(/pairs of steps change places\./)).toBeVisible();
  await expect(page.getByText(/Proven: no order|Not proven: no order can end before/)).toBeVisible();
  await page.getByRole('button', { name: 'Take this order' }).click();
  await expect(page.getByRole('button', { name: 'Is there an order with less waiting?' })).toBeVisible();
  expect(await titles()).not.toEqual(before);
  await expect.poll(() => time.innerText()).not.toBe(was);
  await saved(page);
  await page.getByRole('button', { name: 'Undo' }).click();
  expect(await titles()).toEqual(before);
});
