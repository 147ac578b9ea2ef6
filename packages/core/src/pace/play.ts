import { ofStep, ofStudent, runNumber, SLICES_BITS, spreadOf, stir } from './draws.js';
import type { PaceModel } from './model.js';

/** Where the draws for paces and for the second numbers of those who ask are taken from. */
const PACE_KEY = 77;
/** How much minutes of help differ: standard deviation of their logarithm. */
export const HELP_SIGMA = 0.6;
const SHIFT = 32 - SLICES_BITS;

/** What one run of a class came to, and what all runs so far did (sums by step). */
export type Played = {
  /** When the class was at its end, and when the last student was, minutes. */
  gate: number;
  end: number;
};
type Sums = {
  late: Float64Array;
  wait: Float64Array;
  over: Float64Array;
  pauseOver: Float64Array;
  /** Minutes that hands waited, and that help took. */
  hands: { waited: number; helped: number };
};

/** Minutes without anything to do, of who is free at `at` and paints from `from`: what is shown is watched. */
const waited = (at: number, begins: number, shown: number, from: number): number =>
  Math.max(0, begins - at) + Math.max(0, from - Math.max(at, shown));

/**
 * Plays a class run by run. Only those who ask need an order in time; all work between asks is closed form, so that a step of n students
 * costs n log n. Rules: before a step lie its break and its drying; it begins when the share of its gate has its own coats dry; its
 * gate's clock runs from there, and whoever is later waits alone. Hands are helped in their order by the instructor and the assistants; a
 * step with a showing begins when the instructor has helped all who had asked by then, and while showing the instructor helps nobody.
 */
