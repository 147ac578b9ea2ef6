/** A time that is wished for, and what it costs a frame to lie earlier or later; `floor` and `ceil` are kept whenever that is possible. */
export type ChainPoint = { wish: number; early: number; late: number; floor?: number; ceil?: number };
/** How far the next point lies from this one, at least and at most. */
export type ChainLink = { lo: number; hi: number };

/** Kept on a side of the slope: places with weights, all of them moved together. */
class Slopes {
  private readonly places: [number, number][] = [];
  private moved = 0;
  constructor(private readonly sign: 1 | -1) {}
  get isEmpty(): boolean {
    return this.places.length === 0;
  }
  get top(): number | undefined {
    const first = this.places[0];
    return first && first[0] * this.sign + this.moved;
  }
  move(by: number): void {
    this.moved += by;
  }
  clear(): void {
    this.places.length = 0;
    this.moved = 0;
  }
  push(x: number, weight: number): void {
    const { places } = this;
    const value: [number, number] = [(x - this.moved) * this.sign, weight];
    let i = places.length;
    places.push(value);
    while (i > 0) {
      const parent = (i - 1) >> 1;
      if ((places[parent] as [number, number])[0] <= value[0]) break;
      places[i] = places[parent] as [number, number];
      i = parent;
    }
    places[i] = value;
  }
  pop(): [number, number] {
    const { places } = this;
    const first = places[0] as [number, number];
    const last = places.pop() as [number, number];
    if (places.length > 0) {
      let i = 0;
      for (;;) {
        let child = 2 * i + 1;
        if (child >= places.length) break;
        const right = places[child + 1];
        if (right && right[0] < (places[child] as [number, number])[0]) child++;
        if ((places[child] as [number, number])[0] >= last[0]) break;
        places[i] = places[child] as [number, number];
        i = child;
      }
      places[i] = last;
    }
    return [first[0] * this.sign + this.moved, first[1]];
  }
}
const HARD = 1e7;

/**
 * Times x₀ ≤ x₁ ≤ … of least cost Σ early·max(0, wish − x) + late·max(0, x − wish), with lo ≤ x(k+1) − x(k) ≤ hi. Exact by the slope trick,
 * O(n log n); whole numbers give whole answers. `links` has one entry fewer than `points`.
 */
export function leastCostTimes(points: readonly ChainPoint[], links: readonly ChainLink[]): Float64Array {
  const [left, right] = [new Slopes(-1), new Slopes(1)];
  const shift = (from: Slopes, to: Slopes, weight: number) => {
    let rest = weight;
    while (rest > 1e-9 && !from.isEmpty) {
      const [x, had] = from.pop();
      const taken = Math.min(had, rest);
      to.push(x, taken);
      if (had > taken) from.push(x, had - taken);
      rest -= taken;
    }
  };
  const costsLater = (x: number, weight: number) => {
    left.push(x, weight);
    shift(left, right, weight);
  };
  const costsEarlier = (x: number, weight: number) => {
    right.push(x, weight);
    shift(right, left, weight);
  };
  const tops = new Float64Array(points.length);
  points.forEach((point, k) => {
    const link = links[k - 1];
    if (link) {
      if (link.hi === Number.POSITIVE_INFINITY) right.clear();
      else right.move(link.hi);
      left.move(link.lo);
    }
    if (point.late) costsLater(point.wish, point.late);
    if (point.early) costsEarlier(point.wish, point.early);
    if (point.floor !== undefined) costsEarlier(point.floor, HARD);
    if (point.ceil !== undefined) costsLater(point.ceil, HARD);
    tops[k] = left.top ?? right.top ?? 0;
  });
  const x = new Float64Array(points.length);
  for (let k = points.length - 1; k >= 0; k--) {
    x[k] = tops[k] as number;
    const link = links[k];
    const next = x[k + 1];
    if (link && next !== undefined) x[k] = Math.min(Math.max(x[k] as number, next - link.hi), next - link.lo);
  }
  return x;
}
