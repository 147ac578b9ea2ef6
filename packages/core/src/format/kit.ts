import { say } from '@viaticum/contract';
import Papa from 'papaparse';

/** How volumes are written: in which unit, and ml as a number of it. */
export type Volumes = { unit: string; shown: (ml: number) => number };

const toCsv = (rows: readonly (string | number)[][]): string =>
  Papa.unparse(rows as (string | number)[][], { escapeFormulae: true });

/** Paint of a group as a table (CSV): a line for each tube, in the reader's volume, and what is bought of it. */
export function paintCsv(
  rows: readonly { name: string; headMl: number; groupMl: number; sureMl: number; haveMl: number; buy: string; cost: string }[],
  currency: string,
  { unit, shown }: Volumes,
): string {
  return toCsv([
    [
      'tube',
      say`a head, ${unit}`,
      say`class, ${unit}`,
      say`to be sure, ${unit}`,
      say`have, ${unit}`,
      'buy',
      say`cost, ${currency}`,
    ],
    ...rows.map((one) => [
      one.name,
      shown(one.headMl),
      shown(one.groupMl),
      shown(one.sureMl),
      shown(one.haveMl),
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

/** How batches are mixed as a table (CSV): a line for each part, in ml as a syringe is marked, with its batch and how it is filled. */
export function premixCsv(
  rows: readonly {
    name: string;
    ml: number;
    portionMl: number;
    portions: number;
    parts: readonly { name: string; ml: number }[];
  }[],
  { unit, shown }: Volumes,
): string {
  return toCsv([
    ['mix', 'measure', 'ml', say`batch, ${unit}`, 'portions', say`each, ${unit}`],
    ...rows.flatMap(({ name, ml, portionMl, portions, parts }) =>
      parts.map((part) => [name, part.name, part.ml, shown(ml), portions, shown(portionMl)]),
    ),
  ]);
}
