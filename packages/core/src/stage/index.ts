export { FACTOR, type StageInput, type StagePass, type StageStep, stageInput } from './input.js';
export { type Off, offBySteps, squintedOff } from './measure.js';
export { movedIntoReach, type Reach, reachOf } from './reach.js';
export { stageSession } from './stages.js';
