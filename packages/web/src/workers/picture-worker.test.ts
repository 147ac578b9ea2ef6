import { beforeEach, describe, expect, it } from '@jest/globals';
import type { FromWorker, ToWorker } from './job-worker.js';

/** A worker whose inside is the test. */
class Bench {
  static last: Bench;
  sent: ToWorker[] = [];
  ended = false;
  onmessage: ((event: { data: FromWorker }) => void) | null = null;
  constructor() {
    Bench.last = this;
  }
  postMessage(message: ToWorker) {
    this.sent.push(message);
  }
  terminate() {
    this.ended = true;
  }
  say(data: FromWorker) {
    this.onmessage?.({ data });
  }
}

describe('asking the picture worker', () => {
  beforeEach(() => {
    Object.assign(globalThis, { Worker: Bench });
  });
  const make = async () => (await import('./picture-worker.js')).pictureWorker();

  it('answers go to who asked, in any order, with progress on the way', async () => {
    const worker = await make();
    const shares: number[] = [];
    const one = worker.ask('grey', { blurMm: 1 }, (share) => shares.push(share));
    const two = worker.ask('grey', { blurMm: 2 });
    expect(Bench.last.sent.map((message) => ('name' in message ? [message.id, message.args] : message))).toEqual([
      [1, { blurMm: 1 }],
      [2, { blurMm: 2 }],
    ]);
    Bench.last.say({ id: 2, answer: 'second' });
    Bench.last.say({ id: 1, progress: 0.5 });
    Bench.last.say({ id: 1, answer: 'first' });
    await expect(one.answer).resolves.toBe('first');
    await expect(two.answer).resolves.toBe('second');
    expect(shares).toEqual([0.5]);
  });
  it('a failure is its sentence; a cancelled job says that it was', async () => {
    const worker = await make();
    const { CancelledJob } = await import('./job-worker.js');
    const failed = worker.ask('grey', { blurMm: 1 });
    const stopped = worker.ask('grey', { blurMm: 1 });
    stopped.cancel();
    expect(Bench.last.sent.at(-1)).toEqual({ cancel: 2 });
    Bench.last.say({ id: 1, failed: 'There is no picture yet.' });
    Bench.last.say({ id: 2, cancelled: true });
    await expect(failed.answer).rejects.toThrow('There is no picture yet.');
    await expect(stopped.answer).rejects.toBeInstanceOf(CancelledJob);
  });
  it('a job that is over is not cancelled; answers nobody waits for are let go', async () => {
    const worker = await make();
    const job = worker.ask('grey', { blurMm: 1 });
    Bench.last.say({ id: 1, answer: null });
    await job.answer;
    job.cancel();
    expect(Bench.last.sent).toHaveLength(1);
    Bench.last.say({ id: 99, answer: null });
    worker.end();
    expect(Bench.last.ended).toBe(true);
  });
});
