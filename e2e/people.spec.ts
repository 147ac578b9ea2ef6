import { accessible, beside, expect, goOnAnyway, joinPhone, openDemo, openRehearsal, test } from './fixtures.js';

test('who says nothing is found: the phone asks once, the desk names them, and a look lets them be', async ({
  signedIn: page,
  server,
  browser,
}) => {
  await openDemo(page);
  const code = await openRehearsal(page, 1, false);
  const mara = await joinPhone(browser, server, code, 'Mara');
  await beside(page, 'More');
  await page.keyboard.press('PageDown');
  // The first step is said to be done; of the next nothing is heard for far longer than it takes.
  await mara.getByRole('button', { name: 'Done', exact: true }).click();
  await page.keyboard.press('PageDown');
  await expect(page.getByRole('heading', { name: 'Let the whole canvas dry' })).toBeVisible();
  await goOnAnyway(page);
  await page.getByRole('button', { name: '×60' }).click();
  const strip = mara.getByTestId('strip');
  await expect(strip).toBeVisible({ timeout: 60_000 });
  await expect(strip).toContainText(/^(We went on to “|Done with “)/);
  await accessible(mara, 'follow, asked');
  const needs = page.getByTestId('needs-me');
  const row = needs.getByRole('listitem').filter({ hasText: 'Mara' });
  await expect(row).toContainText(/quiet for \d+ min|min behind/, { timeout: 60_000 });
  await page.getByRole('button', { name: '×1', exact: true }).click();
  // Her panel tells every step, and the desk knows better.
  await row.getByRole('button', { name: /quiet for|min behind/ }).click();
  const panel = page.getByRole('region', { name: 'Mara' });
  const steps = panel.getByTestId('student-step');
  await expect(steps.last()).toContainText(/done \d+:\d\d/);
  await steps.first().getByRole('button', { name: 'Done', exact: true }).click();
  await expect(steps.first()).toHaveAttribute('data-how', 'said');
  await accessible(page, 'desk, the steps of a student');
  await expect(row).toHaveCount(0);
  await expect(strip).toBeHidden();
});

test('Done without a network is kept, outlasts a reload, and counts from when it was pressed', async ({
  signedIn: page,
  server,
  browser,
}) => {
  await openDemo(page);
  const code = await openRehearsal(page, 1, false);
  const mara = await joinPhone(browser, server, code, 'Mara');
  await page.keyboard.press('PageDown');
  await expect(mara.getByRole('button', { name: 'Done', exact: true })).toBeVisible();
  await expect(mara.locator('html[data-kept]')).toBeAttached();
  await mara.context().setOffline(true);
  // A socket that is open outlasts this; the page that comes anew has no network.
  await mara.reload();
  await expect(mara.getByText(/^No connection just now/)).toBeVisible();
  await mara.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(mara.getByText('Kept, will be sent')).toBeVisible();
  await expect(mara.getByText(/What you pressed is kept/)).toBeVisible();
  await accessible(mara, 'follow, without a network');
  await mara.reload();
  await expect(mara.getByText('Kept, will be sent')).toBeVisible();
  await expect(mara.getByRole('button', { name: 'Done', exact: true })).toBeHidden();
  const easel = page.getByRole('listitem').filter({ has: page.getByText('Mara', { exact: true }) });
  await expect(easel.first()).toContainText(/away|no network for/);
  await page.waitForTimeout(3000);
  await mara.context().setOffline(false);
  await expect(mara.getByText(/^No connection just now/)).toBeHidden();
  const panel = page.getByRole('region', { name: 'Mara' });
  await page.getByTestId('easel-name').filter({ hasText: 'Mara' }).click();
  const step = panel.getByTestId('student-step').first();
  await expect(step).toHaveAttribute('data-how', 'said');
  await expect(mara.getByText('Kept, will be sent')).toBeHidden();
});
