import type { readNarrations, Truth } from '../fixtures/narrations.js';
import { addScores, noScore, type Score, scoreBorders, scoreSets, trueBorders } from './fit.fixture.js';
import { type HeardStep, hear, stepsAsLearnt, stepsCut } from './index.js';

const kinds = ['tools', 'colours', 'amounts', 'drying'] as const;
type Kind = (typeof kinds)[number];
export type Measured = { name: string; borders: Score; given: Record<Kind, Score>; found: Record<Kind, Score>; ms: number };

const pairs = (amounts: Readonly<Record<string, unknown>>): string[] =>
  Object.entries(amounts).map(([id, amount]) => `${id}=${amount}`);
const nothing: Pick<HeardStep, 'tools' | 'colours' | 'amounts' | 'dryAfter'> = {
  tools: [],
  colours: [],
  amounts: {},
  dryAfter: false,
};

/** Names of steps against the truth: each true step against the one that overlaps it most; what is left over counts as said. */
function labels(truth: Truth, steps: readonly HeardStep[]): Record<Kind, Score> {
  const out: Record<Kind, Score> = { tools: noScore, colours: noScore, amounts: noScore, drying: noScore };
  const add = (kind: Kind, real: readonly string[], said: readonly string[]) => {
    out[kind] = addScores(out[kind], scoreSets(real, said));
  };
  const used = new Set<HeardStep>();
  for (const real of truth.steps.filter(({ meta }) => !meta)) {
    const overlap = (step: HeardStep) => Math.min(step.to, real.to) - Math.max(step.from, real.from);
    const best = [...steps].sort((a, b) => overlap(b) - overlap(a))[0];
    const own = best && overlap(best) > 0 && !used.has(best) ? best : nothing;
    if (best && overlap(best) > 0) used.add(best);
    add('tools', real.tools, own.tools);
    add('colours', real.colours, own.colours);
    add('amounts', pairs(real.amounts), pairs(own.amounts));
    add('drying', real.dryAfter ? ['dry'] : [], own.dryAfter ? ['dry'] : []);
  }
  for (const step of steps)
    if (!used.has(step)) {
      add('tools', [], step.tools);
      add('colours', [], step.colours);
      add('amounts', [], Object.keys(step.amounts));
    }
  return out;
}

/** How well narrations are heard: borders, and what each step uses, with the true borders given and with those found. */
export function measureNarrations({ names, source, truths }: ReturnType<typeof readNarrations>): Measured[] {
  return names.map((name) => {
    const truth = truths[name] as Truth;
    const real = trueBorders(truth);
    const begun = performance.now();
    const heard = hear(source(name), truth.shelf);
    const found = stepsAsLearnt(heard);
    const ms = performance.now() - begun;
    const cuts = real.map((t) => heard.sentences.findIndex(({ from, to }) => (from + to) / 2 >= t)).filter((i) => i > 0);
    return {
      name,
      borders: scoreBorders(
        real,
        found.slice(1).map(({ from }) => from),
      ),
      given: labels(truth, stepsCut(heard, cuts)),
      found: labels(truth, found),
      ms,
    };
  });
}
export const total = (all: readonly Measured[], of: (one: Measured) => Score): Score => all.map(of).reduce(addScores, noScore);
