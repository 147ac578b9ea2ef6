export { type MendNeed, type MendWay, mendWays, plannedState } from './mend.js';
