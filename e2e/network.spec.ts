import { execFileSync } from 'node:child_process';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { get } from 'node:https';
import { networkInterfaces, tmpdir } from 'node:os';
import { join } from 'node:path';
import { test as plain } from '@playwright/test';
import { choose, expect, openClass, openDemo, startServer } from './fixtures.js';

/** An address of this machine that others in its network reach. */
const near = Object.values(networkInterfaces())
  .flatMap((list) => list ?? [])
  .find(({ family, internal }) => family === 'IPv4' && !internal)?.address;

plain('a phone comes in through the room’s network, over a certificate of this machine that it trusts', async ({ browser }) => {
  plain.skip(!near, 'this machine has no address but its own');
  const data = await mkdtemp(join(tmpdir(), 'viaticum-near-'));
  execFileSync(process.execPath, ['tools/certificate.mjs'], { env: { ...process.env, VIATICUM_DATA: data } });
  const place = join(data, 'certificate');
  const { server, stop } = await startServer({
    ...{ VIATICUM_HOST: '0.0.0.0', VIATICUM_DATA: data, VIATICUM_DEMO_PASSWORD: 'four dry brushes' },
    ...{ VIATICUM_TLS_CERT: join(place, 'machine.pem'), VIATICUM_TLS_KEY: join(place, 'machine-key.pem') },
  });
  try {
    const { port } = new URL(server.url);
    const open = `https://${near}:${port}`;
    // What a phone does that trusts the authority: the whole chain holds, at this address.
    const ca = await readFile(join(place, 'authority.pem'), 'utf8');
    const answered = await new Promise<{ status?: number | undefined; type?: string | undefined }>((done, fail) => {
      get(`${open}/certificate`, { ca }, (answer) => {
        answer.resume();
        done({ status: answer.statusCode, type: answer.headers['content-type'] });
      }).on('error', fail);
    });
    expect(answered).toEqual({ status: 200, type: 'application/x-x509-ca-cert' });

    const desk = await (await browser.newContext({ ignoreHTTPSErrors: true })).newPage();
    await desk.goto(`${server.url}/sign-in`);
    await desk.getByLabel('Name', { exact: true }).fill('demo');
    await desk.getByLabel('Password', { exact: true }).fill('four dry brushes');
    await desk.getByRole('button', { name: 'Sign in' }).click();
    await desk.getByRole('link', { name: 'Open Balloons over the terraces' }).waitFor();
    await desk.evaluate(() => localStorage.setItem('viaticum-tour-seen', 'true'));
    await openDemo(desk, 'class');
    const code = await openClass(desk);
    await desk.goBack();
    // The machine is reached at several addresses; the one that is chosen is what phones are told.
    await expect(desk.getByText(`${near}:${port}`).first()).toBeVisible();
    const where = desk.getByRole('combobox', { name: 'Where students come in' });
    if ((await where.count()) > 0) await choose(where, `${near}:${port}`);
    await expect(desk.getByText('Over plain http phones lack some things')).toHaveCount(0);

    const phone = await (await browser.newContext({ viewport: { width: 390, height: 844 }, ignoreHTTPSErrors: true })).newPage();
    await phone.goto(`${open}/join/${code}`);
    await phone.getByLabel('Your first name').fill('Mara');
    await phone.getByRole('button', { name: 'Join' }).click();
    await expect(phone.getByText('Your place is ready')).toBeVisible();
    // What phones lack over plain http is there.
    expect(await phone.evaluate(() => [isSecureContext, 'serviceWorker' in navigator, 'wakeLock' in navigator])).toEqual([
      true,
      true,
      true,
    ]);
  } finally {
    await stop();
    await rm(data, { recursive: true, force: true });
  }
});
