const REST_MS = 300;

/** Work that is done for a thing once nothing new has been said of it for a moment, or when somebody asks for all of it. */
export function whenAtRest(work: (id: string) => Promise<void>, restMs = REST_MS) {
  const waiting = new Map<string, NodeJS.Timeout>();
  const running = new Set<Promise<void>>();
  const start = (id: string): void => {
    clearTimeout(waiting.get(id));
    waiting.delete(id);
    // What fails is left as it is, and done when it is next asked for.
    const done: Promise<void> = work(id)
      .catch(() => undefined)
      .finally(() => running.delete(done));
    running.add(done);
  };
  return {
    later(id: string): void {
      clearTimeout(waiting.get(id));
      waiting.set(id, setTimeout(start, restMs, id));
    },
    async settle(): Promise<void> {
      for (const id of [...waiting.keys()]) start(id);
      await Promise.all(running);
    },
  };
}
