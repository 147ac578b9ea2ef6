import { say } from '@viaticum/contract';
import Papa from 'papaparse';

const MOST = 300;
const MOST_SIGNS = 40;
const heads = /^(first ?name|given ?name|vorname|pr[eé]nom|nombre|name)$/i;

/** Names that were read, each told apart from the others, and what of the text is no name. */
export type Roster = { names: string[]; noNames: string[] };

/** A name has a letter; an address, a link or a number is none. */
const isName = (text: string): boolean => {
  const letters = text.match(/\p{L}/gu)?.length ?? 0;
  const digits = text.match(/\d/g)?.length ?? 0;
  return letters > 0 && (digits < 3 || letters > 0.3 * digits) && !/[@/\\]|www\./i.test(text);
};

/**
 * Names as they are called in a class: the first word alone; where two have the same, with as many letters of what follows as tell them
 * apart (Kaya L, Kaya B). A name with a comma in it stays whole.
 */
export function shortNames(whole: readonly string[]): string[] {
  const parted = whole.map((name) => {
    const [first = '', ...rest] = name.includes(',') ? [name] : name.split(/\s+/);
    return { first: first.slice(0, MOST_SIGNS), rest: rest.join(' ') };
  });
  const short = ({ first, rest }: { first: string; rest: string }, letters: number) =>
    letters > 0 && rest ? `${first} ${rest.slice(0, letters).trim()}` : first;
  const sameAs = (one: (typeof parted)[number], letters: number) =>
    parted.filter((other) => short(other, letters).toLowerCase() === short(one, letters).toLowerCase()).length;
  return parted.map((one) => {
    let letters = 0;
    while (letters < one.rest.length && sameAs(one, letters) > 1) letters++;
    return short(one, letters).slice(0, MOST_SIGNS);
  });
}

/**
 * Names from a list or a CSV: the column headed "first name" (or "name"), else the first column; what stands in quotes stays whole.
 * Everything else of the file is passed over; lines that are no names are given apart.
 */
export function namesIn(text: string): Roster {
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: 'greedy' });
  const rows = data.map((row) => row.map((cell) => cell.trim()));
  const at = rows[0]?.findIndex((cell) => heads.test(cell)) ?? -1;
  const cells = (at < 0 ? rows : rows.slice(1)).map((row) => row[Math.max(0, at)] ?? '').filter((cell) => cell !== '');
  return { names: shortNames(cells.filter(isName)), noNames: cells.filter((cell) => !isName(cell)) };
}

/** {@link namesIn} of a file; throws a sentence where there is no name, or more than 300. */
export function readRoster(text: string): Roster {
  const found = namesIn(text);
  if (found.names.length === 0) throw new RangeError(say('No names were found in this file. Put one first name on each line.'));
  if (found.names.length > MOST)
    throw new RangeError(say`This file has ${found.names.length} names; a class takes ${MOST}. Shorten it.`);
  return found;
}

/** A roster as CSV, one first name a line. */
export const toRoster = (names: readonly string[]): string =>
  Papa.unparse([[say('first name')], ...names.map((name) => [name])], { escapeFormulae: true });
