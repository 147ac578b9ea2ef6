import type { Browser, Page } from '@playwright/test';
import { beside, expect, goOnAnyway, joinPhone, openDemo, openRehearsal, type Server, test } from './fixtures.js';
import { foldOf } from './own-fold.js';

/** Joins with a clock that is so wrong, ms. */
async function joinWrong(browser: Browser, server: Server, code: string, name: string, ms: number): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  await context.addInitScript((wrong) => {
    const real = Date.now.bind(Date);
    Date.now = () => real() + wrong;
  }, ms);
  const phone = await context.newPage();
  await phone.goto(`${server.url}/join/${code}`);
  await phone.getByLabel('Your first name').fill(name);
  await phone.getByRole('button', { name: 'Join' }).click();
  return phone;
}
/** Joins without a tube. */
async function joinLacking(browser: Browser, server: Server, code: string, name: string, tube: string): Promise<Page> {
  const phone = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await phone.goto(`${server.url}/join/${code}`);
  await phone.getByLabel('Your first name').fill(name);
  await phone.getByText(/^I have all|^I lack/).click();
  await phone.getByLabel(tube, { exact: true }).uncheck();
  await phone.getByRole('button', { name: 'Join' }).click();
  return phone;
}
/** What a clock says, in seconds; over is below nothing. */
async function shownSeconds(page: Page, testId: string): Promise<number> {
  const text = await page.getByTestId(testId).innerText();
  const [minutes = 0, seconds = 0] = (text.match(/\d+:\d\d/)?.[0] ?? '').split(':').map(Number);
  return (/over/.test(text) ? -1 : 1) * (minutes * 60 + seconds);
}
const done = (phone: Page) => phone.locator('footer').getByRole('button', { name: 'Done', exact: true }).click();

