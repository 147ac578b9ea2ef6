import Papa from 'papaparse';

const MOST = 300;
const heads = /^(first ?name|given ?name|vorname|pr[eé]nom|nombre|name)$/i;

/**
 * First names from a CSV: the column headed "first name" (or "name"), else the first column. Of a whole name only the first word is
 * kept, everything else of the file is passed over. Throws a sentence where there is no name, or more than 300.
 */
export function readRoster(text: string): string[] {
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: 'greedy' });
  const rows = data.map((row) => row.map((cell) => cell.trim()));
  const at = rows[0]?.findIndex((cell) => heads.test(cell)) ?? -1;
  const names = (at < 0 ? rows : rows.slice(1)).flatMap((row) => {
    const name = (row[Math.max(0, at)] ?? '').split(/\s+/)[0]?.slice(0, 40) ?? '';
    return name ? [name] : [];
  });
  if (names.length === 0) throw new RangeError('No names were found in this file. Put one first name on each line.');
  if (names.length > MOST) throw new RangeError(`This file has ${names.length} names; a class takes ${MOST}. Shorten it.`);
  return names;
}

/** A roster as CSV, one first name a line. */
export const toRoster = (names: readonly string[]): string =>
  Papa.unparse([['first name'], ...names.map((name) => [name])], { escapeFormulae: true });
