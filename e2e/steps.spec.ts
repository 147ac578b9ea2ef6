import { readFile } from 'node:fs/promises';
import { accessible, choose, expect, openDemo, saved, test, topic } from './fixtures.js';

const titles = '[data-testid="step-title"]';

test('the list by keys: marked, joined, moved, doubled, split, taken away, and all of it undone', async ({ signedIn: page }) => {
  await openDemo(page);
  const rows = page.locator(titles);
  await expect(rows).toHaveCount(18);
  const line = (n: number) => page.getByTestId('step-line').nth(n);
  await line(4).focus();
  await page.keyboard.press('Shift+ArrowDown');
  await expect(page.getByRole('toolbar', { name: '2 steps marked' })).toBeVisible();
  await page.keyboard.press('j');
  await expect(rows).toHaveCount(17);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(rows).toHaveCount(18);
  await line(5).focus();
  await page.keyboard.press('Alt+ArrowUp');
  await expect(rows.nth(4)).toHaveText('First light on the terraces');
  await expect(line(4)).toBeFocused();
  await page.keyboard.press('d');
  await expect(rows).toHaveCount(19);
  await page.keyboard.press('s');
  await expect(rows).toHaveCount(20);
  await expect(rows.nth(5)).toHaveText('First light on the terraces, 2');
  await page.keyboard.press('Delete');
  await expect(rows).toHaveCount(19);
  for (let i = 0; i < 4; i++) await page.getByRole('button', { name: 'Undo' }).click();
  await expect(rows.nth(4)).toHaveText('Far ridge, laid flat');
  // Several with the pointer, and one dragged by its grip.
  await line(2).click({ modifiers: ['Control'] });
  await line(3).click({ modifiers: ['Control'] });
  await page.getByRole('toolbar').getByRole('button', { name: 'Later' }).click();
  await expect(rows.nth(2)).toHaveText('Far ridge, laid flat');
  await page.getByRole('toolbar').getByRole('button', { name: 'Mark none' }).click();
  await page.keyboard.press('Control+z');
  const grip = page.locator('[data-step="s5"] [data-testid="step-grip"]');
  const from = await grip.boundingBox();
  const to = await page.locator('[data-step="s4"] [data-testid="step-grip"]').boundingBox();
  if (!from || !to) throw new Error('no grip');
  await page.mouse.move(from.x + 12, from.y + 12);
  await page.mouse.down();
  await page.mouse.move(from.x + 12, from.y - 20, { steps: 4 });
  await page.mouse.move(to.x + 12, to.y + 6, { steps: 6 });
  await page.mouse.up();
  await expect(rows.nth(3)).toHaveText('Far ridge, laid flat');
  await saved(page);
});

