import { capital } from '../units/index.js';
import type { ActName } from './lexicon.js';
import { places } from './lexicon.js';
import { commonWords, type Marked } from './signs.js';

/** What is done, as the first words of a title; and how far an act names a step (a mix is made in most of them). Our judgement. */
const acts: Record<ActName, { says: string; weight: number }> = {
  mix: { says: 'Mix for', weight: 0.4 },
  block: { says: 'Block in', weight: 1 },
  tone: { says: 'Lay the ground', weight: 0.9 },
  draw: { says: 'Draw', weight: 1.5 },
  transfer: { says: 'Transfer', weight: 2 },
  tape: { says: 'Tape', weight: 1.6 },
  coat: { says: 'Another coat on', weight: 1.6 },
  glaze: { says: 'Glaze', weight: 1.8 },
  blend: { says: 'Blend', weight: 1.1 },
  stipple: { says: 'Dab in', weight: 1.2 },
  spatter: { says: 'Spatter', weight: 1.6 },
  dry_brush: { says: 'Drag', weight: 0.9 },
  shadow: { says: 'Shadows on', weight: 0.9 },
  highlight: { says: 'Lights on', weight: 1.5 },
  detail: { says: 'Lines on', weight: 0.9 },
  lift: { says: 'Lift', weight: 0.5 },
  sign: { says: 'Sign', weight: 2 },
  varnish: { says: 'Varnish', weight: 2 },
  look: { says: 'Look at', weight: 0.3 },
};
const alone: Partial<Record<ActName, string>> = {
  mix: 'Mix the colours',
  coat: 'Another coat',
  shadow: 'Shadows',
  highlight: 'Highlights',
  detail: 'Details',
  look: 'Step back and look',
  tone: 'Lay the ground',
  dry_brush: 'Drag the brush',
};
const NO_THING =
  /^(them|him|her|it|corner|edge|hair|water|ground|light|shadow|highlight|brush|colou?r|mix|coat|layer|part|side|top|bottom|left|right|middle|line|paint|canva|board|time|minute|end|dryer|lesson|whole|thing|way|inch|flat|round|mop|filbert|rigger|knife|sponge|white|red|blue|green|yellow|black|orange|touch|speck|bit|tape|picture)$/;

export type StepName = { act: ActName | null; thing: string | null; titles: string[] };
type Known = { areas: readonly string[]; colours: readonly string[] };

/** What the sentences of a step are about: its act, its thing, and three titles. Names of the lesson's own areas come first. */
export function nameOf(units: readonly Marked[], { areas, colours }: Known): StepName {
  const weights = new Map<ActName, number>();
  units.forEach((unit, k) => {
    for (const act of unit.acts as ReadonlySet<ActName>)
      weights.set(act, (weights.get(act) ?? 0) + acts[act].weight / (1 + 0.6 * k));
  });
  const ranked = byWeight(weights);
  const [act = null, second] = ranked;
  const own = areaNamed(units, areas);
  const things = byWeight(thingsIn(units));
  const found = own ?? things[0] ?? null;
  const isSaid =
    (act === 'shadow' && found === 'shadow') || (act === 'highlight' && found === 'light') || (act === 'tone' && !own);
  const thing = isSaid ? null : found;
  const titles = [
    titled(act, thing),
    act && colours[0] ? `${titled(act, thing)}, ${colours[0]}` : null,
    second ? titled(second, thing) : null,
    thing ? capital(thing) : null,
    thing && things[1] && things[1] !== thing ? titled(act, things[1]) : null,
    firstWords(units),
  ].filter((one): one is string => Boolean(one));
  return { act, thing, titles: [...new Set(titles)].slice(0, 3) };
}

const byWeight = <T>(map: ReadonlyMap<T, number>): T[] => [...map].sort((a, b) => b[1] - a[1]).map(([key]) => key);

function titled(act: ActName | null, thing: string | null): string | null {
  if (!act) return thing ? capital(thing) : null;
  if (!thing) return alone[act] ?? acts[act].says;
  if (act === 'tone') return `${acts.tone.says} of the ${thing}`;
  return `${acts[act].says} the ${thing}`;
}

/** The area of the lesson that is named most, early words before late ones. */
function areaNamed(units: readonly Marked[], areas: readonly string[]): string | null {
  const weights = new Map<string, number>();
  units.forEach(({ low }, k) => {
    for (const area of areas) {
      const name = area.toLowerCase();
      if (new RegExp(`\\b${name.replace(/[^a-z0-9 ]/g, '.')}`).test(low))
        weights.set(name, (weights.get(name) ?? 0) + name.length / (1 + 0.6 * k));
    }
  });
  return byWeight(weights)[0] ?? null;
}

/** Things after an act or an opener: "for the awning", "block in the coat"; one that is no known place must be named twice. */
function thingsIn(units: readonly Marked[]): Map<string, number> {
  const things = new Map<string, number>();
  const add = (thing: string, weight: number) => things.set(thing, (things.get(thing) ?? 0) + weight);
  units.forEach((unit, k) => {
    const seen = new Set<string>();
    for (const found of unit.low.matchAll(/\b(?:the|our|his|her|my|with|for|a|of|at)\s+(?:\w+\s)?([a-z]{3,})\b/g)) {
      const word = found[1] as string;
      const thing = word.replace(/s$/, '');
      if (commonWords.has(word) || commonWords.has(thing) || NO_THING.test(thing) || seen.has(thing)) continue;
      seen.add(thing);
      add(thing, (places.includes(thing) ? 1.6 : 1) / (1 + 0.8 * k));
    }
    for (const place of unit.places) if (!seen.has(place)) add(place, 0.8 / (1 + 0.8 * k));
  });
  for (const thing of [...things.keys()]) {
    const word = new RegExp(`\\b${thing}`);
    if (!places.includes(thing) && units.filter(({ low }) => word.test(low)).length < 2) things.delete(thing);
  }
  return things;
}

/** The first words that were said, where nothing else names a step. */
function firstWords(units: readonly Marked[]): string | null {
  const words = (units[0]?.text ?? '')
    .replace(/^((okay|ok|so|now|right|and|then|well)[,.]? )+/i, '')
    .split(' ')
    .slice(0, 5)
    .join(' ');
  return words ? capital(words.replace(/[.,;:!?]+$/, '')) : null;
}
