import type { Lab } from '@viaticum/contract';

/** How warm a colour is: from yellow-orange (1) over neutral (0) to blue (−1), less for greys. */
export function warmth([, a, b]: Lab): number {
  const chroma = Math.hypot(a, b);
  // The warmest hue lies at about 60°, the coolest opposite.
  const towards = (a * Math.cos(Math.PI / 3) + b * Math.sin(Math.PI / 3)) / Math.max(chroma, 1e-9);
  return towards * Math.min(1, chroma / 25);
}

/** The share of the palette's width that heaps lie on. */
const WIDE = 0.74;
/** So many heaps lie side by side. */
const A_ROW = 8;

/**
 * Places for mixes on a palette, as shares across and down (0–1): warm ones to the left, cool ones to the right, in as many rows
 * as it takes, so that neighbours in colour are neighbours on the palette and none lies on another. Also the number of rows and
 * the share of its width that each may take.
 */
export function paletteLayout(colours: readonly Lab[]): { places: [number, number][]; rows: number; pitch: number } {
  const order = colours
    .map((lab, i) => ({ i, warm: warmth(lab) }))
    .sort((one, other) => other.warm - one.warm || one.i - other.i);
  const rows = Math.max(1, Math.ceil(colours.length / A_ROW));
  const columns = Math.max(1, Math.ceil(colours.length / rows));
  const places: [number, number][] = colours.map(() => [0.5, 0.5]);
  order.forEach(({ i }, rank) => {
    const column = Math.floor(rank / rows);
    const row = rank % rows;
    const x = columns === 1 ? 0.5 : 0.13 + (WIDE * column) / (columns - 1);
    // The far edge bows upwards in the middle.
    const bow = (0.1 * Math.cos(Math.PI * (x - 0.5))) / rows;
    places[i] = [x, (row + 0.5) / rows - bow];
  });
  return { places, rows, pitch: columns === 1 ? WIDE : WIDE / (columns - 1) };
}
