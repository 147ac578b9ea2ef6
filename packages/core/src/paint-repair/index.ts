export { plannedState, type RepairNeed, type RepairWay, repairWays } from './paint-repair.js';
