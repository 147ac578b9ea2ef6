import { accessible, beside, expect, goOnAnyway, joinPhone, openClass, openDemo, test } from './fixtures.js';

test('the server is killed in mid-class and started again: nothing acknowledged is lost, nobody reloads', async ({
  signedIn: page,
  server,
  browser,
}) => {
  await openDemo(page);
  const code = await openClass(page);
  const mara = await joinPhone(browser, server, code, 'Mara');
  const kofi = await joinPhone(browser, server, code, 'Kofi');
  await page.keyboard.press('ArrowRight');
  await mara.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByText('1 of 2 done')).toBeVisible();
  await page.keyboard.press('h');
  await expect(kofi.getByText('Stop painting, look at your instructor. Your paint dries on.')).toBeVisible();

  // A reload would lose this mark.
  for (const one of [page, mara, kofi]) await one.evaluate(() => Object.assign(window, { stillHere: true }));
  const first = server.pid();
  await server.kill();
  await expect(kofi.getByText('No connection just now')).toBeVisible();
  await expect(page.getByText('No connection just now')).toBeVisible();
  await expect(kofi.getByRole('heading', { name: 'Tone the whole canvas' })).toBeVisible();
  // What is done meanwhile waits in the outbox.
  await kofi.getByRole('button', { name: 'I need a hand' }).click();
  await kofi.getByRole('button', { name: 'the brush' }).click();
  await server.start();
  expect(server.pid()).not.toBe(first);

  await expect(page.getByText('No connection just now')).toBeHidden();
  await expect(page.getByText('1 of 2 done')).toBeVisible();
  await expect(page.getByTestId('needs-me').getByText('Kofi')).toBeVisible();
  await expect(kofi.getByRole('button', { name: /Hand is up/ })).toBeVisible();
  await expect(mara.getByText('Stop painting, look at your instructor. Your paint dries on.')).toBeVisible();
  await page.keyboard.press('h');
  await expect(mara.getByText('Stop painting, look at your instructor. Your paint dries on.')).toBeHidden();
  await page.keyboard.press('ArrowRight');
  for (const phone of [mara, kofi]) await expect(phone.getByRole('heading', { name: 'Let the whole canvas dry' })).toBeVisible();
  for (const one of [page, mara, kofi]) expect(await one.evaluate(() => 'stillHere' in window)).toBe(true);
});

test('a class from start to end: done and taken back, hands, a minute more, looking back, going on taken back', async ({
  signedIn: page,
  server,
  browser,
}) => {
  await openDemo(page);
  const code = await openClass(page);
  const mara = await joinPhone(browser, server, code, 'Mara');
  const ines = await joinPhone(browser, server, code, 'Ines', { width: 360, height: 740 });
  await page.getByRole('button', { name: /Start/ }).click();
  await expect(ines.getByText('2 in flat, wash')).toBeVisible();
  await expect(ines.getByText(/10 white\s: 1 arylide yellow\s: 1 burnt umber/)).toBeVisible();

  await mara.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByText('1 of 2 done')).toBeVisible();
  await mara.getByRole('button', { name: /Take it back/ }).click();
  await expect(page.getByText('0 of 2 done')).toBeVisible();
  await expect(mara.getByRole('button', { name: 'Done' })).toBeVisible();

  await ines.getByRole('button', { name: 'I need a hand' }).click();
  await ines.getByRole('button', { name: 'the colour' }).click();
  await expect(page.getByTestId('needs-me').getByText('Ines')).toBeVisible();
  await page.getByRole('button', { name: 'Ines has been helped' }).click();
  await expect(ines.getByRole('button', { name: 'I need a hand' })).toBeVisible();

  const seconds = async (text: Promise<string>) => {
    const [minutes = 0, rest = 0] =
      (await text)
        .match(/\d+:\d+/)?.[0]
        .split(':')
        .map(Number) ?? [];
    return minutes * 60 + rest;
  };
  const before = await seconds(mara.getByTestId('clock').innerText());
  await page.keyboard.press('e');
  await expect.poll(() => seconds(mara.getByTestId('clock').innerText())).toBeGreaterThan(before + 45);

  await page.keyboard.press('ArrowRight');
  await expect(mara.getByText('Drying pause')).toBeVisible();
  await page.getByRole('button', { name: /Take it back/ }).click();
  await expect(mara.getByRole('heading', { name: 'Tone the whole canvas' })).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Tone the whole canvas' })).toBeVisible();
  await page.keyboard.press('ArrowRight');
  // Going on is said from a step: pressed again before the desk has gone on, it would be the same going on.
  await expect(page.getByRole('heading', { name: 'Let the whole canvas dry' })).toBeVisible();
  await goOnAnyway(page);
  await expect(mara.getByRole('heading', { name: 'Trace the ridges and the balloons' })).toBeVisible();
  await mara.getByRole('button', { name: 'Look back' }).click();
  await expect(mara.getByText('Drying pause')).toBeVisible();
  await expect(mara.getByRole('button', { name: 'Done' })).toBeHidden();
  await mara.getByRole('button', { name: 'To the present step' }).click();
  await expect(mara.getByRole('button', { name: 'Done' })).toBeVisible();

  await ines.close();
  await expect(page.getByText('away')).toBeVisible();
  // The keys grow to a name only after five seconds in which going on can be taken back.
  await page.getByRole('button', { name: 'End the class' }).click({ timeout: 9000 });
  await page.getByRole('button', { name: 'End it for everyone' }).click();
  await expect(mara.getByText('The class has ended')).toBeVisible();
});

