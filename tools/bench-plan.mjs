// The planning rows of the bench: problems like a lesson's, searched for the least end and then for the fewest changes of order.
import { solve, solveInOrder, solving } from '../packages/core/dist/plan/index.js';

function seeded(seed) {
  let state = seed;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

/** Areas from back to front, each in two or three coats that must dry in between, with breaks. */
function likeALesson(seed, count) {
  const random = seeded(seed);
  for (let i = 0; i < 5; i++) random();
  const areas = Math.max(2, Math.round(count / 2.6));
  const steps = Array.from({ length: count }, (_, i) => ({ id: `s${i}`, minutes: 2 + Math.round(random() * 28) / 4 }));
  const relations = [];
  const lastOf = new Map();
  for (let i = 0; i < count; i++) {
    const area = i < areas ? i : Math.floor(random() * areas);
    const dry = (from, minutes) =>
      relations.push({ id: `d${from}-${i}`, type: 'dry', from: `s${from}`, to: `s${i}`, minutes, source: '' });
    if (lastOf.has(area)) dry(lastOf.get(area), 6 + Math.round(random() * 60) / 4);
    if (lastOf.has(area - 1) && random() < 0.6) dry(lastOf.get(area - 1), 4 + Math.round(random() * 40) / 4);
    lastOf.set(area, i);
  }
  return { steps, relations, breaks: { length: 10, maxStretch: 75 } };
}

/** Time until the end is proven (the first phase), and until all is. */
function measured(problem) {
  const from = performance.now();
  const work = solving(problem);
  let proven = Number.NaN;
  let step = work.next();
  for (; !step.done; step = work.next())
    if (Number.isNaN(proven) && step.value.lowerBound >= step.value.end) proven = performance.now() - from;
  const all = performance.now() - from;
  return { solution: step.value, proven: Number.isNaN(proven) ? all : Math.min(proven, all), all };
}

export function planRows(row) {
  for (const count of [10, 15, 20, 25, 40]) {
    const runs = Array.from({ length: count > 25 ? 8 : 15 }, (_, i) => measured(likeALesson(31 * (i + 1), count)));
    const at = (list, q) => [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * q))];
    const times = runs.map((run) => run.proven);
    const ends = runs.filter((run) => run.solution.status === 'optimal').length;
    const orders = runs.filter((run) => run.solution.orderProven).length;
    const gap = Math.max(...runs.map(({ solution }) => 1 - solution.lowerBound / solution.makespan));
    row(
      `plan of ${count} steps: end proven`,
      `${runs.length} problems, with breaks`,
      `median ${at(times, 0.5).toFixed(0)} ms, p95 ${at(times, 0.95).toFixed(0)}`,
      count === 25 ? '≤ 50 ms, p95 ≤ 500 ms' : count === 40 ? 'gap ≤ 3 % in 1 s' : '',
    );
    row(
      '  order proven too',
      `${ends} ends, ${orders} orders proven, gap ${(100 * gap).toFixed(1)} %`,
      `median ${at(
        runs.map((run) => run.all),
        0.5,
      ).toFixed(0)} ms`,
      count === 25 ? 'mostly ≤ 1 s' : '',
    );
  }
  const saved = Array.from({ length: 15 }, (_, i) => {
    const problem = likeALesson(31 * (i + 1), 20);
    const [own, best] = [solveInOrder(problem).makespan, solve(problem).makespan];
    return (own - best) / own;
  });
  row(
    'minutes saved against the order given',
    '15 problems of 20 steps',
    `${((100 * saved.reduce((a, b) => a + b)) / 15).toFixed(0)} %`,
    '',
  );
}
