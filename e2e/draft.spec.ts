import { accessible, choose, expect, openDemo, saved, test, topic } from './fixtures.js';

test('a lesson drafted by another school: compared, taken one difference at a time, taken whole, made shorter, brought back, and undone', {
  tag: '@soak',
}, async ({ signedIn: page }) => {
  await openDemo(page);
  await topic(page, 'Draft');
  const draft = page.getByRole('region', { name: 'The draft' });
  await expect(draft).toContainText(/\d+ steps, \d+ mixes, \d h \d\d/);
  await expect(draft.locator('li').first()).toContainText('Opening: the picture and the palette');
  await expect(draft.locator('li').nth(1)).toContainText('Trace the drawing');
  await expect(draft.locator('li').nth(1)).toContainText('A tracing gives beginners accuracy.');
  await choose(page.getByLabel('Order', { exact: true }), 'part by part, each finished');
  await expect(draft.getByRole('heading', { name: 'Sky', exact: true })).toBeVisible();
  await expect(draft).toContainText('Full attention on one thing at a time.');
  await accessible(page, 'draft');
  const others = page.getByRole('region', { name: 'Other orders beside it' });
  await expect(others.locator('li')).toHaveCount(3);
  // One difference is taken; there is one less.
  const differences = page.locator('[data-testid="draft"] section').nth(2);
  const count = async () => Number(/(\d+) differences/.exec(await differences.innerText())?.[1] ?? 0);
  const before = await count();
  expect(before).toBeGreaterThan(5);
  await differences.locator('li').first().getByRole('button', { name: 'Take' }).click();
  await expect.poll(count).toBeLessThan(before);
  await draft.getByRole('button', { name: 'Replace all steps by the draft' }).click();
  await expect(page.getByText('The steps are as the draft would have them.')).toBeVisible();
  await saved(page);
  await topic(page, 'List');
  await expect(page.getByTestId('stage-name').first()).toHaveValue('Ground and drawing');
  // Another length: what goes is said before it goes, stays beside the lesson, and comes back.
  const strip = page.getByTestId('length-strip');
  await strip.getByRole('button', { name: /Another length|left out/ }).click();
  const slider = strip.getByRole('slider', { name: 'The lesson is to last' });
  await slider.focus();
  await page.keyboard.press('End');
  const make = strip.getByRole('button', { name: /^Make it / });
  const out = strip.getByTestId('left-out').locator('li');
  if ((await out.count()) > 0) {
    await expect(strip.locator('li', { hasText: 'Comes back:' }).first()).toBeVisible();
    await make.click();
    await expect(out).toHaveCount(0);
  }
  await slider.focus();
  await page.keyboard.press('Home');
  const goes = strip.locator('li', { hasText: 'Goes:' });
  await expect(goes.first()).toBeVisible();
  await accessible(page, 'another length');
  const steps = page.getByTestId('step-line');
  const whole = await steps.count();
  const going = await goes.count();
  await make.click();
  await expect(steps).toHaveCount(whole - going);
  await expect(out).toHaveCount(going);
  await out
    .first()
    .getByRole('button', { name: /^Bring back/ })
    .click();
  await expect(out).toHaveCount(going - 1);
  await expect(steps).toHaveCount(whole - going + 1);
  await saved(page);
  const undo = page.getByRole('button', { name: 'Undo' });
  while (await undo.isEnabled()) await undo.click();
  await expect(page.getByTestId('step-title').nth(2)).toContainText('Sky, blended from the top');
});

test('stage pictures: one after every step that leaves something; the canvas shows them, and what was before while held', {
  tag: '@soak',
}, async ({ signedIn: page }) => {
  await openDemo(page);
  await topic(page, 'Stages');
  const pictures = page.locator('[data-testid="stage-strip"] img');
  await expect(pictures).toHaveCount(16, { timeout: 60_000 });
  await expect(page.getByText(/With half-closed eyes the last one is (close to|some way from) the picture/)).toBeVisible();
  await page.locator('[data-testid="stage-strip"] button', { hasText: 'Great balloon in red' }).click();
  const painted = page.locator('[data-testid="canvas-map"] image');
  await expect(painted).toHaveCount(1);
  const shown = await painted.getAttribute('href');
  expect(shown).toMatch(/^blob:/);
  await page.locator('[data-testid="canvas-map"] [data-scale]').hover();
  await page.mouse.down();
  await expect.poll(() => painted.getAttribute('href')).not.toBe(shown);
  await page.mouse.up();
  await expect.poll(() => painted.getAttribute('href')).toBe(shown);
  await accessible(page, 'stages');
});

test('an own method goes before the school, is kept under a name, and is there when a lesson is begun', { tag: '@soak' }, async ({
  signedIn: page,
}) => {
  await openDemo(page);
  await topic(page, 'Draft');
  const draft = page.getByRole('region', { name: 'The draft' });
  await page.getByRole('button', { name: 'Your own method' }).click();
  await page.getByLabel('Coats of an area at most').fill('1');
  await page.keyboard.press('Enter');
  await page.getByLabel('A break every, min').fill('25');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Your own method: my way' })).toBeVisible();
  const say = page.getByRole('textbox', { name: 'What you say with block-in' });
  await say.fill('Flat and done, as my teacher had it.');
  await say.blur();
  await page.getByLabel('Name of your method').fill('one coat only');
  await page.getByRole('button', { name: 'Keep this way' }).click();
  await expect(page.getByText('Kept.', { exact: true })).toBeVisible();
  await draft.getByRole('button', { name: 'Replace all steps by the draft' }).click();
  await topic(page, 'List');
  await page
    .locator('[data-testid="step-line"]', { hasText: 'far ridge' })
    .or(page.locator('[data-testid="step-line"]', { hasText: 'Far ridge' }))
    .first()
    .click();
  await expect(page.getByRole('textbox', { name: 'What to say' })).toHaveText(/Flat and done/);
  await saved(page);
  await page.getByRole('link', { name: 'Shelf' }).click();
  await page.getByRole('button', { name: 'New lesson' }).click();
  await page.getByRole('dialog').locator('input[type=file]').setInputFiles('packages/server/assets/demo/star.jpg');
  await page.getByLabel('School').click();
  await expect(page.locator('.ant-select-item-option', { hasText: 'Your own: one coat only' })).toBeVisible();
});
