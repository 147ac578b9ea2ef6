import type { Lab } from '@viaticum/contract';

/** How warm a colour is: from yellow-orange (1) over neutral (0) to blue (−1), less for greys. */
export function warmth([, a, b]: Lab): number {
  const chroma = Math.hypot(a, b);
  // The warmest hue lies at about 60°, the coolest opposite.
  const towards = (a * Math.cos(Math.PI / 3) + b * Math.sin(Math.PI / 3)) / Math.max(chroma, 1e-9);
  return towards * Math.min(1, chroma / 25);
}

/**
 * Places for mixes on a palette, as shares across and down (0–1): warm ones to the left, cool ones to the right, in two rows round
 * the far edge where there are many, so that neighbours in colour are neighbours on the palette and none lies on another.
 */
export function paletteLayout(colours: readonly Lab[]): [number, number][] {
  const order = colours
    .map((lab, i) => ({ i, warm: warmth(lab) }))
    .sort((one, other) => other.warm - one.warm || one.i - other.i);
  const rows = colours.length > 8 ? 2 : 1;
  const columns = Math.ceil(colours.length / rows);
  const out: [number, number][] = colours.map(() => [0.5, 0.3]);
  order.forEach(({ i }, rank) => {
    const column = Math.floor(rank / rows);
    const row = rank % rows;
    const x = columns === 1 ? 0.5 : 0.13 + (0.74 * column) / (columns - 1);
    // The far edge bows upwards in the middle.
    const bow = 0.1 * Math.cos(Math.PI * (x - 0.5));
    out[i] = [x, (rows === 1 ? 0.36 : row === 0 ? 0.2 : 0.5) - bow + 0.07];
  });
  return out;
}
