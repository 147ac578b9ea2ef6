import type { Amount, Lab } from '@viaticum/contract';
import { deltaE00Of, QUICK_ERROR, quickDeltaE } from '../../colour/index.js';
import { toEnd } from '../../cooperative/index.js';
import type { Finish, Spectra } from '../mixing.js';
import { type Box, leastSquared, weightsOf } from './bound.js';
import { amountsOf, type Block, palePlan, type SmallAmount, tierPlan } from './grid.js';
import { blockKernel } from './kernel.js';

/** All recipes with one number of small amounts: their colours, in cells of like colours. */
type Tier = { blocks: Block[]; rows: number; lab: Float32Array; cells: Cell[]; order: Uint32Array; sets?: Uint16Array };
type Cell = Box & { from: number; to: number };

export type TableOptions = {
  maxTubes?: number;
  finish?: Finish;
  /** How many small amounts a recipe may have: up to 2; with 3 also up to three in white alone, each taken up to three times. */
  smalls?: 0 | 1 | 2 | 3;
  kinds?: readonly SmallAmount[];
};
/** A recipe found: numbers of the paints with their amounts, its difference and colour. */
export type Hit = { parts: { tube: number; parts: Amount }[]; deltaE: number; lab: Lab };
export type NearestOptions = {
  count?: number;
  /** Only recipes of these tubes, as bits. */
  among?: number;
  /** Nothing farther than this is asked for. */
  limit?: number;
};

const CELL = 4; // ΔE of Lab
const YIELD_ROWS = 60_000;

/**
 * Every recipe of the grid with its colour, from which the nearest to a colour are found exactly. Built tier by tier: whole
 * parts, then with one small amount, with two, and the pale tints of white.
 */
export class RecipeTable {
  private readonly tiers: Tier[] = [];

  /** Builds a table; yields the share 0-1 done, and a table that already answers from the tiers built so far. */
  static *build(
    paints: readonly Spectra[],
    options: TableOptions = {},
  ): Generator<{ share: number; table: RecipeTable }, RecipeTable> {
    const { maxTubes = 4, finish = 'satin', smalls = 3, kinds } = options;
    const whites = paints.flatMap((paint, i) => (isWhite(paint) ? [i] : []));
    const table = new RecipeTable();
    const plans = Array.from({ length: Math.min(2, smalls) + 1 }, (_, count) => tierPlan(paints.length, maxTubes, count, kinds));
    if (smalls === 3) plans.push(palePlan(paints.length, maxTubes, whites));
    const all = plans.reduce((sum, plan) => sum + plan.rows, 0);
    const fill = blockKernel(paints, finish);
    let done = 0;
    let since = 0;
    for (const plan of plans) {
      if (plan.rows === 0) continue;
      const lab = new Float32Array(plan.rows * 3);
      for (const block of plan.blocks) {
        fill(block, lab, block.first);
        done += block.list.count;
        since += block.list.count;
        if (since >= YIELD_ROWS) {
          since = 0;
          yield { share: done / all, table };
        }
      }
      const { cells, order } = intoCells(lab);
      table.tiers.push({ blocks: plan.blocks, rows: plan.rows, lab, cells, order });
      yield { share: done / all, table };
    }
    return table;
  }

  get size(): number {
    return this.tiers.reduce((sum, tier) => sum + tier.rows, 0);
  }

