// The planning rows of the bench: problems like a lesson's, searched for the least end and then for the fewest changes of order.
import { readFileSync } from 'node:fs';
import loadHighs from 'highs';
import { tsImport } from 'tsx/esm/api';
import { airMap, betterOrder, threePlans } from '../packages/core/dist/advice/index.js';
import { bordersBetween, extentsOf } from '../packages/core/dist/derived/index.js';
import { simulatePace } from '../packages/core/dist/pace/index.js';
import { lessonProblem, planLesson } from '../packages/core/dist/plan/index.js';
import { solve, solveInOrder, solving } from '../packages/kernels/dist/scheduling/index.js';
import { manyAreas } from './bench-picture.mjs';

const fixture = (name) => tsImport(`../packages/kernels/src/scheduling/${name}.fixture.ts`, import.meta.url);
const { drawProblem, fullOfWindows, likeALesson } = await fixture('problem');
const { asMilp } = await fixture('highs');
const HIGHS_SECONDS = 10;

/** Time until the end is proven (the first phase), and until all is. */
function measured(problem, maxNodes) {
  const from = performance.now();
  const work = solving(problem, { maxNodes });
  let proven = Number.NaN;
  let step = work.next();
  for (; !step.done; step = work.next())
    if (Number.isNaN(proven) && step.value.lowerBound >= step.value.end) proven = performance.now() - from;
  const all = performance.now() - from;
  return { solution: step.value, proven: Number.isNaN(proven) ? all : Math.min(proven, all), all };
}

const at = (list, q) => [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * q))];
const mean = (list) => list.reduce((a, b) => a + b, 0) / list.length;
const toEnd = (work) => {
  let step = work.next();
  while (!step.done) step = work.next();
  return step.value;
};
const timed = (work) => {
  const from = performance.now();
  const answer = work();
  return [answer, performance.now() - from];
};

/** The class played before it is held. */
export function paceRows(row) {
  const steps = Array.from({ length: 25 }, (_, i) => ({
    id: `s${i}`,
    key: i,
    doMin: 4 + (i % 5) * 2,
    showMin: 2,
    breakMin: i === 12 ? 10 : 0,
    pauseMin: 0,
    gate: { q: 0.9, afterMin: 11 + (i % 5) * 2 },
    drying: i > 1 && i % 4 === 0 ? [{ after: `s${i - 2}`, minutes: 12 }] : [],
  }));
  const model = { steps, students: { n: 20, sigma: 0.38, stepSigma: 0.2, help: { chance: 0.1, minutes: 3 } }, slotMin: 240 };
  simulatePace(model, { runs: 500, seed: 1 });
  const from = performance.now();
  simulatePace(model, { runs: 10_000, seed: 1 });
  row('pace of a group', '10 000 runs, 20 students, 25 steps', `${((performance.now() - from) / 1000).toFixed(2)} s`, '≤ 2 s');
}

