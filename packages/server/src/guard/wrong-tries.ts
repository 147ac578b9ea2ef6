/** What a key stands for is forgotten when so many others came after it. */
const MOST_KEYS = 10_000;

/**
 * Counts wrong tries by a key (an address, a name) within a window of time. A try is counted before it is looked at, so that many at
 * once do not slip through, and given back where it was right.
 */
export function wrongTries(windowMs: number, now: () => number = Date.now) {
  const tries = new Map<string, number[]>();
  const recent = (key: string) => (tries.get(key) ?? []).filter((at) => now() - at < windowMs);
  return {
    /** Counts a try; gives how many there were before it. */
    begin(key: string): number {
      const before = recent(key);
      tries.delete(key);
      tries.set(key, [...before, now()]);
      const [oldest] = tries.keys();
      if (tries.size > MOST_KEYS && oldest !== undefined) tries.delete(oldest);
      return before.length;
    },
    /** It was right after all: one try less. */
    right(key: string): void {
      const list = tries.get(key);
      list?.pop();
      if (list?.length === 0) tries.delete(key);
    },
  };
}

/** A bucket of tokens: `most` at once, refilled by `perSecond`. Gives the ms after which there is one again; 0 where there is. */
export function bucket(most: number, perSecond: number, now: () => number = Date.now) {
  let tokens = most;
  let at = now();
  return {
    take(cost = 1): number {
      const time = now();
      tokens = Math.min(most, tokens + ((time - at) / 1000) * perSecond);
      at = time;
      tokens -= cost;
      return tokens >= 0 ? 0 : Math.ceil((-tokens / perSecond) * 1000);
    },
  };
}
export type Bucket = ReturnType<typeof bucket>;
