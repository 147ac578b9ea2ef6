/** Where labels stand, from the top down (mm): each at its place or below the one before it, so that none lies on another; those that would leave the canvas are left out. */
export function labelPlaces<T extends { y: number }>(labels: readonly T[], heightMm: number, pitchMm: number): T[] {
  const placed: T[] = [];
  for (const label of [...labels].sort((a, b) => a.y - b.y)) {
    const last = placed.at(-1);
    const y = last ? Math.max(label.y, last.y + pitchMm) : label.y;
    if (y <= heightMm) placed.push({ ...label, y });
  }
  return placed;
}
