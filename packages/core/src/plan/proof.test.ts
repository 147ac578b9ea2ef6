import { describe, expect, it } from '@jest/globals';
import type { Lesson, Step } from '@viaticum/contract';
import { toEnd } from '@viaticum/kernels/cooperative';
import { betterOrder, inOrderOf, orderProblem } from '../advice/index.js';
import { demoLesson, seeded, smallLesson, testStep } from '../fixtures/index.js';
import { planLesson } from './index.js';

const demo = demoLesson();
const some = ['sky', 'far', 'near', 'fields', 'trees'];
/** A lesson of a few coats on areas of the demo's picture, drawn by chance. */
function drawn(seed: number, count: number): Lesson {
  const random = seeded(seed * 13 + 1);
  for (let i = 0; i < 5; i++) random();
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  const steps = Array.from(
    { length: count },
    (_, i): Step =>
      testStep(`s${i}`, {
        areaIds: [pick(some)],
        mixIds: [pick(demo.mixes).id],
        technique: pick(['block-in', 'block-in', 'loaded', 'dry-brush', 'blend']),
        brushId: pick(['flat-1-in', 'filbert-12', 'round-8']),
        needs: 'auto',
        showMin: pick([0, 1, 2]),
        doMin: 2 + Math.round(random() * 24) / 4,
        ...(random() < 0.3 && { coverShare: 0.3 }),
        ...(random() < 0.3 && { laying: 'edges-last' as const }),
      }),
  );
  return { ...smallLesson(steps), support: demo.support, areas: demo.areas, tubes: demo.tubes, mixes: demo.mixes };
}

const orders = (done: string[], left: string[]): string[][] =>
  left.length === 0
    ? [done]
    : left.flatMap((id) =>
        orders(
          [...done, id],
          left.filter((one) => one !== id),
        ),
      );

/** The earliest end of all orders that keep coats of one area one on the other, each planned by itself. */
function earliest(lesson: Lesson): number {
  const before = orderProblem(lesson).constraints.filter((one) => one.type === 'before' || one.type === 'dry');
  const keeps = (order: readonly string[]) => before.every((one) => order.indexOf(one.from) < order.indexOf(one.to));
  return Math.min(
    ...orders(
      [],
      lesson.steps.map((step) => step.id),
    )
      .filter(keeps)
      .map((order) => planLesson(inOrderOf(lesson, order)).plan.endMin),
  );
}

describe('what is called proven', () => {
  it('no order ends sooner: all orders of small lessons planned one by one (up to 6 steps in the long run)', () => {
    const rounds = Number(process.env.VIATICUM_SOAK ?? 1);
    let proven = 0;
    for (let seed = 1; seed <= 30 * rounds; seed++) {
      const lesson = drawn(seed, rounds > 1 ? 3 + (seed % 4) : 3 + (seed % 3));
      const answer = toEnd(betterOrder(lesson));
      const truth = earliest(lesson);
      expect([seed, answer.lowerBoundMin <= truth + 1e-9]).toEqual([seed, true]);
      expect([seed, answer.best.endMin >= truth - 1e-9]).toEqual([seed, true]);
      if (!answer.proven) continue;
      proven++;
      expect([seed, answer.best.endMin]).toEqual([seed, truth]);
    }
    expect(proven).toBeGreaterThan(20 * rounds);
  }, 120_000);
});
