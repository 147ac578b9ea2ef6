import { chance, cosine, hash, sine, TURN, turnOf } from './chance.js';
import { turnAt } from './direction.js';
import type { StageArea, StageColour, StageInput, StageMarks } from './scene.js';
import { type Pen, touches } from './strokes.js';

/** How far a mark's direction wavers, in 1/1024 turns, and its size, in 1/256. */
const WAVER = 48;
const SIZES = 90;

/** Lays marks over what is seen of their area (past what is covered up), or evenly round a point. All chance comes from the mark's own seed. */
export function layMarks(input: StageInput, pen: Pen, marks: StageMarks, stepSeed: number): void {
  const { width, height } = input;
  const area = input.areas[marks.area] as StageArea;
  const seed = hash(input.seed, marks.seed, stepSeed);
  const mask = marks.along ? new Uint8Array(area.seen.length).fill(255) : area.seen.slice();
  for (const number of marks.protect) {
    const covered = (input.areas[number] as StageArea).seen;
    for (let i = 0; i < mask.length; i++) if (covered[i] !== 0) mask[i] = 0;
  }
  const isRound = marks.kind === 'dots' || marks.kind === 'scatter' || marks.kind === 'spatter';
  const touch = marks.kind === 'spatter' ? touches.spatter : touches.loaded;
  if (marks.along) {
    marks.along.forEach((along, i) => {
      const draw = chance(hash(seed, i, 7));
      const colour = marks.colours[draw() % marks.colours.length] as StageColour;
      const [x = 0, y = 0] = along;
      const widthPx = Math.max(1.2, marks.widthPx);
      const own = { x, y, widthPx, ends: marks.ends, along, mask, colour: colour.rgb, touch, direction: () => 0 };
      pen.lay({ ...own, seed: hash(seed, i), field: null }, null);
    });
    return;
  }
  const places = marks.round ? roundPlaces(marks) : strewn(mask, width, height, marks.count, seed);
  places.forEach(({ x, y, turn }, i) => {
    const draw = chance(hash(seed, i, 7));
    const size = marks.round ? 256 : 256 - SIZES + ((draw() * 2 * SIZES) >> 16);
    const shift = marks.round ? 0 : ((draw() * 2 * WAVER) >> 16) - WAVER;
    const colour = marks.colours[draw() % marks.colours.length] as StageColour;
    const own = turn ?? marks.turn ?? turnAt(area, x, y);
    // Tufts stand up from where they grow.
    const up = marks.kind === 'tufts' && marks.turn === null && !marks.round ? (3 * TURN) / 4 : own;
    const direction = (up + shift + TURN) & (TURN - 1);
    pen.lay(
      {
        x,
        y,
        widthPx: Math.max(1.2, (marks.widthPx * size) / 256),
        lengthPx: isRound ? 0.1 : Math.max(1, (marks.lengthPx * size) / 256),
        ends: isRound ? 256 : marks.ends,
        mask,
        colour: colour.rgb,
        touch,
        direction: () => direction,
        seed: hash(seed, i),
        field: null,
      },
      null,
    );
  });
}

type Place = { x: number; y: number; turn: number | null };

/** Evenly round a point; each points outwards. */
function roundPlaces({ round, count }: StageMarks): Place[] {
  if (!round) return [];
  return Array.from({ length: count }, (_, i) => {
    const turn = (Math.round((i * TURN) / count) + turnOf(round.turnDeg)) & (TURN - 1);
    return { x: round.x + (cosine(turn) * round.radiusPx) / 4096, y: round.y + (sine(turn) * round.radiusPx) / 4096, turn };
  });
}

const TRIES = 6;
/** So many places in a mask, each the one of a few tries that lies farthest from the others (Mitchell 1991, best candidate). */
function strewn(mask: Uint8Array, width: number, height: number, count: number, seed: number): Place[] {
  const open: number[] = [];
  for (let i = 0; i < mask.length; i++) if (mask[i] > 127) open.push(i);
  if (open.length === 0) return [];
  const places: Place[] = [];
  const draw = chance(hash(seed, 11));
  const any = () => {
    const at = open[Math.floor(((draw() * 65536 + draw()) / 4294967296) * open.length)];
    return { x: (at % width) + 0.5, y: Math.floor(at / width) + 0.5 };
  };
  for (let i = 0; i < count; i++) {
    let best = any();
    let most = -1;
    for (let k = 0; k < (count > 400 ? 1 : TRIES); k++) {
      const at = k === 0 ? best : any();
      let least = width * width + height * height;
      for (const other of places) {
        const far = (other.x - at.x) * (other.x - at.x) + (other.y - at.y) * (other.y - at.y);
        if (far < least) least = far;
      }
      if (least > most) {
        most = least;
        best = at;
      }
    }
    places.push({ ...best, turn: null });
  }
  return places;
}
