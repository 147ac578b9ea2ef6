import { readFile } from 'node:fs/promises';
import { accessible, expect, openDemo, test, topic } from './fixtures.js';

test('a class is planned with a roster, its date is saved for calendars, letters lie in the outbox, and it opens on its day', async ({
  signedIn: page,
  server,
  browser,
}) => {
  await openDemo(page, 'class');
  await topic(page, 'Invite');
  const invite = page.getByRole('region', { name: 'A date for it' });
  await invite.getByRole('button', { name: 'Save for calendars' }).click();
  await expect(invite.getByRole('alert')).toHaveText('Choose a day and a time first.');
  await invite.getByLabel('Begins').fill('5 Dec 2026 18:30');
  await page.keyboard.press('Enter');

  const csv = (text: string) =>
    invite.locator('input[type=file]').setInputFiles({ name: 'who.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  await csv('first name\n');
  await expect(invite.getByRole('alert')).toContainText('No names were found');
  await csv('surname;first name;phone\nA;Mara;1\nB;Kofi;2\nC;Ines;3\n');
  await expect(invite.getByLabel('First names')).toHaveValue('Mara\nKofi\nInes');
  await expect(invite.getByText('3 of 12 seats.')).toBeVisible();
  await invite.getByLabel('Seats').fill('2');
  await page.keyboard.press('Enter');
  await expect(invite.getByText('3 names for 2 seats: 1 too many.')).toBeVisible();
  const [roster] = await Promise.all([
    page.waitForEvent('download'),
    invite.getByRole('button', { name: 'Save as CSV' }).click(),
  ]);
  expect(await readFile(await roster.path(), 'utf8')).toBe('first name\r\nMara\r\nKofi\r\nInes');

  await invite.getByRole('button', { name: 'Plan this class' }).click();
  const planned = page.getByRole('region', { name: 'Planned' });
  const code = await planned.getByTestId('class-code').innerText();
  await expect(planned.getByAltText('QR code of the join address')).toBeVisible();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    invite.getByRole('button', { name: 'Save for calendars' }).click(),
  ]);
  const text = (await readFile(await file.path(), 'utf8')).replace(/\r\n /g, '');
  expect(text).toContain('BEGIN:VEVENT');
  expect(text).toContain('SUMMARY:Balloons over the terraces');
  expect(text).toContain('Brushes: 2 in flat');
  expect(text).toContain(`/join/${code}`);

  const outbox = page.getByRole('region', { name: 'Outbox (simulated)' });
  await outbox.getByRole('button', { name: 'Write to everybody' }).click();
  await expect(outbox.getByText('3 letters lie in the outbox.')).toBeVisible();
  await outbox.getByText('Mara: Balloons').click();
  await expect(outbox.getByText('Mara, you are expected on Saturday')).toBeVisible();
  await accessible(page, 'invite');

  // Who comes early waits, and goes on without a reload.
  const phone = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await phone.goto(`${server.url}/join/${code}`);
  await expect(phone.getByRole('heading', { name: 'The class is not open yet' })).toBeVisible();
  await planned.getByRole('button', { name: 'Open it now' }).click();
  await page.waitForURL(new RegExp(`/desk/${code}$`));
  // The list is offered; a name that is on it is tapped.
  await phone.getByRole('button', { name: 'Mara', exact: true }).click();
  await accessible(phone, 'who are you');
  await phone.getByRole('button', { name: 'Join' }).click();
  await expect(page.getByTestId('easel-name')).toHaveText('Mara');
});
