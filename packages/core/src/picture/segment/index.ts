export { type MergeWeights, mergeTree } from './merge.js';
export { grow } from './refine.js';
export { colourSpread, cutZones, prepare, refineZones, type Segmentation, type Tap, type ZoneMap } from './session.js';