test('a phone that is reloaded is the same student; a wrong code and an empty name are met with a sentence', async ({
  signedIn: page,
  server,
  browser,
}) => {
  await openDemo(page);
  const code = await openClass(page);
  const mara = await joinPhone(browser, server, code, 'Mara');
  await page.keyboard.press('ArrowRight');
  await mara.getByRole('button', { name: 'Done' }).click();
  await mara.reload();
  await expect(mara.getByRole('heading', { name: 'Tone the whole canvas' })).toBeVisible();
  await expect(page.getByText('1 of 1 done')).toBeVisible();

  const stray = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await stray.goto(`${server.url}/join`);
  await stray.getByLabel('Class code').fill('zzz');
  await stray.getByRole('button', { name: 'Next' }).click();
  await expect(stray.getByRole('alert')).toContainText('six letters and digits');
  await stray.getByLabel('Class code').fill('ZZZZZZ');
  await stray.getByRole('button', { name: 'Next' }).click();
  await expect(stray.getByRole('alert')).toContainText('No class has this code');
  // Markup in a name stays text.
  await stray.getByLabel('Class code').fill(code);
  await stray.getByRole('button', { name: 'Next' }).click();
  await stray.getByLabel('Your first name').fill('<img src=x onerror=alert(1)>');
  await stray.getByRole('button', { name: 'Join' }).click();
  await expect(page.getByTestId('easel-name').last()).toHaveText('<img src=x onerror=alert(1)>');
});

test('what is counted is ticked on the phone, and the stroke’s lesson is in its lines', { tag: '@soak' }, async ({
  signedIn: page,
  browser,
  server,
}) => {
  await page.getByRole('link', { name: 'Open An eight-point star tile' }).click();
  await page.waitForURL(/\/steps(\/\w+)?$/);
  const code = await openClass(page);
  const phone = await joinPhone(browser, server, code, 'Nadia');
  // From the ground to its drying pause to the construction: what comes next stands on the key.
  const ticks = phone.getByTestId('follow-tick');
  for (let i = 0; i < 4 && (await ticks.count()) === 0; i++) {
    await page.keyboard.press('ArrowRight');
    await phone.waitForTimeout(900);
  }
  await expect(ticks).toBeVisible();
  await expect(phone.getByText('0 of 8')).toBeVisible();
  await expect(phone.getByText('until all eight rays are drawn')).toBeVisible();
  for (let i = 0; i < 3; i++) await ticks.click();
  await expect(phone.getByText('3 of 8')).toBeVisible();
  await expect(phone.locator('[data-testid="follow-tick"] [data-ticked]')).toHaveCount(3);
  await accessible(phone, 'follow, counted');
});

