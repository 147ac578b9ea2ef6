import { type ByHand, type ClassLog, say } from '@viaticum/contract';
import Papa from 'papaparse';
import { toCsv } from '../format/index.js';

const heads = {
  step: /^(step|schritt|title|titel)$/i,
  planned: /^(planned|geplant)/i,
  actual: /^(actual|took|gedauert|minutes|min)/i,
  note: /^(note|notiz)/i,
  date: /^(date|day|datum|tag)$/i,
};
const MOST = 400;

const minutesIn = (cell: string | undefined): number | null => {
  const value = Number((cell ?? '').trim().replace(',', '.'));
  return (cell ?? '').trim() !== '' && Number.isFinite(value) && value >= 0 && value <= 600 ? value : null;
};

/** A class from a table with the columns date, step, planned, actual, note, in any order; throws a sentence where there is no step. */
export function readLogCsv(text: string): { day: string | null; items: ByHand['items'] } {
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: 'greedy' });
  const [head = [], ...rows] = data;
  const at = Object.fromEntries(
    Object.entries(heads).map(([name, is]) => [name, head.findIndex((cell) => is.test(cell.trim()))]),
  ) as Record<keyof typeof heads, number>;
  const items =
    at.step < 0
      ? []
      : rows.flatMap((row) => {
          const title = (row[at.step] ?? '').trim().slice(0, 120);
          return title === ''
            ? []
            : [
                {
                  title,
                  planned: minutesIn(row[at.planned]),
                  actual: minutesIn(row[at.actual]),
                  note: (row[at.note] ?? '').trim().slice(0, 500),
                },
              ];
        });
  if (items.length === 0)
    throw new RangeError(say('No step was found in this file. It needs the columns date, step, planned, actual, note.'));
  const day = /^\d{4}-\d\d-\d\d/.exec((rows[0]?.[at.date] ?? '').trim())?.[0] ?? null;
  return { day, items: items.slice(0, MOST) };
}

/** What was measured on canvases of a class, a row for each area and thing: lightness and hue in CIELAB units, sizes and places in shares. */
export const resultsCsv = (log: ClassLog): string =>
  toCsv(
    ['date', 'class', 'canvas', 'what', 'lightness', 'a', 'b', 'width', 'height', 'right', 'down'],
    (log.results ?? []).flatMap(({ areas, things }, k) => [
      ...areas.map(({ name, dL, da, db }) => [log.at.slice(0, 10), log.title, k + 1, name, dL, da, db, '', '', '', '']),
      ...things.map(({ name, wide, high, offX, offY }) => [
        ...[log.at.slice(0, 10), log.title, k + 1, name, '', '', ''],
        ...[wide, high, offX, offY],
      ]),
    ]),
  );

const FIELDS = ['date', 'class', 'kind', 'step', 'planned', 'actual', 'technique', 'present', 'asks', 'note'];
const minutes = (value: number | null): number | string => (value === null ? '' : Math.round(value * 10) / 10);

/** Classes as a table, a row for each step, pause and break (minutes; empty: never come to); a class alone is read again by `readLogCsv`. */
export const logCsv = (logs: readonly ClassLog[], withHead = true): string => {
  const rows = logs.flatMap((log) =>
    log.items.map((item) => [
      ...[log.at.slice(0, 10), log.title, log.kind, item.title, minutes(item.planned), minutes(item.actual)],
      ...[item.technique ?? '', item.present, item.asks, item.note ?? ''],
    ]),
  );
  const text = toCsv(FIELDS, rows);
  return withHead ? text : text.slice(text.indexOf('\n') + 1);
};
