/**
 * How captions are set so that they can be read: two lines of 42 characters, 17 characters a second, 5/6 s to 7 s, two pictures between
 * them, holes under half a second closed, edges drawn to a change of picture within half a second. After the BBC Subtitle Guidelines, the
 * Timed Text Style Guide that Netflix publishes (English) and EBU R 95; from memory.
 */
export const captionRules = {
  lineChars: 42,
  lines: 2,
  cps: 17,
  leastS: 5 / 6,
  mostS: 7,
  gapFrames: 2,
  fps: 25,
  nearCutS: 0.5,
};
export type CaptionRules = typeof captionRules;
