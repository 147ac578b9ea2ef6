import { createHash, X509Certificate } from 'node:crypto';
import { mkdtemp, readFile, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { generate } from 'selfsigned';
import {
  accessible,
  beside,
  choose,
  chosenIn,
  expect,
  goOnAnyway,
  goTo,
  joinPhone,
  openClass,
  openDemo,
  openRehearsal,
  saved,
  signIn,
  startServer,
  test,
  topic,
} from './fixtures.js';

const secondsOf = async (phone: Page) => Number(await phone.getByTestId('clock').getAttribute('data-seconds'));

test('a rehearsal: students come by themselves, time runs, who is late has a drying clock of their own', {
  tag: '@soak',
}, async ({ signedIn: page, server, browser }) => {
  await openDemo(page);
  const code = await openRehearsal(page, 4, true);
  await expect(page.getByText('Rehearsal: the students are simulated.')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Dina/ })).toBeVisible();
  const [mara, kofi] = [await joinPhone(browser, server, code, 'Mara'), await joinPhone(browser, server, code, 'Kofi')];
  await beside(page, 'More');
  await page.keyboard.press('PageDown');
  await mara.getByRole('button', { name: 'Done', exact: true }).click();
  await page.keyboard.press('PageDown');
  await expect(kofi.getByRole('heading', { name: 'Let the whole canvas dry' })).toBeVisible();
  // Four minutes of the class, in twelve seconds.
  const at = await secondsOf(mara);
  await page.getByRole('button', { name: '×20' }).click();
  await expect.poll(() => secondsOf(mara), { intervals: [50] }).toBeLessThan(at - 240);
  await page.getByRole('button', { name: '×1', exact: true }).click();
  const late = at - (await secondsOf(mara));
  // Who has said Done to nothing is as the class is; from their Done on, their own coat counts.
  await kofi.getByRole('button', { name: 'Done now' }).click();
  await expect(kofi.getByText(/^Your own coat was laid later: it still needs \d+ min\.$/)).toBeVisible();
  const difference = (await secondsOf(kofi)) - (await secondsOf(mara));
  expect(Math.abs(difference - late)).toBeLessThan(12);
  expect(difference).toBeGreaterThan(225);
  await accessible(kofi, 'follow, late');

  // The simulated camera and sensor tell the desk.
  await expect(page.getByAltText('The palette as the camera sees it')).toBeVisible();
  await page.getByRole('button', { name: '×60' }).click();
  await beside(page, 'Now');
  await expect(page.getByText(/^Coats take [\d. to]+ times as long as planned in this air\.$/)).toBeVisible({ timeout: 30_000 });
  await expect(page.getByRole('heading', { name: /the room: studio, simulated/ })).toBeVisible();
});

