import type { Piece } from '../kinds.js';

/** A take as far as its length goes: `voiceS` of speech that was recorded afterwards and needs pictures. */
export type Lengths = { id: string; pieces: readonly (Piece & { fixedS?: number })[]; voiceS?: number };

export type Allocation = {
  status: 'exact' | 'too-short' | 'all-real-time';
  /** What is worth w runs at press / w, as far as its bounds let it. */
  press: number;
  seconds: number;
  leastS: number;
  mostS: number;
  /** Seconds shown of every piece. */
  shown: Map<string, number>;
  /** Where a voice is longer than its pictures the last one is held so long. */
  held: Map<string, number>;
};

type Bend = { at: number; a: number; b: number };
type Sized = { rawS: number; lowS: number; worth: number };
const shownAt = ({ rawS, lowS, worth }: Sized, press: number): number => Math.min(rawS, Math.max(lowS, (worth * rawS) / press));
const NEARLY = 1e-9;

/**
 * The least press at which pieces are so long together: between two bends their sum is a + b/press, so that it is found without trying.
 * `Infinity` where they are not so short at any press.
 */
function pressFor(bends: Bend[], goal: number): number {
  bends.sort((x, y) => x.at - y.at);
  let [a, b] = [0, 0];
  for (const [k, bend] of bends.entries()) {
    a += bend.a;
    b += bend.b;
    const until = bends[k + 1]?.at ?? Number.POSITIVE_INFINITY;
    if (b <= NEARLY || goal <= a) continue;
    const press = b / (goal - a);
    if (press >= bend.at - NEARLY && press <= until + NEARLY) return press;
  }
  return Number.POSITIVE_INFINITY;
}

/** The bends of a piece: it begins to be pressed, and stops at its least or where its take may not be pressed further. */
function bendsOf(piece: Sized, cap: number): Bend[] {
  const { rawS, lowS, worth } = piece;
  const full: Bend = { at: 0, a: rawS, b: 0 };
  if (rawS <= lowS || cap <= worth) return [full];
  const end = (worth * rawS) / lowS;
  const stop = Math.min(end, cap);
  return [full, { at: worth, a: -rawS, b: worth * rawS }, { at: stop, a: shownAt(piece, stop), b: -worth * rawS }];
}

/**
 * How long every piece is shown so that the film is as long as wished: maximises Σ worth·raw·ln(shown) under low ≤ shown ≤ raw, Σ shown = wish −
 * cards, and for a take with a voice of its own Σ shown ≥ voice. Concave with nested bounds, so one number answers it, the press: a piece runs at
 * press / worth, in words "what is worth four times as much runs at a quarter of the speed". Exact, O(n log n); the same answer is the
 * lexicographically fairest (Fujishige 1980, from memory). A piece with `fixedS` is shown for just so long. Seconds.
 */
export function allocate(takes: readonly Lengths[], wishS: number, cardsS = 0): Allocation {
  const sized = takes.map(({ id, pieces, voiceS = 0 }) => {
    const own = pieces.map((piece): Sized & { id: string } =>
      piece.fixedS === undefined ? piece : { id: piece.id, worth: piece.worth, rawS: piece.fixedS, lowS: piece.fixedS },
    );
    const rawS = own.reduce((sum, one) => sum + one.rawS, 0);
    const lowS = own.reduce((sum, one) => sum + one.lowS, 0);
    return { id, own, rawS, lowS, voiceS: Math.min(voiceS, rawS), heldS: Math.max(0, voiceS - rawS) };
  });
  const held = new Map(sized.flatMap(({ id, heldS }) => (heldS > 0 ? [[id, heldS] as const] : [])));
  const besides = cardsS + sized.reduce((sum, { heldS }) => sum + heldS, 0);
  const mostS = besides + sized.reduce((sum, { rawS }) => sum + rawS, 0);
  const leastS = besides + sized.reduce((sum, { lowS, voiceS }) => sum + Math.max(lowS, voiceS), 0);
  // Where a take is just as long as its voice it is pressed no further.
  const caps = sized.map(({ own, lowS, voiceS, rawS }) => {
    if (voiceS <= lowS + NEARLY) return Number.POSITIVE_INFINITY;
    if (voiceS >= rawS - NEARLY) return NEARLY;
    return pressFor(
      own.flatMap((piece) => bendsOf(piece, Number.POSITIVE_INFINITY)),
      voiceS,
    );
  });
  const status = wishS >= mostS - NEARLY ? 'all-real-time' : wishS < leastS - NEARLY ? 'too-short' : 'exact';
  const press =
    status === 'all-real-time'
      ? NEARLY
      : status === 'too-short'
        ? Number.POSITIVE_INFINITY
        : pressFor(
            sized.flatMap(({ own }, k) => own.flatMap((piece) => bendsOf(piece, caps[k] as number))),
            wishS - besides,
          );
  const shown = new Map<string, number>();
  let seconds = besides;
  sized.forEach(({ own }, k) => {
    const at = Math.min(press, caps[k] as number);
    for (const piece of own) {
      const s = at === Number.POSITIVE_INFINITY ? piece.lowS : shownAt(piece, at);
      shown.set(piece.id, s);
      seconds += s;
    }
  });
  return { status, press, seconds, leastS, mostS, shown, held };
}

export type Choosable = { id: string; leastS: number; value: number; isMust?: boolean };

/**
 * Which takes a short film shows: the greatest value in so many seconds, those that must be among them. Exact (0/1 knapsack over tenths of a
 * second). Null where those that must be are longer already.
 */
export function chooseTakes(takes: readonly Choosable[], seconds: number): Set<string> | null {
  const need = takes.map(({ leastS }) => Math.ceil(leastS * 10 - NEARLY));
  const must = takes.reduce((sum, { isMust }, i) => sum + (isMust ? (need[i] as number) : 0), 0);
  const room = Math.floor(seconds * 10 + NEARLY) - must;
  if (room < 0) return null;
  const free = takes.flatMap(({ isMust }, i) => (isMust ? [] : [i]));
  const best = new Float64Array(room + 1);
  const took = free.map(() => new Uint8Array(room + 1));
  free.forEach((i, k) => {
    const own = need[i] as number;
    for (let c = room; c >= own; c--) {
      const value = (best[c - own] as number) + (takes[i] as Choosable).value;
      if (value > (best[c] as number) + NEARLY) {
        best[c] = value;
        (took[k] as Uint8Array)[c] = 1;
      }
    }
  });
  const kept = new Set(takes.flatMap(({ id, isMust }) => (isMust ? [id] : [])));
  let c = room;
  for (let k = free.length - 1; k >= 0; k--)
    if ((took[k] as Uint8Array)[c]) {
      kept.add((takes[free[k] as number] as Choosable).id);
      c -= need[free[k] as number] as number;
    }
  return kept;
}
