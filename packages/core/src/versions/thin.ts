const MINUTE = 60_000;
const HOUR = 60 * MINUTE;
const DAY = 24 * HOUR;

/** So old and older, one version of each such stretch of time is kept. */
const grains = [
  { fromMs: DAY, grainMs: DAY },
  { fromMs: HOUR, grainMs: HOUR },
  { fromMs: 0, grainMs: MINUTE },
] as const;

/**
 * Which of a lesson's automatic versions may go at `nowMs`: all but the last of each minute, after an
 * hour all but the last of each hour, after a day all but the last of each day (UTC). The newest of all stays. Pure; ids in no order.
 */
export function thinned<T>(versions: readonly { id: T; atMs: number }[], nowMs: number): T[] {
  const sorted = [...versions].sort((a, b) => b.atMs - a.atMs);
  const seen = new Set<string>();
  return sorted
    .filter(({ atMs }, at) => {
      const grain = grains.find(({ fromMs }) => nowMs - atMs >= fromMs)?.grainMs;
      if (grain === undefined) return false;
      const stretch = `${grain} ${Math.floor(atMs / grain)}`;
      const isLast = !seen.has(stretch);
      seen.add(stretch);
      return !isLast && at > 0;
    })
    .map(({ id }) => id);
}