  /**
   * The recipes nearest to a colour by ΔE00, best first; of equal ones those of fewer tubes come first. Exact: equal to
   * looking at every recipe.
   */
  nearest(target: Lab, { count = 1, among = -1, limit = Number.POSITIVE_INFINITY }: NearestOptions = {}): Hit[] {
    const best = new Best(count, limit);
    const [l, a, b] = target;
    const quick = quickDeltaE(l, a, b);
    for (const tier of this.tiers) {
      for (const { cell, least } of nearCells(tier.cells, target, best.worst)) {
        if (least > best.worst * best.worst) break;
        const { light, tint } = weightsOf(l, a, b, cell);
        for (let i = cell.from; i < cell.to; i++) {
          const row = tier.order[i];
          const at = row * 3;
          const rl = tier.lab[at];
          const ra = tier.lab[at + 1];
          const rb = tier.lab[at + 2];
          if (light * (rl - l) ** 2 + tint * ((ra - a) ** 2 + (rb - b) ** 2) > best.worst * best.worst) continue;
          if (quick(rl, ra, rb, best.worst + QUICK_ERROR) > best.worst + QUICK_ERROR) continue;
          const deltaE = deltaE00Of(l, a, b, rl, ra, rb);
          if (deltaE > best.worst) continue;
          const block = blockAt(tier.blocks, row);
          if (block.mask & ~among) continue;
          best.add(deltaE, block, row - block.first, [rl, ra, rb]);
        }
      }
    }
    return best.hits();
  }

  /**
   * The least ΔE00 that the recipes of each set of tubes (in the order of {@link sets}) have to a colour. Cells are looked
   * through from the nearest outwards: a set that has a recipe nearer than the cell at hand is done. Infinity where nothing is
   * nearer than `most`.
   */
  leastOfSets(target: Lab, most: number): Float32Array {
    const best = new Float32Array(this.sets().length).fill(most);
    for (const tier of this.tiers) leastInTier(tier, this.setNumbers(tier), best, target, most);
    return best.map((value) => (value < most ? value : Number.POSITIVE_INFINITY));
  }

  /** The sets of tubes (bits) that recipes have. */
  sets(): number[] {
    this.allSets ??= [...new Set(this.tiers.flatMap((tier) => tier.blocks.map((block) => block.mask)))];
    return this.allSets;
  }
  private allSets: number[] | null = null;

  /** For every row in the order of its cells the number of its set. */
  private setNumbers(tier: Tier): Uint16Array {
    if (tier.sets) return tier.sets;
    const number = new Map(this.sets().map((mask, i) => [mask, i]));
    const ofRow = new Uint16Array(tier.rows);
    for (const block of tier.blocks) ofRow.fill(number.get(block.mask) as number, block.first, block.first + block.list.count);
    tier.sets = Uint16Array.from(tier.order, (row) => ofRow[row]);
    return tier.sets;
  }
}

/** Absorbs next to nothing of what it scatters, from 450 nm on. */
function isWhite({ K, S }: Spectra): boolean {
  for (let i = 7; i < K.length; i++) if (K[i] > WHITE_SHARE * S[i]) return false;
  return true;
}
const WHITE_SHARE = 0.01;

/** A table built at once. */
export const recipeTable = (paints: readonly Spectra[], options: TableOptions = {}): RecipeTable =>
  toEnd(RecipeTable.build(paints, options));

function leastInTier({ cells, order, lab }: Tier, sets: Uint16Array, best: Float32Array, target: Lab, most: number): void {
  const [l, a, b] = target;
  const quick = quickDeltaE(l, a, b);
  for (const { cell, least } of nearCells(cells, target, most)) {
    const nearest = Math.sqrt(least);
    for (let i = cell.from; i < cell.to; i++) {
      const set = sets[i];
      const known = best[set];
      if (known <= nearest) continue;
      const at = order[i] * 3;
      const rl = lab[at];
      const ra = lab[at + 1];
      const rb = lab[at + 2];
      if (quick(rl, ra, rb, known + QUICK_ERROR) >= known + QUICK_ERROR) continue;
      const deltaE = deltaE00Of(l, a, b, rl, ra, rb);
      if (deltaE < known) best[set] = deltaE;
    }
  }
}

