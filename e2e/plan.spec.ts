import type { Page } from '@playwright/test';
import { accessible, choose, expect, keepRoom, openDemo, openRoom, saved, season, test, topic, total } from './fixtures.js';

/** "3 h 30" or "41 min" as minutes. */
const minutesOf = (text: string): number => {
  const [, hours = '0', minutes = '0'] = /(?:(\d+) h )?(\d+)/.exec(text) ?? [];
  return Number(hours) * 60 + Number(minutes);
};
const totalMinutes = async (page: Page) => minutesOf(await total(page).innerText());
/** Drags a step's track in the section by so many pixels. */
const dragTrack = async (page: Page, stepId: string, px: number) => {
  const box = await page.locator(`[data-step="${stepId}"] rect`).first().boundingBox();
  if (!box) throw new Error('no such track');
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + px, y, { steps: 8 });
};
const strip = (page: Page, name: string) => page.locator(`[data-plan="${name}"]`);

test('three plans stand side by side; minutes are traded against changes; an order is taken and undone', async ({
  signedIn: page,
}) => {
  await openDemo(page);
  await expect(total(page)).toHaveText('2 h 25');
  // In spring there is a little more to wait for.
  await season(page, 'spring');
  await expect(total(page)).toHaveText('2 h 38');
  const titles = () => page.locator('[data-testid="step-row"] [data-testid="step-title"]').allInnerTexts();
  const before = await titles();
  await topic(page, 'Plans');
  await expect(strip(page, 'your order')).toContainText('2 h 38, 23 min waiting', { timeout: 60_000 });
  await expect(strip(page, 'least waiting')).toContainText('2 h 21, 6 min waiting');
  await expect(page.getByText('17 min shorter.')).toBeVisible();
  await expect(page.getByText('Proven: no order of these steps ends sooner.')).toBeVisible();
  const calm = minutesOf(await strip(page, 'calm').locator('.numbers').innerText());
  expect(calm).toBeGreaterThan(minutesOf('2 h 21') + 20);
  // Fewer changes, more minutes, one step of the slider at a time.
  const trade = page.getByLabel('Fewer changes to your order, or fewer minutes');
  const chosen = page.getByTestId('trade');
  await expect(chosen).toContainText('2 h 21');
  let last = minutesOf('2 h 21');
  for (let i = 0; i < 3; i++) {
    await trade.press('ArrowLeft');
    const now = minutesOf(await chosen.locator('b').innerText());
    expect(now).toBeGreaterThan(last);
    last = now;
  }
  await strip(page, 'least waiting').getByRole('button', { name: 'Take this order' }).click();
  await expect(total(page)).toHaveText('2 h 21');
  await topic(page, 'List');
  expect(await titles()).not.toEqual(before);
  await saved(page);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(total(page)).toHaveText('2 h 38');
  expect(await titles()).toEqual(before);
});

test('what sets the end, in words and on the section, and what each wait costs; with a limit of ten it says not proven, with the bound', async ({
  signedIn: page,
}) => {
  await openDemo(page);
  await expect(page.getByTestId('ribbon-chain')).toHaveCount(0);
  await page.getByTestId('ribbon').getByRole('button', { name: 'What sets the end' }).click();
  await expect(page.locator('[data-testid="ribbon-chain"] path')).toHaveCount(3);
  await topic(page, 'Plans');
  const chain = page.locator('[data-testid="chain"] li');
  await expect(chain).toHaveCount(17);
  await expect(chain.first()).toContainText('Tone the whole canvas');
  await expect(chain.last()).toContainText('Last look, then sign');
  await expect(chain.nth(4)).toContainText('First light on the terraces');
  await expect(chain.nth(4)).toContainText('waits 11 min after step 4 for the terraces to be dry enough to paint over');
  await expect(page.locator('[data-cost="wait"]').first()).toContainText('First light on the terraces waits for the terraces');
  await expect(page.locator('[data-cost="wait"]').first()).toContainText('costs 6 min');

  await season(page, 'autumn, damp');
  await topic(page, 'Plans');
  const limit = page.getByLabel('orders tried at most');
  await limit.fill('10');
  await limit.press('Enter');
  const said = page.getByText(/Not proven: no order can end before \d h \d\d\./);
  await expect(said).toBeVisible({ timeout: 60_000 });
  const bound = minutesOf(/before (\d h \d\d)/.exec(await said.innerText())?.[1] ?? '');
  expect(bound).toBeGreaterThan(100);
  expect(bound).toBeLessThanOrEqual(minutesOf(await strip(page, 'least waiting').locator('.numbers').innerText()));
});

