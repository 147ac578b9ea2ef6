import type { Plan, PlanCoat, PlanItem } from '@viaticum/contract';
import { chanceDry, dryingFactorOf, type TouchedCoat } from '@viaticum/kernels/student';
import { calibrate } from '../coat/index.js';
import { coatKey, minutesLeft, type Rung, rungNow, shareDried } from './air.js';
import { belief } from './belief.js';
import type { ClassState, ClassTouch, Student, Visit } from './shape.js';

/** Minutes since the class began, at a class time in ms; 0 before. */
export const classMinute = (state: ClassState, now: number): number => {
  const [first] = state.visits;
  return first ? Math.max(0, (now - first.startedAt) / 60_000) : 0;
};

/** The last visit of each step that the class came to. */
export function visitsByStep({ visits, plan }: ClassState): Map<string, Visit> {
  const found = new Map<string, Visit>();
  for (const visit of visits) {
    const stepId = plan?.items[visit.index]?.stepId;
    if (stepId) found.set(stepId, visit);
  }
  return found;
}

/**
 * When a step's paint was all laid (ms; null: still being laid). For a student it is their own Done, so that a late student's coat
 * dries later; where they said nothing, the time by which nine in ten would have laid it, once that is taken for done, and never before the
 * class had it. What was over before they came counts as the class had it.
 */
function laidAt(state: ClassState, visit: Visit, stepId: string, now: number, student: Student | undefined): number | null {
  if (!student || student.joinedAt >= (visit.endedAt ?? Number.POSITIVE_INFINITY)) return visit.endedAt;
  const own = student.doneAt[stepId];
  if (own !== undefined) return own;
  // Of who never says anything the class's own clock is all that is known.
  if (Object.keys(student.doneAt).length === 0 && !student.signs?.length) return visit.endedAt;
  const standing = belief(state, student, now).standing.get(stepId);
  if (standing?.how === 'left-out') return visit.endedAt;
  if (standing?.how !== 'assumed' || !standing.at || visit.endedAt === null) return null;
  return Math.min(now, Math.max(standing.at.late, visit.endedAt));
}

/**
 * The coats that lie on the canvas at a class time (ms), and the minute of the class: each counted from when it was really laid, in
 * this class's air and with its touch tests, so that rungs and waits can be read off as from a plan. For a student: their own canvas.
 */
export function coatsNow(state: ClassState, now: number, student?: Student): { coats: PlanCoat[]; minute: number } {
  const minute = classMinute(state, now);
  const visits = visitsByStep(state);
  const coats = (state.plan?.coats ?? []).flatMap((coat): PlanCoat[] => {
    const visit = visits.get(coat.stepId);
    const item = visit && state.plan?.items[visit.index];
    if (!visit || !item) return [];
    const began = classMinute(state, visit.startedAt);
    const laid = laidAt(state, visit, coat.stepId, now, student);
    const laidToMin = laid === null ? Math.max(minute, began + coat.laidToMin - item.startMin) : classMinute(state, laid);
    const age = Math.max(0, minute - laidToMin);
    // As long as it is laid nothing of it has dried.
    const toRung = (rung: Rung) => orNull(age + minutesLeft(state, coat, rung, laid ?? now, now));
    return [
      {
        ...coat,
        laidFromMin: Math.min(began + Math.max(0, coat.laidFromMin - item.startMin), laidToMin),
        laidToMin,
        openMin: toRung('openMin'),
        paintOverMin: isFreed(state, coat, laid) ? age : toRung('paintOverMin'),
        touchDryMin: toRung('touchDryMin'),
        firmMin: toRung('firmMin'),
      },
    ];
  });
  return { coats, minute };
}
const orNull = (minutes: number): number | null => (Number.isFinite(minutes) ? Math.max(0, minutes) : null);

/** The coat of the plan that a pause waits for longest, of those laid before it; null for a pause that waits for none. */
export function waitedFor(coats: readonly PlanCoat[], item: PlanItem): PlanCoat | null {
  let last: PlanCoat | null = null;
  for (const coat of coats) {
    if (!item.areaIds.includes(coat.areaId) || coat.laidToMin > item.startMin + 1e-6) continue;
    if (!last || last.laidToMin + (last.paintOverMin ?? 0) < coat.laidToMin + (coat.paintOverMin ?? 0)) last = coat;
  }
  return last;
}

/** The rung that a wait of so many minutes is for: the one that comes nearest to it. */
function rungOf(coat: PlanCoat, wait: number): Rung {
  const off = (rung: Rung) => Math.abs((coat[rung] ?? Number.POSITIVE_INFINITY) - wait);
  return off('touchDryMin') < off('paintOverMin') ? 'touchDryMin' : 'paintOverMin';
}

/** Minutes that the plan waits for a coat, as by the model: what touch tests made of it taken out again. */
const plannedWait = (plan: Plan, coat: PlanCoat, item: PlanItem): number =>
  (item.endMin - coat.laidToMin) / (plan.dryFactor ?? 1);

/**
 * Minutes that a coat laid at a class time (ms) still wants for a wait of the plan, in this class's air and with its touch tests; negative
 * where it is over.
 */
export function waitLeft(state: ClassState, coat: PlanCoat, item: PlanItem, laid: number, now: number): number {
  const wait = state.plan ? plannedWait(state.plan, coat, item) : 0;
  const rung = rungOf(coat, wait);
  const left = minutesLeft(state, coat, rung, laid, now);
  // A wait that ends before or after the rung is so much shorter or longer in any air.
  const planned = coat[rung];
  const whole = rungNow(state, coat, rung, now);
  return planned && Number.isFinite(whole) ? left + (wait / planned - 1) * whole * state.dryFactor : left;
}

