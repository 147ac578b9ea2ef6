/** Runs work that pauses now and then to its end, without pausing. */
export function toEnd<T>(work: Generator<unknown, T>): T {
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
  }
}
