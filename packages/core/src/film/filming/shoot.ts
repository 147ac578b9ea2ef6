/** A take as far as the order of filming goes. Canvas takes keep the order of painting; others may come `after` canvas takes and `before` one. */
export type Shootable = {
  id: string;
  setup: string;
  minutes: number;
  isCanvas?: boolean;
  after?: readonly string[];
  before?: string;
};
export type ShootProblem = {
  takes: readonly Shootable[];
  /** From the end of one canvas take to the start of another. */
  dry: readonly { from: string; to: string; minutes: number }[];
  change: (from: string, to: string) => number;
};
export type ShootOrder = {
  endMin: number;
  changes: number;
  order: { id: string; fromMin: number; endMin: number }[];
  isProven: boolean;
};

type Listed = { take: Shootable; from: number; end: number; before: Listed | null };
type Label = {
  /** Canvas takes done, and free takes of each class. */
  k: number;
  done: readonly number[];
  setup: string | null;
  t: number;
  /** When each canvas take may begin. */
  ready: readonly number[];
  changes: number;
  filmed: number;
  list: Listed | null;
};
type FreeClass = { setup: string; from: number; until: number; takes: Shootable[] };

const NARROW = 100;
const NEARLY = 1e-9;

/**
 * The order of filming that ends soonest, and of those the one with the fewest changes of set-up. Labels (canvas takes done, free takes done
 * of each class, set-up) hold the time and when later canvas takes may begin; one that is nowhere later replaces another. A narrow search
 * gives the bound; `isNarrow` stops there and then nothing is proven. Null where the takes contradict each other. Minutes.
 */
export function shootingOrder(problem: ShootProblem, isNarrow = false): ShootOrder | null {
  const first = search(problem, Number.POSITIVE_INFINITY, NARROW);
  if (isNarrow) return first && { ...first, isProven: false };
  const best = search(problem, first?.endMin ?? Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY);
  return best && { ...best, isProven: true };
}

function search({ takes, dry, change }: ShootProblem, most: number, width: number): Omit<ShootOrder, 'isProven'> | null {
  const chain = takes.filter(({ isCanvas }) => isCanvas);
  const at = new Map(chain.map(({ id }, k) => [id, k]));
  const classes = classesOf(takes, at, chain.length);
  const lags = chain.map((_, k) =>
    dry.flatMap(({ from, to, minutes }) => (at.get(to) === k ? [[at.get(from) ?? -1, minutes] as const] : [])),
  );
  const all = takes.reduce((sum, { minutes }) => sum + minutes, 0);
  const places = [...new Set(takes.map(({ setup }) => setup))];
  const cheapest = Math.min(
    ...places.flatMap((a) => places.filter((b) => b !== a).map((b) => change(a, b))),
    Number.POSITIVE_INFINITY,
  );
  const chainLeft = new Float64Array(chain.length + 1);
  for (let k = chain.length - 1; k >= 0; k--) chainLeft[k] = (chain[k] as Shootable).minutes + (chainLeft[k + 1] as number);
  /** The soonest that all can end from here: minutes left, one change for each other set-up, and drying that the canvas must wait for. */
  const soonest = ({ k, done, setup, t, ready, filmed }: Label): number => {
    const open = new Set<string>();
    for (let j = k; j < chain.length; j++) open.add((chain[j] as Shootable).setup);
    classes.forEach((one, q) => {
      if ((done[q] as number) < one.takes.length) open.add(one.setup);
    });
    if (setup !== null) open.delete(setup);
    let end = t + all - filmed + (open.size > 0 && setup !== null ? open.size * cheapest : 0);
    for (let j = k; j < chain.length; j++) end = Math.max(end, (ready[j] as number) + (chainLeft[j] as number));
    return end;
  };
  const isNowhereLater = (a: Label, b: Label): boolean =>
    a.t <= b.t + NEARLY &&
    a.changes <= b.changes &&
    a.ready.every((x, j) => j < a.k || Math.max(x, a.t) <= Math.max(b.ready[j] as number, b.t) + NEARLY);
  const begun: Label = {
    k: 0,
    done: classes.map(() => 0),
    setup: null,
    t: 0,
    ready: chain.map(() => 0),
    changes: 0,
    filmed: 0,
    list: null,
  };
  let front = new Map([['', [begun]]]);
  for (let round = 0; round < takes.length; round++) {
    const next = new Map<string, Label[]>();
    const put = (label: Label) => {
      if (soonest(label) > most + NEARLY) return;
      const key = `${label.k}|${label.done.join(',')}|${label.setup}`;
      const others = next.get(key) ?? [];
      if (others.some((other) => isNowhereLater(other, label))) return;
      next.set(key, [...others.filter((other) => !isNowhereLater(label, other)), label]);
    };
    const go = (from: Label, take: Shootable, k: number, done: readonly number[], earliest: number) => {
      const move = from.setup === null ? 0 : change(from.setup, take.setup);
      const begin = Math.max(from.t + move, earliest);
      const end = begin + take.minutes;
      const ready = [...from.ready];
      if (take.isCanvas)
        for (let j = k; j < chain.length; j++)
          for (const [i, minutes] of lags[j] ?? []) if (i === k - 1) ready[j] = Math.max(ready[j] as number, end + minutes);
      const hasChanged = from.setup !== null && from.setup !== take.setup;
      put({
        k,
        done,
        setup: take.setup,
        t: end,
        ready,
        changes: from.changes + (hasChanged ? 1 : 0),
        filmed: from.filmed + take.minutes,
        list: { take, from: begin, end, before: from.list },
      });
    };
    for (const labels of front.values())
      for (const label of labels) {
        const { k, done } = label;
        const canvas = chain[k];
        if (canvas && classes.every((one, q) => one.until !== k || done[q] === one.takes.length))
          go(label, canvas, k + 1, done, label.ready[k] as number);
        classes.forEach((one, q) => {
          const take = one.takes[done[q] as number];
          if (take && k > one.from)
            go(
              label,
              take,
              k,
              done.map((n, c) => (c === q ? n + 1 : n)),
              0,
            );
        });
      }
    front = width === Number.POSITIVE_INFINITY ? next : narrowed(next, width, soonest);
  }
  const [best] = [...front.values()].flat().sort((a, b) => a.t - b.t || a.changes - b.changes);
  if (!best) return null;
  const order: ShootOrder['order'] = [];
  for (let l = best.list; l; l = l.before) order.unshift({ id: l.take.id, fromMin: l.from, endMin: l.end });
  return { endMin: best.t, changes: best.changes, order };
}

