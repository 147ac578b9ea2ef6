export { logCsv, readLogCsv } from './csv.js';
export { type DryingFactor, dryingFactor, dryingTests, fitDrying } from './drying.js';
export { asksAt, fitPace, type PaceFactor, paceOf, paceTests } from './pace.js';
export { type Logged, type Suggestion, suggestions } from './suggest.js';
export { logByHand, logOf, rowsByHand, wordsOfLog } from './summary.js';
