/** Short strokes that cover a share of a tile, placed by a hash so that they look laid by hand and come out the same everywhere. */
export const TILE = { width: 84, height: 60 };

export function brokenStrokes(share: number, seed: number): string {
  let state = (seed * 2654435761 + 97) >>> 0;
  const random = () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
  const strokeArea = 15 * 3.4;
  // Strokes overlap: to cover a share s by chance, lay −ln(1 − s) of the tile.
  const count = Math.max(2, Math.round((-Math.log(1 - Math.min(0.92, share)) * TILE.width * TILE.height) / strokeArea));
  const strokes: string[] = [];
  for (let i = 0; i < count; i++) {
    const [x, y] = [random() * TILE.width, random() * TILE.height];
    const length = 8 + random() * 14;
    const [rise, bend] = [(random() - 0.5) * 2.4, (random() - 0.5) * 2.2];
    // Strokes over an edge come in again on the other side, so that tiles join.
    for (const dx of x + length > TILE.width ? [0, -TILE.width] : [0]) {
      for (const dy of y < 4 ? [0, TILE.height] : y > TILE.height - 4 ? [0, -TILE.height] : [0]) {
        const at = (value: number) => value.toFixed(1);
        strokes.push(`M${at(x + dx)} ${at(y + dy)}q${at(length / 2)} ${at(bend)} ${at(length)} ${at(rise)}`);
      }
    }
  }
  return strokes.join('');
}
