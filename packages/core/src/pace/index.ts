export { normal, uniform } from './chance.js';
export * from './group.js';
export * from './simulate.js';
