import { chance, cosine, hash, sine, TURN } from './chance.js';

/** What lies on the canvas: unshaded colour (red, green, blue bytes) and the height of the paint. */
export type Canvas = { width: number; height: number; rgb: Uint8Array; relief: Uint8Array };

/** How a technique leaves its paint; shares in 1/256, the load falling along the stroke. */
export type Touch = {
  /** Opacity of a full bristle, and how much of the bristle map shows (0: even). */
  opacity: number;
  bristle: number;
  /** How much the canvas's tooth holds paint back: 0 none, 256 only its hills are hit. */
  tooth: number;
  /** What is left of the load at the end of a stroke. */
  tail: number;
  /** Height of the ridges. */
  relief: number;
  /** Length of a stroke over its width, in tenths. */
  long: number;
};

export const touches = {
  wash: { opacity: 215, bristle: 60, tooth: 40, tail: 200, relief: 2, long: 60 },
  flat: { opacity: 250, bristle: 70, tooth: 10, tail: 235, relief: 9, long: 45 },
  blend: { opacity: 225, bristle: 90, tooth: 0, tail: 215, relief: 6, long: 70 },
  broken: { opacity: 235, bristle: 190, tooth: 190, tail: 110, relief: 6, long: 40 },
  veil: { opacity: 120, bristle: 110, tooth: 110, tail: 120, relief: 2, long: 25 },
  glaze: { opacity: 240, bristle: 40, tooth: 0, tail: 235, relief: 0, long: 60 },
  loaded: { opacity: 255, bristle: 60, tooth: 0, tail: 240, relief: 22, long: 35 },
  spatter: { opacity: 255, bristle: 0, tooth: 0, tail: 256, relief: 14, long: 10 },
} satisfies Record<string, Touch>;
export type TouchName = keyof typeof touches;

/** Paint of this opacity (in 1/256 of what a full bristle of the touch leaves) covers as well as this touch covers at all. */
const WELL = 179;
const ACROSS = 64;
const ALONG = 256;
/** More than any stroke is long, and a multiple of ALONG. */
const FAR = ALONG << 12;
/** Bristles across, their unevenness along: each hair carries its own share of paint, that wanders slowly. */
const bristles: Uint8Array = (() => {
  const map = new Uint8Array(ACROSS * ALONG);
  for (let hair = 0; hair < ACROSS; hair++) {
    const draw = chance(hash(77, hair));
    const own = 120 + (draw() >> 9);
    let value = own;
    for (let i = 0; i < ALONG; i++) {
      value += ((draw() >> 8) - 128) >> 3;
      value += (own - value) >> 4;
      map[hair * ALONG + i] = Math.max(0, Math.min(255, value));
    }
  }
  return map;
})();

/** The tooth of a woven canvas at a pixel, 0-255; `pitch` is the distance of its threads in 1/16 px. */
export function toothAt(x: number, y: number, pitch: number): number {
  const u = Math.floor((x * 16 * TURN) / pitch) & (TURN - 1);
  const v = Math.floor((y * 16 * TURN) / pitch) & (TURN - 1);
  const over = (Math.floor((x * 16) / pitch) + Math.floor((y * 16) / pitch)) & 1;
  const weave = over ? sine(u) : sine(v);
  const grain = hash(x, y) & 31;
  return Math.max(0, Math.min(255, 112 + (Math.abs(weave) >> 5) + grain));
}

export type Stroke = {
  x: number;
  y: number;
  widthPx: number;
  /** Where it may leave paint: the mask's byte must not be 0 (its value is a share in 1/255). */
  mask: Uint8Array;
  colour: readonly [number, number, number];
  touch: Touch;
  /** The direction at a pixel, in 1/1024 turns. */
  direction: (x: number, y: number) => number;
  seed: number;
  /** Its length in px where it is not the touch's; its width at the end over that at the beginning, in 1/256. */
  lengthPx?: number;
  ends?: number;
  /** The line that it follows, as x, y, x, y … in px, in place of all that. */
  along?: readonly number[];
  /** Where colours run into each other: the colour of every cell of the coarse map, of which a stroke takes most. */
  field: Uint8Array | null;
  /** What a clear film makes of every byte that lies below, in place of a colour that covers. */
  film?: Uint8Array | null;
};
/** The canvas below a glaze, and how much of its film lies on every pixel already, 0-255. */
export type Veil = { below: Uint8Array; laid: Uint8Array };

