/**
 * The cheapest way to give every row a column of its own (Kuhn 1955, Munkres 1957; the form with potentials after Jonker and Volgenant 1987,
 * from memory). `cost` has at least as many columns as rows; Infinity where a pair cannot be. Gives the column of each row.
 */
export function cheapestAssignment(cost: readonly (readonly number[])[]): number[] {
  const rows = cost.length;
  const columns = cost[0]?.length ?? 0;
  if (columns < rows) throw new RangeError('Every row needs a column of its own.');
  const BIG = 1e12;
  const at = (row: number, column: number) => Math.min(BIG, cost[row]?.[column] ?? BIG);
  const rowPrice = new Float64Array(rows + 1);
  const columnPrice = new Float64Array(columns + 1);
  const rowOf = new Int32Array(columns + 1);
  for (let row = 1; row <= rows; row++) {
    rowOf[0] = row;
    const least = new Float64Array(columns + 1).fill(Number.POSITIVE_INFINITY);
    const cameFrom = new Int32Array(columns + 1);
    const used = new Uint8Array(columns + 1);
    let column = 0;
    do {
      used[column] = 1;
      const r = rowOf[column] as number;
      let delta = Number.POSITIVE_INFINITY;
      let next = 0;
      for (let j = 1; j <= columns; j++) {
        if (used[j]) continue;
        const left = at(r - 1, j - 1) - (rowPrice[r] as number) - (columnPrice[j] as number);
        if (left < (least[j] as number)) {
          least[j] = left;
          cameFrom[j] = column;
        }
        if ((least[j] as number) < delta) {
          delta = least[j] as number;
          next = j;
        }
      }
      for (let j = 0; j <= columns; j++) {
        if (used[j]) {
          const owner = rowOf[j] as number;
          rowPrice[owner] = (rowPrice[owner] as number) + delta;
          columnPrice[j] = (columnPrice[j] as number) - delta;
        } else least[j] = (least[j] as number) - delta;
      }
      column = next;
    } while (rowOf[column] !== 0);
    while (column !== 0) {
      const before = cameFrom[column] as number;
      rowOf[column] = rowOf[before] as number;
      column = before;
    }
  }
  const out = new Array<number>(rows).fill(-1);
  for (let j = 1; j <= columns; j++) if (rowOf[j]) out[(rowOf[j] as number) - 1] = j - 1;
  return out;
}