test('a class of six who forget, say nothing, come late, lose the network, have a wrong clock and lack a tube: every number is that of the log', {
  tag: '@soak',
}, async ({ signedIn: page, server, browser }) => {
  test.setTimeout(180_000);
  await openDemo(page);
  const code = await openRehearsal(page, 1, false);
  const [forgets, silent, offline] = [
    await joinPhone(browser, server, code, 'Frida'),
    await joinPhone(browser, server, code, 'Silas'),
    await joinPhone(browser, server, code, 'Oona'),
  ];
  const wrong = await joinWrong(browser, server, code, 'Wendel', 300_000);
  const lacks = await joinLacking(browser, server, code, 'Kerstin', 'burnt umber');
  const wall = await (await browser.newContext({ viewport: { width: 1920, height: 1080 } })).newPage();
  await wall.goto(`${server.url}/wall/${code}`);
  await page.bringToFront();
  await beside(page, 'More');

  /** Desk, phones and wall against the log: title, clock, how many are here and done. */
  const agree = async (phones: Record<string, Page>) => {
    const fold = await foldOf(page, code);
    const { item, people } = fold;
    await expect(page.getByTestId('desk-glance').getByRole('heading', { level: 1 })).toHaveText(item?.title ?? '');
    await expect(wall.getByRole('heading', { name: item?.title ?? '' })).toBeVisible();
    const near = async (shown: () => Promise<number>, left: (real: number) => number) =>
      expect(Math.abs((await shown()) - left(Date.now()))).toBeLessThan(2.5);
    await near(
      () => shownSeconds(page, 'clock'),
      (real) => fold.secondsLeft(real),
    );
    if (fold.secondsLeft(Date.now()) > 3)
      await near(
        () => shownSeconds(wall, 'wall-clock'),
        (real) => fold.secondsLeft(real),
      );
    for (const [name, phone] of Object.entries(phones)) {
      const person = fold.person(name);
      expect(person).toBeDefined();
      await expect(phone.getByRole('heading', { level: 1 })).toHaveText(item?.title ?? '');
      if (item?.kind === 'step') {
        const number = fold.steps.findIndex(({ stepId }) => stepId === item.stepId) + 1;
        await expect(phone.getByText(`step ${number} of ${fold.steps.length}`)).toBeVisible();
      }
      await near(
        async () => Number(await phone.getByTestId('clock').getAttribute('data-seconds')),
        (real) => fold.secondsLeft(real, person),
      );
    }
    // Said and assumed are counted apart; who is here is who came.
    const counted = page.getByTestId('desk-glance').getByText(/\d+ of \d+ done/);
    await expect(async () => {
      const now = await foldOf(page, code);
      const text = await counted.innerText();
      const [, all, of] = text.match(/(\d+) of (\d+) done/) ?? [];
      const assumed = Number(text.match(/(\d+) of them assumed/)?.[1] ?? 0);
      expect([Number(all) - assumed, Number(of)]).toEqual([now.said(now.counted), now.people.length]);
    }).toPass({ timeout: 15_000 });
    await expect(wall.getByRole('list', { name: `${people.length} easels` })).toBeVisible();
    return fold;
  };

  await page.keyboard.press('PageDown');
  await expect(forgets.getByRole('heading', { name: 'Tone the whole canvas' })).toBeVisible();
  await agree({ Frida: forgets, Silas: silent, Oona: offline, Wendel: wrong, Kerstin: lacks });
  // Four of five say it, one of them without a network and one minute of the class later; one says nothing.
  for (const phone of [forgets, wrong, lacks]) await done(phone);
  await expect(wall.locator('[data-testid="wall-easels"] [data-done]')).not.toHaveCount(0);
  await page.keyboard.press('PageDown');
  await expect(wrong.getByText('Drying pause')).toBeVisible();
  await expect(offline.getByText('Drying pause')).toBeVisible();
  await expect(offline.locator('html[data-kept]')).toBeAttached();
  await offline.waitForTimeout(1000);
  await offline.context().setOffline(true);
  await offline.reload();
  await expect(offline.getByText(/^No connection just now/)).toBeVisible();
  await page.getByRole('button', { name: '×20' }).click();
  await page.waitForTimeout(3000);
  await page.getByRole('button', { name: '×1', exact: true }).click();
  await offline.getByRole('button', { name: 'Done now' }).click();
  const pressed = Date.now();
  await expect(offline.getByText(/What you pressed is kept/)).toBeVisible();
  await agree({ Frida: forgets, Silas: silent, Wendel: wrong, Kerstin: lacks });
  await page.waitForTimeout(2000);
  await offline.context().setOffline(false);
  await expect(offline.getByText(/^No connection just now/)).toBeHidden();
  // Their own coat counts from when they pressed, on the phone and in the log.
  const back = await agree({ Oona: offline, Wendel: wrong });
  const said = back.person('Oona')?.done.get(back.counted ?? '') ?? 0;
  expect(Math.abs(said - back.now(pressed))).toBeLessThan(2500);
  expect(back.secondsLeft(Date.now(), back.person('Oona')) - back.secondsLeft(Date.now())).toBeGreaterThan(30);

  // One comes late; one forgets; the last step but one is implied by the last.
  await goOnAnyway(page);
  const late = await joinPhoneNow(browser, server, code, 'Levin');
  await agree({ Frida: forgets, Levin: late, Oona: offline, Kerstin: lacks });
  for (const phone of [wrong, lacks, late]) await done(phone);
  await page.getByRole('button', { name: '×60' }).click();
  await page.waitForTimeout(11_000);
  await page.getByRole('button', { name: '×1', exact: true }).click();
  await page.keyboard.press('PageDown');
  const press = page.getByText('Press again to go on all the same');
  if (await press.isVisible()) await page.keyboard.press('PageDown');
  await expect(forgets.getByRole('heading', { name: 'Sky, blended from the top to the horizon' })).toBeVisible();
  await page.getByRole('button', { name: '×60' }).click();
  await page.waitForTimeout(9000);
  await page.getByRole('button', { name: '×1', exact: true }).click();
  await done(forgets);
  await done(late);
  await agree({ Frida: forgets, Levin: late, Wendel: wrong, Silas: silent });
  // What she forgot is taken for done; nobody is shown as more than the log has.
  await page.getByTestId('easel-name').filter({ hasText: 'Frida' }).click();
  await expect(page.getByRole('region', { name: 'Frida' }).getByTestId('student-step').nth(1)).toHaveAttribute(
    'data-how',
    'assumed',
  );

  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'End the class' }).click({ timeout: 9000 });
  await page.getByRole('button', { name: 'End it for everyone' }).click();
  await page.getByRole('link', { name: 'What happened' }).click();
  const end = await foldOf(page, code);
  const rows = page.getByRole('row');
  for (const [k, { item, minutes, present, said }] of end.visits.entries()) {
    const cells = rows.nth(k + 1).getByRole('cell');
    await expect(rows.nth(k + 1).getByRole('rowheader')).toContainText(item.title);
    const shown = (await cells.nth(1).innerText()).match(/\d+/)?.[0];
    expect(Math.abs(Number(shown ?? 0) - minutes)).toBeLessThan(0.51);
    if (item.kind !== 'step') continue;
    const counts = (await cells.last().innerText()).match(/^(\d+)(?: and \d+ assumed)? of (\d+)$/);
    expect([Number(counts?.[1]), Number(counts?.[2])]).toEqual([said, present]);
  }
});

/** Joins a class that is under way. */
async function joinPhoneNow(browser: Browser, server: Server, code: string, name: string): Promise<Page> {
  const phone = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await phone.goto(`${server.url}/join/${code}`);
  await phone.getByLabel('Your first name').fill(name);
  await phone.getByRole('button', { name: 'Join' }).click();
  await expect(phone.getByTestId('clock')).toBeVisible();
  return phone;
}
