const FAR = 1e12;

/**
 * Distance of every pixel of a mask from the nearest pixel outside it (beyond the raster all is outside), exact (Felzenszwalb and
 * Huttenlocher 2012, from memory): squared distances by lower envelopes of parabolas, first down the columns, then along the rows.
 */
export function distanceInside(mask: Uint8Array, width: number, height: number): Float32Array {
  // A ring of outside pixels round it.
  const [w, h] = [width + 2, height + 2];
  const squared = new Float64Array(w * h);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) if (mask[y * width + x] !== 0) squared[(y + 1) * w + x + 1] = FAR;
  const long = Math.max(w, h);
  const [values, found] = [new Float64Array(long), new Float64Array(long)];
  const [at, from] = [new Int32Array(long), new Float64Array(long + 1)];
  const envelope = (length: number) => {
    let top = 0;
    at[0] = 0;
    from[0] = -FAR;
    from[1] = FAR;
    for (let q = 1; q < length; q++) {
      let meets = 0;
      for (;;) {
        const p = at[top];
        meets = (values[q] + q * q - (values[p] + p * p)) / (2 * (q - p));
        if (meets > from[top] || top === 0) break;
        top--;
      }
      if (meets <= from[top]) meets = from[top];
      top++;
      at[top] = q;
      from[top] = meets;
      from[top + 1] = FAR;
    }
    let k = 0;
    for (let q = 0; q < length; q++) {
      while (from[k + 1] < q) k++;
      found[q] = (q - at[k]) * (q - at[k]) + values[at[k]];
    }
  };
  for (let x = 0; x < w; x++) {
    for (let y = 0; y < h; y++) values[y] = squared[y * w + x];
    envelope(h);
    for (let y = 0; y < h; y++) squared[y * w + x] = found[y];
  }
  const out = new Float32Array(width * height);
  for (let y = 1; y <= height; y++) {
    for (let x = 0; x < w; x++) values[x] = squared[y * w + x];
    envelope(w);
    for (let x = 1; x <= width; x++) out[(y - 1) * width + x - 1] = Math.sqrt(found[x]);
  }
  return out;
}
