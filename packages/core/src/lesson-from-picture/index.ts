export type { Begun } from './inside.js';
export { type BeginOptions, beginLesson } from './lesson-from-picture.js';
export { lineMarks, type ToldLines } from './lines.js';
export { type Redone, redoLesson } from './redo.js';
export { withRefused } from './refused.js';
export { usualTubes } from './tubes.js';
export { type AreaValues, areaValues } from './values.js';
