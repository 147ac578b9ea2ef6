export { type MendNeed, type MendWay, mendWays, plannedState } from './paint-repair.js';
