import { readFile, writeFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import type { Browser, Page } from '@playwright/test';
import { accessible, choose, expect, openDemo, type Server, saved, test, topic } from './fixtures.js';

const { WebVTTParser } = createRequire(import.meta.url)('webvtt-parser') as typeof import('webvtt-parser');

const openVideo = async (page: Page): Promise<void> => {
  await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: /Video/ }).click();
};
const downloaded = async (page: Page, act: () => Promise<unknown>): Promise<{ name: string; bytes: Buffer }> => {
  const [file] = await Promise.all([page.waitForEvent('download', { timeout: 180_000 }), act()]);
  return { name: file.suggestedFilename(), bytes: await readFile(await file.path()) };
};
const key = (page: Page, name: string | RegExp) => page.getByRole('button', { name, exact: typeof name === 'string' });

test('a lesson is filmed: the list in its order, ticked on a phone with and without a network; what was filmed comes back', async ({
  signedIn: page,
  browser,
  server,
}) => {
  await openDemo(page);
  await openVideo(page);
  const takes = page.getByTestId('takes').locator('tbody tr.ant-table-row');
  await expect(takes.first()).toBeVisible();
  const count = await takes.count();
  expect(count).toBeGreaterThan(25);
  await expect(page.getByText(/^Nothing is filmed yet/)).toContainText(`${count} takes`);
  await accessible(page, 'video, filming');
  // Held to another order, it says what that costs, and lets go.
  await key(page, /^Film S\d+ later$/)
    .first()
    .click();
  await expect(page.getByText(/^Held to your order/)).toBeVisible();
  await key(page, 'Let the order be found again').click();
  await expect(page.getByText(/order ends soonest|soonest end/)).toBeVisible();
  // The card of another camera.
  await page.getByText('Camera and voice').click();
  const gb = async () =>
    Number((await page.locator('.ant-statistic').filter({ hasText: 'Card' }).innerText()).match(/[\d.]+/)?.[0]);
  const before = await gb();
  await page.getByLabel('Bit rate, Mbit/s').fill('100');
  await page.keyboard.press('Enter');
  await expect.poll(gb).toBeGreaterThan(before * 1.8);
  const csv = await downloaded(page, () => key(page, 'Save as a table').click());
  expect(csv.bytes.toString().split('\r\n').filter(Boolean)).toHaveLength(count + 1);
  await key(page, 'Make an address').click();
  const address = await page.getByText(/\/shoot\//).innerText();

  const context = await browser.newContext({ viewport: { width: 360, height: 640 } });
  const phone = await context.newPage();
  await phone.goto(`${server.url}${new URL(address).pathname}`);
  await expect(phone.getByTestId('shoot')).toBeVisible();
  const slate = await phone.getByText(/^S\d{3}$/).innerText();
  expect(await phone.getByText(slate, { exact: true }).evaluate((node) => node.getBoundingClientRect().height)).toBeGreaterThan(
    100,
  );
  await accessible(phone, 'slate');
  expect(await phone.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)).toBe(0);
  await key(phone, 'Start').click();
  await expect(key(phone, /^Stop/)).toBeVisible();
  await phone.waitForTimeout(1500);
  await key(phone, /^Stop/).click();
  await key(phone, 'Good').click();
  await expect(phone.getByText(slate, { exact: true })).toHaveCount(0);
  // Without a network it goes on; what was noted is told later.
  await context.setOffline(true);
  await key(phone, 'Start').click();
  await phone.waitForTimeout(700);
  await key(phone, /^Stop/).click();
  await key(phone, 'Again').click();
  await expect(phone.getByText('1 run so far')).toBeVisible();
  await expect(phone.getByText(/^No network/)).toBeVisible();
  await expect(page.getByText(`1 of ${count} takes are good.`)).toBeVisible();
  await context.setOffline(false);
  await expect(takes.filter({ hasText: '1 run' })).toBeVisible();
  // A canvas take that took much longer than planned comes back as a suggestion, taken by one act.
  const { id, takeId } = await page.evaluate(async () => {
    const id = location.pathname.split('/')[2];
    const lesson = (await (await fetch(`/api/lessons/${id}`)).json()) as {
      document: { steps: { id: string; kind: string; technique?: string }[] };
    };
    const step = lesson.document.steps.filter(({ kind }) => kind === 'paint')[3];
    return { id, takeId: `${step?.id}/canvas` };
  });
  const noted = (n: string, at: number, kind: string) => ({ id: n, at, takeId, kind });
  await page.evaluate(
    async ([lesson, notes]) => {
      await fetch(`/api/lessons/${lesson}/shoot`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ notes }),
      });
    },
    [id, [noted('a1', 1000, 'started'), noted('a2', 1_801_000, 'stopped'), noted('a3', 1_802_000, 'good')]] as const,
  );
  const told = page.getByTestId('filmed-minutes');
  await expect(told).toContainText(/the lesson plans [\d.]+ min for its students/);
  await told
    .getByRole('button', { name: /^Plan / })
    .first()
    .click();
  await expect(told).toHaveCount(0);
  await saved(page);
});

