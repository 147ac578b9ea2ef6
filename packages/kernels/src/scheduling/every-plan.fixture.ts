import type { Problem } from './index.js';

type Gap = 'none' | 'break' | 'cut';

/**
 * Every order of the steps, with or without each use of the dryer, and every set of breaks and nights, each with its least times
 * by plain relaxation over all that the problem says: the earliest end, and the fewest changes among those; or Infinity.
 */
export function everyPlan(problem: Problem): { end: number; inversions: number } {
  const ticks = (minutes: number) => Math.ceil(minutes * 4 - 1e-6);
  const floor = (minutes: number) => Math.floor(minutes * 4 + 1e-6);
  const count = problem.steps.length;
  const ids = problem.steps.map((step) => step.id);
  const byHand = problem.dryer?.occupies ? Object.keys(problem.dryer.perStep) : [];
  const length = [
    ...problem.steps.map((step) => ticks(step.minutes)),
    ...byHand.map((id) => ticks(problem.dryer?.perStep[id] as number)),
  ];
  const dryerOf = (step: number) => {
    const k = byHand.indexOf(ids[step] as string);
    return k < 0 ? -1 : count + k;
  };
  const isWet = (id: string) => problem.constraints.some((one) => one.type === 'wet' && one.from === id);
  const gaps: Gap[] = ['none', ...(problem.breaks ? ['break' as const] : []), ...(problem.sessions ? ['cut' as const] : [])];
  let best = { end: Number.POSITIVE_INFINITY, inversions: Number.POSITIVE_INFINITY };

  const time = (order: number[], gap: Gap[]): number => {
    const place = new Map(order.map((node, k) => [node, k]));
    const at = (id: string) => place.get(ids.indexOf(id)) as number;
    const arcs: [number, number, number][] = [];
    let stretch = 0;
    let session = 0;
    let cuts = 0;
    const sessions: number[] = [];
    order.forEach((node, k) => {
      if (gap[k] !== 'none') stretch = k;
      if (gap[k] === 'cut') {
        session = k;
        cuts++;
      }
      sessions.push(cuts);
      if (k > 0) arcs.push([k - 1, k, length[order[k - 1]] + (gap[k] === 'break' ? ticks(problem.breaks?.length as number) : 0)]);
      if (problem.breaks) arcs.push([k, stretch, length[node] - floor(problem.breaks.maxStretch)]);
      if (problem.sessions) arcs.push([k, session, length[node] - floor(problem.sessions.limit)]);
    });
    if (cuts > (problem.sessions?.max ?? 1) - 1) return Number.POSITIVE_INFINITY;
    for (const one of problem.constraints) {
      let [i, j] = [at(one.from), at(one.to)];
      if (one.type === 'either') {
        const wait = ticks((i < j ? one.minutes : one.backMinutes) as number);
        if (j < i) [i, j] = [j, i];
        const dried = place.get(dryerOf(order[i] as number)) ?? -1;
        if (sessions[i] === sessions[j] && !(dried >= 0 && dried < j)) arcs.push([i, j, length[order[i]] + wait]);
        continue;
      }
      const p = length[order[i]];
      if (j < i) return Number.POSITIVE_INFINITY;
      arcs.push([i, j, p]);
      const night = sessions[i] !== sessions[j];
      const dryer = place.get(dryerOf(ids.indexOf(one.from))) ?? -1;
      if (one.type === 'dry' && !night && !(dryer >= 0 && dryer < j)) {
        let wait = one.minutes as number;
        const aside = problem.dryer && !problem.dryer.occupies ? problem.dryer.perStep[one.from] : undefined;
        if (aside !== undefined && !isWet(one.from)) wait = Math.min(wait, aside);
        arcs.push([i, j, p + ticks(wait)]);
      }
      if (one.type === 'wet') {
        if (night || (dryer >= 0 && dryer < j)) return Number.POSITIVE_INFINITY;
        arcs.push([j, i, -(p + floor(one.minutes as number))]);
        if (one.full) arcs.push([j, i, length[order[j]] - p - floor(one.minutes as number)]);
      }
    }
    for (const id of byHand) {
      const dryer = place.get(dryerOf(ids.indexOf(id)));
      if (dryer !== undefined && dryer < at(id)) return Number.POSITIVE_INFINITY;
    }
    const late: [number, number][] = [];
    const starts = order.map(() => 0);
    for (const pin of problem.pins ?? []) {
      if ('step' in pin) {
        starts[at(pin.step)] = Math.max(starts[at(pin.step)], ticks(pin.start));
        late.push([at(pin.step), ticks(pin.start)]);
      } else if (at(pin.then) < at(pin.first)) return Number.POSITIVE_INFINITY;
    }
    for (let round = 0; round <= order.length + 1; round++) {
      let changed = false;
      for (const [i, j, weight] of arcs)
        if (starts[i] + weight > starts[j]) {
          starts[j] = starts[i] + weight;
          changed = true;
        }
      if (late.some(([k, latest]) => starts[k] > latest)) return Number.POSITIVE_INFINITY;
      if (!changed) return Math.max(...order.map((node, k) => starts[k] + length[node]));
    }
    return Number.POSITIVE_INFINITY;
  };

  const withGaps = (order: number[], gap: Gap[]): void => {
    if (gap.length < order.length) {
      for (const one of gap.length === 0 ? (['none'] as const) : gaps) withGaps(order, [...gap, one]);
      return;
    }
    const end = time(order, gap);
    if (end > best.end) return;
    const real = order.filter((node) => node < count);
    let inversions = 0;
    real.forEach((node, k) => {
      for (const later of real.slice(k + 1)) if (later < node) inversions++;
    });
    if (end < best.end || inversions < best.inversions) best = { end, inversions };
  };
  const order = (done: number[], left: number[], dryers: number[]): void => {
    if (left.length === 0) withGaps(done, []);
    for (const node of left) {
      const id = ids[node];
      if (problem.constraints.some((one) => one.type !== 'either' && one.to === id && left.includes(ids.indexOf(one.from))))
        continue;
      order(
        [...done, node],
        left.filter((one) => one !== node),
        dryers,
      );
    }
    for (const node of dryers) {
      if (left.includes(ids.indexOf(byHand[node - count] as string))) continue;
      order(
        [...done, node],
        left,
        dryers.filter((one) => one !== node),
      );
    }
  };
  order(
    [],
    ids.map((_, i) => i),
    byHand.map((_, k) => count + k),
  );
  return { end: best.end / 4, inversions: best.inversions };
}
