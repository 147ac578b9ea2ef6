import type { RoomHour } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import Papa from 'papaparse';

export type Climate = {
  /** The mean air of every hour that was read, by the time of the day. */
  hours: RoomHour[];
  readings: number;
  /** Rows left out, with the first reason. */
  skipped: number;
  firstFault: string | null;
  /** Hours between the first and the last of which nothing was read. */
  gaps: number[];
};

const columns = {
  time: /^(date|time|timestamp|datetime|when)/i,
  airC: /(temp|°c|celsius|^t$)/i,
  humidity: /(hum|rh|%)/i,
  airSpeed: /(wind|draught|draft|m\/s|speed)/i,
  sunWPerM2: /(sun|solar|radiation|w\/m)/i,
};
type Column = keyof typeof columns;
const MOST_ROWS = 200_000;

/**
 * Reads a climate log or a forecast: time, °C, % and, where there, wind in m/s and sun in W/m². Commas, semicolons or tabs
 * between the columns, decimal points or commas, with or without a byte-order mark and a heading. Readings of several days are taken
 * together by the hour. Throws a RangeError with a sentence where nothing can be read.
 */
export function readClimate(text: string): Climate {
  const clean = text.replace(/^\uFEFF/, '').trim();
  if (clean === '') throw new RangeError(say('This file is empty. Choose the log that your hygrometer wrote, as CSV.'));
  // Decimal commas and commas between columns cannot both be: semicolons or tabs part the columns then.
  const { data } = Papa.parse<string[]>(clean, {
    skipEmptyLines: 'greedy',
    delimiter: /;/.test(clean.split('\n', 1)[0] ?? '') ? ';' : /\t/.test(clean.split('\n', 1)[0] ?? '') ? '\t' : ',',
    preview: MOST_ROWS,
  });
  const head = data[0] ?? [];
  const hasHead = head.every((cell) => Number.isNaN(asNumber(cell))) && head.some((cell) => columns.airC.test(cell.trim()));
  const at = hasHead ? headingOf(head) : { time: 0, airC: 1, humidity: 2, airSpeed: 3, sunWPerM2: 4 };
  const buckets = new Map<
    number,
    { sums: Record<Exclude<Column, 'time'>, number>; counts: Record<Exclude<Column, 'time'>, number> }
  >();
  let readings = 0;
  let skipped = 0;
  let firstFault: string | null = null;
  for (const [i, row] of data.slice(hasHead ? 1 : 0).entries()) {
    const read = readRow(row, at);
    if (typeof read === 'string') {
      skipped++;
      firstFault ??= say`Line ${i + (hasHead ? 2 : 1)}: ${read}`;
      continue;
    }
    readings++;
    const hour = Math.floor(read.minute / 60);
    const bucket = buckets.get(hour) ?? {
      sums: { airC: 0, humidity: 0, airSpeed: 0, sunWPerM2: 0 },
      counts: { airC: 0, humidity: 0, airSpeed: 0, sunWPerM2: 0 },
    };
    for (const name of ['airC', 'humidity', 'airSpeed', 'sunWPerM2'] as const) {
      const value = read[name];
      if (value === null) continue;
      bucket.sums[name] += value;
      bucket.counts[name]++;
    }
    buckets.set(hour, bucket);
  }
  if (readings === 0)
    throw new RangeError(
      say`No reading was found in this file. It needs three columns: time, °C and %. ${firstFault ?? ''}`.trim(),
    );
  const known = [...buckets.keys()].sort((a, b) => a - b);
  const first = known[0] as number;
  const last = known.at(-1) as number;
  const gaps = Array.from({ length: last - first + 1 }, (_, i) => first + i).filter((hour) => !buckets.has(hour));
  const hours = known.map((hour): RoomHour => {
    const { sums, counts } = buckets.get(hour) as NonNullable<ReturnType<typeof buckets.get>>;
    const mean = (name: Exclude<Column, 'time'>, digits: number) =>
      Math.round((sums[name] / counts[name]) * 10 ** digits) / 10 ** digits;
    return {
      atMin: hour * 60 + 30,
      airC: mean('airC', 1),
      humidity: mean('humidity', 3),
      ...(counts.airSpeed > 0 ? { airSpeed: mean('airSpeed', 2) } : {}),
      ...(counts.sunWPerM2 > 0 ? { sunWPerM2: mean('sunWPerM2', 0) } : {}),
    };
  });
  return { hours, readings, skipped, firstFault, gaps };
}

/** One reading, or what is wrong with it. Wind and sun that cannot be are taken as not read. */
function readRow(row: readonly string[], at: Record<Column, number>) {
  const minute = minuteOf(row[at.time] ?? '');
  const airC = asNumber(row[at.airC]);
  const percent = asNumber(row[at.humidity]);
  if (minute === null) return say('no time of the day, as 14:30.');
  if (!(airC >= -20 && airC <= 60)) return say('the temperature is missing or not between −20 and 60 °C.');
  if (!(percent >= 0 && percent <= 100)) return say('the humidity is missing or not between 0 and 100 %.');
  const within = (value: number, most: number) => (value >= 0 && value <= most ? value : null);
  return {
    minute,
    airC,
    humidity: percent / 100,
    airSpeed: within(asNumber(row[at.airSpeed]), 20),
    sunWPerM2: within(asNumber(row[at.sunWPerM2]), 1200),
  };
}

function headingOf(head: readonly string[]): Record<Column, number> {
  const find = (name: Column) => head.findIndex((cell) => columns[name].test(cell.trim()));
  const at = {
    time: find('time'),
    airC: find('airC'),
    humidity: find('humidity'),
    airSpeed: find('airSpeed'),
    sunWPerM2: find('sunWPerM2'),
  };
  if (at.time < 0 || at.humidity < 0)
    throw new RangeError(
      say('The heading of this file names no time or no humidity. Name the columns: time, temperature, humidity.'),
    );
  return at;
}

const asNumber = (cell: string | undefined): number => {
  const text = (cell ?? '')
    .trim()
    .replace(/\s*(°C|C|%|m\/s)$/i, '')
    .replace('−', '-')
    .replace(',', '.');
  return text === '' ? Number.NaN : Number(text);
};

/** The minute of the day in "14:30", "2026-05-01 14:30:00", "2026-05-01T14:30Z" or "2:30 pm". */
function minuteOf(cell: string): number | null {
  const found = /(?:^|[T\s])(\d{1,2})[:.](\d{2})(?::\d{2}(?:\.\d+)?)?\s*(am|pm)?/i.exec(cell.trim());
  if (!found) return null;
  let hour = Number(found[1]);
  const half = found[3]?.toLowerCase();
  if (half === 'pm' && hour < 12) hour += 12;
  if (half === 'am' && hour === 12) hour = 0;
  const minute = Number(found[2]);
  return hour < 24 && minute < 60 ? hour * 60 + minute : null;
}
