// The paint rows of the bench: recipes and palettes, each beside a plain search of a small case, and one mix beside a library.
import { Color, mix as spectralMix } from 'spectral.js';
import { paletteSearch, tableOf } from '../packages/core/dist/mix/index.js';
import { deltaE00 } from '../packages/kernels/dist/colour/index.js';
import { toEnd } from '../packages/kernels/dist/cooperative/index.js';
import { mixColour } from '../packages/kernels/dist/mixing/index.js';
import { RecipeTable } from '../packages/kernels/dist/mixing/search/table.js';
import { pigmentOf, pigmentTable } from '../packages/kernels/dist/pigment/index.js';

const TWELVE = ['PW6', 'PB29', 'PB15:3', 'PR122', 'PR254', 'PY74', 'PY42', 'PBr7-BU', 'PBk9', 'PG7', 'PY3', 'PBr7-BS'];
const now = () => performance.now();
let state = 9;
const random = () => {
  state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
  return state / 2 ** 32;
};
/** A colour that a scene may have: some tubes with white. */
const scene = (tubes) =>
  mixColour([
    { pigment: 'PW6', parts: 1 + Math.floor(8 * random()) },
    { pigment: tubes[Math.floor(random() * tubes.length)], parts: 1 + Math.floor(4 * random()) },
    { pigment: tubes[Math.floor(random() * tubes.length)], parts: 1 },
  ]).lab.map((value, i) => value + (i ? 3 : 1) * (random() - 0.5));

/** The best recipe of whole parts by plain loops over every set of tubes. */
function plainly(target, tubes, maxTubes = 4) {
  let best = { deltaE: Number.POSITIVE_INFINITY };
  const gcd = (a, b) => (b === 0 ? a : gcd(b, a % b));
  const go = (at, parts, left) => {
    if (parts.length > 0 && parts.map((one) => one.parts).reduce(gcd) === 1) {
      const deltaE = deltaE00(target, mixColour(parts).lab);
      if (deltaE < best.deltaE) best = { deltaE, parts };
    }
    if (parts.length === maxTubes) return;
    for (let i = at; i < tubes.length; i++)
      for (let n = 1; n <= left; n++) go(i + 1, [...parts, { pigment: tubes[i], parts: n }], left - n);
  };
  go(0, [], 12);
  return best;
}

export function paintRows(row) {
  const paints = TWELVE.map((id) => ({ ...pigmentOf(id) }));
  const from = now();
  let first = 0;
  const building = tableOf(paints);
  let step = building.next();
  for (; !step.done; step = building.next()) if (first === 0 && step.value.table.size > 0) first = now() - from;
  row('recipe table, first answer (whole parts)', '12 tubes, 283 207 recipes', `${first.toFixed(0)} ms`, '≤ 1 s');
  row('recipe table, all of it', `12 tubes, ${step.value.size} recipes`, `${(now() - from).toFixed(0)} ms`, '≤ 5 s');
  const times = Array.from({ length: 60 }, () => {
    const target = scene(TWELVE);
    const start = now();
    step.value.nearest(target, { count: 5 });
    return now() - start;
  }).sort((a, b) => a - b);
  row(
    'a colour looked up in it',
    '60 scene colours',
    `median ${times[30].toFixed(1)} ms, p95 ${times[57].toFixed(0)}`,
    'median ≤ 25 ms',
  );

  const five = TWELVE.slice(0, 5);
  const target = scene(five);
  let start = now();
  const plain = plainly(target, five);
  const plainMs = now() - start;
  const table = toEnd(
    tableOf(
      five.map((id) => ({ ...pigmentOf(id) })),
      { smalls: 0 },
    ),
  );
  start = now();
  const [hit] = table.nearest(target);
  const same = Math.abs(hit.deltaE - plain.deltaE) < 1e-3 ? 'same recipe' : 'DIFFERENT';
  row('  exhaustive search beside it', '5 tubes, whole parts', `${plainMs.toFixed(0)} ms, ${same}`, 'same');

  let equal = 0;
  for (let i = 0; i < 100; i++) {
    const tubes = [...TWELVE].sort(() => random() - 0.5).slice(0, 4 + (i % 5));
    const maxTubes = tubes.length <= 5 ? 4 : 3;
    const aim = scene(tubes);
    const [found] = toEnd(RecipeTable.build(tubes.map(pigmentOf), { smalls: 0, maxTubes })).nearest(aim);
    if (Math.abs(found.deltaE - plainly(aim, tubes, maxTubes).deltaE) < 1e-3) equal++;
  }
  row('  the same on random cases', '100 cases of 4–8 tubes', `${equal} of 100 equal`, 'all');

  const twenty = [...pigmentTable.keys()].slice(0, 20);
  const targets = Array.from({ length: 20 }, () => scene(twenty));
  const cold = now();
  const palette = toEnd(paletteSearch(targets, twenty, { tolerance: 3 }));
  const warm = now();
  toEnd(paletteSearch(targets, twenty, { tolerance: 3 }));
  const end = now();
  row('smallest palette, cold', `20 colours of 20 tubes: ${palette.tubes.length}`, `${(warm - cold).toFixed(0)} ms`, '≤ 6 s');
  row('smallest palette, warm', 'the same tubes again', `${(end - warm).toFixed(0)} ms`, '≤ 2 s');

  const [one, other] = [new Color('#2b3990'), new Color('#f5d000')];
  const rounds = 2000;
  start = now();
  for (let i = 0; i < rounds; i++) spectralMix([one, 1], [other, 2]).sRGB;
  const theirs = (now() - start) / rounds;
  start = now();
  for (let i = 0; i < rounds; i++)
    mixColour([
      { pigment: 'PB29', parts: 1 },
      { pigment: 'PY74', parts: 2 },
    ]);
  const ours = (now() - start) / rounds;
  row(
    'one mix of two, ours and spectral.js',
    `${rounds} mixes`,
    `${(ours * 1000).toFixed(1)} and ${(theirs * 1000).toFixed(1)} µs`,
    '≤ 20 µs',
  );
}