/**
 * Minutes left of a pause by the coat that it waits for, at a class time: the plan's wait counts from when that coat was really
 * laid (a student's own from their Done). `Infinity` where it never dries in this air. Null where a pause waits for no coat.
 */
export function dryingLeft(state: ClassState, item: PlanItem, now: number, student?: Student): number | null {
  const coat = item.kind === 'pause' && state.plan ? waitedFor(state.plan.coats, item) : null;
  const visit = coat && visitsByStep(state).get(coat.stepId);
  if (!coat || !visit) return null;
  const own = laidAt(state, visit, coat.stepId, now, student);
  return isFreed(state, coat, own) ? 0 : waitLeft(state, coat, item, own ?? now, now);
}

/** The topmost coat on an area at a class time, and the minutes it has dried there as in the plan's air; null where none lies that dries. */
export function coatUnder(state: ClassState, areaId: string, now: number): { coat: PlanCoat; sinceMin: number } | null {
  const visits = visitsByStep(state);
  let top: PlanCoat | null = null;
  for (const coat of state.plan?.coats ?? []) if (coat.areaId === areaId && visits.has(coat.stepId)) top = coat;
  const visit = top && visits.get(top.stepId);
  if (!top || !visit || top.paintOverMin === null) return null;
  const share = shareDried(state, top, 'paintOverMin', visit.endedAt ?? now, now);
  return { coat: top, sinceMin: Math.max(0.05, share * top.paintOverMin) };
}

/** Up to so many coats are asked about. */
const MOST_TOUCHED = 4;
/** A coat may be meant from when it is no longer workable until half as long again as it takes. */
const MEANT = { from: 0.25, to: 1.5 };

/**
 * The coats that somebody may have touched at a class time (ms), one for each step: those that dry, and have not long been dry. What the
 * class waits for stands first.
 */
export function touchable(state: ClassState, now: number): PlanCoat[] {
  const item = state.plan?.items[state.current?.index ?? -1];
  const waited = item?.kind === 'pause' && state.plan ? waitedFor(state.plan.coats, item) : null;
  const visits = visitsByStep(state);
  const found = (state.plan?.coats ?? []).flatMap((coat) => {
    const visit = visits.get(coat.stepId);
    // What lies beneath another coat is not touched.
    if (!visit || visit.endedAt === null || coatUnder(state, coat.areaId, now)?.coat !== coat) return [];
    const share = shareDried(state, coat, 'paintOverMin', visit.endedAt, now, state.dryFactor);
    return share >= MEANT.from && share <= MEANT.to ? [{ coat, share }] : [];
  });
  const first = (one: { coat: PlanCoat; share: number }) => (waited && one.coat.stepId === waited.stepId ? 0 : 1);
  found.sort((a, b) => first(a) - first(b) || b.share - a.share);
  const each = found.filter(({ coat }, k) => found.findIndex((other) => other.coat.stepId === coat.stepId) === k);
  return each.slice(0, MOST_TOUCHED).map(({ coat }) => (waited && coat.stepId === waited.stepId ? waited : coat));
}

/** A touch test as the class saw it: the minutes predicted are those of the plan's air. */
export function touched(state: ClassState, areaId: string, dry: boolean, now: number): ClassTouch | null {
  const under = coatUnder(state, areaId, now);
  if (!under) return null;
  const predictedMin = under.coat.paintOverMin as number;
  return dry ? { predictedMin, dryAtMin: under.sinceMin } : { predictedMin, wetAtMin: under.sinceMin };
}

/** How much longer than planned the coats of this class take to dry, by its touch tests; 1 without. */
export function dryingFactor(tests: readonly ClassTouch[]): number {
  // A class of before tests named their coat keeps the factor that it had.
  if (tests.some((test) => test.stepId === undefined)) return 1 / calibrate(tests);
  const coats = new Map<string, TouchedCoat>();
  for (const { stepId, areaId, predictedMin, wetAtMin, dryAtMin } of tests) {
    const key = coatKey({ stepId, areaId });
    const own = coats.get(key) ?? { predictedMin, wetMin: null, dryMin: null };
    if (wetAtMin !== undefined) own.wetMin = Math.max(own.wetMin ?? 0, wetAtMin);
    if (dryAtMin !== undefined) own.dryMin = Math.min(own.dryMin ?? Number.POSITIVE_INFINITY, dryAtMin);
    coats.set(key, own);
  }
  return dryingFactorOf([...coats.values()]);
}

/** Whether a touch found a coat dry that was laid by then (ms). */
const isFreed = ({ freed }: ClassState, coat: PlanCoat, laid: number | null): boolean => {
  const by = freed?.[coatKey(coat)];
  return by !== undefined && laid !== null && laid <= by + SAME_MS;
};
/** Two Dones within a second are one. */
const SAME_MS = 1000;

/** How likely a coat is to be dry just now by all that is known (0–1): a press of a key that says so too early asks once more. */
export function chanceOfDry(state: ClassState, areaId: string, now: number): number {
  const under = coatUnder(state, areaId, now);
  if (!under) return 0;
  return chanceDry(under.sinceMin, under.coat.paintOverMin as number, state.dryFactor) / 65536;
}
