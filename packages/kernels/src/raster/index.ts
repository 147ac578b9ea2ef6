export { blur, gaussianKernel } from './blur.js';
export { byteOfLinear, labRaster, lightness, lightnessBins, linearOfByte } from './lab.js';
export { labelMeans } from './means.js';
export { median } from './median.js';
export { connectedParts, dropSmallParts } from './parts.js';
export { type Labels, type LabRaster, labels, type Plane, plane, type Rgba, recounted, rgba } from './raster.js';
export { resample, resampleLabels, shrink, sizeWithin } from './scale.js';