/**
 * Paints strokes into a canvas; remembers per stroke what it has touched, so that no pixel is painted twice by one stroke.
 * `factor` is the size of a cell of the coarse map.
 */
export function painter(canvas: Canvas, teeth: Uint8Array, factor: number) {
  const { width, height, rgb, relief } = canvas;
  const [across, down] = [Math.ceil(width / factor), Math.ceil(height / factor)];
  const cellOf = Uint16Array.from({ length: width }, (_, x) => Math.floor(x / factor));
  const seen = new Uint32Array(width * height);
  let count = 0;
  /** The line of a stroke, traced both ways from its middle along the direction field. */
  const trace = ({ x, y, widthPx, touch, direction, lengthPx, along }: Stroke, scale: number): readonly number[] => {
    if (along) return along;
    const step = Math.max(1.5, widthPx * 0.6);
    if (lengthPx !== undefined) return straight(x, y, direction(x, y), Math.max(1, lengthPx), step);
    // A fine brush draws lines.
    const long = widthPx < 9 && touch.tooth === 0 ? Math.max(touch.long, 130) : touch.long;
    const steps = Math.max(1, Math.round((long * widthPx * scale) / 2560 / step / 2));
    const points: number[] = [x, y];
    for (const way of [1, -1]) {
      let [px, py] = [x, y];
      let turn = direction(x, y) + (way < 0 ? TURN / 2 : 0);
      for (let i = 0; i < steps; i++) {
        px += (cosine(turn) * step) / 4096;
        py += (sine(turn) * step) / 4096;
        if (px < -widthPx || py < -widthPx || px > width + widthPx || py > height + widthPx) break;
        if (way > 0) points.push(px, py);
        else points.unshift(px, py);
        const next = direction(px, py) + (way < 0 ? TURN / 2 : 0);
        // The field has no sense of front and back: turn the shorter way.
        const bend = ((next - turn + TURN + TURN / 2) & (TURN - 1)) - TURN / 2;
        turn += Math.abs(bend) > TURN / 4 ? 0 : bend;
      }
    }
    return points;
  };

  /** A mark begins at its place and is pulled away from it. */
  const straight = (x: number, y: number, turn: number, lengthPx: number, step: number): number[] => {
    const points = [x, y];
    for (let gone = 0; gone < lengthPx; gone += step) {
      const far = Math.min(lengthPx, gone + step);
      points.push(x + (cosine(turn) * far) / 4096, y + (sine(turn) * far) / 4096);
    }
    return points;
  };

  return {
    teeth,
    canvas,
    /** Marks every cell that a stroke may touch. */
    mark(stroke: Stroke, cells: Uint8Array): void {
      const draw = chance(stroke.seed);
      const points = trace(stroke, 200 + (draw() >> 9));
      const half = stroke.widthPx / 2 + 2;
      for (let k = 0; k < points.length; k += 2) {
        const next = k + 2 < points.length ? k + 2 : k;
        const [x0, y0, x1, y1] = [points[k], points[k + 1], points[next], points[next + 1]] as [number, number, number, number];
        const fromX = Math.max(0, Math.floor((Math.min(x0, x1) - half) / factor));
        const toX = Math.min(across - 1, Math.floor((Math.max(x0, x1) + half) / factor));
        const fromY = Math.max(0, Math.floor((Math.min(y0, y1) - half) / factor));
        const toY = Math.min(down - 1, Math.floor((Math.max(y0, y1) + half) / factor));
        for (let y = fromY; y <= toY; y++) for (let x = fromX; x <= toX; x++) cells[y * across + x] = 1;
      }
    },
    /** Lays one stroke, in some cells or everywhere; notes what it covered well. */
    lay(stroke: Stroke, well: Covered | null, veil: Veil | null = null, only?: Cells): void {
      // All chance of a stroke is drawn before anything is looked at.
      const draw = chance(stroke.seed);
      const scale = 200 + (draw() >> 9);
      const hairs = draw();
      const shift = draw();
      const fade = draw() >> 10;
      const { widthPx, mask, colour, touch, field, film, ends = 256 } = stroke;
      const points = trace(stroke, scale);
      const half = widthPx / 2;
      // A fine stroke cannot stand as high as a broad one.
      const enough = (touch.opacity * WELL) >> 8;
      const ridgeHeight = Math.min(touch.relief, Math.ceil(widthPx * 0.7));
      const id = ++count;
      const segments = points.length / 2 - 1;
      let along = 0;
      let whole = 0;
      for (let k = 0; k < segments; k++) {
        const [dx, dy] = [points[2 * k + 2] - points[2 * k], points[2 * k + 3] - points[2 * k + 1]];
        whole += Math.sqrt(dx * dx + dy * dy);
      }
      whole = Math.max(whole, 1);
      for (let k = 0; k < Math.max(1, segments); k++) {
        const [x0, y0] = [points[2 * k], points[2 * k + 1]];
        const [x1, y1] = segments > 0 ? [points[2 * k + 2], points[2 * k + 3]] : [x0 + 0.01, y0];
        const [dx, dy] = [x1 - x0, y1 - y0];
        const length = Math.sqrt(dx * dx + dy * dy) || 0.01;
        const [ux, uy] = [dx / length, dy / length];
        const capBefore = k === 0 ? half : 0;
        const capAfter = k >= segments - 1 ? half : half * 0.35;
        const fromX = Math.max(0, Math.floor(Math.min(x0, x1) - half - 1));
        const toX = Math.min(width - 1, Math.ceil(Math.max(x0, x1) + half + 1));
        const fromY = Math.max(0, Math.floor(Math.min(y0, y1) - half - 1));
        const toY = Math.min(height - 1, Math.ceil(Math.max(y0, y1) + half + 1));
        if (only && !meets(only, fromX, fromY, toX, toY)) {
          along += length;
          continue;
        }
        for (let y = fromY; y <= toY; y++) {
          // Of a row only what can lie in the strip, a pixel more on either side.
          const down = y + 0.5 - y0;
          let [first, past] = [fromX, toX];
          const cellRow = Math.floor(y / factor);
          if (only) {
            first = Math.max(first, only.from[cellRow] * factor);
            past = Math.min(past, only.to[cellRow] * factor + factor - 1);
          }
          if (uy > 1e-3 || uy < -1e-3) {
            const [one, other] = [(ux * down - half) / uy, (ux * down + half) / uy];
            first = Math.max(first, Math.floor(x0 + Math.min(one, other)) - 2);
            past = Math.min(past, Math.ceil(x0 + Math.max(one, other)) + 1);
          }
          if (ux > 1e-3 || ux < -1e-3) {
            const [one, other] = [(-capBefore - uy * down) / ux, (length + capAfter - uy * down) / ux];
            first = Math.max(first, Math.floor(x0 + Math.min(one, other)) - 2);
            past = Math.min(past, Math.ceil(x0 + Math.max(one, other)) + 1);
          }
          for (let x = first; x <= past; x++) {
            if (only && only.map[cellRow * across + cellOf[x]] === 0) {
              x = (cellOf[x] + 1) * factor - 1;
              continue;
            }
            const at = y * width + x;
            const allowed = mask[at];
            if (allowed === 0 || seen[at] === id) continue;
            const [rx, ry] = [x + 0.5 - x0, y + 0.5 - y0];
            const t = rx * ux + ry * uy;
            if (t < -capBefore || t > length + capAfter) continue;
            const s = rx * -uy + ry * ux;
            const gone = (along + t) / whole;
            const share = gone < 0 ? 0 : Math.min(1, gone);
            const reach = ends === 256 ? half : (half * (256 - (256 - ends) * share)) / 256;
            if (s < -reach || s > reach) continue;
            // Round ends.
            const out = t < 0 ? -t : t > length ? t - length : 0;
            if (out > 0 && out * out + s * s > reach * reach) continue;
            seen[at] = id;
            // Whole numbers by `| 0`, above nought: much quicker here than Math.floor.
            const hair = (((s + half) * (ACROSS - 1)) / widthPx + (hairs & 15) + ACROSS) & (ACROSS - 1);
            const place = ((((along + t) * 2 + FAR) | 0) + shift) & (ALONG - 1);
            const paint = bristles[hair * ALONG + place];
            const load = 256 - (((256 - touch.tail) * share + 0.5) | 0);
            let alpha = (touch.opacity * (256 - touch.bristle + ((touch.bristle * paint) >> 7))) >> 8;
            alpha = (alpha * load) >> 8;
            if (touch.tooth > 0) {
              const hold = ((256 - teeth[at]) * touch.tooth) >> 7;
              alpha -= hold + (fade >> 2);
            }
            // The rim of the hairs carries less.
            const rim = reach - (s < 0 ? -s : s);
            if (rim < 1.5) alpha = (alpha * ((rim * 100 + 70.5) | 0)) >> 8;
            if (alpha <= 6) continue;
            if (alpha > 255) alpha = 255;
            alpha = (alpha * allowed) >> 8;
            const i = at * 3;
            if (film && veil) {
              if (well && alpha > enough && well.covered[at] === 0) well.covered[at] = well.round + 1;
              if (alpha <= veil.laid[at]) continue;
              veil.laid[at] = alpha;
              for (let c = 0; c < 3; c++) {
                const below = veil.below[i + c];
                rgb[i + c] = mixByte(below, film[c * 256 + below], alpha);
              }
              continue;
            }
            if (field) {
              const f = (cellRow * across + cellOf[x]) * 3;
              rgb[i] = mixByte(rgb[i], (colour[0] + 7 * field[f]) >> 3, alpha);
              rgb[i + 1] = mixByte(rgb[i + 1], (colour[1] + 7 * field[f + 1]) >> 3, alpha);
              rgb[i + 2] = mixByte(rgb[i + 2], (colour[2] + 7 * field[f + 2]) >> 3, alpha);
            } else {
              rgb[i] = mixByte(rgb[i], colour[0], alpha);
              rgb[i + 1] = mixByte(rgb[i + 1], colour[1], alpha);
              rgb[i + 2] = mixByte(rgb[i + 2], colour[2], alpha);
            }
            const ridge = 128 + (((paint - 160) * ridgeHeight) >> 5) + (s > half - 1.6 || -s > half - 1.6 ? ridgeHeight : 0);
            relief[at] = mixByte(relief[at], Math.max(0, Math.min(255, ridge)), alpha);
            if (well && alpha > enough && well.covered[at] === 0) well.covered[at] = well.round + 1;
          }
        }
        along += length;
      }
    },
  };
}

