export { areaMap } from './borders.js';
export { softened } from './chains.js';
export { decidedLines, fromLine, type Line, middleOf } from './decided.js';
export { amounts, type DrawnLine, drawLines, fitted, nodesIn, upToAmount } from './draw.js';
export { innerLines } from './inner.js';
