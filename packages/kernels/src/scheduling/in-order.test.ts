import { describe, expect, it } from '@jest/globals';
import { type DryingConstraint, type Problem, type Solution, solveInOrder as solve } from './index.js';
import { constraint, lettered as steps } from './problem.fixture.js';

const starts = (solution: Solution) => solution.items.map((item) => item.start);

/** An independent check: imports nothing of the solver, reads the statement of the problem. */
function broken(problem: Problem, solution: Solution): string[] {
  const at = new Map(solution.items.map((item) => [item.step, item]));
  const faults: string[] = [];
  const eps = 1e-9;
  let last = 0;
  for (const step of problem.steps) {
    const item = at.get(step.id);
    if (!item) return ['a step is missing'];
    if (item.start < last - eps) faults.push(`${step.id} overlaps`);
    if (Math.abs(item.end - item.start - Math.ceil(step.minutes * 4 - 1e-6) / 4) > eps)
      faults.push(`${step.id} has another length`);
    last = item.end;
  }
  for (const one of problem.constraints) {
    const from = at.get(one.from);
    const to = at.get(one.to);
    if (!from || !to) return ['a step is missing'];
    const wait = to.start - from.end;
    if (one.type === 'before' && wait < -eps) faults.push(one.id);
    if (one.type === 'dry' && wait < (one.minutes as number) - eps) faults.push(one.id);
    if (one.type === 'wet' && (wait < -eps || wait > (one.minutes as number) + eps)) faults.push(one.id);
    if (one.type === 'wet' && one.full && to.end - from.end > (one.minutes as number) + eps) faults.push(`${one.id} full`);
  }
  return faults;
}

describe('times in the given order', () => {
  it('steps follow each other, and a dry lag delays just what needs it, rounded up to a quarter minute', () => {
    const solution = solve({ steps: steps(4, 5, 3), constraints: [constraint('dry', 'a', 'c', 8.1)] });
    expect(starts(solution)).toEqual([0, 4, 12.25]);
    expect(solution).toMatchObject({ makespan: 15.25, idle: 3.25, inversions: 0 });
  });

  it('claims the optimum only where a bound for every order proves it', () => {
    expect(solve({ steps: steps(4, 5), constraints: [] })).toMatchObject({ status: 'optimal', lowerBound: 9 });
    expect(solve({ steps: steps(4, 5), constraints: [constraint('dry', 'a', 'b', 20)] })).toMatchObject({
      status: 'optimal',
      lowerBound: 29,
    });
    // c could be done while a dries: the order given is not the best.
    expect(solve({ steps: steps(4, 5, 6), constraints: [constraint('dry', 'a', 'b', 6)] })).toMatchObject({
      status: 'feasible',
      makespan: 21,
      lowerBound: 15,
    });
  });

  it('a wet window pulls its source later instead of breaking', () => {
    const problem: Problem = {
      steps: steps(4, 2, 3),
      constraints: [constraint('dry', 'a', 'c', 10), constraint('wet', 'b', 'c', 2)],
    };
    const solution = solve(problem);
    expect(starts(solution)).toEqual([0, 10, 14]);
    expect(broken(problem, solution)).toEqual([]);
  });

  it('names a smallest set of constraints that contradict each other, and by how much', () => {
    const solution = solve({
      steps: steps(4, 6, 3),
      constraints: [constraint('wet', 'a', 'c', 5), constraint('dry', 'a', 'b', 0), constraint('before', 'a', 'c')],
    });
    expect(solution.status).toBe('infeasible');
    expect(solution.conflict).toMatchObject({ constraintIds: ['wet:a-c'], shortfall: 1 });
  });

  it('keeps pins, the present and what is past', () => {
    expect(starts(solve({ steps: steps(4, 2), constraints: [], pins: [{ step: 'b', start: 20 }] }))).toEqual([0, 20]);
    expect(starts(solve({ steps: steps(4, 2), constraints: [], now: 7.5 }))).toEqual([7.5, 11.5]);
    expect(
      starts(
        solve({
          steps: steps(4, 2),
          constraints: [constraint('dry', 'a', 'b', 3)],
          fixed: [{ step: 'a', start: 0, end: 9 }],
          now: 9,
        }),
      ),
    ).toEqual([0, 12]);
    expect(solve({ steps: steps(4, 2), constraints: [], pins: [{ first: 'b', then: 'a' }] }).status).toBe('infeasible');
    expect(solve({ steps: steps(4, 2), constraints: [], pins: [{ step: 'b', start: 1 }] }).status).toBe('infeasible');
  });

  it('puts breaks in so that no stretch is too long; a pause that long is a break for free', () => {
    const solution = solve({ steps: steps(30, 25, 20), constraints: [], breaks: { length: 10, maxStretch: 60 } });
    expect(solution.items.map((item) => item.gapBefore)).toEqual(['none', 'none', 'break']);
    expect(starts(solution)).toEqual([0, 30, 65]);
    const free = solve({
      steps: steps(30, 25, 20),
      constraints: [constraint('dry', 'a', 'b', 12)],
      breaks: { length: 10, maxStretch: 60 },
    });
    expect(free.items.map((item) => item.gapBefore)).toEqual(['none', 'none', 'none']);
    expect(solve({ steps: steps(80), constraints: [], breaks: { length: 10, maxStretch: 60 } })).toMatchObject({
      status: 'infeasible',
      conflict: { needsBreaks: true },
    });
  });

  it('nothing to do takes no time', () => {
    expect(solve({ steps: [], constraints: [] })).toMatchObject({ status: 'optimal', makespan: 0, items: [] });
  });

  it.each<[string, Problem, RegExp]>([
    ['two steps of one id', { steps: [...steps(1), ...steps(2)], constraints: [] }, /same id/],
    ['a negative duration', { steps: steps(-1), constraints: [] }, /duration/],
    ['a constraint to nowhere', { steps: steps(1), constraints: [constraint('before', 'a', 'z')] }, /“z”/],
    ['a lag of NaN', { steps: steps(1, 2), constraints: [constraint('dry', 'a', 'b', Number.NaN)] }, /minutes/],
  ])('%s is refused with a sentence', (_, problem, words) => {
    expect(() => solve(problem)).toThrow(words);
  });
});

