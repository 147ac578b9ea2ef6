/** Sentences about people in a class that more than one screen says. */
export const classWords = {
  /** Of a press that waits for a network. */
  kept: 'Kept, will be sent',
  noNetwork: (minutes: number): string => `no network for ${minutes} min`,
  /** Of a hand that was raised without a network, by the minute of the class. */
  handKept: (minute: number): string => `asked at ${minute} min, without network`,
};
