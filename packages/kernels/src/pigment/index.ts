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
  /** Share of K and S that counts in a film of finite thickness (titanium white = 1). */
  film: number;
  K: Float64Array;
  S: Float64Array;
};

export const SAMPLES = 36;
/** The sample at 550 nm. */
const MIDDLE = 17;

/**
 * The share of a mix that counts in a film of finite thickness: the geometric mean of its paints' shares, weighted by what each
 * of them scatters at 550 nm. An arithmetic mean would let a little white blacken a thin film on white.
 */
export class FilmShare {
  private sum = 0;
  private weight = 0;
  add(parts: number, { S, film }: { S: ArrayLike<number>; film: number }): void {
    this.sum += parts * S[MIDDLE] * Math.log(film);
    this.weight += parts * S[MIDDLE];
  }
  get mean(): number {
    return Math.exp(this.sum / this.weight);
  }
}

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
    film: row.film,
    K: Float64Array.from(row.K),
    S: Float64Array.from(row.S),
  };
}

function fromMixture(row: (typeof mixtureRows)[number], singles: Map<string, Pigment>): Pigment {
  const K = new Float64Array(SAMPLES);
  const S = new Float64Array(SAMPLES);
  const film = new FilmShare();
  const total = row.parts.reduce((sum, part) => sum + part.parts, 0);
  const parts = row.parts.map((part) => ({ share: part.parts / total, pigment: singles.get(part.pigment) as Pigment }));
  for (const { share, pigment } of parts) {
    film.add(share, pigment);
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
  const strength = parts.reduce((sum, part) => sum + part.share * part.pigment.strength, 0);
  return {
    id: row.name,
    name: row.name,
    opacity: opacityOf(film.mean * S[MIDDLE]),
    lightfastness: weakest,
    metals,
    strength,
    stains: hardest(parts.map((part) => part.pigment.stains)),
    isMixture: true,
    film: film.mean,
    K,
    S,
  };
}

/** How a tube is called that scatters so much in a film (titanium white 1); judged from the single pigments of the table. */
const opacityOf = (scatters: number): Pigment['opacity'] =>
  scatters < 0.009 ? 'transparent' : scatters < 0.04 ? 'semi-transparent' : scatters < 0.2 ? 'semi-opaque' : 'opaque';

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
