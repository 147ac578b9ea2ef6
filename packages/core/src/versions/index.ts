export { type Difference, differences } from './differences.js';
export { type Clash, type Merged, mergeLessons, type Side } from './merge.js';
export { thinned } from './thin.js';
