import type { Lesson, ShootNote } from '@viaticum/contract';
import type { AirMap, Cost, Lever, PlansAnswer, StartAnswer, WayOn } from '@viaticum/core/advice';
import type { Draft, Gain, LengthLadder } from '@viaticum/core/draft';
import type { ShootingList } from '@viaticum/core/film';
import type { Forecast, Group, OfferGain, PaceResult, TooShort, TwoSpeeds } from '@viaticum/core/pace';

/** What a draft puts in place of a lesson's steps. */
export type DraftedLesson = Draft & Pick<Lesson, 'leftOut'> & { cutsBefore: string[] };

export type PaceAnswer = {
  result: Omit<PaceResult, 'ends' | 'gates'>;
  /** Ends of the runs by minutes: the first minute of each bin and the share that falls into it. */
  bins: { fromMin: number; share: number }[];
  /** What surely gains a minute, the most first. */
  helps: Omit<OfferGain, 'model'>[];
  /** The plan alone does not fit the slot; null where it does. */
  tooShort: TooShort | null;
  planMin: number;
  /** The class divided into two groups; null for fewer than four. */
  twoSpeeds: TwoSpeeds | null;
};

/** What the plan worker can be asked, with what it answers. */
export type PlanJobs = {
  plans: { args: { lesson: Lesson; maxNodes: number }; answer: PlansAnswer };
  costs: { args: { lesson: Lesson }; answer: Cost[] };
  levers: { args: { lesson: Lesson; stepId: string }; answer: { rung: string; levers: Lever[] } };
  /** Ways past the wait before a step, each with the end it leads to. */
  waysOn: { args: { lesson: Lesson; stepId: string }; answer: WayOn[] };
  map: { args: { lesson: Lesson }; answer: AirMap };
  /** When a class of so many is to be expected to end. */
  forecast: { args: { lesson: Lesson; students: number }; answer: Forecast };
  /** How a group would fare with the plan, and what would help, best first. */
  pace: {
    args: { lesson: Lesson; group: Group; runs: number };
    answer: PaceAnswer;
  };
  /** The lengths that a lesson can have, down to what must stay. */
  lengths: { args: { lesson: Lesson }; answer: LengthLadder & { gains: Gain[] } };
  /** The lesson drafted for its wanted length. */
  draft: { args: { lesson: Lesson }; answer: DraftedLesson };
  /** The order of filming. */
  filming: { args: { lesson: Lesson; notes: ShootNote[]; isNarrow: boolean }; answer: ShootingList };
  start: { args: { lesson: Lesson; endByMin: number }; answer: StartAnswer | null };
};
