import type { Spectra } from '../mixing/index.js';
import { mixtureRows, rows } from './data.js';

const singles = new Map(rows.map(({ id, K, S }): [string, Spectra] => [id, { K, S, film: 1 }]));

/** A tube's paint as the table had it before it was fitted anew; null where it had none. Films had no share of their own then. */
export function formerPaint(id: string): Spectra | null {
  const single = singles.get(id);
  if (single) return single;
  const mixture = mixtureRows.find((row) => row.name === id);
  if (!mixture) return null;
  const total = mixture.parts.reduce((sum, [, parts]) => sum + parts, 0);
  const mean = (of: 'K' | 'S') =>
    Float64Array.from({ length: 36 }, (_, i) =>
      mixture.parts.reduce((sum, [pigment, parts]) => sum + ((singles.get(pigment) as Spectra)[of][i] * parts) / total, 0),
    );
  return { K: mean('K'), S: mean('S'), film: 1 };
}
