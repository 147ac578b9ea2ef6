export * from './drawing.js';
export * from './lesson.js';
export * from './paints.js';
export * from './picture.js';
export * from './room.js';
export * from './school.js';
export * from './steps.js';
export { Lab } from './values.js';
export * from './variant.js';