test('a length is wished for: speeds follow, a piece is held, parts fall where the canvas is dry; captions, cards and lists are saved', {
  tag: '@soak',
}, async ({ signedIn: page }) => {
  await openDemo(page);
  await openVideo(page);
  await topic(page, 'Length');
  const track = page.getByTestId('track');
  await expect(track.getByRole('button').first()).toBeVisible();
  const length = page.getByRole('textbox', { name: 'Length' });
  await length.fill('20:00');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/, 20:00 in all/)).toBeVisible();
  await length.fill('6 min');
  await page.keyboard.press('Enter');
  const findings = page.getByTestId('cut-findings');
  await expect(findings).toContainText(/cannot be sped up|must be seen/);
  await findings.getByRole('button', { name: /^Make it / }).click();
  await expect(findings.getByText(/must be seen|cannot be sped up/)).toHaveCount(0);
  await length.fill('18:00');
  await page.keyboard.press('Enter');
  // A piece is looked at, and held longer; the whole keeps its length.
  await track
    .getByRole('button', { name: /filling, / })
    .first()
    .click();
  const piece = page.getByTestId('piece');
  await expect(piece).toContainText(/times as fast/);
  await piece.getByRole('slider').press('End');
  await expect(piece).toContainText('held by you');
  await expect(piece).toContainText('as it is');
  await expect(page.getByText(/, 18:00 in all/)).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(piece).not.toContainText('held by you');
  // Dragged by its edge the same: the rest gives way while it is dragged.
  const box = await page.getByTestId('handle').boundingBox();
  const [x, y] = [(box?.x ?? 0) + (box?.width ?? 0) / 2, (box?.y ?? 0) + 20];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 30, y, { steps: 4 });
  await expect(page.getByText(/, 18:00 in all/)).toBeVisible();
  await page.mouse.up();
  await expect(piece).toContainText('held by you');
  await piece.getByRole('button', { name: 'Let it follow the rest' }).click();
  await expect(piece).not.toContainText('held by you');
  await page.getByLabel('A part of about, min').fill('5');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('parts').getByText(/^Part 2 of \d/)).toBeVisible();
  await accessible(page, 'video, length');
  // In parts each is a file of its own.
  const edl = await downloaded(page, () => key(page, 'Save the edit list').click());
  expect(edl.bytes.toString()).toMatch(
    /^TITLE: BALLOONS OVER THE TERRACES FULL, PART 1 OF \d\nFCM: NON-DROP FRAME\n\n001 {2}S001/,
  );

  await page.getByLabel('A part of about, min').fill('');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('parts').getByText(/^Part 2/)).toHaveCount(0);
  await topic(page, 'Captions and chapters');
  const words = page.getByRole('textbox', { name: 'Words of caption 1', exact: true });
  await words.fill('Thin it until it runs.');
  await words.blur();
  await expect(key(page, 'As in the step')).toBeVisible();
  const vtt = await downloaded(page, () => key(page, 'Save WebVTT').click());
  const { cues, errors } = new WebVTTParser().parse(vtt.bytes.toString(), 'metadata');
  expect(errors).toEqual([]);
  expect(cues[0]?.text).toBe('Thin it until it runs.');
  const srt = await downloaded(page, () => key(page, 'Save SRT').click());
  expect(srt.bytes.toString()).toMatch(/^1\r\n/);
  await accessible(page, 'video, captions');

  await topic(page, 'Cards');
  const cards = page.getByTestId('cards').locator('tbody tr.ant-table-row');
  await cards.first().getByRole('checkbox').uncheck();
  await choose(cards.first().getByRole('combobox'), 'upper right');
  await saved(page);
  await accessible(page, 'video, cards');
  const zip = await downloaded(page, () => key(page, 'Save the cards (PNG, SVG, list)').click());
  expect(zip.bytes.subarray(0, 2).toString()).toBe('PK');
  expect(zip.bytes.length).toBeGreaterThan(100_000);
});

