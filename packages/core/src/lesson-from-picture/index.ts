export { type BeginOptions, type Begun, beginLesson } from './lesson-from-picture.js';
export { usualTubes } from './tubes.js';
export { type ZoneValues, zoneValues } from './values.js';
