export { borderPieces, insideOutline, insideTest, sharedBorders } from './borders.js';
export { common, offset, repaired, united, without } from './clip.js';
export { type Extent, extentOutline, overlapsOf, paintedExtents, paintedExtentsByPart } from './extent.js';
export { outlineArea, outlineBox, outlineFault, outlineLength, outlinePath, ringArea } from './outline.js';
export { labelSheets, scanOutline } from './raster.js';
export { canvasOutline, clipToCanvas, type VisiblePart, visibleParts } from './sheets.js';