test('a step dragged to a time is pinned there; its price is shown; it is let go by the keyboard', { tag: '@soak' }, async ({
  signedIn: page,
}) => {
  await openDemo(page);
  await expect(total(page)).toHaveText('2 h 25');
  await dragTrack(page, 's18', 60);
  // The section follows while it is dragged: the last look moves the end.
  await expect.poll(() => totalMinutes(page)).toBeGreaterThan(minutesOf('2 h 25'));
  const dragged = await totalMinutes(page);
  expect(dragged).toBeLessThan(minutesOf('3 h 00'));
  await page.mouse.up();
  await expect.poll(() => totalMinutes(page)).toBe(dragged);
  await expect(page.getByTestId('ribbon-nail')).toHaveCount(1);
  await topic(page, 'Plans');
  const cost = page.locator('[data-cost="pin"]');
  await expect(cost).toContainText('Last look, then sign is pinned');
  // Both ends are shown in whole minutes.
  const price = dragged - minutesOf('2 h 25');
  await expect(cost).toContainText(new RegExp(`costs (${price}|${price + 1}) min`));
  await topic(page, 'List');
  await page.getByRole('button', { name: 'a minute later' }).click();
  await expect.poll(() => totalMinutes(page)).toBe(dragged + 1);
  await saved(page);
  await page.locator('[data-testid="step-line"][aria-current="true"]').focus();
  await page.keyboard.press('p');
  await expect(total(page)).toHaveText('2 h 25');
  await expect(page.getByTestId('ribbon-nail')).toHaveCount(0);
});

test('a pin that contradicts the paint is said with the smallest set of reasons, and mended', { tag: '@soak' }, async ({
  signedIn: page,
}) => {
  await openDemo(page);
  await dragTrack(page, 's6', -40);
  await page.mouse.up();
  const finding = page.locator('[data-testid="beside"] [data-testid="finding"]', { hasText: 'is pinned to' });
  await expect(finding).toContainText(
    /Step 6 is pinned to 0:\d\d, and step 6 waits \d+\.\d+ min for the terraces of step 4; in this order step 6 cannot begin before 1:01\./,
  );
  await topic(page, 'Plans');
  const against = page.getByRole('region', { name: 'What cannot all be kept' });
  await expect(against.getByRole('button', { name: 'Let go of step 6' })).toBeVisible();
  await accessible(page, 'contradiction');
  await against.getByRole('button', { name: 'Pin step 6 to 1:01' }).click();
  await expect(against).toHaveCount(0);
  await expect(finding).toHaveCount(0);
  await expect(page.locator('[data-cost="pin"]')).toContainText('First light on the terraces is pinned (1:01)');
  await saved(page);
});

test('a hot dry day offers misting, and taking it keeps the sky open; a damp day gives another plan', { tag: '@soak' }, async ({
  signedIn: page,
}) => {
  await openDemo(page);
  await season(page, 'a hot dry day');
  await expect(total(page)).toHaveText('2 h 16');
  await topic(page, 'How it dries');
  await choose(page.getByLabel('Coat of the step'), '3. Sky, blended from the top to the horizon');
  await expect(page.getByText('Workable 3 min, the blend takes 5 min.')).toBeVisible();
  const mist = page.locator('[data-offer="mist"]');
  await expect(mist).toContainText('mist it every 1.5 min');
  await expect(mist).toContainText('enough');
  await expect(page.locator('[data-offer="gel"]')).toContainText('not enough');
  await expect(page.getByRole('region', { name: 'What makes this long?' }).locator('li').first()).toContainText(
    /coat −\d+ min, lesson −\d+ min/,
  );
  await expect(page.locator('.recharts-line')).toHaveCount(1);
  await accessible(page, 'how it dries');
  await mist.getByRole('button', { name: 'Do this' }).click();
  await expect(page.getByText(/Workable 6 min, the blend takes 5 min: there is time\./)).toBeVisible();
  await expect(page.locator('[data-testid="beside"] [data-testid="finding"]', { hasText: 'Blending takes' })).toHaveCount(0);

  // A damp day is another plan altogether.
  await season(page, 'autumn, damp');
  await expect.poll(() => totalMinutes(page)).toBeGreaterThan(minutesOf('4 h 30'));
  await topic(page, 'Plans');
  await expect(strip(page, 'least waiting')).toContainText('h', { timeout: 60_000 });
  const saving = minutesOf(await page.getByText(/shorter\./).innerText());
  expect(saving).toBeGreaterThan(minutesOf('50 min'));
});

