export * from './compare.js';
export { type Corners, cornersFault, findCorners, ordered } from './corners.js';
export { canvasToPhoto, type Straight, straightened } from './straighten.js';
