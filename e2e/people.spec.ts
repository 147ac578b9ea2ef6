import {
  accessible,
  beside,
  choose,
  expect,
  goOnAnyway,
  joinPhone,
  openClass,
  openDemo,
  openRehearsal,
  test,
} from './fixtures.js';

test('who says nothing is found: the phone asks once, the desk names them, and a look lets them be', { tag: '@soak' }, async ({
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

test('two groups of one class go at their own pace under one desk, and come together again', async ({
  signedIn: page,
  server,
  browser,
}) => {
  await openDemo(page);
  const code = await openClass(page);
  const mara = await joinPhone(browser, server, code, 'Mara');
  const kofi = await joinPhone(browser, server, code, 'Kofi');
  await page.keyboard.press('PageDown');
  await expect(kofi.getByRole('heading', { name: 'Tone the whole canvas' })).toBeVisible();
  await beside(page, 'More');
  await page.getByRole('button', { name: 'Teach in two groups' }).click();
  const strips = page.getByRole('navigation', { name: 'Groups' }).getByRole('button');
  await expect(strips).toHaveText([/^Group 1Tone the whole canvas.*0 of 1 done$/, /^Group 2Tone the whole canvas.*0 of 1 done$/]);
  // Keys are of the group that is looked at: the other one stays.
  await page.keyboard.press('PageDown');
  await expect(mara.getByText('Drying pause')).toBeVisible();
  await expect(kofi.getByRole('heading', { name: 'Tone the whole canvas' })).toBeVisible();
  await kofi.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(strips.nth(1)).toContainText('1 of 1 done');
  await strips.nth(1).click();
  await expect(page.getByTestId('desk-glance').getByRole('heading')).toHaveText('Tone the whole canvas');
  await accessible(page, 'desk, two groups');
  const wall = await (await browser.newContext()).newPage();
  await wall.goto(`${server.url}/wall/${code}?group=first`);
  await expect(wall.getByRole('heading', { name: 'Let the whole canvas dry' })).toBeVisible();
  // Who teaches beside the instructor has the desk too, but neither ends the class nor joins its groups.
  const link = await page.getByRole('link', { name: 'Link for who teaches with you' }).getAttribute('href');
  const co = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await co.goto(link ?? '');
  await expect(co.getByRole('navigation', { name: 'Groups' }).getByRole('button')).toHaveCount(2);
  await expect(co.getByRole('button', { name: /^Hold/ })).toBeVisible();
  await expect(co.getByRole('button', { name: 'End the class' })).toHaveCount(0);
  await accessible(co, 'desk of a co-instructor');
  await co.getByRole('button', { name: /^Hold/ }).click();
  await expect(mara.getByText('Look at your instructor. Your paint dries on.')).toBeVisible();
  await co.getByRole('button', { name: /^Go on with the clock/ }).click();
  // Somebody goes over, and all are together where the first group is.
  await page.getByTestId('easel-name').filter({ hasText: 'Kofi' }).click();
  await choose(page.getByRole('region', { name: 'Kofi' }).getByLabel('Group'), 'Group 1');
  await expect(kofi.getByText('Drying pause')).toBeVisible();
  await page.getByRole('button', { name: 'All together, where Group 1 is' }).click();
  await expect(strips).toHaveCount(0);
  await expect(page.getByTestId('desk-glance').getByRole('heading')).toHaveText('Let the whole canvas dry');
});
