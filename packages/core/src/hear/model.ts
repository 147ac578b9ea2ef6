/** What the narrations of the corpus taught: the weight of every sign, and how large a step is. Written by `npm run narrations -- FOLDER --fit`. */
export type HearModel = {
  weights: readonly number[];
  /** The usual size of a step in seconds, and how far sizes lie apart (of their logarithm). */
  size: number;
  spread: number;
  borderCost: number;
  lengthWeight: number;
};
export const hearModel: HearModel = {
  weights: [
    -6.589, 0.908, 2.733, 4.305, 0.991, -1.386, 1.549, 2.11, 1.719, 1.079, 1.553, 0.515, 0.521, 0.084, 1.242, -1.068, 0.866, 0.98,
    2.243, -0.501, 1.645, 1.307, 0.274, 0.023, -0.106, 0.947, 1.035,
  ],
  size: 50,
  spread: 0.65,
  borderCost: -4.5,
  lengthWeight: 0.7,
};
