/** A step of a class as the pace of a group sees it. */
export type PaceStep = {
  id: string;
  /** A number for its chance: the same step has the same chance in every model. */
  key: number;
  /** Minutes that a student of the middle pace needs; minutes of showing, the same for all. */
  doMin: number;
  showMin: number;
  /** A break that lies before it, and how long the plan waits before it for paint. */
  breakMin: number;
  pauseMin: number;
  /** The class goes on when a share `q` is done, or `afterMin` after it began the step (null: not before that share). */
  gate: { q: number; afterMin: number | null };
  /** Coats that must dry first, each student's own: so many minutes from their own Done of that step. */
  drying: { after: string; minutes: number }[];
  /** Who is not done when the class goes on leaves it. */
  mayBeLeftOut?: boolean;
};
export type PaceModel = {
  steps: PaceStep[];
  students: {
    n: number;
    /** Spread of the paces, and of every student from step to step: standard deviations of logarithms. */
    sigma: number;
    stepSigma: number;
    /** Paces that are known: 1 is the middle, 2 needs twice as long. The others are drawn. */
    factors?: number[];
    /** A student asks for help at some part of a step with this chance, and is helped for so many minutes (the middle of a lognormal). */
    help?: { chance: number; minutes: number };
    /** The instructor and the assistants. */
    helpers?: number;
  };
  slotMin: number;
};
