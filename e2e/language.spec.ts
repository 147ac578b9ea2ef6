import { accessible, expect, saved, test } from './fixtures.js';

test.use({ locale: 'de-DE' });

test('who reads German finds all of it in German, gives a class in German, and says a lesson in either language', async ({
  page,
  browser,
  server,
}) => {
  await test.step('a browser that asks for German is answered in it', async () => {
    await page.addInitScript(() => localStorage.setItem('viaticum-tour-seen', 'true'));
    await page.goto(`${server.url}/sign-in`);
    await expect(page.getByRole('heading', { name: 'Komm herein' })).toBeVisible();
    await page.getByLabel('Name').fill(server.name);
    await page.getByLabel('Passwort').fill('not the password');
    await page.getByRole('button', { name: 'Anmelden' }).click();
    await expect(page.getByRole('alert')).toHaveText(
      'Name und Passwort passen nicht zusammen. Sieh beide an und versuch es noch einmal.',
    );
    await accessible(page, 'the door in German');
  });

  await page.getByLabel('Passwort').fill('north light');
  await page.getByRole('button', { name: 'Anmelden' }).click();
  await expect(page.getByRole('heading', { name: 'Dein Regal' })).toBeVisible();
  expect(await page.locator('html').getAttribute('lang')).toBe('de');

  await test.step('every station says its own in German', async () => {
    await page.getByRole('link', { name: 'Balloons over the terraces öffnen' }).click();
    await page.waitForURL(/\/steps$/);
    await page.goto(`${page.url()}/draft`);
    const rail = page.getByTestId('rail');
    for (const name of ['Bild', 'Farben', 'Schritte', 'Vorzeichnung', 'Material', 'Kurs', 'Film'])
      await expect(rail.getByText(name, { exact: true })).toBeVisible();
    await page.getByRole('button', { name: /^Den Raum ändern: / }).click();
    await expect(page.getByRole('dialog').getByText('Luftfeuchte, %')).toBeVisible();
    await page.keyboard.press('Escape');
  });

  await test.step('the words of a lesson are turned into German at one stroke, and back', async () => {
    const tongue = page.getByRole('combobox', { name: 'Sprache ihrer Worte' });
    await expect(tongue).toBeVisible();
    await tongue.click();
    await page.getByTitle('Deutsch').last().click();
    await saved(page);
    await page.goto(`${page.url().replace(/\/steps.*/, '')}/read`);
    await expect(page.getByText('Von der Tür aus: wo ist die dunkelste Stelle?')).toBeVisible();
    // What the instructor wrote stays as it is.
    await expect(page.getByText(/^Cover every bit of the white with the warm ground\./)).toBeVisible();
    await page.goBack();
    await page.getByRole('button', { name: 'Rückgängig' }).click();
    await saved(page);
  });

  await test.step('a class is given in the language that is chosen for it, whatever the phone’s is', async () => {
    await page.goto(`${page.url().replace(/\/steps.*/, '')}/class/teach`);
    await page.getByRole('button', { name: 'Einen Kurs öffnen' }).click();
    const spoken = page.getByRole('radiogroup', { name: 'Telefone, Wand und Briefe auf' });
    await expect(spoken.getByRole('radio', { name: 'English' })).toBeChecked();
    await spoken.getByText('Deutsch').click();
    await expect(spoken.getByRole('radio', { name: 'Deutsch' })).toBeChecked();
    const code = (await page.getByTestId('class-code').first().textContent())?.trim() ?? '';
    const phone = await (await browser.newContext({ locale: 'en-GB', viewport: { width: 360, height: 640 } })).newPage();
    await phone.goto(`${server.url}/join/${code}`);
    await expect(phone.getByRole('heading', { name: 'Dein Vorname' })).toBeVisible();
    await phone.getByRole('textbox', { name: 'Dein Vorname' }).fill('Mara');
    await phone.getByRole('button', { name: 'Beitreten' }).click();
    await expect(phone.getByRole('heading', { name: 'Dein Platz ist bereit' })).toBeVisible();
    await accessible(phone, 'a phone in German');
    // Another of the same name is told in German why not.
    const other = await (await browser.newContext({ locale: 'en-GB' })).newPage();
    await other.goto(`${server.url}/join/${code}`);
    await other.getByRole('textbox', { name: 'Dein Vorname' }).fill('Mara');
    await other.getByRole('button', { name: 'Beitreten' }).click();
    await expect(other.getByRole('alert')).toHaveText('Es gibt schon Mara. Füg den ersten Buchstaben deines Nachnamens hinzu.');
    // Who reads English better says so on their phone.
    await page.goto(`${server.url}/desk/${code}`);
    await page.getByRole('button', { name: /^Beginnen: / }).click();
    await expect(phone.getByRole('button', { name: 'Fertig' })).toBeVisible();
    await phone.getByRole('button', { name: 'Dieses Telefon' }).click();
    await phone.getByText('English').click();
    await expect(phone.getByRole('button', { name: 'Done' })).toBeVisible();
    await page.getByRole('button', { name: /^Den Kurs beenden/ }).click();
    await page.getByRole('button', { name: 'Für alle beenden' }).click();
  });

  await test.step('who chooses English for themselves reads English everywhere, in any browser', async () => {
    await page.goto(`${server.url}/account`);
    await page.getByRole('radiogroup', { name: 'Sprache' }).getByText('English').click();
    await expect(page.getByRole('heading', { name: 'Language and measures' })).toBeVisible();
    await page.goto(`${server.url}/`);
    await expect(page.getByRole('heading', { name: 'Your shelf' })).toBeVisible();
    await page.goto(`${server.url}/account`);
    await page.getByRole('radiogroup', { name: 'Language' }).getByText('Deutsch').click();
    await expect(page.getByRole('heading', { name: 'Sprache und Maße' })).toBeVisible();
  });
});
