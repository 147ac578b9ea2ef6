import type { Page } from '@playwright/test';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { expect, goTo, openDemo, test, topic } from './fixtures.js';

/** What comes out of the printer, page by page, as words. */
async function printed(page: Page): Promise<string[]> {
  const pdf = await getDocument({ data: new Uint8Array(await page.pdf({ format: 'A4' })), verbosity: 0 }).promise;
  const pages = await Promise.all(Array.from({ length: pdf.numPages }, (_, i) => pdf.getPage(i + 1)));
  return Promise.all(
    pages.map(async (one) => (await one.getTextContent()).items.map((item) => ('str' in item ? item.str : '')).join(' ')),
  );
}
/** Words that are read, none counted twice: what a page says. */
const said = (text: string) => text.replace(/\s+/g, ' ').trim();
/** Letters alone: a line break on paper is no other word. */
const letters = (text: string) => text.replace(/\s+/g, '');
const wordsIn = (text: string) => said(text).split(' ').filter(Boolean).length;

test('the read-through prints all that it says, on pages none of which is empty', { tag: '@soak' }, async ({
  signedIn: page,
}) => {
  await openDemo(page);
  await page.getByRole('link', { name: 'Read through' }).click();
  await expect(page.getByTestId('read-step')).toHaveCount(18);
  const onScreen = await page.getByRole('main').innerText();
  const pages = await printed(page);
  expect(pages.length).toBeGreaterThan(3);
  for (const text of pages) expect(wordsIn(text)).toBeGreaterThan(10);
  const all = said(pages.join(' '));
  for (const step of await page.getByTestId('read-step').getByRole('heading').allInnerTexts())
    expect(letters(all)).toContain(letters(step));
  // Keys are not printed; all else is.
  expect(wordsIn(all) / wordsIn(onScreen)).toBeGreaterThan(0.95);
  expect(all).not.toContain('Back to the bench');
});

test('the section through the paint prints whole with its table, and nothing else of the bench', async ({ signedIn: page }) => {
  await openDemo(page);
  await expect(page.getByTestId('step-line')).toHaveCount(18);
  const ribbon = page.getByTestId('ribbon');
  await ribbon.getByText('half', { exact: true }).click();
  await expect(ribbon.getByRole('button', { name: 'Print' })).toBeVisible();
  const titles = await page.getByTestId('step-title').allInnerTexts();
  const all = said((await printed(page)).join(' '));
  expect(all).toContain('Balloons over the terraces');
  for (const title of titles) expect(letters(all)).toContain(letters(title));
  for (const none of ['Bring steps', 'Worth knowing', 'Get ready', 'needs you']) expect(all).not.toContain(none);
});

test('the palette sheet prints alone, every mix with its parts', async ({ signedIn: page }) => {
  await openDemo(page);
  await goTo(page, 'Paints');
  await topic(page, 'Palette sheet');
  const rows = page.locator('[data-testid="sheet-table"] tbody tr');
  await expect(rows).toHaveCount(12);
  const sheet = page.getByRole('article');
  const shown = await sheet.innerText();
  const all = said((await printed(page)).join(' '));
  for (const row of await rows.all())
    expect(all).toContain(
      said((await row.getByRole('rowheader').or(row.locator('td')).first().innerText()).split('\n')[0] ?? ''),
    );
  expect(wordsIn(all) / wordsIn(shown)).toBeGreaterThan(0.95);
  expect(all).not.toContain('Smaller palette');
});
