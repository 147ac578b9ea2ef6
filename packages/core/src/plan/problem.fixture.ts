import { seeded } from '../work/seeded.fixture.js';
import type { Problem, Relation, Solution } from './index.js';

/** Steps a, b, c … of so many minutes. */
export const lettered = (...minutes: number[]) => minutes.map((value, i) => ({ id: 'abcdefghij'[i] as string, minutes: value }));

/** A relation between two of them, named by what it says. */
export const relation = (type: Relation['type'], from: string, to: string, minutes?: number, full?: boolean): Relation => ({
  id: `${type}:${from}-${to}`,
  type,
  from,
  to,
  source: 'test',
  ...(minutes === undefined ? {} : { minutes }),
  ...(full ? { full } : {}),
});

/** A planning problem drawn by chance: short steps with drying lags, wet windows, orders and, where wanted, breaks. */
export function drawProblem(seed: number, count: number, withBreaks: boolean): Problem {
  const random = seeded(seed);
  // The first numbers of neighbouring seeds are alike.
  for (let i = 0; i < 5; i++) random();
  const steps = Array.from({ length: count }, (_, i) => ({ id: `s${i}`, minutes: 0.5 + Math.round(random() * 36) / 4 }));
  const relations: Relation[] = [];
  const wanted = Math.floor(count * (0.6 + random()));
  for (let k = 0; k < wanted && count > 1; k++) {
    const i = Math.floor(random() * (count - 1));
    const j = i + 1 + Math.floor(random() * (count - 1 - i));
    const draw = random();
    const type = draw < 0.55 ? 'dry' : draw < 0.75 ? 'before' : 'wet';
    relations.push({
      id: `r${k}`,
      type,
      from: `s${i}`,
      to: `s${j}`,
      source: 'drawn',
      ...(type === 'dry' && { minutes: Math.round(random() * 80) / 4 }),
      ...(type === 'wet' && { minutes: Math.round(random() * 60) / 4, full: random() < 0.3 }),
    });
  }
  return { steps, relations, ...(withBreaks && { breaks: { length: 3, maxStretch: 14 + Math.round(random() * 40) / 4 } }) };
}

/** A problem like a lesson's: areas from back to front, each in two or three coats that must dry in between, a blend here and there. */
export function likeALesson(seed: number, count: number): Problem {
  const random = seeded(seed);
  for (let i = 0; i < 5; i++) random();
  const areas = Math.max(2, Math.round(count / 2.6));
  const steps = Array.from({ length: count }, (_, i) => ({ id: `s${i}`, minutes: 2 + Math.round(random() * 28) / 4 }));
  const relations: Relation[] = [];
  const lastOf = new Map<number, number>();
  for (let i = 0; i < count; i++) {
    const area = i < areas ? i : Math.floor(random() * areas);
    const below = lastOf.get(area);
    const dry = (from: number, minutes: number) =>
      relations.push({ id: `d${from}-${i}`, type: 'dry', from: `s${from}`, to: `s${i}`, minutes, source: 'lesson' });
    if (below !== undefined) dry(below, 6 + Math.round(random() * 60) / 4);
    // A nearer area goes over the edge of the one behind it.
    const behind = lastOf.get(area - 1);
    if (behind !== undefined && random() < 0.6) dry(behind, 4 + Math.round(random() * 40) / 4);
    lastOf.set(area, i);
  }
  return { steps, relations, breaks: { length: 10, maxStretch: 75 } };
}