export async function planRows(row) {
  for (const count of [25, 40, 60, 80]) {
    const runs = Array.from({ length: 12 }, (_, i) => measured(fullOfWindows(i + 1, count), 3000));
    const over = Math.max(...runs.map(({ solution }) => solution.makespan / solution.lowerBound - 1));
    row(
      `plan of ${count} steps full of wet windows`,
      `${runs.length} problems, at most ${(100 * over).toFixed(1)} % above the bound`,
      `median ${at(
        runs.map((run) => run.proven),
        0.5,
      ).toFixed(0)} ms, longest ${Math.max(...runs.map((run) => run.proven)).toFixed(0)}`,
      count <= 40 ? '≤ 1 % in 1 s' : '≤ 3 % in 5 s',
    );
  }
  for (const count of [10, 15, 20, 25, 30, 40, 50, 60]) {
    const runs = Array.from({ length: count > 25 ? 8 : 25 }, (_, i) =>
      measured(likeALesson(31 * (i + 1), count), count > 30 ? 5000 : 20_000),
    );
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
  await besideHighs(row);
  const saved = Array.from({ length: 15 }, (_, i) => {
    const problem = likeALesson(31 * (i + 1), 20);
    const best = solve(problem).makespan;
    const own = solveInOrder(problem).makespan;
    // Without any search: the better of a greedy list and the order given.
    const greedy = solve(problem, { maxNodes: 0 }).makespan;
    return { own: (own - best) / own, greedy: (greedy - best) / greedy };
  });
  row(
    'minutes saved against the order given',
    '15 problems of 20 steps',
    `${(100 * mean(saved.map((one) => one.own))).toFixed(0)} %`,
    '',
  );
  row('  against a greedy list', 'the same', `${(100 * mean(saved.map((one) => one.greedy))).toFixed(1)} %`, '');
  const demo = JSON.parse(readFileSync(new URL('../packages/server/assets/demo/balloons.json', import.meta.url), 'utf8'));
  const [order, orderMs] = timed(() => toEnd(betterOrder(demo)));
  row(
    '  on the demo lesson',
    `${demo.steps.length} steps, ${order.changes} changes`,
    `${order.own.endMin} → ${order.best.endMin} min, ${order.proven ? 'proven' : 'not proven'} in ${orderMs.toFixed(0)} ms`,
    '',
  );
  const [plans, plansMs] = timed(() => toEnd(threePlans(demo)));
  row('three plans and what lies between', `${plans.trades.length} trades`, `${plansMs.toFixed(0)} ms`, '');
  const [map, mapMs] = timed(() => toEnd(airMap(demo)));
  row(
    'map of temperature and humidity',
    `${map.airC.length * map.humidity.length} plans of the demo lesson`,
    `${mapMs.toFixed(0)} ms`,
    '',
  );
  const [, warmMs] = timed(() => {
    for (let i = 0; i < 20; i++) planLesson({ ...demo, room: { ...demo.room, humidity: 0.4 + i / 100 } });
  });
  row('the demo lesson in other air', '20 plans', `${(warmMs / 20).toFixed(1)} ms each`, '≤ 30 ms');
  contactRows(row, demo);
}

/** What every step touches: sixty acts on eighteen by twenty-four inches, and again after one area was changed. */
function contactRows(row, demo) {
  const support = { ...demo.support, widthMm: 457.2, heightMm: 609.6 };
  const areas = manyAreas(15, 200, support);
  const steps = Array.from({ length: 60 }, (_, i) => ({
    ...demo.steps[2 + (i % 4)],
    id: `c${i}`,
    areaIds: [areas[i % 15].id],
    mixIds: [demo.mixes[i % demo.mixes.length].id],
    needs: 'auto',
  }));
  const lesson = { ...demo, support, areas, steps };
  planLesson(lesson);
  const [{ contacts }, ms] = timed(() => lessonProblem({ ...lesson, title: 'again' }));
  row('contacts of 60 acts', `15 areas of 200 points, ${contacts.length} contacts`, `${ms.toFixed(0)} ms`, '≤ 150 ms');
  const moved = areas.map((area, k) =>
    k === 7 ? { ...area, outline: area.outline.map((polygon) => polygon.map((ring) => ring.map(([x, y]) => [x + 1, y]))) } : area,
  );
  const changed = { ...lesson, areas: moved };
  bordersBetween(changed);
  extentsOf(changed);
  const [, changedMs] = timed(() => lessonProblem(changed));
  row('  one area changed', 'once areas are worked out', `${changedMs.toFixed(0)} ms`, '≤ 30 ms');
}

async function besideHighs(row) {
  for (const [count, withBreaks] of [
    [8, false],
    [12, false],
    [6, true],
    [9, true],
  ]) {
    const ours = [];
    const theirs = [];
    let limits = 0;
    for (let seed = 1; seed <= 6; seed++) {
      const problem = drawProblem(seed * 3571, count, withBreaks);
      ours.push(timed(() => solve(problem))[1]);
      const highs = await loadHighs();
      const [answer, ms] = timed(() => highs.solve(asMilp(problem), { time_limit: HIGHS_SECONDS, output_flag: false }));
      theirs.push(ms);
      if (answer.Status === 'Time limit reached') limits++;
    }
    const ratio = mean(theirs) / mean(ours);
    row(
      `HiGHS beside it, ${count} steps${withBreaks ? ' with breaks' : ''}`,
      `6 problems${limits > 0 ? `, ${limits} at its limit of ${HIGHS_SECONDS} s` : ''}`,
      `${mean(ours).toFixed(1)} and ${mean(theirs).toFixed(0)} ms, ${limits > 0 ? '> ' : ''}${ratio.toFixed(0)} times`,
      '',
    );
  }
}
