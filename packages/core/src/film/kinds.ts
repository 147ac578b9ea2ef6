import { worded } from '@viaticum/contract';
/** What a piece of a take shows. */
export const pieceKinds = ['speech', 'result', 'key', 'mixing', 'edge', 'filling', 'tracing', 'repeat'] as const;
export type PieceKind = (typeof pieceKinds)[number];

/**
 * What a second of each is worth on the screen, how much faster than life it may run, and the shortest time in which it can be read. Common
 * practice and judgement, no published source: speech and a canvas at rest run as they are, the gesture that is taught is never under 3 s.
 */
export const pieceRules: Readonly<Record<PieceKind, { worth: number; fastest: number; leastS: number; name: string }>> = worded(
  {
    speech: { worth: 8, fastest: 1, leastS: 0, name: 'speech' },
    result: { worth: 6, fastest: 1, leastS: 2, name: 'the result, at rest' },
    key: { worth: 4, fastest: 2, leastS: 3, name: 'the stroke that is taught' },
    mixing: { worth: 2, fastest: 8, leastS: 4, name: 'mixing' },
    edge: { worth: 3, fastest: 4, leastS: 2, name: 'cutting in' },
    filling: { worth: 1, fastest: 16, leastS: 2, name: 'filling' },
    tracing: { worth: 1, fastest: 16, leastS: 2, name: 'drawing' },
    repeat: { worth: 1, fastest: 24, leastS: 2, name: 'the same again' },
  },
  ['name'],
);

/** A piece of a take: so many seconds of film, shown for `lowS` at least. */
export type Piece = { id: string; stepId: string | null; kind: PieceKind; rawS: number; lowS: number; worth: number };

/** In a short cut everything but speech may run so much faster, and of a gesture its first seconds do. */
const SHORT = { faster: 16, least: 0.6, gestureS: 4 };

/** A piece as a short cut may show it. */
export const pieceInShort = (piece: Piece): Piece => {
  const { fastest, leastS } = pieceRules[piece.kind];
  if (piece.kind === 'result') return { ...piece, lowS: Math.min(piece.rawS, 1.5) };
  if (piece.kind === 'key') {
    const rawS = Math.min(piece.rawS, SHORT.gestureS);
    return { ...piece, rawS, lowS: Math.min(rawS, leastS * SHORT.least) };
  }
  return { ...piece, lowS: Math.min(piece.rawS, Math.max(leastS * SHORT.least, piece.rawS / (fastest * SHORT.faster))) };
};

export function pieceOf(id: string, stepId: string | null, kind: PieceKind, rawS: number, leastS = 0): Piece {
  const { worth, fastest, leastS: own } = pieceRules[kind];
  return { id, stepId, kind, rawS, worth, lowS: Math.min(rawS, Math.max(own, leastS, rawS / fastest)) };
}