/** What a plan breaks of its problem, from the statement of the problem alone: nothing of the solver is used. Empty where all holds. */
export function brokenBy(problem: Problem, { items }: Pick<Solution, 'items'>): string[] {
  const faults: string[] = [];
  const eps = 1e-9;
  const at = new Map(items.map((item) => [item.step, item]));
  if (items.length !== problem.steps.length || at.size !== items.length) return ['a step is missing or done twice'];
  items.forEach((item, k) => {
    const step = problem.steps.find((one) => one.id === item.step);
    if (!step || Math.abs(item.end - item.start - Math.ceil(step.minutes * 4 - 1e-6) / 4) > eps)
      faults.push(`${item.step}: length`);
    if (item.start < (problem.now ?? 0) - eps) faults.push(`${item.step}: too early`);
    const before = items[k - 1];
    if (before && item.start < before.end - eps) faults.push(`${item.step}: two at once`);
  });
  for (const one of problem.relations) {
    const [from, to] = [at.get(one.from), at.get(one.to)];
    if (!from || !to) return ['a step is missing'];
    const wait = to.start - from.end;
    if (wait < -eps) faults.push(`${one.id}: order`);
    if (one.type === 'dry' && wait < (one.minutes as number) - eps) faults.push(`${one.id}: dry`);
    if (one.type === 'wet' && wait > (one.minutes as number) + eps) faults.push(`${one.id}: wet`);
    if (one.type === 'wet' && one.full && to.end - from.end > (one.minutes as number) + eps) faults.push(`${one.id}: full`);
  }
  if (problem.breaks) {
    let begun = items[0]?.start ?? 0;
    items.forEach((item, k) => {
      const before = items[k - 1];
      if (before && item.start - before.end >= (problem.breaks?.length as number) - eps) begun = item.start;
      if (item.end - begun > (problem.breaks?.maxStretch as number) + eps) faults.push(`${item.step}: stretch`);
    });
  }
  return faults;
}

/** Every order and every set of breaks, each with its least times by plain relaxation: the earliest end, or Infinity. */
export function everyOrder(problem: Problem): { end: number; inversions: number } {
  const count = problem.steps.length;
  const ticks = (minutes: number) => Math.ceil(minutes * 4 - 1e-6);
  const length = problem.steps.map((step) => ticks(step.minutes));
  const number = new Map(problem.steps.map((step, i) => [step.id, i]));
  const arcs = problem.relations.flatMap((one) => {
    const [i, j] = [number.get(one.from) as number, number.get(one.to) as number];
    const window = Math.floor((one.minutes ?? 0) * 4 + 1e-6);
    const p = length[i] as number;
    if (one.type === 'dry') return [[i, j, p + ticks(one.minutes as number)]];
    if (one.type === 'before') return [[i, j, p]];
    return [[i, j, p], [j, i, -(p + window)], ...(one.full ? [[j, i, (length[j] as number) - p - window]] : [])];
  }) as [number, number, number][];
  let best = { end: Number.POSITIVE_INFINITY, inversions: Number.POSITIVE_INFINITY };
  const time = (order: number[], flags: number) => {
    const all = [...arcs];
    let begun = order[0] as number;
    order.forEach((step, k) => {
      if (k === 0) return;
      const last = order[k - 1] as number;
      const isBreak = (flags >> k) & 1;
      all.push([last, step, (length[last] as number) + (isBreak ? ticks(problem.breaks?.length as number) : 0)]);
      if (isBreak) begun = step;
      if (problem.breaks) all.push([step, begun, (length[step] as number) - Math.floor(problem.breaks.maxStretch * 4 + 1e-6)]);
    });
    if (problem.breaks && (length[order[0] as number] as number) > problem.breaks.maxStretch * 4) return Number.POSITIVE_INFINITY;
    for (const step of order)
      if (problem.breaks && (length[step] as number) > problem.breaks.maxStretch * 4) return Number.POSITIVE_INFINITY;
    const starts = new Array<number>(count).fill(0);
    for (let round = 0; round <= count + 1; round++) {
      let changed = false;
      for (const [i, j, weight] of all)
        if ((starts[i] as number) + weight > (starts[j] as number)) {
          starts[j] = (starts[i] as number) + weight;
          changed = true;
        }
      if (!changed) return Math.max(...order.map((step) => (starts[step] as number) + (length[step] as number)));
    }
    return Number.POSITIVE_INFINITY;
  };
  const go = (order: number[], left: number[]) => {
    if (left.length > 0) {
      for (const step of left)
        go(
          [...order, step],
          left.filter((one) => one !== step),
        );
      return;
    }
    let inversions = 0;
    order.forEach((step, k) => {
      for (const later of order.slice(k + 1)) if (later < step) inversions++;
    });
    for (let flags = 0; flags < (problem.breaks ? 2 ** count : 1); flags += 2) {
      const end = time(order, flags);
      if (end < best.end || (end === best.end && inversions < best.inversions)) best = { end, inversions };
    }
  };
  go(
    [],
    problem.steps.map((_, i) => i),
  );
  return { end: best.end / 4, inversions: best.inversions };
}
