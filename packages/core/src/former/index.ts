export { type Changed, lookOtherwise } from './former.js';