test('steps are heard in a narration: fewer or more, joined, divided, taken in one act', async ({ signedIn: page }) => {
  await openDemo(page);
  await openVideo(page);
  await topic(page, 'From a narration');
  const file = page.locator('input[type=file]');
  const folder = join(import.meta.dirname, '..', 'packages', 'core', 'src', 'fixtures', 'narrations');
  await file.setInputFiles(join(folder, 'v3-beehives.vtt'));
  const steps = page.getByTestId('heard').getByRole('article');
  await expect(steps.first()).toBeVisible();
  const usual = await steps.count();
  expect(usual).toBeGreaterThan(3);
  await accessible(page, 'video, narration');
  const slider = page.getByRole('slider', { name: 'Fewer or more steps' });
  await slider.focus();
  await slider.press('End');
  await expect.poll(() => steps.count()).toBeLessThan(usual);
  await slider.press('Home');
  await expect.poll(() => steps.count()).toBeGreaterThan(usual);
  const many = await steps.count();
  await steps.nth(1).getByRole('button', { name: 'Join to the one before' }).click();
  await expect(steps).toHaveCount(many - 1);
  await steps.first().getByRole('button', { name: /\w/ }).nth(1).click();
  await expect(steps).toHaveCount(many);
  const rail = page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: /Steps/ });
  const [before = ''] = (await rail.innerText()).match(/\d+ steps/) ?? [];
  await key(page, 'Take these steps').click();
  await expect(page.getByText(/stand at the end of the lesson/)).toBeVisible();
  await expect(rail).not.toContainText(before);
  await page.keyboard.press('Control+z');
  await expect(rail).toContainText(before);
  // A broken file says where, and what could be kept is there.
  const broken = test.info().outputPath('broken.srt');
  await writeFile(
    broken,
    '1\n00:00:01,000 --> 00:00:04,000\nMix two parts of white to one of blue.\n\n2\n00:00:0x,000 --> 00:00:09,000\nlost\n',
  );
  await file.setInputFiles(broken);
  await expect(page.getByText('Line 6: this time cannot be read. The caption was left out.')).toBeVisible();
  await expect(steps).toHaveCount(1);
});

/** A short film of the lesson, drawn by this browser from its own stages; put beside the steps. */
async function withFilm(page: Page): Promise<void> {
  await openDemo(page);
  await openVideo(page);
  await topic(page, 'Length');
  await page.getByText('One minute').click();
  const film = await downloaded(page, () => key(page, 'small, to send').click());
  expect(film.name).toMatch(/one minute\.webm$/);
  expect(film.bytes.subarray(0, 4).toString('hex')).toBe('1a45dfa3');
  const path = test.info().outputPath('lesson.webm');
  await writeFile(path, film.bytes);
  await topic(page, 'Beside the steps');
  const pdf = test.info().outputPath('film.mp4');
  await writeFile(pdf, '%PDF-1.7 and nothing else, but long enough');
  const input = page.locator('input[type=file]').first();
  await input.setInputFiles(pdf);
  await expect(page.getByText('This is not a film (it begins like a PDF). MP4 or WebM can be used.')).toBeVisible();
  await input.setInputFiles(path);
  // Length and size are read in the browser: a film that was encoded knows both.
  await expect(page.getByText(/^480 × 270, 1:00, /)).toBeVisible();
  await expect(key(page, 'Send it')).toBeDisabled();
  await page.getByText('Anyone else seen or heard has agreed.').click();
  await key(page, 'Send it').click();
  await expect(page.getByTestId('joined-film')).toBeVisible({ timeout: 60_000 });
  await saved(page);
}
const aloneLink = (page: Page): Promise<string> =>
  page.evaluate(async () => {
    const id = location.pathname.split('/')[2];
    const answer = await fetch(`/api/lessons/${id}/alone`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: '{}',
    });
    return new URL(((await answer.json()) as { address: string }).address).pathname;
  });
const phoneAt = async (browser: Browser, server: Server, path: string) => {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const phone = await context.newPage();
  await phone.goto(`${server.url}${path}`);
  return { context, phone };
};
const place = (phone: Page) => phone.locator('video').evaluate((video: HTMLVideoElement) => video.currentTime);

