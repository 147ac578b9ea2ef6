import { mixtureRows, rows } from './data.js';

export { type PigmentRow, rows } from './data.js';

/** A tube's paint: K and S per volume part at 36 wavelengths, 380-730 nm, and what is commonly said of it. */
export type Pigment = {
  /** Colour Index name, or the name of a convenience mixture. */
  id: string;
  name: string;
  opacity: 'opaque' | 'semi-opaque' | 'semi-transparent' | 'transparent';
  lightfastness: string;
  metals: string[];
  /** Tinting strength against ultramarine (PB29 = 1); 0 for whites. */
  strength: number;
  stains: 'little' | 'medium' | 'staining';
  isMixture: boolean;
  K: Float64Array;
  S: Float64Array;
};

export const SAMPLES = 36;

function fromRow(row: (typeof rows)[number]): Pigment {
  return {
    id: row.id,
    name: row.name,
    opacity: row.opacity as Pigment['opacity'],
    lightfastness: row.lightfastness,
    metals: row.metals,
    strength: row.strength,
    stains: row.stains as Pigment['stains'],
    isMixture: false,
    K: Float64Array.from(row.K),
    S: Float64Array.from(row.S),
  };
}

function fromMixture(row: (typeof mixtureRows)[number], singles: Map<string, Pigment>): Pigment {
  const K = new Float64Array(SAMPLES);
  const S = new Float64Array(SAMPLES);
  const total = row.parts.reduce((sum, part) => sum + part.parts, 0);
  const parts = row.parts.map((part) => ({ share: part.parts / total, pigment: singles.get(part.pigment) as Pigment }));
  for (const { share, pigment } of parts) {
    for (let i = 0; i < SAMPLES; i++) {
      K[i] = K[i] + share * pigment.K[i];
      S[i] = S[i] + share * pigment.S[i];
    }
  }
  const weakest =
    parts
      .map((part) => part.pigment.lightfastness)
      .sort()
      .at(-1) ?? 'I';
  const metals = [...new Set(parts.flatMap((part) => part.pigment.metals))];
  const main = parts.reduce((a, b) => (b.share > a.share ? b : a)).pigment;
  const strength = parts.reduce((sum, part) => sum + part.share * part.pigment.strength, 0);
  return {
    id: row.name,
    name: row.name,
    opacity: main.opacity,
    lightfastness: weakest,
    metals,
    strength,
    stains: hardest(parts.map((part) => part.pigment.stains)),
    isMixture: true,
    K,
    S,
  };
}

const hardest = (all: Pigment['stains'][]): Pigment['stains'] =>
  all.includes('staining') ? 'staining' : all.includes('medium') ? 'medium' : 'little';

const singles = new Map(rows.map((row) => [row.id, fromRow(row)]));

/** Every tube of the table by its id: single pigments first, then convenience mixtures. */
export const pigmentTable: ReadonlyMap<string, Pigment> = new Map([
  ...singles,
  ...mixtureRows.map((row) => [row.name, fromMixture(row, singles)] as const),
]);

/** A tube's paint by id. Throws a sentence where the table has none. */
export function pigmentOf(id: string): Pigment {
  const found = pigmentTable.get(id);
  if (!found) throw new RangeError(`No tube in the pigment table is called “${id}”. Choose one of the table’s tubes.`);
  return found;
}
