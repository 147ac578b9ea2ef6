export * from './api.js';
export * from './lesson.js';
export * from './live.js';
export * from './plan.js';