describe('random problems', () => {
  it('300 of them: no plan breaks a constraint, and every step begins as early as it can', () => {
    let state = 5;
    const random = () => {
      state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
      return state / 2 ** 32;
    };
    let feasible = 0;
    for (let round = 0; round < 300; round++) {
      const count = 2 + Math.floor(random() * 9);
      const list = steps(...Array.from({ length: count }, () => Math.round(random() * 40) / 4));
      const constraints: DryingConstraint[] = [];
      for (let k = 0; k < count; k++) {
        const i = Math.floor(random() * (count - 1));
        const j = i + 1 + Math.floor(random() * (count - 1 - i));
        const type = random() < 0.7 ? 'dry' : 'wet';
        constraints.push({ ...constraint(type, list[i]?.id as string, list[j]?.id as string, random() * 25), id: `r${k}` });
      }
      const problem = { steps: list, constraints };
      const solution = solve(problem);
      if (solution.status === 'infeasible') {
        // The named constraints alone contradict each other, and without any one of them they do not.
        const ids = solution.conflict?.constraintIds ?? [];
        expect(ids.length).toBeGreaterThan(0);
        const only = (keep: string[]) =>
          solve({ steps: list, constraints: constraints.filter((one) => keep.includes(one.id)) }).status;
        expect(only(ids)).toBe('infeasible');
        for (const id of ids) expect(only(ids.filter((other) => other !== id))).not.toBe('infeasible');
        continue;
      }
      feasible++;
      expect(broken(problem, solution)).toEqual([]);
      expect(solution.lowerBound).toBeLessThanOrEqual(solution.makespan + 1e-9);
      // The least solution: moving any single step a tick earlier breaks something.
      solution.items.forEach((item, i) => {
        if (item.start === 0) return;
        const moved = {
          ...solution,
          items: solution.items.map((other, k) =>
            k === i ? { ...other, start: other.start - 0.25, end: other.end - 0.25 } : other,
          ),
        };
        const chain = broken(problem, moved);
        const pulled = problem.constraints.some((one) => one.type === 'wet' && one.from === item.step);
        expect(chain.length > 0 || pulled).toBe(true);
      });
    }
    expect(feasible).toBeGreaterThan(100);
  });
});
