export { type Calibration, type Change, calibrations } from './calibrations.js';
export { logCsv, readLogCsv, resultsCsv } from './csv.js';
export { personPace } from './person.js';
export { type GroupOff, groupResults, offInWords, resultOf, showsPicture } from './results.js';
export { suggestions } from './suggest.js';
export type { Logged, Suggestion } from './suggestion.js';
export { logByHand, logOf, rowsByHand, wordsOfLog } from './summary.js';
export { logOfTakes } from './takes.js';
export { usedShare } from './used.js';
