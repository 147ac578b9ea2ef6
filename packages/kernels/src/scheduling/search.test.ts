import { describe, expect, it } from '@jest/globals';
import { brokenBy } from './checker.fixture.js';
import { everyPlan } from './every-plan.fixture.js';
import { type Problem, solve, solveInOrder, solving } from './index.js';
import {
  constraint,
  drawEither,
  drawProblem,
  drawWithAll,
  fullOfWindows,
  likeALesson,
  lettered as steps,
} from './problem.fixture.js';

describe('the least time over all orders', () => {
  it('paints another area while one dries', () => {
    const problem: Problem = { steps: steps(4, 5, 6), constraints: [constraint('dry', 'a', 'b', 6)] };
    expect(solveInOrder(problem).makespan).toBe(21);
    const best = solve(problem);
    expect(best).toMatchObject({ status: 'optimal', orderProven: true, makespan: 15, inversions: 1, idle: 0 });
    expect(best.items.map((item) => item.step)).toEqual(['a', 'c', 'b']);
  });

  it('of plans that end at the same time it takes the one nearest to the order given', () => {
    const problem: Problem = { steps: steps(5, 5, 5, 5), constraints: [constraint('dry', 'a', 'd', 3)] };
    expect(solve(problem)).toMatchObject({ inversions: 0, makespan: 20 });
  });

  // npm run soak runs ten times as many.
  const rounds = Number(process.env.VIATICUM_SOAK ?? 1);
  const agrees = (problem: Problem, where: string): boolean => {
    const truth = everyPlan(problem);
    const found = solve(problem);
    if (truth.end === Number.POSITIVE_INFINITY) {
      expect([where, found.status]).toEqual([where, 'infeasible']);
      return false;
    }
    expect([where, found.status, found.makespan]).toEqual([where, 'optimal', truth.end]);
    expect([where, found.orderProven, found.inversions]).toEqual([where, true, truth.inversions]);
    expect([where, brokenBy(problem, found)]).toEqual([where, []]);
    return true;
  };

  it('is that of trying every order, without breaks and with (up to 8 and 6 steps in the long run)', () => {
    let feasible = 0;
    const [most, mostWithBreaks] = rounds > 1 ? [8, 6] : [6, 5];
    for (let seed = 1; seed <= 45 * rounds; seed++) {
      for (const [count, withBreaks] of [
        [2 + (seed % (most - 1)), false],
        [2 + (seed % (mostWithBreaks - 1)), true],
      ] as const) {
        const problem = drawProblem(seed * 7919, count, withBreaks);
        if (agrees(problem, `seed ${seed}, ${count} steps${withBreaks ? ', breaks' : ''}`)) feasible++;
      }
    }
    expect(feasible).toBeGreaterThan(40 * rounds);
  });

  it('is that of trying every order where pairs may come either way, with breaks and without', () => {
    let feasible = 0;
    for (let seed = 1; seed <= 60 * rounds; seed++) {
      const withBreaks = seed % 3 === 0;
      const problem = drawEither(seed * 4211, 2 + (seed % (withBreaks ? 4 : 5)), withBreaks);
      if (agrees(problem, `seed ${seed}${withBreaks ? ', breaks' : ''}`)) feasible++;
    }
    expect(feasible).toBeGreaterThan(30 * rounds);
  });

  it('a dark that takes long to dry goes before or after the pale edge beside it, whatever order is given', () => {
    const minutes: Record<string, number> = { b: 3, a: 4, c: 6, d: 3, f: 5, g: 2 };
    const constraints = [
      { ...constraint('either', 'b', 'a', 0), backMinutes: 42 },
      constraint('dry', 'c', 'd', 14),
      constraint('dry', 'a', 'f', 38),
      ...['b', 'a', 'c', 'd', 'f'].map((id) => constraint('before', id, 'g')),
    ];
    const orders = (done: string[], left: string[]): string[][] =>
      left.length === 0
        ? [done]
        : left.flatMap((id) =>
            orders(
              [...done, id],
              left.filter((one) => one !== id),
            ),
          );
    const all = orders([], Object.keys(minutes));
    expect(all).toHaveLength(720);
    for (const order of all.filter((_, k) => k % (rounds > 1 ? 1 : 12) === 0)) {
      const problem: Problem = { steps: order.map((id) => ({ id, minutes: minutes[id] as number })), constraints };
      expect([order.join(''), solve(problem)]).toMatchObject([
        order.join(''),
        { status: 'optimal', makespan: 52, lowerBound: 52 },
      ]);
    }
    // Without the wait the other way round it would claim too little.
    const [, ...half] = constraints;
    const steps = Object.entries(minutes).map(([id, own]) => ({ id, minutes: own }));
    expect(solve({ steps, constraints: half }).makespan).toBe(49);
  });

  it('is that of trying every plan with dryers, nights, breaks and pins (up to 4 steps)', () => {
    let feasible = 0;
    let dried = 0;
    let nights = 0;
    for (let seed = 1; seed <= 80 * rounds; seed++) {
      const problem = drawWithAll(seed * 6007, 2 + (seed % 3));
      if (!agrees(problem, `seed ${seed} ${JSON.stringify(problem)}`)) continue;
      feasible++;
      const found = solve(problem);
      if (found.dryerUses.length > 0) dried++;
      if (found.items.some((item) => item.gapBefore === 'cut')) nights++;
    }
    expect(feasible).toBeGreaterThan(30 * rounds);
    expect(dried).toBeGreaterThan(2 * rounds);
    expect(nights).toBeGreaterThan(2 * rounds);
  });

  it('never breaks a constraint, up to 40 steps with everything, and its bound never lies above its end', () => {
    let judged = 0;
    for (let seed = 1; seed <= 480 * rounds; seed++) {
      const count = 5 + ((seed * 7) % 36);
      const problem = seed % 3 === 0 ? likeALesson(seed, count) : drawWithAll(seed * 104_729, count);
      const found = solve(problem, { maxNodes: 120 });
      if (found.items.length === 0) continue;
      judged++;
      expect([seed, brokenBy(problem, found)]).toEqual([seed, []]);
      expect(found.lowerBound).toBeLessThanOrEqual(found.makespan + 1e-9);
      if (problem.sessions || problem.dryer || problem.breaks || problem.pins) continue;
      const mine = solveInOrder(problem);
      if (mine.status !== 'infeasible') expect(found.makespan).toBeLessThanOrEqual(mine.makespan + 1e-9);
    }
    expect(judged).toBeGreaterThanOrEqual(200 * rounds);
  });
});

