import { accessible, choose, expect, joinPhone, openClass, openDemo, saved, season, test, total } from './fixtures.js';

test('a wait says what it is for; painting on ends the lesson when it said, stays listed, and is taken back', {
  tag: '@soak',
}, async ({ signedIn: page }) => {
  await openDemo(page);
  await expect(total(page)).toHaveText('2 h 25');
  const choose = () => page.getByTestId('step-title').filter({ hasText: 'First light on the terraces' }).click();
  await choose();
  const touches = page.getByTestId('touches');
  await expect(touches.getByRole('heading', { name: 'Let the terraces dry 6 min' })).toBeVisible();
  await expect(touches).toContainText(
    'The terraces take 19 min from when they are laid to be dry enough to paint over. Going on now, the field straw would take up some of the field green and turn',
  );
  // Every way past it says when the lesson would end.
  const anyway = touches.locator('[data-way="waive"]');
  await expect(anyway).toContainText('ends 2 h 19', { timeout: 30_000 });
  await expect(touches.locator('[data-way="other-first"]')).toContainText('First “Near ridge, a step darker” ends 2 h 22');
  await accessible(page, 'what a step touches');
  await anyway.getByRole('button', { name: 'Paint on anyway' }).click();
  await expect(total(page)).toHaveText('2 h 19');
  await expect(page.getByTestId('waived')).toContainText('You paint on over or beside the wet terraces');
  await saved(page);
  await page.reload();
  await choose();
  await expect(page.getByTestId('waived')).toContainText('terraces');
  await page.getByTestId('waived').getByRole('button', { name: 'Take it back' }).click();
  await expect(total(page)).toHaveText('2 h 25');
  // Dark beside pale: nobody waits, and it is said why.
  await page.getByTestId('step-title').filter({ hasText: 'Near ridge, a step darker' }).click();
  await touches.getByText(/Why no wait\?/).click();
  await expect(touches).toContainText('no harm');
  await saved(page);
});

test('borders that the chosen step touches are drawn on the canvas; two steps become one wet passage and are parted again', {
  tag: '@soak',
}, async ({ signedIn: page }) => {
  await openDemo(page);
  await season(page, 'autumn, damp');
  const titled = (title: string) => page.getByTestId('step-title').filter({ hasText: new RegExp(`^${title}$`) });
  await titled('Cream stripes').click();
  await expect(page.locator('[data-testid="canvas-map"] [data-asks="wait"]').first()).toBeVisible();
  await titled('Far ridge, laid flat').click({ modifiers: ['Control'] });
  await titled('Near ridge, a step darker').click({ modifiers: ['Control'] });
  await page.getByRole('toolbar').getByRole('button', { name: 'One wet passage' }).click();
  await titled('Ridge: one wet passage').click();
  const passage = page.getByTestId('passage');
  await expect(passage.locator('li')).toHaveCount(2);
  await accessible(page, 'a wet passage');
  await passage.getByRole('button', { name: 'Paint its areas one by one' }).click();
  await expect(titled('Far ridge')).toHaveCount(1);
  await expect(titled('Near ridge')).toHaveCount(1);
  await saved(page);
});

test('more coats are steps of their own; a colour of a passage is put where it lies; what is done at home costs the class nothing', {
  tag: '@soak',
}, async ({ signedIn: page }) => {
  await openDemo(page);
  const titled = (title: string) => page.getByTestId('step-title').filter({ hasText: new RegExp(`^${title}$`) });
  await titled('Far ridge, laid flat').click();
  const coats = page.getByLabel('Coats');
  await coats.fill('2');
  await coats.press('Enter');
  await titled('Far ridge, laid flat, second coat').click();
  await expect(page.getByTestId('step-form')).toContainText('A further coat of “Far ridge, laid flat”');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(titled('Far ridge, laid flat, second coat')).toHaveCount(0);
  // The ground is laid at home: nobody waits for it.
  const before = await total(page).innerText();
  await titled('Tone the whole canvas').click();
  await page.getByRole('checkbox', { name: 'done at home, before the class' }).check();
  await expect(total(page)).not.toHaveText(before);
  await expect(page.locator('[data-testid="step-row"]').first()).toContainText('done at home, before the class');
  await expect(page.getByTestId('length-strip')).toContainText('of 2 h 30 asked for');
  // Two steps as one field, the second colour in its corners.
  await titled('Far ridge, laid flat').click({ modifiers: ['Control'] });
  await titled('Near ridge, a step darker').click({ modifiers: ['Control'] });
  await page.getByRole('toolbar').getByRole('button', { name: 'One wet passage' }).click();
  await titled('Ridge: one wet passage').click();
  const places = page.getByTestId('passage').locator('li');
  await choose(places.nth(1).getByRole('combobox'), 'in the corners');
  await choose(page.getByLabel('Order of laying'), 'corners first, the light into the middle');
  await saved(page);
  await page.reload();
  await titled('Ridge: one wet passage').click();
  await expect(places.nth(1)).toContainText('in the corners');
});

test('the desk can go on in a pause: what would happen is said, and the phones follow', async ({
  signedIn: page,
  browser,
  server,
}) => {
  await openDemo(page);
  const code = await openClass(page);
  const phone = await joinPhone(browser, server, code, 'Nour');
  for (const title of ['Tone the whole canvas', 'Let the whole canvas dry']) {
    await page.keyboard.press('ArrowRight');
    await expect(phone.getByRole('heading', { name: title })).toBeVisible();
  }
  const waiting = page.getByRole('region', { name: 'Why we wait' });
  await expect(waiting).toContainText('Going on now');
  await accessible(page, 'a pause on the desk');
  await waiting.getByRole('button', { name: 'Paint on anyway' }).click();
  await expect(waiting).toHaveCount(0);
  await expect(phone.getByRole('heading', { name: 'Trace the ridges and the balloons' })).toBeVisible();
});