test('the desk near: a message, a step left out, the rest planned again, a student looked at, an assistant helping, and afterwards what happened', {
  tag: '@soak',
}, async ({ signedIn: page, server, browser }) => {
  await openDemo(page);
  const code = await openClass(page);
  const mara = await joinPhone(browser, server, code, 'Mara');
  const kofi = await joinPhone(browser, server, code, 'Kofi');
  await page.keyboard.press('ArrowRight');
  await mara.getByRole('button', { name: 'Done', exact: true }).click();

  await beside(page, 'Tell');
  await page.getByRole('button', { name: 'Watch your water' }).click();
  await expect(mara.getByText('Watch your water')).toBeVisible();
  await page.getByLabel('Tell all').fill('Hold the brush further back, d e h');
  await page.keyboard.press('Enter');
  await expect(kofi.getByText('Hold the brush further back, d e h')).toBeVisible();
  // What is typed is no key: the clock is not held.
  await expect(page.getByRole('button', { name: /^Hold/ })).toBeVisible();
  await accessible(page, 'desk, telling');

  await beside(page, 'Steps');
  await page.getByRole('button', { name: 'Go to: Trace the ridges and the balloons' }).click();
  await expect(mara.getByRole('heading', { name: 'Trace the ridges and the balloons' })).toBeVisible();
  await expect(page.getByRole('listitem').filter({ hasText: 'Let the whole canvas dry' }).getByText('left out')).toBeVisible();

  await beside(page, 'Now');
  await page.getByRole('button', { name: 'Note the air' }).click();
  await page.getByLabel('Air, °C').fill('17');
  await page.getByLabel('Humidity, %').fill('75');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^Coats take [\d. to]+ times as long as planned in this air\.$/)).toBeVisible();
  await page.getByRole('button', { name: 'Plan the rest again' }).click();
  await expect(page.getByText('The rest follows from what really happened.')).toBeVisible();
  await expect(page.getByText('17 °C, 75 %')).toBeVisible();
  await expect(page.getByText(/later than planned$/)).toBeVisible();
  await expect(mara.getByRole('heading', { name: 'Trace the ridges and the balloons' })).toBeVisible();

  await page.getByRole('button', { name: /^Mara/ }).click();
  const panel = page.getByRole('region', { name: 'Mara' });
  await panel.getByLabel('For yourself only').fill('left-handed');
  const row = panel.getByTestId('student-step').first();
  await row.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(row.getByRole('button', { name: 'Not done' })).toBeVisible();
  await choose(panel.getByLabel('Came before?'), 'remember this person');
  await expect(chosenIn(panel.getByLabel('Came before?'))).toContainText(/^Mara/);
  await panel.getByRole('button', { name: 'Seat to the right' }).click();
  await expect(page.getByTestId('easel-name').nth(1)).toHaveText('Mara');
  await accessible(page, 'desk, a student');

  await beside(page, 'More');
  const link = await page.getByRole('link', { name: 'Link for an assistant' }).getAttribute('href');
  const helper = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await helper.goto(link ?? '');
  await expect(helper.getByText('Nobody just now.')).toBeVisible();
  await kofi.getByRole('button', { name: 'I need a hand' }).click();
  await kofi.getByRole('button', { name: 'too wet' }).click();
  await accessible(helper, 'assistant');
  await helper.getByRole('listitem').getByRole('button', { name: 'Kofi has been helped' }).first().click();
  await expect(kofi.getByRole('button', { name: 'I need a hand' })).toBeVisible();

  await page.getByRole('button', { name: 'End the class' }).click({ timeout: 9000 });
  await page.getByRole('button', { name: 'End it for everyone' }).click();
  await expect(mara.getByText('The class has ended')).toBeVisible();
  await page.getByRole('link', { name: 'What happened' }).click();
  await expect(page.getByText('1 of 2 said Done to the last step. Finished: Mara.')).toBeVisible();
  await expect(page.getByRole('row', { name: /Let the whole canvas dry|Sky, blended/ }).first()).toContainText('not taught');
  await expect(page.getByText(/Kofi, too wet, helped after 1 min/)).toBeVisible();
  await expect(page.getByText(new RegExp(`class ${code}$`))).toBeVisible();
  await expect(page.getByText('air noted: 17 °C, 75 %')).toBeVisible();
  await expect(page.getByText('told all: Watch your water')).toBeVisible();
  // Notes for oneself stand apart, and no table has them.
  await expect(page.getByRole('region', { name: 'Your notes' })).toContainText('Mara: left-handed');
  const [table] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save as a table (CSV)' }).click(),
  ]);
  const saved = await readFile(await table.path(), 'utf8');
  expect(saved).toContain('Tone the whole canvas');
  expect(saved).toContain('Student 1: too-wet');
  expect(saved).not.toMatch(/left-handed|Mara|Kofi/);
  await page.getByRole('slider', { name: 'Minute of the class' }).press('Home');
  await expect(page.getByText('At 0:00')).toBeVisible();
  await accessible(page, 'what happened');
});

