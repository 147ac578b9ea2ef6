export { type Calibration, type Change, calibrations } from './calibrations.js';
export { logCsv, readLogCsv } from './csv.js';
export { personPace } from './person.js';
export { type GroupOff, groupResults, offInWords, resultOf, showsPicture } from './results.js';
export { type Logged, type Suggestion, suggestions } from './suggest.js';
export { logByHand, logOf, rowsByHand, wordsOfLog } from './summary.js';
export { logOfTakes } from './takes.js';
export { usedShare } from './used.js';
