/** One minute of arc: the finest detail that a good eye tells apart (common in optics), as a share of the distance. */
const MINUTE_OF_ARC = Math.PI / 10_800;
/** A letter is told by strokes a fifth of its height (common in optics). */
const STROKES = 5;
/** Text that is read at a glance is some times larger than what can just be made out; common practice, no published source. */
const AT_A_GLANCE = 3.8;

/** Height of letters in mm that are read at a glance from so many metres. */
export function legibleMm(distanceM: number): number {
  return distanceM * 1000 * MINUTE_OF_ARC * STROKES * AT_A_GLANCE;
}

/** Pixels for a length in mm on a screen of so many inches across its diagonal, so many pixels wide and high. */
export function pixelsFor(mm: number, diagonalIn: number, widthPx: number, heightPx: number): number {
  return (mm / (diagonalIn * 25.4)) * Math.hypot(widthPx, heightPx);
}
