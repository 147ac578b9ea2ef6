/** Uniform random numbers in (0, 1) from a seed: the same on every machine (mulberry32, from memory). */
export function uniform(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return (((t ^ (t >>> 14)) >>> 0) + 0.5) / 4294967296;
  };
}

/** Standard normal numbers from uniform ones, two at a time (Box and Muller 1958). */
export function normal(draw: () => number): () => number {
  let kept: number | null = null;
  return () => {
    if (kept !== null) {
      const value = kept;
      kept = null;
      return value;
    }
    const radius = Math.sqrt(-2 * Math.log(draw()));
    const angle = 2 * Math.PI * draw();
    kept = radius * Math.sin(angle);
    return radius * Math.cos(angle);
  };
}