test('a phone without network: the server is gone, the page is reloaded over TLS, the last step is still there', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'viaticum-tls-'));
  const { cert, private: key } = await generate([{ name: 'commonName', value: '127.0.0.1' }], {
    extensions: [{ name: 'subjectAltName', altNames: [{ type: 7, ip: '127.0.0.1' }] }],
  });
  // This certificate alone is taken for a good one: for a page with a bad one a browser keeps nothing.
  const own = createHash('sha256')
    .update(new X509Certificate(cert).publicKey.export({ type: 'spki', format: 'der' }))
    .digest('base64');
  await writeFile(join(folder, 'cert.pem'), cert);
  await writeFile(join(folder, 'key.pem'), key);
  const { server, stop } = await startServer({
    VIATICUM_TLS_CERT: join(folder, 'cert.pem'),
    VIATICUM_TLS_KEY: join(folder, 'key.pem'),
  });
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--disable-dev-shm-usage',
      '--disable-background-networking',
      `--ignore-certificate-errors-spki-list=${own}`,
    ],
  });
  try {
    const page = await browser.newPage();
    await signIn(page, { ...server, name: 'demo' });
    await openDemo(page);
    const code = await openClass(page);
    const phone = await joinPhone(browser, { ...server, name: 'demo' }, code, 'Mara');
    await page.keyboard.press('ArrowRight');
    await expect(phone.getByRole('heading', { name: 'Tone the whole canvas' })).toBeVisible();
    await expect(phone.locator('html[data-kept]')).toBeAttached();
    expect(await phone.evaluate(() => navigator.serviceWorker.controller?.state)).toBe('activated');
    await phone.waitForFunction((key) => localStorage.getItem(key)?.includes('"index":0'), `viaticum-class-${code}`);
    await server.kill();
    await phone.reload();
    await expect(phone.getByRole('heading', { name: 'Tone the whole canvas' })).toBeVisible();
    await expect(phone.getByText(/10 white\s: 1 arylide yellow/)).toBeVisible();
    await expect(phone.getByText('No connection just now')).toBeVisible();
    // What is said meanwhile is heard when the server is back.
    await phone.getByRole('button', { name: 'Done', exact: true }).click();
    await server.start();
    await expect(page.getByText('1 of 1 done')).toBeVisible();
    await expect(phone.getByText('No connection just now')).toBeHidden();
    const manifest = await (await phone.request.get(`${server.url}/follow.webmanifest`, { ignoreHTTPSErrors: true })).json();
    expect(manifest).toMatchObject({ display: 'standalone', start_url: '/join' });
  } finally {
    await browser.close();
    await stop();
  }
});