/** Free takes that are alike in set-up and conditions are one class, the shortest first. */
function classesOf(takes: readonly Shootable[], at: ReadonlyMap<string, number>, length: number): FreeClass[] {
  const classes: FreeClass[] = [];
  for (const take of takes) {
    if (take.isCanvas) continue;
    const from = Math.max(-1, ...(take.after ?? []).map((id) => at.get(id) ?? -1));
    const until = take.before === undefined ? length : (at.get(take.before) ?? length);
    const known = classes.find((one) => one.setup === take.setup && one.from === from && one.until === until);
    if (known) known.takes.push(take);
    else classes.push({ setup: take.setup, from, until, takes: [take] });
  }
  for (const one of classes) one.takes.sort((a, b) => a.minutes - b.minutes);
  return classes;
}

function narrowed(labels: ReadonlyMap<string, Label[]>, width: number, soonest: (label: Label) => number): Map<string, Label[]> {
  const kept = [...labels]
    .flatMap(([key, own]) => own.map((label) => ({ key, label, end: soonest(label) })))
    .sort((a, b) => a.end - b.end || a.label.changes - b.label.changes)
    .slice(0, width);
  const out = new Map<string, Label[]>();
  for (const { key, label } of kept) out.set(key, [...(out.get(key) ?? []), label]);
  return out;
}

/** When takes are filmed in an order that is given: each as soon as its set-up stands and the canvas is dry. */
export function filmedInOrder({ takes, dry, change }: ShootProblem, ids: readonly string[]): Omit<ShootOrder, 'isProven'> {
  const byId = new Map(takes.map((take) => [take.id, take]));
  const ends = new Map<string, number>();
  let [t, setup, changes]: [number, string | null, number] = [0, null, 0];
  const order = ids.flatMap((id) => {
    const take = byId.get(id);
    if (!take) return [];
    const move = setup === null ? 0 : change(setup, take.setup);
    if (setup !== null && setup !== take.setup) changes++;
    const waits = dry.flatMap(({ from, to, minutes }) =>
      to === id && ends.has(from) ? [(ends.get(from) as number) + minutes] : [],
    );
    const fromMin = Math.max(t + move, ...waits);
    t = fromMin + take.minutes;
    setup = take.setup;
    ends.set(id, t);
    return [{ id, fromMin, endMin: t }];
  });
  return { endMin: t, changes, order };
}
