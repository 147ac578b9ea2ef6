import type { Level, Mark } from '@viaticum/contract';

/** How far a hand strays, mm (our judgement, adjustable). */
export const TREMOR_MM: Record<Level, number> = { experienced: 0.8, improver: 1.2, beginner: 2 };

/** A mark as it lies: a line of some width, in mm. */
type Capsule = { from: [number, number]; to: [number, number]; half: number };
const isDrop = ({ kind }: Mark): boolean => kind === 'dots' || kind === 'scatter' || kind === 'spatter';

/** Where marks lie that are drawn one by one or set round a point (outwards from their circle), as the stage picture draws them. Null where they are strewn. */
function capsulesOf(mark: Mark): Capsule[] | null {
  const { round, count, lengthMm, widthMm, along } = mark;
  if (along)
    return along.flatMap((line) =>
      line.slice(1).map((to, i): Capsule => ({ from: line[i] as [number, number], to, half: widthMm / 2 })),
    );
  if (!round) return null;
  const long = isDrop(mark) ? 0 : lengthMm;
  return Array.from({ length: count }, (_, i): Capsule => {
    const turn = (i / count) * 2 * Math.PI + ((round.turnDeg ?? 0) * Math.PI) / 180;
    const out: [number, number] = [Math.cos(turn), Math.sin(turn)];
    const at = (r: number): [number, number] => [round.at[0] + out[0] * r, round.at[1] + out[1] * r];
    return { from: at(round.radiusMm), to: at(round.radiusMm + long), half: widthMm / 2 };
  });
}

/** Whether any mark of one step touches one of another, the hand straying as its level does; those strewn over one area are taken to. */
export function marksMeet(some: readonly Mark[], others: readonly Mark[], level: Level): boolean {
  return some.some((one) =>
    others.some((other) => {
      const isDrawn = one.along !== undefined && other.along !== undefined;
      if (one.areaId !== other.areaId && !isDrawn) return false;
      const [a, b] = [capsulesOf(one), capsulesOf(other)];
      if (!a || !b) return true;
      return a.some((left) => b.some((right) => distance(left, right) < left.half + right.half + TREMOR_MM[level]));
    }),
  );
}

/** Distance between two segments in the plane. */
function distance(one: Capsule, other: Capsule): number {
  if (crosses(one, other)) return 0;
  return Math.min(toSegment(one.from, other), toSegment(one.to, other), toSegment(other.from, one), toSegment(other.to, one));
}

function toSegment([x, y]: [number, number], { from, to }: Capsule): number {
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
  const square = dx * dx + dy * dy;
  const t = square > 0 ? Math.max(0, Math.min(1, ((x - from[0]) * dx + (y - from[1]) * dy) / square)) : 0;
  return Math.hypot(x - from[0] - t * dx, y - from[1] - t * dy);
}

function crosses(one: Capsule, other: Capsule): boolean {
  const side = (a: [number, number], b: [number, number], c: [number, number]) =>
    (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
  return (
    side(one.from, one.to, other.from) * side(one.from, one.to, other.to) < 0 &&
    side(other.from, other.to, one.from) * side(other.from, other.to, one.to) < 0
  );
}
