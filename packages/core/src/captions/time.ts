import { say } from '@viaticum/contract';
import type { SaidCue } from './break.js';
import { type ChainLink, type ChainPoint, leastCostTimes } from './chain.js';
import { type CaptionRules, captionRules } from './rules.js';

/** A caption with the stretch of film (a take) that it belongs to. */
export type TakenCue = SaidCue & { take: string };
export type Span = { from: number; to: number };
/** More is said in a take than can be read: how many characters too many, and how many seconds more would do. */
export type TooMuchSaid = { take: string; chars: number; cps: number; moreS: number; words: string };

type Options = { takes: ReadonlyMap<string, Span>; cuts?: readonly number[]; rules?: CaptionRules };

/** The change of picture nearest to a time, within the reach of the rules. */
function nearestCut(cuts: readonly number[], t: number, reach: number): number | undefined {
  let [low, high] = [0, cuts.length];
  while (low < high) {
    const mid = (low + high) >> 1;
    if ((cuts[mid] as number) < t) low = mid + 1;
    else high = mid;
  }
  return [cuts[low - 1], cuts[low]]
    .filter((cut): cut is number => cut !== undefined && Math.abs(cut - t) <= reach)
    .sort((a, b) => Math.abs(a - t) - Math.abs(b - t))[0];
}

/** The frames that each caption needs; where a take has too few all its captions give way in the same proportion, and it is said. */
function frameNeeds(
  cues: readonly TakenCue[],
  { takes, rules = captionRules }: Options,
): { need: number[]; found: TooMuchSaid[] } {
  const { fps, cps } = rules;
  const need = cues.map(({ chars }) => Math.max(Math.ceil(rules.leastS * fps), Math.ceil((chars / cps) * fps)));
  const byTake = new Map<string, number[]>();
  for (const [i, { take }] of cues.entries()) {
    const own = byTake.get(take);
    if (own) own.push(i);
    else byTake.set(take, [i]);
  }
  const found: TooMuchSaid[] = [];
  for (const [take, own] of byTake) {
    const span = takes.get(take) as Span;
    // The last caption of a take is gone two pictures before its end.
    const room = Math.max(
      own.length,
      Math.floor(span.to * fps + 1e-9) - Math.ceil(span.from * fps - 1e-9) - own.length * rules.gapFrames,
    );
    const sum = own.reduce((total, i) => total + (need[i] as number), 0);
    if (sum <= room) continue;
    const chars = own.reduce((total, i) => total + (cues[i] as TakenCue).chars, 0);
    const over = Math.max(1, chars - Math.floor((room / fps) * cps));
    const rate = Math.round(chars / (room / fps));
    const moreS = (sum - room) / fps;
    found.push({
      take,
      chars: over,
      cps: rate,
      moreS,
      words: say`Too much is said here to be read: ${rate} characters a second, ${cps} can be read. Shorten by ${over} characters, or give the take ${moreS.toFixed(1)} s more.`,
    });
    let left = room;
    for (const i of own) {
      need[i] = Math.max(1, Math.floor(((need[i] as number) * room) / sum));
      left -= need[i] as number;
    }
    for (const i of own) if (left-- > 0) need[i] = (need[i] as number) + 1;
  }
  return { need, found };
}

/** The timing of captions as a chain of starts and ends, in frames: for {@link timeCues}, and for a check by a linear program. */
export function captionChain(
  cues: readonly TakenCue[],
  options: Options,
): { points: ChainPoint[]; links: ChainLink[]; found: TooMuchSaid[] } {
  const { takes, cuts = [], rules = captionRules } = options;
  const { fps, gapFrames } = rules;
  const { need, found } = frameNeeds(cues, options);
  const points: ChainPoint[] = [];
  const links: ChainLink[] = [];
  cues.forEach((cue, i) => {
    const span = takes.get(cue.take) as Span;
    const isFirst = cues[i - 1]?.take !== cue.take;
    const isLast = cues[i + 1]?.take !== cue.take;
    const begins = nearestCut(cuts, cue.from, rules.nearCutS);
    const ends = nearestCut(cuts, cue.to, rules.nearCutS);
    points.push({
      wish: Math.round((begins ?? cue.from) * fps),
      ...(begins === undefined ? { early: 2, late: 3 } : { early: 6, late: 6 }),
      ...(isFirst && { floor: Math.ceil(span.from * fps - 1e-9) }),
    });
    links.push({ lo: need[i] as number, hi: Math.max(need[i] as number, Math.floor(rules.mostS * fps)) });
    points.push({
      wish: ends === undefined ? Math.round(cue.to * fps) : Math.round(ends * fps) - gapFrames,
      ...(ends === undefined ? { early: 2, late: 1 } : { early: 6, late: 6 }),
      ...(isLast && { ceil: Math.floor(span.to * fps + 1e-9) - gapFrames }),
    });
    if (i + 1 < cues.length) links.push({ lo: gapFrames, hi: Number.POSITIVE_INFINITY });
  });
  return { points, links, found };
}

/**
 * When captions stand, of least cost under {@link captionRules}, in whole frames: a start late 3 a frame, early 2; an end early 2, late 1; at a
 * change of picture 6. None spans two takes. `takes` says where each lies on the film (seconds).
 */
export function timeCues(cues: readonly TakenCue[], options: Options): { cues: TakenCue[]; found: TooMuchSaid[] } {
  if (cues.length === 0) return { cues: [], found: [] };
  const { cuts = [], rules = captionRules } = options;
  const { points, links, found } = captionChain(cues, options);
  const x = leastCostTimes(points, links);
  const out = cues.map((cue, i) => ({
    ...cue,
    from: (x[2 * i] as number) / rules.fps,
    to: (x[2 * i + 1] as number) / rules.fps,
  }));
  // A hole under half a second would flicker: the earlier caption stays on.
  const gap = rules.gapFrames / rules.fps;
  out.forEach((cue, i) => {
    const next = out[i + 1];
    if (!next || next.take !== cue.take) return;
    const hole = next.from - cue.to;
    const to = next.from - gap;
    if (hole <= gap || hole >= 0.5 || to - cue.from > rules.mostS) return;
    if (!cuts.some((cut) => cut > cue.to && cut <= to)) cue.to = to;
  });
  return { cues: out, found };
}
