import { describe, expect, it } from '@jest/globals';
import { benchWorker } from './bench.fixture.js';
import { CancelledJob } from './job-worker.js';
import { breathe, serveJobs } from './serve-jobs.js';

type Trial = {
  double: { args: number; answer: number };
  fail: { args: null; answer: null };
  wait: { args: number; answer: string };
};
const bench = () =>
  benchWorker<Trial>(async () =>
    serveJobs({
      double: (_id: number, args: number) => args * 2,
      fail: () => {
        throw new Error('There is no picture yet.');
      },
      wait: async (id: number, pieces: number) => {
        for (let k = 1; k <= pieces; k++) await breathe(id, k / pieces);
        return 'done';
      },
    }),
  );

describe('asking a worker', () => {
  it('answers go to who asked, one after the other, with progress on the way', async () => {
    const { worker, close } = await bench();
    const shares: number[] = [];
    const one = worker.ask('wait', 3, (share) => shares.push(share));
    const two = worker.ask('double', 21);
    const order: string[] = [];
    await Promise.all([one.answer.then((said) => order.push(said)), two.answer.then((said) => order.push(String(said)))]);
    expect(order).toEqual(['done', '42']);
    expect(shares).toEqual([1 / 3, 2 / 3, 1]);
    close();
  });
  it('a failure is its sentence, and the next question is answered', async () => {
    const { worker, close } = await bench();
    await expect(worker.ask('fail', null).answer).rejects.toThrow('There is no picture yet.');
    await expect(worker.ask('double', 2).answer).resolves.toBe(4);
    close();
  });
  it('a job is cancelled while it runs and before it runs; one that is over is not', async () => {
    const { worker, close } = await bench();
    const running = worker.ask('wait', 100_000, () => void running.cancel());
    const queued = worker.ask('wait', 100_000);
    void queued.cancel();
    await expect(running.answer).rejects.toBeInstanceOf(CancelledJob);
    await expect(queued.answer).rejects.toBeInstanceOf(CancelledJob);
    const over = worker.ask('double', 1);
    await over.answer;
    expect(over.cancel()).toBe(false);
    await expect(worker.ask('double', 3).answer).resolves.toBe(6);
    close();
  });
});
