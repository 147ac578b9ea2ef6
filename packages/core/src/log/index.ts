export { logCsv, readLogCsv } from './csv.js';
export { type Logged, type Suggestion, suggestions } from './suggest.js';
export { logByHand, logOf, rowsByHand, wordsOfLog } from './summary.js';
