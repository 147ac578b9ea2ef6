import type { Problem } from './index.js';

/**
 * The problem as a mixed integer program in the LP format: a start for each step, an order for each pair, and with breaks the
 * number of breaks before each step. In quarter minutes; the objective is the end. For steps, constraints and breaks only.
 */
export function asMilp(problem: Problem): string {
  const up = (minutes: number) => Math.ceil(minutes * 4 - 1e-6);
  const down = (minutes: number) => Math.floor(minutes * 4 + 1e-6);
  const { steps, constraints, breaks } = problem;
  const n = steps.length;
  const p = steps.map((step) => up(step.minutes));
  const at = new Map(steps.map((step, i) => [step.id, i]));
  const far =
    p.reduce((sum, one) => sum + one, 0) +
    constraints.reduce(
      (sum, one) =>
        sum +
        (one.type === 'dry' ? up(one.minutes as number) : 0) +
        (one.type === 'either' ? up(one.minutes as number) + up(one.backMinutes as number) : 0),
      0,
    ) +
    (breaks ? n * up(breaks.length) : 0);
  const rows: string[] = [];
  const say = (left: string, right: number) => rows.push(` ${left} >= ${right}`);
  steps.forEach((_, i) => {
    say(`e - s${i}`, p[i]);
  });
  for (let i = 0; i < n; i++)
    for (let j = 0; j < n; j++) {
      if (i === j) continue;
      // y_i_j = 1: i before j; one binary for each pair.
      const [y, sign] = i < j ? [`y${i}_${j}`, 1] : [`y${j}_${i}`, -1];
      const whenBefore = (left: string, right: number, slack: number) =>
        sign === 1 ? say(`${left} - ${slack} ${y}`, right - slack) : say(`${left} + ${slack} ${y}`, right);
      whenBefore(`s${j} - s${i}`, p[i], far * 2);
      for (const one of constraints) {
        if (one.type !== 'either') continue;
        const [from, to] = [at.get(one.from), at.get(one.to)];
        if (from === i && to === j) whenBefore(`s${j} - s${i}`, p[i] + up(one.minutes as number), far * 2);
        if (from === j && to === i) whenBefore(`s${j} - s${i}`, p[i] + up(one.backMinutes as number), far * 2);
      }
      if (!breaks) continue;
      const d = `d${i}_${j}`;
      whenBefore(`s${j} - s${i} - ${up(breaks.length)} ${d}`, p[i], far * 2);
      whenBefore(`k${j} - k${i} - ${d}`, 0, n * 2);
      whenBefore(`k${i} - k${j} + ${n} ${d}`, 0, n * 2);
      whenBefore(`s${i} - s${j} + ${far * 2} ${d}`, p[j] - down(breaks.maxStretch), far * 4);
    }
  if (breaks) for (const length of p) if (length > down(breaks.maxStretch)) say('e', far * 100);
  for (const one of constraints) {
    const [i, j] = [at.get(one.from) as number, at.get(one.to) as number];
    const length = p[i];
    if (one.type === 'either') continue;
    say(`s${j} - s${i}`, length + (one.type === 'dry' ? up(one.minutes as number) : 0));
    if (one.type !== 'wet') continue;
    say(`s${i} - s${j}`, -(length + down(one.minutes as number)));
    if (one.full) say(`s${i} - s${j}`, p[j] - length - down(one.minutes as number));
  }
  const pairs = steps.flatMap((_, i) => steps.flatMap((_, j) => (i < j ? [`y${i}_${j}`] : [])));
  const gaps = breaks ? steps.flatMap((_, i) => steps.flatMap((_, j) => (i === j ? [] : [`d${i}_${j}`]))) : [];
  const counts = breaks ? steps.map((_, i) => `k${i}`) : [];
  return [
    'Minimize',
    ' obj: e',
    'Subject To',
    ...rows.map((row, k) => ` c${k}:${row}`),
    'Bounds',
    ` 0 <= e <= ${far * 2}`,
    ...steps.map((_, i) => ` 0 <= s${i} <= ${far * 2}`),
    ...counts.map((k) => ` 0 <= ${k} <= ${n}`),
    'General',
    ` e ${steps.map((_, i) => `s${i}`).join(' ')} ${counts.join(' ')}`,
    'Binary',
    ` ${[...pairs, ...gaps].join(' ')}`,
    'End',
  ].join('\n');
}
