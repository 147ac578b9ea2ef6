import Papa from 'papaparse';

/** A cell that a spreadsheet would take for a formula gets an apostrophe before it. */
const safeCell = (cell: string | number): string | number =>
  typeof cell === 'string' && /^[=+\-@\t\r]/.test(cell) ? `'${cell}` : cell;
/** Rows as CSV (RFC 4180): CRLF, quotes doubled. */
export const toCsv = (fields: string[], rows: (string | number)[][]): string =>
  `${Papa.unparse({ fields, data: rows.map((row) => row.map(safeCell)) }, { newline: '\r\n' })}\r\n`;