/** In which round (counted from 1) every pixel was first covered well; 0 where it is not. */
export type Covered = { covered: Uint8Array; round: number };

/** Some cells of the coarse map, and the first and the last of each of its rows (none: the first lies past the last). */
export type Cells = { map: Uint8Array; across: number; down: number; factor: number; from: Int32Array; to: Int32Array };
export function cellsOf(map: Uint8Array, { across, down }: { across: number; down: number }, factor: number): Cells {
  const [from, to] = [new Int32Array(down).fill(across), new Int32Array(down).fill(-1)];
  for (let y = 0; y < down; y++) {
    const row = map.subarray(y * across, (y + 1) * across);
    const first = row.indexOf(1);
    if (first < 0) continue;
    from[y] = first;
    to[y] = row.lastIndexOf(1);
  }
  return { map, across, down, factor, from, to };
}
function meets({ map, across, down, factor }: Cells, fromX: number, fromY: number, toX: number, toY: number): boolean {
  const last = Math.min(across - 1, Math.floor(toX / factor));
  for (let y = Math.floor(fromY / factor); y <= Math.min(down - 1, Math.floor(toY / factor)); y++)
    for (let x = Math.floor(fromX / factor); x <= last; x++) if (map[y * across + x] !== 0) return true;
  return false;
}

