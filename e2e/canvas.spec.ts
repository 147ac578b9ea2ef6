import type { Locator, Page } from '@playwright/test';
import { accessible, expect, goTo, openDemo, test, topic } from './fixtures.js';

/** Two fingers on the middle of what is shown, drawn apart to `ratio` times their distance. */
async function spread(page: Page, on: Locator, ratio: number): Promise<void> {
  const box = await on.boundingBox();
  if (!box) throw new Error('nothing to put two fingers on');
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  const touch = await page.context().newCDPSession(page);
  const at = (apart: number) => [
    { x: x - apart / 2, y, id: 1 },
    { x: x + apart / 2, y, id: 2 },
  ];
  const [first, second] = at(60);
  await touch.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: [first as { x: number; y: number }] });
  await touch.send('Input.dispatchTouchEvent', {
    type: 'touchStart',
    touchPoints: [first, second] as { x: number; y: number }[],
  });
  for (let i = 1; i <= 6; i++)
    await touch.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: at(60 * (1 + ((ratio - 1) * i) / 6)) });
  await touch.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
}
const viewBox = async (page: Page) =>
  ((await page.getByTestId('easel-view').getAttribute('viewBox')) ?? '').split(' ').map(Number) as [
    number,
    number,
    number,
    number,
  ];

test('nearer and farther on the easel: by wheel, by keys; what lies under the pointer stays there', async ({
  signedIn: page,
}) => {
  await openDemo(page);
  await goTo(page, 'Picture');
  const easel = page.getByTestId('easel-view');
  await expect(easel).toBeVisible();
  const all = await viewBox(page);
  const box = await easel.boundingBox();
  if (!box) throw new Error('no easel');
  // The place under the pointer in canvas mm, by the drawing's own measure.
  const under = (x: number, y: number) =>
    easel.evaluate(
      (svg: SVGSVGElement, [px, py]) => {
        const { x: mmX, y: mmY } = new DOMPoint(px, py).matrixTransform(svg.getScreenCTM()?.inverse());
        return [mmX, mmY] as [number, number];
      },
      [x, y] as const,
    );
  const [x, y] = [box.x + box.width * 0.45, box.y + box.height * 0.4];
  const before = await under(x, y);
  await page.mouse.move(x, y);
  await page.keyboard.down('Control');
  for (let i = 0; i < 4; i++) await page.mouse.wheel(0, -60);
  await page.keyboard.up('Control');
  await expect.poll(async () => (await viewBox(page))[2]).toBeLessThan(all[2] / 1.5);
  const after = await under(x, y);
  expect(Math.hypot(after[0] - before[0], after[1] - before[1])).toBeLessThan(1);
  // Near, the wheel alone moves about.
  const [, top] = await viewBox(page);
  await page.mouse.wheel(0, 60);
  await expect.poll(async () => (await viewBox(page))[1]).toBeGreaterThan(top);
  await accessible(page, 'nearer on the easel');
  await page.getByRole('button', { name: 'Whole', exact: true }).click();
  expect(await viewBox(page)).toEqual(all);
  await page.getByRole('button', { name: 'Nearer' }).press('Enter');
  expect((await viewBox(page))[2]).toBeCloseTo(all[2] / 1.5, 3);
  await page.getByRole('button', { name: 'Farther' }).press('Enter');
  expect(await viewBox(page)).toEqual(all);
});

test.describe('with fingers', () => {
  test.use({ hasTouch: true });
  test('two bring the canvas nearer and draw nothing; in the crop they make the picture larger', async ({ signedIn: page }) => {
    await openDemo(page);
    await goTo(page, 'Picture');
    const easel = page.getByTestId('easel-view');
    await page.getByRole('button', { name: 'Draw', exact: true }).click();
    const all = await viewBox(page);
    await spread(page, easel, 2);
    await expect.poll(async () => (await viewBox(page))[2]).toBeLessThan(all[2] * 0.6);
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
    await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();
    await goTo(page, 'Picture');
    await topic(page, 'Crop');
    const size = page.getByRole('slider', { name: 'Size of the picture' });
    await expect(size).toHaveAttribute('aria-valuenow', '1');
    await spread(page, easel, 1.5);
    await expect.poll(async () => Number(await size.getAttribute('aria-valuenow'))).toBeGreaterThan(1.3);
    await page.keyboard.press('Control+z');
    await expect(size).toHaveAttribute('aria-valuenow', '1');
  });
  test('the painted canvas beside the steps comes nearer, and goes back', async ({ signedIn: page }) => {
    await openDemo(page);
    await page.getByTestId('step-line').nth(4).click();
    const map = page.getByTestId('canvas-map');
    await spread(page, map.locator('[data-scale]'), 2.5);
    await expect(map.locator('[data-scale]')).not.toHaveAttribute('data-scale', '1.00');
    await map.getByRole('button', { name: 'Whole', exact: true }).click();
    await expect(map.locator('[data-scale]')).toHaveAttribute('data-scale', '1.00');
  });
});
