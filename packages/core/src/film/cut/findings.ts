import { say, worded } from '@viaticum/contract';
import { type Piece, pieceRules } from '../kinds.js';
import { JUMP_S, mayJump, type Shot, type Timeline } from './cuts.js';

/** What would make a cut that is too short as long as wished. */
type Mend = { kind: 'length' | 'voice' | 'parts'; words: string; seconds?: number };
export type CutFinding = { code: 'too-short' | 'real-time' | 'hurried'; words: string; mends: Mend[]; pieceIds?: string[] };

const clockOf = (seconds: number): string => {
  const whole = Math.ceil(seconds - 1e-6);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
};

/** What is to be known about a cut's length, with acts that mend it. */
export function cutFindings({ cut, wishS, takes, shots, allocation }: Timeline): CutFinding[] {
  const { status, leastS, mostS } = allocation;
  const spokenS = cut.isShort
    ? 0
    : takes.reduce((sum, { pieces }) => sum + pieces.reduce((own, { kind, rawS }) => own + (kind === 'speech' ? rawS : 0), 0), 0);
  if (status === 'too-short') {
    const missing = leastS - wishS;
    const length: Mend = { kind: 'length', words: say`Make it ${clockOf(leastS)} long`, seconds: Math.ceil(leastS) };
    if (spokenS < missing)
      return [
        {
          code: 'too-short',
          words: say`What must be seen takes ${clockOf(leastS)}; ${clockOf(wishS)} are wished for.`,
          mends: [length],
        },
      ];
    return [
      {
        code: 'too-short',
        words: say`What is said takes ${clockOf(spokenS)} and cannot be sped up. Say ${clockOf(missing)} less, record the voice afterwards, or make parts.`,
        mends: [
          { kind: 'voice', words: say('Record the voice afterwards') },
          { kind: 'parts', words: say`Make parts of ${clockOf(wishS)}`, seconds: Math.round(wishS) },
          length,
        ],
      },
    ];
  }
  const found: CutFinding[] = [];
  if (status === 'all-real-time' && mostS < wishS - 1)
    found.push({
      code: 'real-time',
      words: say`Everything fits at real time: ${clockOf(mostS)} of your ${clockOf(wishS)}.`,
      mends: [{ kind: 'length', words: say`Make it ${clockOf(mostS)} long`, seconds: Math.ceil(mostS) }],
    });
  const hurried = shots.filter(({ piece, speed }) => piece?.kind === 'key' && speed > HURRIED[0] && speed < HURRIED[1]);
  if (hurried.length > 0)
    found.push({
      code: 'hurried',
      words:
        hurried.length === 1
          ? say`The stroke that is taught in ${hurried[0]?.slate} runs ${hurried[0]?.speed.toFixed(1)} times as fast: that looks hurried. Real time or twice looks meant.`
          : say`${hurried.length} strokes that are taught run 1.2 to 2 times as fast: that looks hurried. Real time or twice looks meant.`,
      mends: [],
      pieceIds: hurried.map(({ piece }) => (piece as Piece).id),
    });
  return found;
}
const HURRIED: [number, number] = [1.15, 1.99];

/** The length that a hurried stroke takes at the nearer of real time and twice. */
export const meantLength = ({ piece, speed }: Pick<Shot, 'piece' | 'speed'>): number => {
  const { rawS, lowS } = piece as Piece;
  return speed < Math.SQRT2 ? rawS : Math.max(lowS, rawS / 2);
};

/** Repetitions that could be jumped over, those that save most first; with what is lost. */
export function jumpsOf({ shots, fps, takes }: Timeline): { pieceId: string; savesS: number; words: string }[] {
  return shots
    .flatMap(({ piece, from, to, isJump, takeId }) => {
      const shownS = (to - from) / fps;
      if (!piece || isJump || !mayJump(piece) || shownS < JUMP_S + LEAST_SAVED_S) return [];
      const title = takes.find(({ id }) => id === takeId)?.title ?? '';
      const savesS = shownS - JUMP_S;
      return [
        { pieceId: piece.id, savesS, words: say`Jump over ${pieceRules[piece.kind].name} in “${title}”: −${clockOf(savesS)}` },
      ];
    })
    .sort((a, b) => b.savesS - a.savesS);
}

const LEAST_SAVED_S = 8;

/** How fast the kinds of pieces run, slowest first: "strokes as they are, mixing 2.1×, filling 6.2×". */
export function pressInWords({ allocation, shots }: Timeline): string {
  if (allocation.status === 'all-real-time') return say('all at real time');
  const fastest = new Map<string, number>();
  for (const { piece, speed } of shots) if (piece) fastest.set(piece.kind, Math.max(fastest.get(piece.kind) ?? 1, speed));
  const told = (['key', 'mixing', 'edge', 'filling', 'repeat', 'tracing'] as const).flatMap((kind) => {
    const speed = fastest.get(kind);
    if (speed === undefined) return [];
    return [
      `${plural[kind]} ${speed < 1.05 ? say('as they are') : say`up to ${speed < 9.95 ? speed.toFixed(1) : Math.round(speed)}×`}`,
    ];
  });
  return told.join(', ');
}
const plural = worded({
  key: 'strokes taught',
  mixing: 'mixing',
  edge: 'cutting in',
  filling: 'filling',
  repeat: 'repetitions',
  tracing: 'drawing',
});
