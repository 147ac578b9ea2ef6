// npm run narrations -- FOLDER [--fit]: how well narrations with known answers (*.vtt, truth.json) are heard; with --fit also how well each is
// cut by a model fitted without it, in four guises, and the weights that all of them teach.
import { resolve } from 'node:path';
import { readNarrations } from '../packages/core/src/fixtures/narrations.js';
import { f1, filmsOf, fitHearing, leftOneOut, type Score } from '../packages/core/src/hear/fit.fixture.js';
import { measureNarrations, total } from '../packages/core/src/hear/measure.fixture.js';

const [folder] = process.argv.slice(2).filter((one) => !one.startsWith('--'));
if (!folder) {
  console.error('Name a folder: npm run narrations -- FOLDER. It holds narrations as .vtt and their answers in truth.json.');
  process.exit(1);
}
const corpus = readNarrations(resolve(folder));
const measured = measureNarrations(corpus);
const two = (score: Score) => f1(score).toFixed(2);
console.table(
  measured.map(({ name, borders, given, found, ms }) => ({
    name,
    borders: two(borders),
    tools: `${two(given.tools)} ${two(found.tools)}`,
    colours: `${two(given.colours)} ${two(found.colours)}`,
    amounts: `${two(given.amounts)} ${two(found.amounts)}`,
    drying: `${two(given.drying)} ${two(found.drying)}`,
    ms: Math.round(ms),
  })),
);
console.log('F1; of names first with the true borders, then with those found.');
console.log('borders ±8 s', f1(total(measured, ({ borders }) => borders)).toFixed(3));
for (const kind of ['tools', 'colours', 'amounts', 'drying'] as const)
  console.log(
    kind,
    f1(total(measured, ({ given }) => given[kind])).toFixed(3),
    f1(total(measured, ({ found }) => found[kind])).toFixed(3),
  );
if (process.argv.includes('--fit')) {
  const films = filmsOf(corpus);
  for (const { guise, score } of leftOneOut(films))
    console.log(
      `each left out: ${guise.bare ? 'no openers' : 'openers'}, ${guise.brisk ? 'short pauses' : 'pauses'}`,
      f1(score).toFixed(3),
    );
  console.log(
    `weights: [${fitHearing(films)
      .weights.map((w) => w.toFixed(3))
      .join(', ')}]`,
  );
}