test('a touch test on the desk corrects the drying of this class: the pause and the phones follow', async ({
  signedIn: page,
  browser,
  server,
}) => {
  await openDemo(page);
  const code = await openClass(page);
  const phone = await joinPhone(browser, server, code, 'Nour');
  const goOn = async (title: string) => {
    await page.keyboard.press('ArrowRight');
    await expect(phone.getByRole('heading', { name: title })).toBeVisible();
  };
  await goOn('Tone the whole canvas');
  await goOn('Let the whole canvas dry');
  const minutes = async () => {
    const [m, s] = (await page.getByTestId('clock').innerText()).split(':').map(Number);
    return (m ?? 0) + (s ?? 0) / 60;
  };
  const before = await minutes();
  // So early it is asked once more: a stray key changes no class.
  await page.waitForTimeout(2200);
  await page.keyboard.press('d');
  await expect(
    page.getByText(/^Dry after \d+ min\? The model says \d+\. Press D again within 4 s, or touch another\.$/),
  ).toBeVisible();
  expect(await minutes()).toBeGreaterThan(before - 0.5);
  await page.keyboard.press('d');
  // Dry means dry: the pause is over here and on the phones, and one act takes it back.
  await expect(page.getByText('One touch: coats dry as planned in this class.')).toBeVisible();
  await expect.poll(minutes).toBeLessThan(0.2);
  await expect.poll(async () => Number(await phone.getByTestId('clock').first().getAttribute('data-seconds'))).toBeLessThan(2);
  await page.getByRole('button', { name: 'It was not dry: take the test back' }).click();
  await expect.poll(minutes).toBeGreaterThan(before - 1);
  await page.getByRole('button', { name: 'Not yet' }).click();
  await expect(page.getByText(/^One touch: coats dry /)).toBeVisible();
});

test('more than were planned wait at the door until the desk says yes; an assistant’s link is made anew', async ({
  signedIn: page,
  server,
  browser,
}) => {
  const code = await page.evaluate(async () => {
    const call = async (method: string, url: string, body?: object) =>
      (
        await fetch(url, {
          method,
          ...(body && { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
        })
      ).json();
    const [lesson] = await call('GET', '/api/lessons');
    const invite = { startsAt: '2026-12-05T17:30:00Z', timeZone: 'UTC', place: '', seats: 1, roster: [] };
    const planned = await call('POST', '/api/classes/planned', { lessonId: lesson.id, invite });
    return (await call('POST', `/api/classes/${planned.code}/open`, {})).code as string;
  });
  await page.goto(`${server.url}/desk/${code}`);
  await joinPhone(browser, server, code, 'Mara');
  const context = await browser.newContext({ viewport: { width: 360, height: 640 }, hasTouch: true, isMobile: true });
  const phone = await context.newPage();
  await phone.goto(`${server.url}/join/${code}`);
  await phone.getByLabel('Your first name').fill('Kofi');
  await phone.getByRole('button', { name: 'Join' }).click();
  await expect(phone.getByText('Your instructor is asked to let you in.')).toBeVisible();
  await expect(page.getByText('Kofi would like to come in. More are here than were planned.')).toBeVisible();
  await accessible(page, 'somebody at the door');
  await page.getByRole('button', { name: 'Let in', exact: true }).click();
  await expect(phone.getByText('Your place is ready')).toBeVisible();
  await expect(page.getByText('would like to come in')).toBeHidden();

  await beside(page, 'More');
  const before = await page.getByRole('link', { name: 'Link for an assistant' }).getAttribute('href');
  const helper = await (await browser.newContext()).newPage();
  await helper.goto(before as string);
  await expect(helper.getByText('Nobody just now.')).toBeVisible();
  const link = page.getByRole('region', { name: 'Link for an assistant' });
  await link.getByRole('button', { name: 'Make a new link' }).click();
  await page.getByRole('tooltip').getByRole('button', { name: 'Make a new link' }).click();
  await expect(page.getByText('The link is new.')).toBeVisible();
  await expect(helper.getByText(/This link was taken back/)).toBeVisible();
});
