import { say } from '@viaticum/contract';
import Papa from 'papaparse';

const toCsv = (rows: readonly (string | number)[][]): string =>
  Papa.unparse(rows as (string | number)[][], { escapeFormulae: true });
const tenth = (ml: number): number => Math.round(ml * 10) / 10;

/** Paint of a group as a table (CSV): a line for each tube, ml, and what is bought of it. */
export function paintCsv(
  rows: readonly { name: string; headMl: number; groupMl: number; sureMl: number; haveMl: number; buy: string; cost: string }[],
  currency: string,
): string {
  return toCsv([
    ['tube', say('a head, ml'), say('class, ml'), say('to be sure, ml'), say('have, ml'), 'buy', say`cost, ${currency}`],
    ...rows.map((one) => [
      one.name,
      tenth(one.headMl),
      tenth(one.groupMl),
      tenth(one.sureMl),
      tenth(one.haveMl),
      one.buy,
      one.cost,
    ]),
  ]);
}

/** What the studio buys and lays out as a table (CSV), in the order of a shop's shelves, with the cautions that go with it. */
export function shoppingCsv(
  rows: readonly { shelf: string; name: string; amount: string; each: string; by: string; cost: string }[],
  currency: string,
  cautions: readonly string[] = [],
): string {
  return toCsv([
    ['shelf', 'what', say('in all'), say('a head'), say('brought by'), say`cost, ${currency}`],
    ...rows.map(({ shelf, name, amount, each, by, cost }) => [shelf, name, amount, each, by, cost]),
    ...cautions.map((words) => ['mind', words, '', '', '', '']),
  ]);
}

/** How batches are mixed as a table (CSV): a line for each part, ml, with its batch and how it is filled. */
export function premixCsv(
  rows: readonly {
    name: string;
    ml: number;
    portionMl: number;
    portions: number;
    parts: readonly { name: string; ml: number }[];
  }[],
): string {
  return toCsv([
    ['mix', 'measure', 'ml', say('batch, ml'), 'portions', say('each, ml')],
    ...rows.flatMap(({ name, ml, portionMl, portions, parts }) =>
      parts.map((part) => [name, part.name, part.ml, tenth(ml), portions, tenth(portionMl)]),
    ),
  ]);
}