test('a film beside the steps: played to the end of its step, again from the stroke, its place kept, watched without a network', {
  tag: '@soak',
}, async ({ signedIn: page, browser, server }) => {
  await withFilm(page);
  await accessible(page, 'video, beside the steps');
  const { context, phone } = await phoneAt(browser, server, await aloneLink(page));
  await key(phone, /^Begin/).click();
  const film = phone.getByTestId('film');
  await key(phone, /^Film \d/).click();
  await expect(film).toHaveAttribute('data-state', 'playing');
  await accessible(phone, 'phone with a film');
  expect(await phone.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)).toBe(0);
  // It stops at the end of the step, and never goes on by itself.
  await expect(film).toHaveAttribute('data-state', 'shown', { timeout: 60_000 });
  await expect(phone.getByText('Your turn. It waits for you.')).toBeVisible();
  const chapter = await phone.evaluate(async () => {
    const link = location.pathname.split('/')[2];
    const { sheet } = (await (await fetch(`/api/alone/${link}`)).json()) as {
      sheet: { films: { chapters: { fromMs: number; toMs: number }[]; strokes: { atMs: number }[] }[] };
    };
    return {
      ...(sheet.films[0]?.chapters[0] as { fromMs: number; toMs: number }),
      stroke: sheet.films[0]?.strokes[0]?.atMs as number,
    };
  });
  expect(Math.abs((await place(phone)) * 1000 - chapter.toMs)).toBeLessThan(400);
  await key(phone, 'Again from this stroke').click();
  await expect(film).toHaveAttribute('data-state', 'playing');
  const from = (await place(phone)) * 1000;
  expect(from).toBeGreaterThanOrEqual(Math.min(chapter.stroke, chapter.toMs) - 100);
  await key(phone, 'Pause').click();
  await key(phone, /^Speed, now 1 times/).click();
  await expect(key(phone, /^Speed, now 1.25 times/)).toBeVisible();
  const at = await place(phone);
  // Kept whole on the phone, it is watched without a network, from where it stood and as fast.
  await key(phone, /^Keep on this phone/).click();
  await expect(key(phone, 'Take it off this phone')).toBeVisible({ timeout: 60_000 });
  await expect(phone.locator('html[data-kept]')).toHaveCount(1);
  await context.setOffline(true);
  await phone.reload();
  await expect(film).toBeVisible();
  await expect(key(phone, /^Speed, now 1.25 times/)).toBeVisible();
  await expect.poll(() => place(phone)).toBeGreaterThan(at - 0.6);
  await key(phone, /^(Play|Watch again)$/).click();
  await expect.poll(() => phone.locator('video').evaluate((video: HTMLVideoElement) => video.src)).toMatch(/^blob:/);
  await expect.poll(() => place(phone)).toBeGreaterThan(0);
  // The clock of drying is this phone's own, and goes on over a reload.
  await context.setOffline(false);
  while ((await phone.getByText('Drying pause').count()) === 0) {
    await key(phone, 'Done').click();
    await phone.waitForTimeout(300);
  }
  const clock = async () =>
    (await phone.locator('header').innerText())
      .match(/(\d+):(\d\d)/)
      ?.slice(1)
      .map(Number) as [number, number];
  const [m, s] = await clock();
  await phone.reload();
  await expect(phone.getByText('Drying pause')).toBeVisible();
  const [m2, s2] = await clock();
  expect(m * 60 + s - (m2 * 60 + s2)).toBeGreaterThanOrEqual(0);
  expect(m * 60 + s - (m2 * 60 + s2)).toBeLessThan(60);
});

test('a group follows one host: two phones stand where the desk plays it, and all wait at the end of the step', {
  tag: '@soak',
}, async ({ signedIn: page, browser, server }) => {
  await withFilm(page);
  const code = await page.evaluate(async () => {
    const id = location.pathname.split('/')[2];
    const answer = await fetch('/api/classes', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ lessonId: id }),
    });
    return ((await answer.json()) as { code: string }).code;
  });
  await page.goto(`${server.url}/desk/${code}`);
  const phones: Page[] = [];
  for (const name of ['Mara', 'Ben']) {
    const { phone } = await phoneAt(browser, server, `/join/${code}`);
    await phone.getByLabel('Your first name').fill(name);
    await key(phone, 'Join').click();
    phones.push(phone);
  }
  await page.keyboard.press('ArrowRight');
  for (const phone of phones) await expect(key(phone, 'Done')).toBeVisible();
  const host = page.getByRole('region', { name: 'Film for all' });
  await host.getByRole('button', { name: 'Play or pause' }).click();
  for (const phone of phones) await expect(phone.getByTestId('film')).toHaveAttribute('data-state', 'playing');
  await page.waitForTimeout(1200);
  await host.getByRole('button', { name: 'Play or pause' }).click();
  const mine = () => page.locator('video').evaluate((video: HTMLVideoElement) => video.currentTime);
  await expect
    .poll(async () =>
      Math.max(...(await Promise.all(phones.map(async (phone) => Math.abs((await place(phone)) - (await mine())))))),
    )
    .toBeLessThan(0.2);
  for (const phone of phones) await expect(phone.getByText('Your host plays it for all.')).toBeVisible();
});
