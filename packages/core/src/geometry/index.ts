export * from './circle.js';
export * from './homography.js';
export * from './hull.js';
export * from './perspective.js';
export * from './point.js';
