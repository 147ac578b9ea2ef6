/**
 * What a plan breaks of its problem, from the statement of the problem alone. Imports nothing, so that no mistake of the planner
 * can hide in it; its types say anew what a problem and a plan are.
 */
type Task = {
  steps: { id: string; minutes: number }[];
  constraints: { id: string; type: string; from: string; to: string; minutes?: number; backMinutes?: number; full?: boolean }[];
  breaks?: { length: number; maxStretch: number };
  dryer?: { perStep: Record<string, number>; occupies: boolean };
  sessions?: { max: number; limit: number };
  now?: number;
  fixed?: { step: string; start: number; end: number }[];
  pins?: ({ step: string; start: number } | { first: string; then: string })[];
};
type Timetable = {
  items: { step: string; start: number; end: number; gapBefore: string }[];
  dryerUses: { step: string; start: number; end: number }[];
};
type Work = { step: string; start: number; end: number; isDryer: boolean; cutBefore: boolean };

const EPS = 1e-9;
const quarter = (minutes: number) => Math.ceil(minutes * 4 - 1e-6) / 4;

export function brokenBy(task: Task, { items, dryerUses }: Timetable): string[] {
  const faults: string[] = [];
  const at = new Map(items.map((item) => [item.step, item]));
  if (items.length !== task.steps.length || at.size !== items.length) return ['a step is missing or done twice'];
  const past = new Map((task.fixed ?? []).map((one) => [one.step, one]));
  for (const { id, minutes } of task.steps) {
    const item = at.get(id);
    if (!item) return [`${id}: missing`];
    const real = past.get(id);
    if (real) {
      if (Math.abs(item.start - real.start) > EPS || Math.abs(item.end - real.end) > EPS)
        faults.push(`${id}: the past was changed`);
    } else {
      if (Math.abs(item.end - item.start - quarter(minutes)) > EPS) faults.push(`${id}: length`);
      if (item.start < (task.now ?? 0) - EPS) faults.push(`${id}: too early`);
    }
  }
  const work: Work[] = [
    ...items.map((item) => ({ ...item, isDryer: false, cutBefore: item.gapBefore === 'cut' })),
    ...dryerUses.map((use) => ({ ...use, isDryer: true, cutBefore: false })),
  ].sort((a, b) => a.start - b.start || a.end - b.end);
  // A night before a step lies before all that is done with it.
  let sessions = 1;
  let begun = work[0]?.start ?? 0;
  let stretch = begun;
  work.forEach((one, k) => {
    const before = work[k - 1];
    if (before && one.start < before.end - EPS) faults.push(`${one.step}: two at once`);
    if (one.cutBefore) {
      sessions++;
      begun = one.start;
    }
    const isBreak = task.breaks && before && one.start - before.end >= task.breaks.length - EPS;
    if (one.cutBefore || isBreak) stretch = one.start;
    if (task.breaks && one.end - stretch > task.breaks.maxStretch + EPS) faults.push(`${one.step}: stretch`);
    if (task.sessions && one.end - begun > task.sessions.limit + EPS) faults.push(`${one.step}: session too long`);
  });
  if (sessions > (task.sessions?.max ?? 1)) faults.push('too many sessions');
  const nightBetween = (from: number, to: number) =>
    work.some((one) => one.cutBefore && one.start >= from - EPS && one.start <= to + EPS);
  for (const use of dryerUses) {
    const of = at.get(use.step);
    const minutes = task.dryer?.perStep[use.step];
    if (!of || minutes === undefined || !task.dryer?.occupies) faults.push(`${use.step}: dried without a dryer`);
    else {
      if (use.start < of.end - EPS) faults.push(`${use.step}: dried before it was laid`);
      if (Math.abs(use.end - use.start - quarter(minutes)) > EPS) faults.push(`${use.step}: time under the dryer`);
    }
    for (const one of task.constraints)
      if (one.type === 'wet' && one.from === use.step && use.start < (at.get(one.to)?.end ?? 0) - EPS)
        faults.push(`${one.id}: dried while it had to be wet`);
  }
  for (const one of task.constraints) {
    const [from, to] = [at.get(one.from), at.get(one.to)];
    if (!from || !to) return ['a step is missing'];
    if (one.type === 'either') {
      const [first, second] = from.start < to.start || (from.start === to.start && from.end <= to.end) ? [from, to] : [to, from];
      const asked = (first === from ? one.minutes : one.backMinutes) ?? 0;
      const dried = dryerUses.some((use) => use.step === first.step && use.end <= second.start + EPS);
      if (second.start - first.end < asked - EPS && !dried && !nightBetween(first.end, second.start))
        faults.push(`${one.id}: either`);
      continue;
    }
    const wait = to.start - from.end;
    const minutes = one.minutes ?? 0;
    if (wait < -EPS) faults.push(`${one.id}: order`);
    if (one.type === 'dry' && wait < minutes - EPS) {
      const dried = dryerUses.some((use) => use.step === one.from && use.end <= to.start + EPS);
      const besides = !task.dryer?.occupies ? task.dryer?.perStep[one.from] : undefined;
      const isOpen = task.constraints.some((other) => other.type === 'wet' && other.from === one.from);
      const quick = besides !== undefined && !isOpen && wait >= besides - EPS;
      if (!dried && !quick && !nightBetween(from.end, to.start)) faults.push(`${one.id}: dry`);
    }
    if (one.type === 'wet') {
      if (wait > minutes + EPS) faults.push(`${one.id}: wet`);
      if (one.full && to.end - from.end > minutes + EPS) faults.push(`${one.id}: full`);
      if (
        work.some(
          (other) =>
            other.cutBefore && other.start >= from.end - EPS && other.start <= to.start + EPS && other.start > from.start,
        )
      )
        faults.push(`${one.id}: a night lies in a window`);
    }
  }
  for (const pin of task.pins ?? []) {
    if ('step' in pin && Math.abs((at.get(pin.step)?.start ?? -1) - quarter(pin.start)) > EPS) faults.push(`${pin.step}: pin`);
    if ('first' in pin && (at.get(pin.then)?.start ?? 0) < (at.get(pin.first)?.end ?? 0) - EPS)
      faults.push(`${pin.first}: pinned order`);
  }
  return faults;
}
