import { describe, expect, it } from '@jest/globals';
import { type Problem, type Relation, solve, solveInOrder, solving } from './index.js';
import { brokenBy, drawProblem, everyOrder, likeALesson, relation, lettered as steps } from './problem.fixture.js';

describe('the least time over all orders', () => {
  it('paints another zone while one dries', () => {
    const problem: Problem = { steps: steps(4, 5, 6), relations: [relation('dry', 'a', 'b', 6)] };
    expect(solveInOrder(problem).makespan).toBe(21);
    const best = solve(problem);
    expect(best).toMatchObject({ status: 'optimal', orderProven: true, makespan: 15, inversions: 1, idle: 0 });
    expect(best.items.map((item) => item.step)).toEqual(['a', 'c', 'b']);
  });

  it('of plans that end at the same time it takes the one nearest to the order given', () => {
    const problem: Problem = { steps: steps(5, 5, 5, 5), relations: [relation('dry', 'a', 'd', 3)] };
    expect(solve(problem)).toMatchObject({ inversions: 0, makespan: 20 });
  });

  // npm run soak runs ten times as many.
  const rounds = Number(process.env.VIATICUM_SOAK ?? 1);
  it('is that of trying every order, without breaks (6 steps) and with (4 steps)', () => {
    let feasible = 0;
    for (let seed = 1; seed <= 45 * rounds; seed++) {
      for (const [count, withBreaks] of [
        [2 + (seed % 5), false],
        [2 + (seed % 4), true],
      ] as const) {
        const problem = drawProblem(seed * 7919, count, withBreaks);
        const truth = everyOrder(problem);
        const found = solve(problem);
        const where = `seed ${seed}, ${count} steps${withBreaks ? ', breaks' : ''}`;
        if (truth.end === Number.POSITIVE_INFINITY) {
          expect([where, found.status]).toEqual([where, 'infeasible']);
          continue;
        }
        feasible++;
        expect([where, found.status, found.makespan]).toEqual([where, 'optimal', truth.end]);
        expect([where, found.orderProven, found.inversions]).toEqual([where, true, truth.inversions]);
        expect([where, brokenBy(problem, found)]).toEqual([where, []]);
      }
    }
    expect(feasible).toBeGreaterThan(40 * rounds);
  });

  it('never breaks a relation, up to 40 steps, and its bound never lies above its end', () => {
    for (let seed = 1; seed <= 60 * rounds; seed++) {
      const problem = drawProblem(seed * 104_729, 5 + ((seed * 7) % 36), seed % 2 === 0);
      const found = solve(problem, { maxNodes: 400 });
      if (found.items.length === 0) continue;
      expect([seed, brokenBy(problem, found)]).toEqual([seed, []]);
      expect(found.lowerBound).toBeLessThanOrEqual(found.makespan + 1e-9);
      const mine = solveInOrder(problem);
      if (mine.status !== 'infeasible' && problem.breaks === undefined)
        expect(found.makespan).toBeLessThanOrEqual(mine.makespan + 1e-9);
    }
  });
});

describe('an early end', () => {
  const problem = likeALesson(279, 25);

  it('with ten nodes the plan is not proven, and its bound is shown', () => {
    const found = solve(problem, { maxNodes: 10 });
    expect(found.status).toBe('feasible');
    expect(found.lowerBound).toBeGreaterThan(0);
    expect(found.lowerBound).toBeLessThanOrEqual(found.makespan);
    expect(brokenBy(problem, found)).toEqual([]);
  });

  it('the same problem gives the same plan each time, also when taken in pieces', () => {
    const whole = solve(problem, { maxNodes: 3000 });
    expect(solve(problem, { maxNodes: 3000 })).toEqual(whole);
    const work = solving(problem, { maxNodes: 3000 });
    let step = work.next();
    let least = Number.POSITIVE_INFINITY;
    for (; !step.done; step = work.next()) {
      expect(step.value.end).toBeLessThanOrEqual(least);
      least = step.value.end;
    }
    expect(step.value).toEqual(whole);
  });

  it('stops when told to, with the best so far', () => {
    let asked = 0;
    const found = solve(problem, { shouldStop: () => ++asked > 0, maxNodes: 50_000 });
    expect(found.nodes).toBeLessThan(5000);
    expect(brokenBy(problem, found)).toEqual([]);
  });
});

describe('what cannot be', () => {
  it('relations that contradict each other in every order: a smallest set of them', () => {
    const found = solve({
      steps: steps(4, 6, 3),
      relations: [
        relation('wet', 'a', 'c', 5),
        relation('dry', 'a', 'b', 2),
        relation('before', 'b', 'c'),
        relation('before', 'a', 'c'),
      ],
    });
    expect(found.status).toBe('infeasible');
    expect(found.conflict?.relationIds.sort()).toEqual(['before:b-c', 'dry:a-b', 'wet:a-c']);
  });

  it('a step longer than a stretch may be: the breaks are at fault', () => {
    expect(solve({ steps: steps(80), relations: [], breaks: { length: 10, maxStretch: 60 } }).conflict).toMatchObject({
      needsBreaks: true,
    });
  });

  it('a circle of orders, and pins against them', () => {
    const circle = solve({
      steps: steps(1, 2, 3),
      relations: [relation('before', 'a', 'b'), relation('before', 'b', 'c'), relation('before', 'c', 'a')],
    });
    expect(circle.conflict?.relationIds).toHaveLength(3);
    expect(
      solve({ steps: steps(4, 2), relations: [relation('before', 'a', 'b')], pins: [{ first: 'b', then: 'a' }] }).status,
    ).toBe('infeasible');
    expect(solve({ steps: steps(4, 2), relations: [], pins: [{ step: 'b', start: 20 }] }).items).toMatchObject([
      { step: 'a', start: 0 },
      { step: 'b', start: 20 },
    ]);
  });

  it('what is past stays, in its order and at its times', () => {
    const found = solve({
      steps: steps(4, 2, 3),
      relations: [relation('dry', 'a', 'b', 3)],
      fixed: [
        { step: 'c', start: 0, end: 5 },
        { step: 'a', start: 5, end: 11 },
      ],
      now: 11,
    });
    expect(found.items).toMatchObject([
      { step: 'c', start: 0, end: 5 },
      { step: 'a', start: 5, end: 11 },
      { step: 'b', start: 14, end: 16 },
    ]);
  });

  it('nothing to do takes no time; more than 80 steps are planned by stages', () => {
    expect(solve({ steps: [], relations: [] })).toMatchObject({ status: 'optimal', makespan: 0, items: [] });
    const many = Array.from({ length: 81 }, (_, i) => ({ id: `s${i}`, minutes: 1 }));
    expect(() => solve({ steps: many, relations: [] })).toThrow(/by its stages/);
  });
});