export type Pen = ReturnType<typeof painter>;

/** From one byte towards another by `alpha` of 255, rounded. Up to 65 535 a division by 255 is a product and a shift. */
const mixByte = (from: number, to: number, alpha: number): number =>
  to >= from
    ? from + (Math.imul((to - from) * alpha + 127, 0x8081) >>> 23)
    : from - (Math.imul((from - to) * alpha + 127, 0x8081) >>> 23);

/** The canvas as it is seen: paint shaded by its ridges and the tooth beneath, light from the upper left. */
export function shaded({ width, height, rgb, relief }: Canvas, teeth: Uint8Array): Uint8ClampedArray {
  const out = new Uint8ClampedArray(width * height * 4);
  // Small pictures are looked at from farther away: their ridges and threads shade less.
  const gain = Math.max(3, Math.min(16, Math.round(width / 75)));
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = y * width + x;
      const right = x + 1 < width ? at + 1 : at;
      const below = y + 1 < height ? at + width : at;
      const slope = 2 * relief[at] - relief[right] - relief[below];
      const weave = 2 * teeth[at] - teeth[right] - teeth[below];
      const light = 256 + ((slope * gain) >> 3) + (weave >> (gain > 8 ? 4 : 6));
      for (let c = 0; c < 3; c++) out[at * 4 + c] = (rgb[at * 3 + c] * light) >> 8;
      out[at * 4 + 3] = 255;
    }
  return out;
}