/** The box of rows from one number to another, of all or of those that an order names. */
function boxOf(lab: Float32Array, from: number, to: number, order?: Uint32Array): Box {
  const box = { l0: 999, l1: -999, a0: 999, a1: -999, b0: 999, b1: -999, c0: 999, c1: 0 };
  for (let i = from; i < to; i++) {
    const at = (order ? order[i] : i) * 3;
    const l = lab[at];
    const a = lab[at + 1];
    const b = lab[at + 2];
    const chroma = Math.sqrt(a * a + b * b);
    if (l < box.l0) box.l0 = l;
    if (l > box.l1) box.l1 = l;
    if (a < box.a0) box.a0 = a;
    if (a > box.a1) box.a1 = a;
    if (b < box.b0) box.b0 = b;
    if (b > box.b1) box.b1 = b;
    if (chroma < box.c0) box.c0 = chroma;
    if (chroma > box.c1) box.c1 = chroma;
  }
  return box;
}

/** Rows sorted into cells of like colours. */
function intoCells(lab: Float32Array): { cells: Cell[]; order: Uint32Array } {
  const rows = lab.length / 3;
  const key = new Uint32Array(rows);
  // L* 0–128, a* and b* −128–128 in steps of CELL; every paint colour lies within.
  for (let row = 0, at = 0; row < rows; row++, at += 3)
    key[row] =
      (((((lab[at] / CELL) & 31) << 6) | (((lab[at + 1] + 128) / CELL) & 63)) << 6) | (((lab[at + 2] + 128) / CELL) & 63);
  const starts = new Uint32Array(32 * 64 * 64 + 1);
  for (let row = 0; row < rows; row++) starts[key[row] + 1] = starts[key[row] + 1] + 1;
  for (let i = 1; i < starts.length; i++) starts[i] = starts[i] + starts[i - 1];
  const order = new Uint32Array(rows);
  const next = starts.slice();
  for (let row = 0; row < rows; row++) {
    const at = next[key[row]];
    order[at] = row;
    next[key[row]] = at + 1;
  }
  const cells: Cell[] = [];
  for (let i = 0; i + 1 < starts.length; i++) {
    const [from, to] = [starts[i], starts[i + 1]];
    if (to > from) cells.push({ from, to, ...boxOf(lab, from, to, order) });
  }
  return { cells, order };
}

/** Cells by the least difference their colours can have, nearest first; those beyond `worst` are left out. */
function nearCells(cells: readonly Cell[], [l, a, b]: Lab, worst: number): { cell: Cell; least: number }[] {
  const most = worst * worst;
  const out: { cell: Cell; least: number }[] = [];
  for (const cell of cells) {
    const least = leastSquared(l, a, b, cell);
    if (least <= most) out.push({ cell, least });
  }
  return out.sort((one, other) => one.least - other.least);
}

/** The block that holds a row, by bisection. */
function blockAt(blocks: readonly Block[], row: number): Block {
  let [low, high] = [0, blocks.length - 1];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if ((blocks[middle] as Block).first <= row) low = middle;
    else high = middle - 1;
  }
  return blocks[low] as Block;
}

/** The best few of many, kept in order. */
class Best {
  worst: number;
  private readonly list: { deltaE: number; block: Block; row: number; lab: Lab }[] = [];

  constructor(
    private readonly count: number,
    limit: number,
  ) {
    this.worst = limit;
  }

  add(deltaE: number, block: Block, row: number, lab: Lab): void {
    const before = (one: { deltaE: number; block: Block; row: number }) =>
      one.deltaE - deltaE ||
      one.block.whole.length + one.block.small.length - block.whole.length - block.small.length ||
      one.block.mask - block.mask ||
      one.row - row;
    let at = this.list.length;
    while (at > 0 && before(this.list[at - 1] as (typeof this.list)[number]) > 0) at--;
    if (at >= this.count) return;
    this.list.splice(at, 0, { deltaE, block, row, lab });
    if (this.list.length > this.count) this.list.pop();
    if (this.list.length === this.count) this.worst = Math.min(this.worst, (this.list.at(-1) as { deltaE: number }).deltaE);
  }

  hits(): Hit[] {
    return this.list.map(({ deltaE, block, row, lab }) => ({ parts: amountsOf(block, row), deltaE, lab }));
  }
}
