export * from './construct.js';
export * from './envelope.js';
export * from './shapes.js';
