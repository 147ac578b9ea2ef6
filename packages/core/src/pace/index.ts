export * from './group.js';
export * from './simulate.js';
export { normal, uniform } from './chance.js';
