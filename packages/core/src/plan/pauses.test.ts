import { describe, expect, it } from '@jest/globals';
import { type DryingConstraint, type Problem, solveInOrder } from '@viaticum/kernels/scheduling';
import { withFewerPauses } from './pauses.js';

const dry = (from: string, to: string, minutes: number): DryingConstraint => ({
  id: `${from}${to}`,
  type: 'dry',
  from,
  to,
  minutes,
  source: '',
});
const problem = (constraints: DryingConstraint[]): Problem => ({
  steps: ['a', 'b', 'c', 'd'].map((id) => ({ id, minutes: 4 })),
  constraints,
});
const gaps = ({ items }: ReturnType<typeof solveInOrder>) => items.slice(1).map((item, k) => item.start - (items[k]?.end ?? 0));

describe('short pauses join the one before them', () => {
  it('where what lies between can begin later; the end stays', () => {
    const one = problem([dry('a', 'b', 6), dry('a', 'd', 16)]);
    const soonest = solveInOrder(one);
    expect(gaps(soonest)).toEqual([6, 0, 2]);
    const fewer = withFewerPauses(one, soonest);
    expect(gaps(fewer)).toEqual([8, 0, 0]);
    expect(fewer.items.at(-1)?.end).toBe(soonest.items.at(-1)?.end);
  });
  it('not where what lies between is what must dry, nor over a wet window, nor a pin', () => {
    const drying = problem([dry('a', 'b', 6), dry('c', 'd', 2)]);
    expect(withFewerPauses(drying, solveInOrder(drying))).toEqual(solveInOrder(drying));
    const wet = problem([
      dry('a', 'b', 6),
      dry('a', 'd', 16),
      { id: 'w', type: 'wet', from: 'a', to: 'c', minutes: 10, source: '' },
    ]);
    expect(gaps(withFewerPauses(wet, solveInOrder(wet)))).toEqual([6, 0, 2]);
    const pinned = { ...problem([dry('a', 'b', 6), dry('a', 'd', 16)]), pins: [{ step: 'c', start: 14 }] };
    expect(gaps(withFewerPauses(pinned, solveInOrder(pinned)))).toEqual([6, 0, 2]);
  });
  it('a long pause stays where it is', () => {
    const long = problem([dry('a', 'b', 6), dry('a', 'd', 24)]);
    expect(gaps(withFewerPauses(long, solveInOrder(long)))).toEqual([6, 0, 10]);
  });
});
