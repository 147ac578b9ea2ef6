import type { Problem, Solution } from '@viaticum/kernels/scheduling';

/** A pause shorter than this is no rest and no use: it joins the one before it where that breaks nothing. */
const SHORT_MIN = 4;
const EPS = 1e-9;

/**
 * The same plan with fewer pauses: a short one is moved to the pause before it, by delaying what lies between by as much. The end stays.
 * Left as it is where a wet window, a pin, the past or the length of a stretch would not bear it.
 */
export function withFewerPauses(problem: Problem, solution: Solution): Solution {
  if (solution.items.length < 3 || solution.dryerUses.length > 0) return solution;
  let items = solution.items;
  const gap = (k: number) => (items[k]?.start ?? 0) - (k > 0 ? (items[k - 1]?.end ?? 0) : (problem.now ?? 0));
  for (let k = items.length - 1; k > 0; k--) {
    const short = gap(k);
    if (short <= EPS || short >= SHORT_MIN || items[k]?.gapBefore !== 'none') continue;
    let to = k - 1;
    while (to > 0 && (gap(to) <= EPS || items[to]?.gapBefore !== 'none')) to--;
    if (to <= 0) continue;
    const moved = items.map((item, i) =>
      i >= to && i < k ? { ...item, start: item.start + short, end: item.end + short } : item,
    );
    if (holds(problem, moved)) items = moved;
  }
  return items === solution.items ? solution : { ...solution, items };
}

/** Whether times keep all windows, pins, the past and the longest stretch; what must dry only gets more time. */
function holds(problem: Problem, items: Solution['items']): boolean {
  const at = new Map(items.map((item) => [item.step, item]));
  for (const one of problem.constraints) {
    const [from, to] = [at.get(one.from), at.get(one.to)];
    if (!from || !to) continue;
    if (one.type === 'wet') {
      const most = one.minutes as number;
      if (to.start - from.end > most + EPS || (one.full && to.end - from.end > most + EPS)) return false;
    } else if (one.type === 'dry' && to.start - from.end < (one.minutes as number) - EPS) return false;
  }
  for (const pin of problem.pins ?? [])
    if ('step' in pin && Math.abs((at.get(pin.step)?.start ?? 0) - pin.start) > 0.25) return false;
  for (const one of problem.fixed ?? []) if (Math.abs((at.get(one.step)?.start ?? 0) - one.start) > 0.25) return false;
  if (!problem.breaks) return true;
  let from = items[0]?.start ?? 0;
  return items.every((item, k) => {
    const rest = k > 0 ? item.start - (items[k - 1]?.end ?? 0) : 0;
    if (rest >= (problem.breaks?.length ?? 0) - EPS || item.gapBefore !== 'none') from = item.start;
    return item.end - from <= (problem.breaks?.maxStretch ?? 0) + EPS;
  });
}
