import { accessible, choose, expect, openDemo, test } from './fixtures.js';

test('will this group finish: chance, ends, what holds it up and what helps follow the group and the gate', {
  tag: '@soak',
}, async ({ signedIn: page }) => {
  await openDemo(page, 'class');
  const pace = page.getByRole('region', { name: 'Will this group finish?' });
  await expect(pace.getByText(/chance that the class is done within 2 h 30/)).toBeVisible({ timeout: 60_000 });
  const ends = () => pace.getByText(/^Half of all classes are done after/).innerText();
  const before = await ends();
  await pace.getByLabel('Slot (minutes)').fill('600');
  await page.keyboard.press('Enter');
  await expect(pace.getByText('over 99 %', { exact: true })).toBeVisible({ timeout: 30_000 });
  await choose(pace.getByLabel('They are'), 'experienced');
  await expect.poll(ends, { timeout: 30_000 }).not.toBe(before);
  await expect(pace.locator('.recharts-bar-rectangle').first()).toBeVisible();
  await expect(pace.getByText(/a dryer for|one more who helps|go on when 70/).first()).toBeVisible();
  await accessible(page, 'pace of the group');
});
