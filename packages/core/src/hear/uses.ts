import { amountsOf, type ColourBook, type FoundColour, findColours, foldName, isAlsoThing, type SaidAmount } from './colours.js';
import { negates, numbers, tools } from './lexicon.js';
import type { Sentence } from './sentences.js';

/** What a step uses: tools and colours by name, and what is said of their amounts. */
export type Uses = { tools: string[]; colours: string[]; amounts: Record<string, SaidAmount> };
/** What "the same" may mean: the last brush, the main colour, and what was named last. */
export type Past = { tool?: string | undefined; main?: string | undefined; found: readonly FoundColour[] };

const brushes = new Set(['flat', 'filbert', 'round', 'fan', 'rigger', 'angled', 'rake', 'mop', 'hake', 'knife', 'sponge']);
type Said = { low: string; tokens: string[]; found: FoundColour[]; amounts: Map<string, SaidAmount> };

/** Everything the sentences of a step name as used, and what the step after it may call "the same". */
export function usesOf(units: readonly Sentence[], book: ColourBook, past: Past): { uses: Uses; past: Past } {
  const named = toolsOf(units, past);
  const said = saidIn(units, book, past);
  const { colours, spent } = spokenRecipes(said, book);
  const count = (id: string) => colours.set(id, (colours.get(id) ?? 0) + 1);
  const mixNames = new Set(book.mixes.map(({ name }) => name));
  const amounts: Record<string, SaidAmount> = {};
  said.forEach(({ tokens, found, amounts: own }, k) => {
    found.forEach((one, q) => {
      if (spent.has(`${k}:${q}`) || one.id === null) return;
      if (one.kind === 'mix' && isAlsoThing(one.id) && !isAsPaint(tokens, one)) return;
      count(one.id);
    });
    for (const [id, amount] of own) if (!mixNames.has(id) && amounts[id] === undefined) amounts[id] = amount;
  });
  if (past.main && saysSameColour(said, colours.size)) colours.set(past.main, 1);
  const ownTool = [...named].filter((tool) => brushes.has(tool)).at(-1);
  const main = [...colours].sort((a, b) => b[1] - a[1])[0]?.[0];
  return {
    uses: { tools: [...named], colours: [...colours.keys()], amounts },
    past: {
      tool: ownTool ?? past.tool,
      main: main ?? past.main,
      found: [...said.flatMap(({ found }) => found).reverse(), ...past.found].slice(0, 12),
    },
  };
}

function toolsOf(units: readonly Sentence[], past: Past): Set<string> {
  const named = new Set<string>();
  for (const { low } of units) {
    for (const [name, words] of Object.entries(tools)) if (isToolUsed(name, words, low)) named.add(name);
    const isSame = /\b(same brush|(filbert|flat|round|mop|rigger|fan|brush) again|same (flat|filbert|round))\b/.test(low);
    if (isSame && named.size === 0 && past.tool) named.add(past.tool);
  }
  return named;
}

function isToolUsed(name: string, words: RegExp, low: string): boolean {
  const found = words.exec(low);
  if (!found) return false;
  const back = low.slice(0, found.index).split(' ').filter(Boolean).slice(-4);
  const no = back.findIndex((w) => negates.test(w));
  if (no >= 0 && !back.slice(no).includes('and')) return false;
  if (/\b(recommend|used to|i once|last time)\b/.test(low)) return false;
  if (name === 'tape' && /\b(over|seal) the tape\b/.test(low)) return false;
  if (name !== 'flat') return true;
  // "Flat" is a brush, or how something lies.
  const isBare = !/brush|inch|one/.test(found[0]);
  const asBrush =
    /\b(the|a|big|large|small|wide|broad|same|your|half.?inch|inch.and.a.half|two inch|one inch|an old|driest|this) (\w+ )?flat\b/;
  if (isBare && !asBrush.test(low)) return false;
  return !(/\b(is|it|lay(ing)?|keep it|lies|laid) (it )?flat\b/.test(low) && !/flat brush|inch/.test(low));
}

