import { accessible, expect, joinPhone, openClass, openDemo, test } from './fixtures.js';

test('the wall shows what all do now, follows the desk, names nobody, and is read from eight metres', async ({
  signedIn: page,
  browser,
  server,
}) => {
  await openDemo(page);
  const code = await openClass(page);
  const context = await browser.newContext({ viewport: { width: 1920, height: 1080 }, screen: { width: 1920, height: 1080 } });
  const wall = await context.newPage();
  await wall.goto(`${server.url}/wall/${code}`);
  await expect(wall.getByRole('heading', { name: 'Balloons over the terraces' })).toBeVisible();
  await expect(wall.getByText(code)).toBeVisible();
  const phone = await joinPhone(browser, server, code, 'Ottilie');
  await expect(wall.getByRole('list', { name: '1 easel' })).toBeVisible();
  await page.bringToFront();
  await page.keyboard.press('ArrowRight');
  await expect(wall.getByRole('heading', { name: 'Tone the whole canvas' })).toBeVisible();
  // About 70 px on a 55-inch screen.
  const size = await wall
    .locator('[data-testid="wall-now"] p')
    .first()
    .evaluate((thing) => Number.parseFloat(getComputedStyle(thing).fontSize));
  expect(size).toBeGreaterThan(62);
  expect(size).toBeLessThan(80);
  await phone.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(wall.locator('[data-testid="wall-easels"] [data-done]')).toHaveCount(1);
  expect(await wall.locator('body').innerText()).not.toContain('Ottilie');
  await accessible(wall, 'wall');
  await wall.getByText('This screen').click();
  await wall.getByLabel('Read from (metres)').fill('4');
  await expect
    .poll(() =>
      wall
        .locator('[data-testid="wall-now"] p')
        .first()
        .evaluate((thing) => Number.parseFloat(getComputedStyle(thing).fontSize)),
    )
    .toBeLessThan(size * 0.6);
  await server.kill();
  await expect(wall.getByText('The connection is lost. It mends itself.')).toBeVisible();
  await server.start();
  await expect(wall.getByText('The connection is lost. It mends itself.')).toBeHidden({ timeout: 20_000 });
});
