import type { Lesson } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { brushInMetric, brushOf } from '../../brush/index.js';
import { looksOf } from '../../derived/index.js';
import type { Take } from '../filming/takes.js';
import type { FilmPart, Timeline } from './cuts.js';

/** How welcome a break is before a take (our judgement): a dry canvas, a new stage; not between a heap and its use, never in one take. */
const welcome = { dry: 3, stage: 2, card: 3, heap: -2 };
const WELCOME_COUNTS = 0.15;
/** No part is shorter than this share of the wished length. */
const SHORTEST = 0.5;

/**
 * Parts of about `partS` seconds at natural breaks: dynamic programming over takes, least Σ ((length − wish)/wish)² less what the breaks are
 * welcome. A canvas take is never divided; a break stands only before one, or before the palette and tool takes that belong to it.
 */
export function partsOf(lesson: Lesson, timeline: Timeline, partS: number): FilmPart[] {
  const { takes, shots, fps } = timeline;
  if (takes.length === 0) return [];
  const starts = takes.map(({ id }) => shots.find(({ takeId }) => takeId === id)?.from ?? 0);
  starts.push(timeline.frames);
  const n = takes.length;
  const scores = takes.map((_, i) => breakScore(lesson, timeline, i));
  const best = new Float64Array(n + 1).fill(Number.POSITIVE_INFINITY);
  const from = new Int32Array(n + 1);
  best[0] = 0;
  for (let j = 1; j <= n; j++)
    for (let i = 0; i < j; i++) {
      const score = scores[i];
      if (i > 0 && (score === null || score === undefined)) continue;
      const long = ((starts[j] as number) - (starts[i] as number)) / fps;
      if (long < SHORTEST * partS && j - i < n) continue;
      const off = long / partS - 1;
      const total = (best[i] as number) + off * off - (i > 0 ? WELCOME_COUNTS * (score as number) : 0);
      if (total < (best[j] as number)) {
        best[j] = total;
        from[j] = i;
      }
    }
  const cuts: number[] = [];
  for (let j = n; j > 0; j = from[j] as number) cuts.unshift(from[j] as number);
  return cuts.map((i, k) =>
    partFrom(lesson, takes.slice(i, cuts[k + 1] ?? n), k, cuts.length, {
      from: starts[i] as number,
      to: starts[cuts[k + 1] ?? n] as number,
      next: takes.slice(cuts[k + 1] ?? n).find(({ kind }) => kind === 'canvas'),
    }),
  );
}

/** How welcome a break before take `i` is; null where none may be. */
function breakScore(lesson: Lesson, { takes, shots }: Timeline, i: number): number | null {
  const take = takes[i] as Take;
  const before = takes[i - 1];
  if (i === 0 || !before || before.kind !== 'canvas' || take.kind === 'close') return null;
  // The canvas take that this break leads to.
  const canvas = takes.slice(i).find(({ kind }) => kind === 'canvas');
  if (!canvas) return null;
  const stageOf = (one: Take) => lesson.steps.find(({ id }) => id === one.stepIds[0])?.stageId;
  let score = 0;
  if (shots.some(({ kind, takeId }) => kind === 'dry' && takeId === canvas.id)) score += welcome.dry + welcome.card;
  if (stageOf(before) !== stageOf(canvas)) score += welcome.stage;
  const [done, left] = [mixesIn(lesson, takes.slice(0, i)), mixesIn(lesson, takes.slice(i))];
  const shared = [...done].filter((id) => left.has(id)).length;
  return score + welcome.heap * Math.min(2, shared);
}

const stepsIn = (lesson: Lesson, takes: readonly Take[]) => {
  const ids = new Set(takes.flatMap(({ stepIds }) => stepIds));
  return lesson.steps.filter(({ id }) => ids.has(id));
};
const mixesIn = (lesson: Lesson, takes: readonly Take[]): Set<string> =>
  new Set(stepsIn(lesson, takes).flatMap(({ mixIds }) => mixIds));

function partFrom(
  lesson: Lesson,
  takes: readonly Take[],
  k: number,
  of: number,
  { from, to, next }: { from: number; to: number; next: Take | undefined },
): FilmPart {
  const looks = looksOf(lesson);
  const steps = stepsIn(lesson, takes);
  const first = takes.find(({ kind }) => kind === 'canvas');
  const drawing = steps.find(({ kind }) => kind === 'transfer');
  return {
    number: k + 1,
    of,
    takeIds: takes.map(({ id }) => id),
    from,
    to,
    recapStepId: k === 0 ? null : (first?.afterStepId ?? null),
    mixes: [...mixesIn(lesson, takes)].flatMap((id) => {
      const look = looks.get(id);
      return look ? [`${look.mix.name}: ${look.words}`] : [];
    }),
    brushes: [...new Set(steps.flatMap(({ brushId }) => brushOf(brushId) ?? []))].map(brushInMetric),
    transferStepId: k > 0 ? (drawing?.id ?? null) : null,
    next: next?.title ?? null,
  };
}

/** A part as a cut of its own, from zero on; its name says which it is, so that its files and chapters do. */
export function partTimeline(timeline: Timeline, part: FilmPart): Timeline {
  const own = new Set(part.takeIds);
  return {
    ...timeline,
    cut: { ...timeline.cut, name: say`${timeline.cut.name}, part ${part.number} of ${part.of}` },
    wishS: (part.to - part.from) / timeline.fps,
    takes: timeline.takes.filter(({ id }) => own.has(id)),
    shots: timeline.shots
      .filter(({ from, to }) => from >= part.from && to <= part.to)
      .map((shot) => ({ ...shot, from: shot.from - part.from, to: shot.to - part.from })),
    frames: part.to - part.from,
    part,
  };
}