export function player(model: PaceModel, seed: number) {
  const { steps, students } = model;
  const { n, sigma, stepSigma, factors = [], help, helpers = 1 } = students;
  const count = steps.length;
  const [paces, noise, takes] = [spreadOf(sigma), spreadOf(stepSigma), spreadOf(HELP_SIGMA)];
  const chance = help ? Math.round(help.chance * 65_536) : 0;
  const helpMin = help?.minutes ?? 0;
  const doMin = Float64Array.from(steps, (step) => step.doMin);
  const showMin = Float64Array.from(steps, (step) => step.showMin);
  const breakMin = Float64Array.from(steps, (step) => step.breakMin);
  const keys = Int32Array.from(steps, (step) => ofStep(step.key));
  const whose = Int32Array.from({ length: n }, (_, k) => ofStudent(k));
  const place = new Map(steps.map((step, s) => [step.id, s]));
  const dryAfter = steps.map((step) => Int32Array.from(step.drying, ({ after }) => place.get(after) as number));
  const dryFor = steps.map((step) => Float64Array.from(step.drying, ({ minutes }) => minutes));
  const needs = steps.map((step) => Math.max(1, Math.ceil(step.gate.q * n - 1e-9)));

  const done = new Float64Array(count * n);
  const showEnd = new Float64Array(count);
  const starts = new Float64Array(count);
  const opens = new Float64Array(count);
  const position = new Int32Array(n);
  const free = new Float64Array(n);
  const own = new Float64Array(n);
  const ready = new Float64Array(n);
  const greatest = new Float64Array(n);
  const server = new Float64Array(helpers);
  const askAt = new Float64Array(n);
  const rest = new Float64Array(n);
  const serve = new Float64Array(n);
  const pending = new Int32Array(n);
  let waiting = 0;
  let [one, two] = [0, 0];
  const sums: Sums = {
    late: new Float64Array(count),
    wait: new Float64Array(count),
    over: new Float64Array(count),
    pauseOver: new Float64Array(count),
    hands: { waited: 0, helped: 0 },
  };
  const add = (to: Float64Array, s: number, minutes: number): void => {
    to[s] = (to[s] as number) + minutes;
  };

  /** The k-th smallest of n values from a place on, by keeping the greatest n − k + 1. */
  const kth = (values: Float64Array, from: number, k: number): number => {
    const most = n - k + 1;
    let length = 0;
    for (let i = from; i < from + n; i++) {
      const value = values[i] as number;
      if (length < most) {
        let j = length++;
        while (j > 0 && (greatest[j - 1] as number) > value) {
          greatest[j] = greatest[j - 1] as number;
          j--;
        }
        greatest[j] = value;
      } else if (value > (greatest[0] as number)) {
        let j = 0;
        while (j + 1 < most && (greatest[j + 1] as number) < value) {
          greatest[j] = greatest[j + 1] as number;
          j++;
        }
        greatest[j] = value;
      }
    }
    return greatest[0] as number;
  };
  /** When a student's own coats for a step are dry, at the earliest `from`. */
  const dryFrom = (k: number, s: number, from: number): number => {
    const after = dryAfter[s] as Int32Array;
    const minutes = dryFor[s] as Float64Array;
    let at = from;
    for (let i = 0; i < after.length; i++) {
      const dry = (done[(after[i] as number) * n + k] as number) + (minutes[i] as number);
      if (dry > at) at = dry;
    }
    return at;
  };
  /** On with a student's own steps until they ask, or are done with the class's. */
  const progress = (k: number, s: number): void => {
    let j = position[k] as number;
    let at = free[k] as number;
    for (; j <= s; j++) {
      const begin = dryFrom(k, j, Math.max(showEnd[j] as number, at));
      add(sums.wait, j, waited(at, starts[j] as number, showEnd[j] as number, begin));
      const drawn = stir(one ^ (keys[j] as number) ^ (whose[k] as number));
      const work = (doMin[j] as number) * (own[k] as number) * (noise[drawn >>> SHIFT] as number);
      if ((drawn & 65_535) < chance && work > 0) {
        const other = stir(two ^ (keys[j] as number) ^ (whose[k] as number));
        const share = (other & 65_535) / 65_536;
        const asks = begin + share * work;
        askAt[k] = asks;
        rest[k] = (1 - share) * work;
        serve[k] = helpMin * (takes[other >>> SHIFT] as number);
        let i = waiting++;
        while (i > 0 && (askAt[pending[i - 1] as number] as number) > asks) {
          pending[i] = pending[i - 1] as number;
          i--;
        }
        pending[i] = k;
        done[j * n + k] = Number.POSITIVE_INFINITY;
        break;
      }
      at = begin + work;
      done[j * n + k] = at;
    }
    position[k] = j;
    free[k] = at;
  };
  const firstAsks = (): number => (waiting > 0 ? (askAt[pending[0] as number] as number) : Number.POSITIVE_INFINITY);
  const unwait = (from: number): void => {
    for (let i = from + 1; i < waiting; i++) pending[i - 1] = pending[i] as number;
    waiting--;
  };
  /** The earliest hand is helped by whoever is free first; an assistant before the instructor. */
  const helpFirst = (s: number): void => {
    const k = pending[0] as number;
    unwait(0);
    const asks = askAt[k] as number;
    let best = helpers - 1;
    for (let i = helpers - 2; i >= 0; i--)
      if (Math.max(server[i] as number, asks) < Math.max(server[best] as number, asks)) best = i;
    const from = Math.max(server[best] as number, asks);
    server[best] = from + (serve[k] as number);
    sums.hands.waited += from - asks;
    sums.hands.helped += serve[k] as number;
    const at = (server[best] as number) + (rest[k] as number);
    done[(position[k] as number) * n + k] = at;
    free[k] = at;
    position[k] = (position[k] as number) + 1;
    progress(k, s);
  };
  /** When the class begins a step: its break over, its coats dry for as many as the gate asks, hands of before helped. */
  const beginning = (s: number, open: number): number => {
    const after = dryAfter[s] as Int32Array;
    for (;;) {
      let begin = open + (breakMin[s] as number);
      if (after.length > 0) {
        for (let k = 0; k < n; k++) {
          const isLaid = after.every((j) => (position[k] as number) > j);
          ready[k] = isLaid ? dryFrom(k, s, 0) : Number.POSITIVE_INFINITY;
        }
        const dry = kth(ready, 0, needs[s] as number);
        begin = Math.max(begin, Number.isFinite(dry) ? dry : waiting > 0 ? firstAsks() : open);
      }
      if (waiting > 0 && firstAsks() <= begin) helpFirst(s - 1);
      else return (showMin[s] as number) > 0 ? Math.max(begin, server[0] as number) : begin;
    }
  };
  /** All who are here begin a step that the class begins; most of them do not ask. */
  const paint = (s: number, begin: number): void => {
    const of = one ^ (keys[s] as number);
    const [shown, minutes] = [showEnd[s] as number, doMin[s] as number];
    let waits = 0;
    for (let k = 0; k < n; k++) {
      if (position[k] !== s) continue;
      const drawn = stir(of ^ (whose[k] as number));
      if ((drawn & 65_535) < chance) {
        progress(k, s);
        continue;
      }
      const at = free[k] as number;
      const from = dryFrom(k, s, Math.max(at, shown));
      waits += waited(at, begin, shown, from);
      const until = from + minutes * (own[k] as number) * (noise[drawn >>> SHIFT] as number);
      done[s * n + k] = until;
      free[k] = until;
      position[k] = s + 1;
    }
    add(sums.wait, s, waits);
  };
  /** When the gate of a step opens. */
  const opening = (s: number, begin: number): number => {
    const { afterMin } = (steps[s] as PaceModel['steps'][number]).gate;
    const cap = afterMin === null ? Number.POSITIVE_INFINITY : begin + afterMin;
    for (;;) {
      const open = Math.min(kth(done, s * n, needs[s] as number), cap);
      if (waiting > 0 && firstAsks() <= open) helpFirst(s);
      else return open;
    }
  };
  /** Who is not done when the class goes on; what may be left out is left where it is. */
  const leave = (s: number, open: number): void => {
    const mayLeave = steps[s]?.mayBeLeftOut === true && s < count - 1;
    for (let k = 0; k < n; k++) {
      if ((done[s * n + k] as number) <= open + 1e-9) continue;
      add(sums.late, s, 1);
      if (!mayLeave || (position[k] as number) < s) continue;
      if (position[k] === s) {
        const at = pending.subarray(0, waiting).indexOf(k);
        if (at >= 0) unwait(at);
        position[k] = s + 1;
      }
      done[s * n + k] = open;
      free[k] = open;
    }
  };

  return {
    sums,
    /** Starts and openings of the steps of the last run, minutes. */
    starts,
    opens,
    play(run: number): Played {
      one = runNumber(seed, run);
      two = runNumber(seed, run, true);
      waiting = 0;
      server.fill(0);
      position.fill(0);
      free.fill(0);
      for (let k = 0; k < n; k++)
        own[k] = factors[k] ?? (paces[stir(one ^ ofStep(PACE_KEY) ^ (whose[k] as number)) >>> SHIFT] as number);
      let open = 0;
      for (let s = 0; s < count; s++) {
        const step = steps[s] as PaceModel['steps'][number];
        const begin = beginning(s, open);
        add(sums.pauseOver, s, begin - open - step.breakMin - step.pauseMin);
        starts[s] = begin;
        showEnd[s] = begin + step.showMin;
        if (step.showMin > 0) server[0] = Math.max(server[0] as number, begin + step.showMin);
        done.fill(Number.POSITIVE_INFINITY, s * n, s * n + n);
        paint(s, begin);
        open = opening(s, begin);
        opens[s] = open;
        add(sums.over, s, Math.max(0, open - begin - step.showMin - step.doMin));
        leave(s, open);
      }
      while (waiting > 0) helpFirst(count - 1);
      let end = 0;
      for (let k = 0; k < n; k++) end = Math.max(end, free[k] as number);
      return { gate: open, end };
    },
  };
}
