export { FACTOR, stageInput } from './input.js';
export { type AreaOff, type Off, offByAreas, offBySteps, squintedOff } from './measure.js';
export { movedIntoReach, type Reach, reachOf } from './reach.js';
