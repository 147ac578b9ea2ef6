import { expect, it } from '@jest/globals';
import loadHighs from 'highs';
import { asMilp } from './highs.fixture.js';
import { solve } from './index.js';
import { drawEither, drawProblem } from './problem.fixture.js';

// The MILP solver HiGHS (Huangfu and Hall 2018) from the registry, used in tests only; npm run soak runs ten times as many.
const rounds = Number(process.env.VIATICUM_SOAK ?? 1);
const SECONDS = 20;

it.each([
  ['without breaks', 6, rounds > 1 ? 15 : 9, false],
  ['with breaks', 6, rounds > 1 ? 10 : 6, true],
] as const)(
  'the earliest end is that of HiGHS, %s',
  async (_, least, most, withBreaks) => {
    const highs = await loadHighs();
    let same = 0;
    for (let seed = 1; seed <= 6 * rounds; seed++) {
      const count = least + (seed % (most - least + 1));
      const problem = (seed % 2 === 0 ? drawEither : drawProblem)(seed * 3571, count, withBreaks);
      const theirs = highs.solve(asMilp(problem), { time_limit: SECONDS, output_flag: false });
      const ours = solve(problem, { maxNodes: 80_000 });
      if (theirs.Status === 'Time limit reached') continue;
      const where = `seed ${seed}, ${count} steps`;
      if (theirs.Status === 'Infeasible') expect([where, ours.status]).toEqual([where, 'infeasible']);
      else {
        expect([where, theirs.Status, ours.status]).toEqual([where, 'Optimal', 'optimal']);
        expect([where, Math.round(theirs.ObjectiveValue) / 4]).toEqual([where, ours.makespan]);
      }
      same++;
    }
    expect(same).toBeGreaterThanOrEqual(5 * rounds);
  },
  rounds * 6 * SECONDS * 1000,
);
