import { describe, expect, it } from '@jest/globals';
import { serverErrors } from '@viaticum/contract';
import { ApiFault } from '../errors.js';
import { codeGuard } from './codes.js';
import { bucket, wrongTries } from './wrong-tries.js';

const no = async () => {
  throw new ApiFault(serverErrors.codeUnknown);
};
const statusOf = (work: Promise<unknown>) =>
  work.then(
    () => 200,
    (fault: ApiFault) => fault.status,
  );

describe('wrong codes', () => {
  it('are answered later and later beyond thirty in ten minutes, however many come at once; right ones at once and always', async () => {
    let now = 0;
    const waited: number[] = [];
    const guard = codeGuard(
      () => now,
      async (ms) => void waited.push(ms),
    );
    const wrong = () => statusOf(guard.checked('1.2.3.4', no));
    const at = await Promise.all(Array.from({ length: 100 }, wrong));
    expect(at.filter((status) => status === 404)).toHaveLength(30);
    expect(at.filter((status) => status === 429)).toHaveLength(70);
    expect(waited[0]).toBe(250);
    expect(Math.max(...waited)).toBe(5000);
    expect(waited).toEqual([...waited].sort((a, b) => a - b));
    // Somebody beside them in the same room, with a code that was never right from there before.
    expect(await guard.checked('1.2.3.4', async () => 'in')).toBe('in');
    expect(await statusOf(guard.checked('5.6.7.8', no))).toBe(404);
    now += 10 * 60_000 + 1;
    expect(await wrong()).toBe(404);
  });
  it('right ones and faults of our own are not counted', async () => {
    const guard = codeGuard(() => 0);
    for (let i = 0; i < 50; i++) await guard.checked('a', async () => 'in');
    for (let i = 0; i < 50; i++)
      await expect(
        guard.checked('a', async () => {
          throw new Error('the database is away');
        }),
      ).rejects.toThrow(/away/);
    expect(await statusOf(guard.checked('a', no))).toBe(404);
  });
});

it('tries are counted before they are looked at, and the oldest keys are forgotten', () => {
  const tries = wrongTries(1000, () => 0);
  expect([tries.begin('a'), tries.begin('a'), tries.begin('b')]).toEqual([0, 1, 0]);
  tries.right('a');
  expect(tries.begin('a')).toBe(1);
  for (let i = 0; i < 10_001; i++) tries.begin(`k${i}`);
  expect(tries.begin('a')).toBe(0);
});

it('a bucket gives so many at once, then so many a second, and says how long to wait', () => {
  let now = 0;
  const own = bucket(3, 2, () => now);
  expect([own.take(), own.take(), own.take(), own.take()]).toEqual([0, 0, 0, 500]);
  now = 1000;
  expect(own.take()).toBe(0);
  now = 100_000;
  expect([own.take(3), own.take()]).toEqual([0, 500]);
});