describe('lessons of 25 to 80 steps full of wet windows', () => {
  // npm run soak takes fifty of each length.
  const instances = process.env.VIATICUM_SOAK ? 50 : 3;
  it.each([
    [25, 0.01],
    [40, 0.01],
    [60, 0.03],
    [80, 0.03],
  ])(
    '%s steps always have a plan, by a few thousand nodes at most %s above what no plan can beat',
    (count, most) => {
      for (let seed = 1; seed <= instances; seed++) {
        const problem = fullOfWindows(seed, count);
        const found = solve(problem, { maxNodes: 3000 });
        expect([seed, brokenBy(problem, found)]).toEqual([seed, []]);
        expect([seed, found.makespan / found.lowerBound - 1 <= most]).toEqual([seed, true]);
        expect([seed, found.items.length]).toEqual([seed, count]);
      }
    },
    600_000,
  );

  it('the first plan that is told of is one already, and the order given is never lost', () => {
    const problem = fullOfWindows(4, 60);
    const first = solving(problem, { maxNodes: 3000 }).next();
    expect(first.done === false && Number.isFinite(first.value.end)).toBe(true);
    const stopped = solve(problem, { maxNodes: 3000, shouldStop: () => true });
    expect(brokenBy(problem, stopped)).toEqual([]);
    expect(stopped.makespan).toBeLessThanOrEqual(solveInOrder(problem).makespan);
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
  it('constraints that contradict each other in every order: a smallest set of them', () => {
    const found = solve({
      steps: steps(4, 6, 3),
      constraints: [
        constraint('wet', 'a', 'c', 5),
        constraint('dry', 'a', 'b', 2),
        constraint('before', 'b', 'c'),
        constraint('before', 'a', 'c'),
      ],
    });
    expect(found.status).toBe('infeasible');
    expect(found.conflict?.constraintIds.sort()).toEqual(['before:b-c', 'dry:a-b', 'wet:a-c']);
  });

  it('a step longer than a stretch may be: the breaks are at fault', () => {
    expect(solve({ steps: steps(80), constraints: [], breaks: { length: 10, maxStretch: 60 } }).conflict).toMatchObject({
      needsBreaks: true,
    });
  });

  it('a circle of orders, and pins against them', () => {
    const circle = solve({
      steps: steps(1, 2, 3),
      constraints: [constraint('before', 'a', 'b'), constraint('before', 'b', 'c'), constraint('before', 'c', 'a')],
    });
    expect(circle.conflict?.constraintIds).toHaveLength(3);
    expect(
      solve({ steps: steps(4, 2), constraints: [constraint('before', 'a', 'b')], pins: [{ first: 'b', then: 'a' }] }).status,
    ).toBe('infeasible');
    const pinned = solve({
      steps: steps(4, 2, 3),
      constraints: [constraint('dry', 'a', 'b', 10), constraint('before', 'b', 'c')],
      pins: [
        { step: 'b', start: 9 },
        { step: 'c', start: 40 },
      ],
    });
    // a takes 4, the wait 10: b cannot begin before 14, five minutes after its pin.
    expect(pinned.conflict).toEqual({ constraintIds: ['dry:a-b'], pins: [0], shortfall: 5, needsBreaks: false });
    expect(solve({ steps: steps(4, 2), constraints: [], pins: [{ step: 'b', start: 20 }] }).items).toMatchObject([
      { step: 'a', start: 0 },
      { step: 'b', start: 20 },
    ]);
  });

  it('what is past stays, in its order and at its times', () => {
    const found = solve({
      steps: steps(4, 2, 3),
      constraints: [constraint('dry', 'a', 'b', 3)],
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

  it('a dryer held in the hand is one more piece of work, used only where it helps, and not on what must stay wet', () => {
    const dryer = { perStep: { a: 3 }, occupies: true };
    const dried = solve({ steps: steps(4, 5), constraints: [constraint('dry', 'a', 'b', 20)], dryer });
    expect(dried).toMatchObject({ status: 'optimal', makespan: 12, dryerUses: [{ step: 'a', start: 4, end: 7 }], idle: 0 });
    expect(solve({ steps: steps(4, 5), constraints: [constraint('dry', 'a', 'b', 2)], dryer }).dryerUses).toEqual([]);
    const wet = solve({
      steps: steps(4, 5, 2),
      constraints: [constraint('wet', 'a', 'b', 6), constraint('dry', 'a', 'c', 20)],
      dryer,
    });
    // b goes into the wet first, until 9; then 3 minutes of drying.
    expect(wet).toMatchObject({ makespan: 14, dryerUses: [{ step: 'a', start: 9, end: 12 }] });
    const aside = solve({
      steps: steps(4, 5),
      constraints: [constraint('dry', 'a', 'b', 20)],
      dryer: { perStep: { a: 3 }, occupies: false },
    });
    expect(aside).toMatchObject({ makespan: 12, dryerUses: [], idle: 3 });
  });

  it('a night between two sessions dries everything, but no window may cross it', () => {
    const sessions = { max: 2, limit: 10 };
    const slept = solve({ steps: steps(6, 5), constraints: [constraint('dry', 'a', 'b', 60)], sessions });
    expect(slept).toMatchObject({ status: 'optimal', makespan: 11, items: [{ gapBefore: 'none' }, { gapBefore: 'cut' }] });
    expect(solve({ steps: steps(6, 5), constraints: [constraint('wet', 'a', 'b', 60)], sessions }).status).toBe('infeasible');
    expect(solve({ steps: steps(6, 5, 8, 8), constraints: [], sessions }).status).toBe('infeasible');
  });

  it('minutes are traded against changes', () => {
    const problem: Problem = { steps: steps(4, 5, 6), constraints: [constraint('dry', 'a', 'b', 6)] };
    expect(solve(problem, { laterMin: 0 })).toMatchObject({ makespan: 15, inversions: 1, lowerBound: 15 });
    expect(solve(problem, { laterMin: 5 })).toMatchObject({ makespan: 15, inversions: 1 });
    expect(solve(problem, { laterMin: 6 })).toMatchObject({ makespan: 21, inversions: 0, lowerBound: 15 });
  });

  it('what cannot be meant is refused with a sentence', () => {
    const two = steps(1, 2);
    expect(() => solve({ steps: two, constraints: [constraint('dry', 'a', 'z', 1)] })).toThrow(/not in the plan/);
    expect(() => solve({ steps: two, constraints: [constraint('dry', 'a', 'b', Number.NaN)] })).toThrow(/minutes of 0 or more/);
    expect(() => solve({ steps: two, constraints: [], pins: [{ step: 'a', start: -1 }] })).toThrow(/minute of 0 or more/);
    expect(() => solve({ steps: two, constraints: [], sessions: { max: 0, limit: 5 } })).toThrow(/Sessions/);
    expect(() => solve({ steps: two, constraints: [], breaks: { length: 5, maxStretch: 0 } })).toThrow(/Breaks/);
    expect(() => solve({ steps: two, constraints: [], dryer: { perStep: { z: 2 }, occupies: true } })).toThrow(/not in the plan/);
    expect(() => solve({ steps: [{ id: 'a', minutes: -1 }], constraints: [] })).toThrow(/duration/);
  });

  it('nothing to do takes no time; more than 80 steps are planned by stages', () => {
    expect(solve({ steps: [], constraints: [] })).toMatchObject({ status: 'optimal', makespan: 0, items: [] });
    const many = Array.from({ length: 81 }, (_, i) => ({ id: `s${i}`, minutes: 1 }));
    expect(() => solve({ steps: many, constraints: [] })).toThrow(/by its stages/);
  });
});
