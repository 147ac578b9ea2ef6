export * from './api.js';
export * from './drawing.js';
export * from './lesson.js';
export * from './live.js';
export * from './plan.js';
export { Id } from './shapes.js';
