import type { Lesson } from '@viaticum/contract';
import type { AirMap, Cost, Lever, PlansAnswer, StartAnswer, WayOn } from '@viaticum/core/advice';
import type { Draft, Gain, LengthLadder } from '@viaticum/core/draft';
import type { Group, HelpKind, PaceResult } from '@viaticum/core/pace';

/** What a draft puts in place of a lesson's steps. */
export type DraftedLesson = Draft & Pick<Lesson, 'leftOut'> & { cutsBefore: string[] };

export type PaceAnswer = {
  result: Omit<PaceResult, 'ends'>;
  /** Ends of the runs by minutes: the first minute of each bin and the share that falls into it. */
  bins: { fromMin: number; share: number }[];
  helps: { kind: HelpKind; stepId: string | null; finishInSlot: number; savedMin: number }[];
};

/** What the plan worker can be asked, with what it answers. */
export type PlanJobs = {
  plans: { args: { lesson: Lesson; maxNodes: number }; answer: PlansAnswer };
  costs: { args: { lesson: Lesson }; answer: Cost[] };
  levers: { args: { lesson: Lesson; stepId: string }; answer: { rung: string; levers: Lever[] } };
  /** Ways past the wait before a step, each with the end it leads to. */
  waysOn: { args: { lesson: Lesson; stepId: string }; answer: WayOn[] };
  map: { args: { lesson: Lesson }; answer: AirMap };
  /** How a group would fare with the plan, and what would help, best first. */
  pace: {
    args: { lesson: Lesson; group: Group; runs: number };
    answer: PaceAnswer;
  };
  /** The lengths that a lesson can have, down to what must stay. */
  lengths: { args: { lesson: Lesson }; answer: LengthLadder & { gains: Gain[] } };
  /** The lesson drafted for its wanted length. */
  draft: { args: { lesson: Lesson }; answer: DraftedLesson };
  start: { args: { lesson: Lesson; endByMin: number }; answer: StartAnswer | null };
};
