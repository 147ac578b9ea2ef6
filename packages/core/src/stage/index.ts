export { FACTOR, type StageInput, type StagePass, type StageStep, stageInput } from './input.js';
export { squintedOff } from './measure.js';
export { bareCanvas, stepPainter } from './paint.js';
export { stageSession } from './stages.js';
