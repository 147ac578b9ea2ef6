import { access, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from '@jest/globals';
import pino from 'pino';
import { disk } from './disk.js';

const MB = 1024 * 1024;
let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'viaticum-disk-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const isThere = () =>
  access(join(folder, 'reserve')).then(
    () => true,
    () => false,
  );

it('a disk is full below 32 MB, gives its reserve up then, and has room again when the reserve fits', async () => {
  let left = 1000 * MB;
  const own = disk({ folder, withReserve: true, log: pino({ level: 'silent' }), free: () => left });
  expect(own.isFull()).toBe(false);
  for (let i = 0; i < 100 && !(await isThere()); i++) await new Promise((done) => setTimeout(done, 10));
  await new Promise((done) => setTimeout(done, 300));
  left = 31 * MB;
  expect(own.isFull()).toBe(true);
  expect(await isThere()).toBe(false);
  expect(own.assertRoom).toThrow(/disk of this machine is full.*try again/);
  // What the reserve gave is no room.
  left = 63 * MB;
  expect(own.isFull()).toBe(true);
  left = 65 * MB;
  expect(own.isFull()).toBe(false);
  expect(own.assertRoom).not.toThrow();
  own.close();
});
