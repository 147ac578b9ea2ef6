export { type BeginOptions, type Begun, beginLesson } from './lesson-from-picture.js';
export { usualTubes } from './tubes.js';
export { type AreaValues, areaValues } from './values.js';