test('what if: sliders move the section at once, the map names the minutes, the lesson stays as it was', {
  tag: '@soak',
}, async ({ signedIn: page }) => {
  await openDemo(page);
  await topic(page, 'What if');
  const map = page.getByRole('region', { name: 'Temperature and humidity' });
  await expect(map.getByRole('button', { name: '21 °C, 45 %: 2 h 25, today' })).toBeVisible({ timeout: 60_000 });
  await map.getByRole('button', { name: /^12 °C, 80 %: / }).click();
  const told = minutesOf(
    /80 %: (\d+ h \d\d)/.exec(
      (await map.getByRole('button', { name: /^12 °C, 80 %: / }).getAttribute('aria-label')) ?? '',
    )?.[1] ?? '',
  );
  expect(told).toBeGreaterThan(minutesOf('6 h 00'));
  await expect.poll(() => totalMinutes(page)).toBe(told);
  await expect(page.getByText('instead of 2 h 25')).toBeVisible();
  await page.getByRole('button', { name: 'Back to the room' }).click();
  await expect(total(page)).toHaveText('2 h 25');
  const damp = page.getByRole('slider', { name: 'Humidity' });
  await damp.press('ArrowRight');
  await expect.poll(() => totalMinutes(page)).toBeGreaterThan(minutesOf('2 h 25'));
  await page.getByLabel('experienced').check();
  await expect.poll(() => totalMinutes(page)).toBeLessThan(minutesOf('2 h 10'));
  await expect(page.locator('[data-save="saved"]')).toBeVisible();
  await expect(page.getByRole('button', { name: /Change the room: studio, 21 °C, 45 %/ })).toBeVisible();
  await expect(page.getByText(/^Begin at 15:\d\d: it takes 2 h 25 and ends at (17:5\d|18:00)\.$/)).toBeVisible();
  await accessible(page, 'what if');
});

test('a room is saved and taken; a climate log gives its hours and the best start; bad ones are refused in a sentence', {
  tag: '@soak',
}, async ({ signedIn: page }) => {
  await openDemo(page);
  const panel = await openRoom(page);
  const air = panel.getByRole('spinbutton', { name: 'Temperature, °C' });
  await panel.getByLabel('Name').fill('north hall');
  await air.fill('18');
  await panel.getByRole('button', { name: 'Save this room' }).click();
  await expect(panel.getByText('Saved.')).toBeVisible();
  await air.fill('25');
  await choose(panel.getByLabel('Saved rooms'), 'north hall, 18 °C, 45 %');
  await expect(air).toHaveValue('18');
  const log = (text: string) =>
    panel.locator('input[type=file]').setInputFiles({ name: 'log.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  await log('a letter\nto a friend');
  await expect(panel.getByRole('alert')).toContainText('It needs three columns: time, °C and %.');
  await log('\uFEFFtime;temperature;humidity\n09:00;15,5;78\n10:00;17;70\n14:00;26;40\n15:00;x;40\n');
  await expect(panel.getByText('3 readings of 3 hours taken in.')).toBeVisible();
  await expect(panel.getByText(/1 line left out\. Line 5/)).toBeVisible();
  await expect(panel.getByText(/Nothing was read at 11:00, 12:00, 13:00/)).toBeVisible();
  await choose(panel.getByLabel('Take the air of'), '14:00: 26 °C, 40 %');
  await expect(air).toHaveValue('26');
  await panel.getByRole('spinbutton', { name: 'Humidity, %' }).fill('140');
  await expect(panel.getByRole('alert').filter({ hasText: 'between 0 and 100 %' })).toBeVisible();
  await expect(page.getByRole('alert')).toHaveCount(1);
  await accessible(page, 'room');
  await keepRoom(panel);
  await expect(page.getByRole('alert')).toHaveCount(0);
  await topic(page, 'What if');
  await expect(page.locator('[data-testid="by-hour"] li').first()).toContainText('06:00', { timeout: 60_000 });
  await expect(page.getByText(/^Begin at \d\d:\d\d: it takes \d h \d\d and ends at 1[78]:\d\d\.$/)).toBeVisible();
});

test('the section is looked at from near and far, folded, as a table, and printed', async ({ signedIn: page }) => {
  await openDemo(page);
  const ribbon = page.getByTestId('ribbon');
  const ticks = () => ribbon.getByTestId('ribbon-tick').allTextContents();
  await expect.poll(async () => (await ticks()).at(-1)).toBe('2:15');
  await page.keyboard.press('+');
  await page.keyboard.press('+');
  await expect.poll(async () => (await ticks()).at(-1)).toBe('0:35');
  await ribbon.getByRole('button', { name: 'Whole' }).click();
  for (let i = 0; i < 3; i++) await ribbon.getByRole('button', { name: 'Farther' }).click();
  await expect.poll(async () => (await ticks()).at(-1)).toBe('3 d');
  await expect(ribbon.getByRole('button', { name: 'Farther' })).toBeDisabled();
  await ribbon.getByRole('button', { name: 'Whole' }).click();
  await ribbon.getByRole('button', { name: 'As a table' }).click();
  await expect(ribbon.locator('[data-testid="ribbon-table"] tbody tr').nth(1)).toContainText('Let the whole canvas dry');
  await ribbon.getByRole('button', { name: 'As a table' }).click();
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByTestId('beside')).toBeHidden();
  await expect(ribbon.getByTestId('ribbon-section')).toBeVisible();
  await expect(ribbon.getByTestId('ribbon-table')).toBeVisible();
});
