export * from './group.js';
export * from './simulate.js';
