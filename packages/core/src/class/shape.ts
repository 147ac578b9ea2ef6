import type { HandReason, Helper, Plan } from '@viaticum/contract';
import type { TouchTest } from '../coat/index.js';

export type Student = {
  id: string;
  firstName: string;
  kit: string[];
  has: Helper[];
  /** Their place in the room; the lowest that was free when they came. */
  seat: number;
  joinedAt: number;
  /** Server time of their own Done, by step. */
  doneAt: Record<string, number>;
  /** `kept`: it was raised without a network, and heard of later. */
  hand: { reason: HandReason; at: number; kept?: true } | null;
  /** How a Done was said that was no press of theirs at the time: by the desk, as an answer, or by a clock that could not be believed. */
  doneBy?: Record<string, 'desk' | 'asked' | 'went-on' | 'rough'>;
  /** Steps that they left out. */
  leftOut?: Record<string, number>;
  /** What tells that a step is not finished yet, in its order. */
  signs?: { stepId: string; at: number; is: 'still' | 'look' | 'hand' | 'lost' | 'not-done' }[];
  /** The colour of their easel's edge, where somebody of the same first name came before. */
  edge?: number;
  /** The group that they paint with, where the class is taught in groups. */
  group?: string;
  /** When somebody last saw that all is well. */
  seenAt?: number;
};
/** A touch test of this class: which coat was touched when (ms); without a coat it is of a class before tests named one. */
export type ClassTouch = TouchTest & { stepId?: string; areaId?: string; at?: number; by?: 'assistant' };
export type Current = { index: number; startedAt: number; extendedMin: number; heldMs: number; heldSince: number | null };
/** An item of the plan that the class came to, when, until when, and when it was held meanwhile (`to` null: until the visit's end). */
export type Visit = {
  index: number;
  startedAt: number;
  endedAt: number | null;
  holds?: { from: number; to: number | null }[];
};
/** `bySensor`: a sensor told it; otherwise somebody read it off. */
export type Climate = { airC: number; humidity: number; airSpeed: number; at: number; bySensor?: true };
/** A group of a class: where it is, in a plan of its own. */
export type Group = { id: string; name: string } & Pick<
  ClassState,
  'phase' | 'plan' | 'current' | 'before' | 'visits' | 'paintedOn'
>;
export type ClassState = {
  phase: 'planned' | 'open' | 'running' | 'held' | 'ended';
  seq: number;
  at: number;
  revision: number;
  code: string;
  plan: Plan | null;
  /** How long the class was to take when it was opened. */
  plannedMin: number;
  current: Current | null;
  /** What was current before, for taking back; the newest last. */
  before: (Current | null)[];
  /** What really happened so far, in its order; the last one is current. */
  visits: Visit[];
  students: Record<string, Student>;
  /** Whose each place in the room is; null: nobody's. */
  seats: (string | null)[];
  removed: string[];
  /** Touch tests, and how much longer than planned coats take in this class by them. */
  touches: ClassTouch[];
  /** Coats that a touch found dry, by step and area: all that was laid by then (class time, ms) is dry. */
  freed?: Record<string, number>;
  dryFactor: number;
  /** The air as it was noted last. */
  climate: Climate | null;
  /**
   * The airs so far and since when (class time, ms). Each coat by its key has a row of minutes to its rungs in that air (null: never), and
   * what it still takes once it has dried so much in the air before. In classes of before that one factor says it for all coats.
   */
  airs: {
    at: number;
    factor?: number;
    rows?: (number | null)[][];
    row?: Record<string, number>;
    left?: (number | null)[][];
  }[];
  /** What the instructor told all; the newest last. */
  said: { text: string; at: number }[];
  /** The film that all follow together, and where it stood at that class time (ms). */
  film?: { filmId: string; atMs: number; isPlaying: boolean; rate: number; at: number };
  /** Pauses that were cut short: what was painted all the same, for which wet paint, and how long it still wanted. */
  paintedOn?: { stepId: string; areaIds: string[]; leftMin: number; at: number }[];
  /** Groups of one class, each at its own place; without them all are together. */
  groups?: Record<string, Group>;
  rehearsal: boolean;
  /** Since when the class's time runs at which speed; null: as real time does. */
  clock: { real: number; at: number; speed: number } | null;
  /** How many events were passed over because they name what can be no id. */
  passedOver: number;
};
