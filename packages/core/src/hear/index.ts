export { type ColourBook, colourBook, commonTubes, editDistance, type HeardShelf, type SaidAmount } from './colours.js';
export { type Heard, type HeardStep, type Hearing, hear, isForeign, stepsAsLearnt, stepsCut, stepsHeard } from './hear.js';
export { type HearModel, hearModel } from './model.js';
export { type Border, bordersOf, segment, stepSizes } from './segment.js';