/** What each sentence names, a bare hue as the tube of that hue named last in this step or the one before. */
function saidIn(units: readonly Sentence[], book: ColourBook, past: Past): Said[] {
  const found = units.map(({ low }) => findColours(low.split(' '), book));
  return units.map(({ low }, k) => {
    const tokens = low.split(' ');
    const seen = [
      ...found
        .slice(0, k + 1)
        .reverse()
        .flat(),
      ...past.found,
    ];
    const own = (found[k] as FoundColour[]).flatMap((one) => {
      if (one.id || !one.options) return one.id ? one : [];
      const meant = seen.find(({ id }) => id !== null && one.options?.includes(id));
      return meant ? { ...one, id: meant.id } : [];
    });
    found[k] = own;
    return { low, tokens, found: own, amounts: amountsOf(tokens, own) };
  });
}

/** Tubes that together are a mix of the lesson, with amounts that do not contradict it, stand for the mix; `spent` names them. */
function spokenRecipes(said: readonly Said[], book: ColourBook): { colours: Map<string, number>; spent: Set<string> } {
  const colours = new Map<string, number>();
  const spent = new Set<string>();
  said.forEach((_, k) => {
    for (const mix of book.mixes) {
      for (const span of [1, 2]) {
        const window = said.slice(k, k + span);
        const keys = window.length === span ? recipeIn(said, k, span, mix) : null;
        if (!keys) continue;
        for (const key of keys) spent.add(key);
        colours.set(mix.name, (colours.get(mix.name) ?? 0) + 1);
        break;
      }
    }
  });
  return { colours, spent };
}

function recipeIn(said: readonly Said[], k: number, span: number, mix: ColourBook['mixes'][number]): string[] | null {
  const parts = new Set(mix.recipe.map(({ tube }) => tube));
  if (parts.size < 2) return null;
  const window = said.slice(k, k + span);
  const tubes = window.flatMap((one, j) =>
    one.found.flatMap((f, q) => (f.kind === 'tube' ? [{ f, key: `${k + j}:${q}`, one }] : [])),
  );
  const ofMix = tubes.filter(
    ({ f, one }) => parts.has(f.id as string) && !/^(plain|pure|clean)$/.test(one.tokens[f.at - 1] ?? ''),
  );
  const kinds = new Set(ofMix.map(({ f }) => f.id));
  if (kinds.size < 2 || !ofMix.some(({ f, one }) => one.amounts.has(f.id as string))) return null;
  const around = said.slice(Math.max(0, k - 1), k + span + 1);
  const word = new RegExp(`\\b${foldName(mix.name)}\\b`);
  const isNamed = around.some(({ found, low }) => found.some(({ id }) => id === mix.name) || word.test(foldName(low)));
  const isWhole = kinds.size === parts.size && tubes.length === ofMix.length;
  if (!isWhole && !isNamed) return null;
  if (!isNamed) {
    const told = mix.recipe.flatMap(({ tube, parts: own }) => {
      const amount = window.map((one) => one.amounts.get(tube)).find((one) => one !== undefined);
      return amount === undefined ? [] : [own === amount];
    });
    if (told.length < 2 || told.includes(false)) return null;
  }
  return ofMix.map(({ key }) => key);
}

/** Whether a name that is also a thing ("slate", "pond") is spoken of as paint. */
function isAsPaint(tokens: readonly string[], { at, n }: FoundColour): boolean {
  const back = tokens
    .slice(Math.max(0, at - 3), at)
    .join(' ')
    .trim();
  const next = tokens[at + n] ?? '';
  const isPart = /\b(top|bottom|edge|middle|side|out|line|all|part|corner) of (the|my)?$/.test(back);
  if (/\b(some of|more|same|mix|of|called?|gets|call|with) (the|my|this|it|a)?$/.test(back) && !isPart) return true;
  return (
    /^(colour|color|mix|is (one|two|three))$/.test(next) || (next === 'is' && numbers[tokens[at + n + 1] ?? ''] !== undefined)
  );
}

/** "The same colour": what the step before used most. */
function saysSameColour(said: readonly Said[], colours: number): boolean {
  const any = said.some(({ low }) =>
    /\b(same|that|puddle) (colou?r|dark|mix|paint|red|green|blue|grey|gray)\b(?! and)/.test(low),
  );
  return any && (colours === 0 || said.some(({ low }) => /\bsame (colou?r|dark|mix|paint)\b/.test(low)));
}
