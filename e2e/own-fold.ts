import type { Page } from '@playwright/test';

/** What is read of an event here. */
type Event = { seq: number; at: number; actor: string; body: { type: string } & Record<string, unknown> };
type Item = { kind: string; title: string; stepId?: string; startMin: number; endMin: number; areaIds: string[] };
type Coat = { stepId: string; areaId: string; laidToMin: number; paintOverMin: number | null };
type Person = { name: string; joinedAt: number; done: Map<string, number> };

const MIN = 60_000;

/**
 * A class folded a second time, from nothing but its log, by rules that stand here and nowhere else: what the screens show must agree with
 * it. Times are the class's own, ms.
 */
function ownFold(events: readonly Event[]) {
  const people = new Map<string, Person>();
  const visits: { index: number; from: number; to: number | null }[] = [];
  let [items, coats]: [Item[], Coat[]] = [[], []];
  let clock = { real: 0, at: 0, speed: 1 };
  let extended = 0;
  for (const { at, body } of events) {
    const person = people.get(String(body.studentId));
    if (body.type === 'opened') ({ items, coats } = body.plan as { items: Item[]; coats: Coat[] });
    else if (body.type === 'joined')
      people.set(String(body.studentId), { name: String(body.firstName), joinedAt: at, done: new Map() });
    else if (body.type === 'removed') people.delete(String(body.studentId));
    else if (body.type === 'speedSet') clock = { real: Number(body.real), at, speed: Number(body.speed) };
    else if (body.type === 'stepDone') person?.done.set(String(body.stepId), Number(body.saidAt ?? at));
    else if (body.type === 'stepUndone') person?.done.delete(String(body.stepId));
    else if (body.type === 'extended') extended += Number(body.minutes);
    else if (body.type === 'itemStarted') {
      const last = visits.at(-1);
      if (last) last.to = at;
      visits.push({ index: Number(body.index), from: at, to: null });
      extended = 0;
    } else if (body.type === 'ended') {
      const last = visits.at(-1);
      if (last) last.to = at;
    }
  }
  const here = visits.at(-1);
  const item = items[here?.index ?? -1];
  /** Class time at a real one. */
  const now = (real: number) => (clock.real === 0 ? real : clock.at + (real - clock.real) * clock.speed);
  /** When what a pause waits for was laid, and how long after that the pause ends in the plan. */
  const waited = (): { stepId: string; waitMin: number; left: number } | null => {
    if (item?.kind !== 'pause') return null;
    const under = coats.filter((coat) => item.areaIds.includes(coat.areaId) && coat.laidToMin <= item.startMin + 0.001);
    under.sort((a, b) => b.laidToMin + (b.paintOverMin ?? 0) - a.laidToMin - (a.paintOverMin ?? 0));
    const [coat] = under;
    const visit = visits.findLast((one) => items[one.index]?.stepId === coat?.stepId);
    return coat && visit?.to != null ? { stepId: coat.stepId, waitMin: item.endMin - coat.laidToMin, left: visit.to } : null;
  };
  /** When the present item ends, for the class or for somebody of whom it is known when they laid what a pause waits for. */
  const endsAt = (person?: Person): number => {
    const wait = waited();
    const length = item ? (item.endMin - item.startMin) * MIN : 0;
    if (!wait) return (here?.from ?? 0) + length + extended * MIN;
    const came = person && person.joinedAt >= wait.left;
    const laid = person && !came ? (person.done.get(wait.stepId) ?? wait.left) : wait.left;
    return laid + (wait.waitMin + extended) * MIN;
  };
  return {
    people: [...people.values()],
    person: (name: string) => [...people.values()].find((one) => one.name === name),
    item,
    next: items[(here?.index ?? -1) + 1],
    /** As they are numbered: a break is an entry of the lesson's list too. */
    steps: items.filter(({ stepId }) => stepId !== undefined),
    now,
    /** Seconds left of the present item at a real time. */
    secondsLeft: (real: number, person?: Person) => (endsAt(person) - now(real)) / 1000,
    /** The step that is counted: the present one, or in a pause the one before it. */
    counted: items.slice(0, (here?.index ?? -1) + 1).findLast(({ kind }) => kind === 'step')?.stepId,
    said: (stepId: string | undefined) =>
      [...people.values()].filter((one) => stepId !== undefined && one.done.has(stepId)).length,
    /** Each visit with its minutes, and how many were there. */
    visits: visits.map(({ index, from, to }) => ({
      item: items[index] as Item,
      minutes: ((to ?? now(Date.now())) - from) / MIN,
      present: [...people.values()].filter((one) => one.joinedAt < (to ?? Number.POSITIVE_INFINITY)).length,
      said: [...people.values()].filter((one) => (one.done.get(items[index]?.stepId ?? '') ?? 0) >= from).length,
    })),
  };
}

/** The log of a class as its instructor may read it, folded here. */
export async function foldOf(page: Page, code: string) {
  const answer = await page.request.get(new URL(`/api/classes/${code}/record`, page.url()).href);
  return ownFold(((await answer.json()) as { events: Event[] }).events);
}
