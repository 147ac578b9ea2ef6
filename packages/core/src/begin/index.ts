export { type BeginOptions, type Begun, beginLesson } from './begin.js';
export { usualTubes } from './tubes.js';
export { type ZoneValues, zoneValues } from './values.js';
