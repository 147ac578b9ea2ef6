import { type Labels, labels } from './raster.js';

/** Connected parts (4 neighbours) of equal labels: a part number a pixel, and of each part its label and size in pixels. */
export function connectedParts(map: Labels): { parts: Labels; labelOf: Int32Array; sizeOf: Int32Array; count: number } {
  const { width, height, data } = map;
  const parts = labels(width, height);
  parts.data.fill(-1);
  const labelOf: number[] = [];
  const sizeOf: number[] = [];
  const stack = new Int32Array(width * height);
  for (let start = 0; start < data.length; start++) {
    if (parts.data[start] !== -1) continue;
    const part = labelOf.length;
    const label = data[start];
    let [top, size] = [0, 0];
    stack[top++] = start;
    parts.data[start] = part;
    while (top > 0) {
      const at = stack[--top];
      size++;
      const x = at % width;
      if (x > 0 && parts.data[at - 1] === -1 && data[at - 1] === label) {
        parts.data[at - 1] = part;
        stack[top++] = at - 1;
      }
      if (x < width - 1 && parts.data[at + 1] === -1 && data[at + 1] === label) {
        parts.data[at + 1] = part;
        stack[top++] = at + 1;
      }
      if (at >= width && parts.data[at - width] === -1 && data[at - width] === label) {
        parts.data[at - width] = part;
        stack[top++] = at - width;
      }
      if (at + width < data.length && parts.data[at + width] === -1 && data[at + width] === label) {
        parts.data[at + width] = part;
        stack[top++] = at + width;
      }
    }
    labelOf.push(label);
    sizeOf.push(size);
  }
  return { parts, labelOf: Int32Array.from(labelOf), sizeOf: Int32Array.from(sizeOf), count: labelOf.length };
}

/**
 * Gives parts smaller than `least` pixels to the neighbour with which they share most border, smallest first, in place. A
 * part without a neighbour (the whole picture) stays.
 */
export function dropSmallParts(map: Labels, least: (label: number) => number): void {
  const { width, data } = map;
  const { parts, labelOf, sizeOf, count } = connectedParts(map);
  const small: number[] = [];
  for (let part = 0; part < count; part++) if (sizeOf[part] < least(labelOf[part])) small.push(part);
  if (small.length === 0) return;
  small.sort((a, b) => sizeOf[a] - sizeOf[b]);
  const pixels = new Map<number, number[]>();
  const lists: (number[] | undefined)[] = new Array(count);
  for (const part of small) {
    const list: number[] = [];
    lists[part] = list;
    pixels.set(part, list);
  }
  for (let at = 0; at < data.length; at++) {
    const list = lists[parts.data[at]];
    if (list) list.push(at);
  }
  for (const part of small) {
    const borders = new Map<number, number>();
    const list = pixels.get(part) as number[];
    const own = data[list[0]];
    const see = (at: number) => {
      const label = data[at];
      if (label !== own) borders.set(label, (borders.get(label) ?? 0) + 1);
    };
    for (const at of list) {
      const x = at % width;
      if (x > 0) see(at - 1);
      if (x < width - 1) see(at + 1);
      if (at >= width) see(at - width);
      if (at + width < data.length) see(at + width);
    }
    let [best, most] = [own, 0];
    for (const [label, length] of borders) if (length > most || (length === most && label < best)) [best, most] = [label, length];
    for (const at of list) data[at] = best;
  }
}
