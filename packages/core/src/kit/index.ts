export * from './money.js';
export * from './packing.js';
export * from './paint.js';
export * from './premix.js';
export * from './volumes.js';