test('phones whose clocks are five minutes wrong show the same time; the step is worded for what one has', {
  tag: '@soak',
}, async ({ signedIn: page, server, browser }) => {
  await openDemo(page);
  const code = await openClass(page);
  const join = async (name: string, wrongMs: number, has: string | null) => {
    const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
    await context.addInitScript((ms) => {
      const real = Date.now.bind(Date);
      Date.now = () => real() + ms;
    }, wrongMs);
    const phone = await context.newPage();
    await phone.goto(`${server.url}/join/${code}`);
    await phone.getByLabel('Your first name').fill(name);
    if (has) await phone.getByLabel(has).check();
    await phone.getByRole('button', { name: 'Join' }).click();
    await expect(phone.getByText('Your place is ready')).toBeVisible();
    return phone;
  };
  const early = await join('Early', -300_000, 'a soft graphite stick');
  const late = await join('Late', 300_000, 'transfer paper');
  await page.keyboard.press('ArrowRight');
  /** The moment, by a clock that is not wrong, at which this phone's step ends. */
  const endOf = (phone: Page) =>
    phone.getByTestId('clock').evaluate(
      (clock) =>
        new Promise<number>((done) => {
          new MutationObserver((_, observer) => {
            observer.disconnect();
            done(performance.timeOrigin + performance.now() + Number(clock.getAttribute('data-seconds')) * 1000);
          }).observe(clock, { attributes: true });
        }),
    );
  await expect(early.getByTestId('clock')).toBeVisible();
  await expect(late.getByTestId('clock')).toBeVisible();
  const [a, b] = await Promise.all([endOf(early), endOf(late)]);
  expect(Math.abs(a - b)).toBeLessThan(300);

  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('heading', { name: 'Let the whole canvas dry' })).toBeVisible();
  await goOnAnyway(page);
  await expect(early.getByText(/^Rub the back of the tracing with soft graphite/)).toBeVisible();
  await expect(late.getByText(/^Lay the transfer paper under the tracing/)).toBeVisible();
  // Ways of looking, and what this phone is set to.
  await late.getByRole('button', { name: 'Tracing' }).click();
  await expect(late.getByRole('img', { name: 'Tracing' })).toBeVisible();
  await late.getByRole('button', { name: 'Step back' }).click();
  await expect(late.getByText('as from three metres')).toBeVisible();
  await late.getByRole('button', { name: 'Squint' }).click();
  await late.getByText('This phone').click();
  await late.getByLabel('Large type').check();
  await expect(late.locator('[data-testid="follow-page"][data-large]')).toBeVisible();
  expect(await late.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth)).toBe(true);
  await accessible(late, 'follow, large type');
});

test('painted alone from a link: at one’s own pace, back and forward, kept over a reload', async ({
  signedIn: page,
  browser,
}) => {
  await openDemo(page, 'class');
  await saved(page);
  await topic(page, 'Painting alone');
  await page.getByRole('button', { name: 'Make the link' }).click();
  const link = await page.getByRole('link', { name: /\/paint\// }).getAttribute('href');
  await accessible(page, 'painting alone, the link');
  const phone = await (await browser.newContext({ viewport: { width: 360, height: 740 } })).newPage();
  await phone.goto(link ?? '');
  await phone.getByRole('button', { name: 'Begin' }).click();
  await expect(phone.getByRole('heading', { name: 'Tone the whole canvas' })).toBeVisible();
  await phone.getByRole('button', { name: 'Look forward' }).click();
  await expect(phone.getByRole('heading', { name: 'Let the whole canvas dry' })).toBeVisible();
  await phone.getByRole('button', { name: 'To the present step' }).click();
  await phone.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(phone.getByRole('heading', { name: 'Let the whole canvas dry' })).toBeVisible();
  // The toned canvas takes 4 min 15 s from now to be touch-dry.
  expect(await secondsOf(phone)).toBeGreaterThan(240);
  await phone.reload();
  await expect(phone.getByRole('heading', { name: 'Let the whole canvas dry' })).toBeVisible();
  await accessible(phone, 'painting alone');
  await phone.getByRole('button', { name: 'Go on' }).click();
  await expect(phone.getByRole('heading', { name: 'Trace the ridges and the balloons' })).toBeVisible();

  await test.step('to its end; how long it took is told by an act of whoever painted, and stands in the log', async () => {
    const finished = phone.getByRole('heading', { name: 'Finished' });
    const onwards = phone.getByRole('button', { name: /^(Done|Go on|It is finished)$/ });
    await phone.clock.install();
    for (let k = 0; k < 60 && !(await finished.isVisible()); k++) {
      await phone.clock.fastForward('06:00');
      await onwards.first().click();
    }
    await expect(finished).toBeVisible();
    await accessible(phone, 'painted alone, finished');
    await phone.getByRole('button', { name: 'Tell my times' }).click();
    await expect(phone.getByTestId('told')).toHaveText('Told. Thank you.');
    await goTo(page, 'Log');
    await topic(page, 'Classes');
    await expect(page.getByTestId('logged').getByRole('listitem')).toContainText('painted alone');
  });
});