test('words with bold and a list; pasted tags stay words; found again by what is said', { tag: '@soak' }, async ({
  signedIn: page,
}) => {
  await openDemo(page);
  await page.getByTestId('step-line').nth(4).click();
  const say = page.getByRole('textbox', { name: 'What to say' });
  await say.click();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('- Press lightly');
  await page.keyboard.press('Enter');
  await page.keyboard.type('<img src=x onerror=alert(1)> marmalade');
  await expect(say.getByRole('listitem')).toHaveText(['Press lightly', '<img src=x onerror=alert(1)> marmalade']);
  const list = page.getByRole('button', { name: 'List: What to say' });
  await list.click();
  await expect(say.getByRole('listitem')).toHaveCount(0);
  await page.keyboard.press('Control+a');
  await list.click();
  await expect(say.getByRole('listitem')).toHaveCount(2);
  await say.getByText('Press lightly').click();
  await page.keyboard.press('Home');
  for (let i = 0; i < 'Press '.length; i++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+End');
  await expect.poll(() => page.evaluate(() => String(getSelection()))).toBe('lightly');
  await page.keyboard.press('Control+b');
  await expect(say.locator('strong')).toHaveText('lightly');
  await page.keyboard.press('Control+i');
  await expect(say.locator('em')).toHaveCount(0);
  await say.blur();
  await saved(page);
  await page.getByRole('link', { name: 'Read through' }).click();
  const shown = page.getByTestId('read-step').nth(4);
  await expect(shown.locator('li')).toHaveCount(2);
  await expect(shown.locator('li b')).toHaveText('lightly');
  await expect(shown.locator('li img')).toHaveCount(0);
  await expect(shown).toContainText('<img src=x onerror=alert(1)>');
  await page.getByRole('link', { name: 'Back to the bench' }).click();
  await page.getByTestId('step-line').first().waitFor();
  await page.keyboard.press('/');
  await page.getByLabel('Words to look for').fill('marmalade');
  await expect(page.locator('[data-testid="find-list"] li')).toHaveCount(1);
  await accessible(page, 'find');
  await page.getByLabel('Words to look for').fill('ultramarine');
  await page.locator('[data-testid="find-list"] button', { hasText: 'tube' }).first().click();
  await page.waitForURL(/paints$/);
});

test('steps are kept under a name, and brought into the lesson again; so are those of another lesson', { tag: '@soak' }, async ({
  signedIn: page,
}) => {
  await openDemo(page);
  const rows = page.locator(titles);
  await page
    .getByTestId('step-line')
    .nth(15)
    .click({ modifiers: ['Control'] });
  await page
    .getByTestId('step-line')
    .nth(16)
    .click({ modifiers: ['Control'] });
  await page.getByRole('button', { name: 'Keep for other lessons' }).click();
  await page.getByLabel('Kept under the name').fill('my last touches');
  await page.getByRole('toolbar').locator('form').getByRole('button').click();
  await expect(page.getByText('“my last touches” is kept.')).toBeVisible();
  await page.getByRole('button', { name: 'Bring steps' }).click();
  await accessible(page, 'bring steps');
  await page.getByLabel('Look for words').fill('rim lights');
  await page
    .getByTestId('bring-list')
    .getByLabel(/Rim lights/)
    .first()
    .check();
  await page.getByLabel('Look for words').fill('glints');
  await page
    .getByTestId('bring-list')
    .getByLabel(/Glints on copper/)
    .check();
  await page.getByRole('button', { name: 'Put 2 steps in' }).click();
  await expect(rows).toHaveCount(20);
  await expect(rows.filter({ hasText: 'Glints on copper' })).toHaveCount(1);
  await saved(page);
});

test('marks: added, laid in a step of their own, counted on the sheet; the practice sheet is a PDF', async ({
  signedIn: page,
}) => {
  await openDemo(page);
  await topic(page, 'Marks');
  await page.getByRole('button', { name: 'New marks' }).click();
  const card = page.getByTestId('mark-card');
  await choose(card.getByLabel('Where'), 'terraces');
  await card.getByLabel(/^How many/).fill('40');
  await page.keyboard.press('Enter');
  await expect(card).toContainText('3 min');
  await expect(
    page.locator('[data-testid="beside"] [data-testid="finding"]', { hasText: 'No step lays these marks.' }),
  ).toBeVisible();
  await card.getByRole('button', { name: 'A step for them' }).click();
  await expect(
    page.locator('[data-testid="beside"] [data-testid="finding"]', { hasText: 'No step lays these marks.' }),
  ).toHaveCount(0);
  await card.getByLabel(/^How many/).fill('-3');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('2 000 marks');
  await accessible(page, 'marks');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Make the practice sheet' }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('Balloons over the terraces, practice sheet.pdf');
  expect((await readFile(await download.path())).subarray(0, 5).toString()).toBe('%PDF-');
});

test('values, brushes and canvases ahead, repair and variants say what they compute', { tag: '@soak' }, async ({
  signedIn: page,
}) => {
  await openDemo(page);
  await topic(page, 'Values');
  await expect(page.locator('[data-testid="values-table"] tbody tr')).toHaveCount(10);
  await expect(page.locator('[data-testid="values-table"] tbody tr').first()).toContainText('3. Sky, blended');
  await accessible(page, 'values');
  await topic(page, 'Brushes and canvases');
  await expect(page.getByRole('region', { name: 'Brushes', exact: true })).toContainText('2 in flat');
  const ahead = page.getByRole('region', { name: 'Canvases prepared ahead' });
  await expect(ahead).toContainText('a demonstration never waits');
  await ahead.getByRole('button', { name: 'Put it on the list' }).first().click();
  await expect(ahead.getByRole('button', { name: 'Take off the list' })).toHaveCount(1);
  await accessible(page, 'preparing');
  // The light after the sky: it can still be lifted.
  await page.getByTestId('bench-time').click();
  for (let i = 0; i < 3; i++) await page.keyboard.press('Shift+ArrowRight');
  await topic(page, 'Mending');
  await choose(page.getByLabel('Where'), 'sky');
  await choose(page.getByLabel('What is wrong'), 'the edge to far ridge is too hard');
  await expect(page.getByTestId('repair-ways')).toContainText('Soften the edge');
  await accessible(page, 'repair');
  const before = await page.getByTestId('bench-time').innerText();
  await page
    .locator('[data-testid="repair-ways"] li', { hasText: 'Soften the edge' })
    .getByRole('button', { name: 'Put it into the steps' })
    .click();
  await expect(page.getByTestId('bench-time')).not.toHaveText(before);
  await page.getByRole('button', { name: 'Undo' }).click();
  await topic(page, 'For others');
  await page.getByRole('button', { name: 'New variant' }).click();
  const card = page.getByTestId('variant-card');
  await choose(card.getByLabel('Canvas'), '8 × 10 in');
  await expect(card).toContainText('On a canvas of 8 × 10 in.');
  await card.getByLabel('for children').check();
  await expect(card).toContainText('only materials labelled for them');
  await expect(card).toContainText(/burnt umber/);
  await accessible(page, 'for others');
  await page.getByRole('region', { name: 'Simpler for beginners' }).getByRole('button', { name: 'much' }).click();
  await expect(page.getByText(/areas, \d+ mixes? and \d+ steps fewer/)).toBeVisible();
  await expect(page.getByText(/the picture is .* instead of/)).toBeVisible({ timeout: 60_000 });
  await saved(page);
});

test('the whole lesson as a page to read the evening before', async ({ signedIn: page }) => {
  await openDemo(page);
  await page.getByRole('link', { name: 'Read through' }).click();
  await expect(page.getByRole('heading', { name: 'Balloons over the terraces' })).toBeVisible();
  await expect(page.getByTestId('read-step')).toHaveCount(18);
  await expect(page.getByTestId('read-pause').first()).toContainText('Pause, 5 min');
  await expect(page.getByText('Keep to the labels and safety sheets')).toBeVisible();
  await accessible(page, 'read-through');
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('button', { name: 'Print' })).toBeHidden();
  await page.emulateMedia({ media: 'screen' });
  await page.getByRole('link', { name: 'Back to the bench' }).click();
  await page.waitForURL(/\/steps(\/\w+)?$/);
});
