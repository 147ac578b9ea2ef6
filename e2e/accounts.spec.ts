import { type Page, test as plain } from '@playwright/test';
import { Secret, TOTP } from 'otpauth';
import {
  accessible,
  choose,
  expect,
  joinPhone,
  openClass,
  openDemo,
  openRoom,
  owner,
  saved,
  startServer,
  test,
} from './fixtures.js';

const enter = async (page: Page, name: string, password: string) => {
  await page.getByLabel('Name', { exact: true }).fill(name);
  await page.getByLabel('Password', { exact: true }).fill(password);
  await page.getByRole('button', { name: 'Sign in' }).click();
};

plain(
  'a studio of one’s own: the owner, one who is invited, a lost password, a second factor; the demo switched off',
  async ({ page, browser }) => {
    const { server, stop } = await startServer({ VIATICUM_OWNER: '', VIATICUM_OWNER_PASSWORD: '' });
    try {
      const goto = (path: string) => page.goto(`${server.url}${path}`);
      await goto('/');
      await expect(page.getByRole('heading', { name: 'Whose studio is this?' })).toBeVisible();
      await accessible(page, 'the owner');
      // The demo can be looked at without owning anything.
      await page.getByRole('button', { name: 'Look at the demo first' }).click();
      await enter(page, 'demo', 'north light');
      await expect(page.getByRole('link', { name: 'Open Balloons over the terraces' })).toBeVisible();
      await page.getByRole('button', { name: 'Sign out' }).click();

      await page.getByLabel('Name', { exact: true }).fill(owner.name);
      await page.getByLabel('Password', { exact: true }).fill('short');
      await page.getByRole('button', { name: 'Make it mine' }).click();
      await expect(page.getByRole('alert')).toContainText(/12|characters/i);
      await page.getByLabel('Password', { exact: true }).fill(owner.password);
      await page.getByRole('button', { name: 'Make it mine' }).click();
      await expect(page.getByText('Nothing stands here yet')).toBeVisible();

      await page.getByRole('link', { name: 'Account' }).click();
      await accessible(page, 'account');
      await page.getByRole('button', { name: 'Invite an instructor' }).click();
      const address = String(await page.getByText(/\/welcome\//).textContent());
      await page.keyboard.press('Escape');
      await expect(page.getByText('1 invitation is open')).toBeVisible();

      // Whom the owner gave it to, on a phone.
      const phone = await (await browser.newContext({ viewport: { width: 360, height: 640 } })).newPage();
      await phone.goto(`${server.url}${new URL(address).pathname}`);
      await accessible(phone, 'an invitation');
      await phone.getByLabel('Name', { exact: true }).fill(owner.name.toLowerCase());
      await phone.getByLabel('Password', { exact: true }).fill('pale violet haze');
      await phone.getByRole('button', { name: 'Come in' }).click();
      await expect(phone.getByRole('alert')).toContainText('Somebody here has this name already');
      await phone.getByLabel('Name', { exact: true }).fill('Bo');
      await phone.getByRole('button', { name: 'Come in' }).click();
      await expect(phone.getByText('Nothing stands here yet')).toBeVisible();
      await phone.getByRole('link', { name: 'Account' }).click();
      await expect(phone.getByRole('heading', { name: 'Bo' })).toBeVisible();
      await expect(phone.getByRole('heading', { name: 'Who works here' })).toHaveCount(0);
      expect(await phone.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(360);
      await phone.goto(`${server.url}${new URL(address).pathname}`);
      await expect(phone.getByRole('heading', { name: 'This link leads nowhere' })).toBeVisible();

      // Bo forgets the password on another machine; the owner finds the letter.
      const other = await (await browser.newContext()).newPage();
      await other.goto(`${server.url}/sign-in`);
      await other.getByRole('button', { name: 'Password forgotten?' }).click();
      await other.getByLabel('Name', { exact: true }).fill('Bo');
      await other.getByRole('button', { name: 'Ask for a link' }).click();
      await expect(other.getByText('lies in the outbox')).toBeVisible();
      await page.reload();
      const letter = page.getByRole('article').filter({ hasText: 'To Bo' });
      const [link] = /\/welcome\/[\w-]+/.exec(await letter.innerText()) ?? [];
      await other.goto(`${server.url}${link}`);
      await other.getByLabel('New password').fill('a quiet grey morning');
      await other.getByRole('button', { name: 'Set this password' }).click();
      await expect(other.getByText('Nothing stands here yet')).toBeVisible();
      // The phone, which came in with the former one, is out.
      await phone.goto(`${server.url}/account`);
      await expect(phone).toHaveURL(/sign-in/);

      // A second factor for the owner.
      await page.getByRole('button', { name: 'Turn on' }).click();
      await page.getByLabel('Present password').fill(owner.password);
      await page.getByRole('button', { name: 'Next' }).click();
      const shown = String(await page.getByText(/Or type this into it/).textContent());
      const secret = Secret.fromBase32(shown.replace(/^.*it: /, '').replaceAll(' ', ''));
      await page.getByLabel('Six digits').fill(new TOTP({ secret }).generate());
      await page.getByRole('dialog').getByRole('button', { name: 'Turn on' }).click();
      await expect(page.getByRole('heading', { name: 'Write these down' })).toBeVisible();
      const spare = await page.getByRole('dialog').getByRole('listitem').first().innerText();
      await page.getByRole('button', { name: 'I have written them down' }).click();
      await expect(page.getByText('On. 8 codes that you wrote down are left.')).toBeVisible();

      // The demo goes.
      await page.getByRole('button', { name: 'Switch off demo' }).click();
      await page.getByRole('tooltip').getByRole('button', { name: 'Switch off' }).click();
      await expect(page.getByRole('button', { name: 'Switch on demo' })).toBeVisible();

      await other.goto(`${server.url}/`);
      await other.getByRole('button', { name: 'Sign out' }).click();
      await enter(other, 'demo', 'north light');
      await expect(other.getByRole('alert')).toContainText('switched off');
      await enter(other, owner.name, owner.password);
      await expect(other.getByRole('heading', { name: 'One more thing' })).toBeVisible();
      await other.getByLabel(/^Six digits/).fill('000000');
      await other.getByRole('button', { name: 'Sign in' }).click();
      await expect(other.getByRole('alert')).toContainText('do not fit');
      await other.getByLabel(/^Six digits/).fill(spare);
      await other.getByRole('button', { name: 'Sign in' }).click();
      await other.getByRole('link', { name: 'Account' }).click();
      await expect(other.getByText('On. 7 codes that you wrote down are left.')).toBeVisible();

      // A new password signs out everywhere else.
      await other.getByRole('button', { name: 'Change password' }).click();
      await other.getByLabel('Present password').fill(owner.password);
      await other.getByLabel('New password').fill('turned to the north');
      await other.getByRole('dialog').getByRole('button', { name: 'Change password' }).click();
      await expect(other.getByText('Your password is changed')).toBeVisible();
      await goto('/account');
      await expect(page).toHaveURL(/sign-in/);
      await expect(page.getByRole('heading', { name: 'Come in' })).toBeVisible();
    } finally {
      await stop();
    }
  },
);

test('a lesson shared by a link: read by one, changed by two at once who see each other', { tag: '@soak' }, async ({
  signedIn: page,
  server,
  browser,
}) => {
  const title = 'Balloons over the terraces';
  const shareAs = async (role: string): Promise<string> => {
    await page.goto(`${server.url}/`);
    await page.getByRole('button', { name: `What to do with ${title}` }).click();
    await page.getByRole('menuitem', { name: 'Share' }).click();

    await choose(page.getByRole('combobox', { name: 'Who follows the link' }), role);
    await page.getByRole('button', { name: 'Make a link' }).click();
    const address = String(await page.getByText(/\/shared\//).textContent());
    await accessible(page, 'sharing');
    return new URL(address).pathname;
  };
  const comesIn = async (path: string, size = { width: 1280, height: 800 }) => {
    const one = await (await browser.newContext({ viewport: size })).newPage();
    await one.goto(`${server.url}${path}`);
    await one.getByLabel('Name', { exact: true }).fill(owner.name);
    await one.getByLabel('Password', { exact: true }).fill(owner.password);
    await one.getByRole('button', { name: 'Sign in' }).click();
    await expect(one.getByRole('heading', { name: `${server.name} shares “${title}” with you` })).toBeVisible();
    return one;
  };
  // To read, on a phone: nothing can be changed but by a copy.
  const reader = await comesIn(await shareAs('may read and teach it'), { width: 360, height: 640 });
  expect(await reader.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(360);
  await accessible(reader, 'a shared lesson');
  await reader.setViewportSize({ width: 1280, height: 800 });
  await reader.getByRole('button', { name: 'Put it on my shelf' }).click();
  await expect(reader.getByText(`shared with you by ${server.name} to read`)).toBeVisible();
  await reader.getByLabel('Name this lesson').fill('Mine now');
  await reader.keyboard.press('Enter');
  await expect(reader.getByText('Duplicate it to go on with a lesson of your own.')).toBeVisible();
  await reader.goto(`${server.url}/`);
  await expect(reader.getByText(`from ${server.name}, to read`)).toBeVisible();

  // To change: both see each other, and what one changes the other has within two seconds.
  const path = await shareAs('may change it');
  await reader.goto(`${server.url}${path}`);
  await reader.getByRole('button', { name: 'Put it on my shelf' }).click();
  await page.keyboard.press('Escape');
  await openDemo(page);
  await expect(page.getByTestId('around')).toHaveText(`${owner.name} is here too, at Steps`);
  await expect(reader.getByTestId('around')).toHaveText(`${server.name} is here too, at Steps`);
  await page.getByLabel('Name this lesson').fill('Balloons, by two');
  await page.keyboard.press('Enter');
  await saved(page);
  await expect(reader.getByLabel('Name this lesson')).toHaveValue('Balloons, by two', { timeout: 2000 });
  await expect(reader.getByText(`${server.name} changed: called “Balloons, by two”`)).toBeVisible();
  await reader.getByRole('link', { name: /^Paints/ }).click();
  await expect(page.getByTestId('around')).toHaveText(`${owner.name} is here too, at Paints`);

  // Shared no more, it is gone from the other's shelf.
  await page.goto(`${server.url}/`);
  await page.getByRole('button', { name: 'What to do with Balloons, by two' }).click();
  await page.getByRole('menuitem', { name: 'Share' }).click();
  await page.getByRole('button', { name: `Share no more with ${owner.name}` }).click();
  await page.getByRole('tooltip').getByRole('button', { name: 'Share no more' }).click();
  await expect(page.getByText('Shared with nobody yet.')).toBeVisible();
  await reader.goto(`${server.url}/`);
  await expect(reader.getByRole('link', { name: 'Open Balloons, by two' })).toHaveCount(0);
});

test('Fahrenheit, fluid ounces and a clock of twelve hours: on the bench, in the kit, and on the phones of a class', {
  tag: '@soak',
}, async ({ signedIn: page, server, browser }) => {
  await page.goto(`${server.url}/account`);
  for (const choice of ['°F', 'fl oz', '2:05 pm']) {
    // The page is read anew in each.
    await Promise.all([page.waitForEvent('load'), page.getByText(choice, { exact: true }).click()]);
    await expect(page.getByRole('radio', { name: choice })).toBeChecked();
  }
  await accessible(page, 'how one measures');
  await page.goto(`${server.url}/`);
  await openDemo(page, 'kit');
  await expect(page.getByText(/\d fl oz/).first()).toBeVisible();
  const room = await openRoom(page);
  const degrees = room.getByRole('spinbutton', { name: 'Temperature, °F' });
  await degrees.fill('68');
  await page.keyboard.press('Enter');
  await room.getByRole('button', { name: 'Keep this room' }).click();
  await expect(page.getByRole('button', { name: /^Change the room: .*68 °F/ })).toBeVisible();
  await saved(page);
  const code = await openClass(page);
  await expect(page.getByText(/\d:\d\d (am|pm)/).first()).toBeVisible();
  await expect(page.getByText(/68 °F/).first()).toBeVisible();
  const phone = await joinPhone(browser, server, code, 'Mara');
  await page.getByRole('button', { name: 'End the class' }).click();
  await page.getByRole('button', { name: 'End it for everyone' }).click();
  await expect(phone.getByText(/\d:\d\d (am|pm)/)).toBeVisible();
});
