export { FACTOR, stageInput } from './input.js';
export { type Off, offBySteps, squintedOff } from './measure.js';
export { movedIntoReach, type Reach, reachOf } from './reach.js';
