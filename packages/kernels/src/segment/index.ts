export { type MergeWeights, mergeTree } from './merge.js';
export { grow, modeFilter } from './refine.js';
export { type AreaMap, colourSpread, cutAreas, prepare, refineAreas, type Segmentation, type Tap } from './session.js';
