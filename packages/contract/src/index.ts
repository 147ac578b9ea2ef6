export * from './api.js';
export * from './errors/index.js';
export * from './film-api.js';
export * from './kit-lists.js';
export * from './lesson/index.js';
export { letters, limits, type Problem, sentenceFor } from './limits.js';
export * from './live.js';
export * from './plan.js';
export { byId, ID_PATTERN, Id, isId, RESERVED_IDS } from './shapes.js';
