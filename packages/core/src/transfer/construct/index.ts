export { dividedCircle, fromCross } from './circle.js';
export { betweenLandmarks, construct } from './construct.js';
export { type Envelope, envelope, type Wedge } from './envelope.js';
export { eyeOf } from './eye.js';
export { type Gap, gapBetween } from './gaps.js';
export { type MotifMark, motifMarks, motifOverlaps, sectorOf } from './motif.js';
export { type SimpleShape, simpleShape, spread } from './shapes.js';
export { type Constructed, ellipseCurve } from './tools.js';
