export { chance, cosine, hash, hashText, sine, TURN, turnOf, turnOfVector } from './chance.js';
export type { Glaze } from './glaze.js';
export type { StageArea, StageColour, StageInput, StageMarks, StagePass, StageStep, StageStrokes } from './scene.js';
export { stageSession } from './stages.js';
export {
  type Canvas,
  type Cells,
  type Covered,
  cellsOf,
  type Pen,
  painter,
  type Stroke,
  shaded,
  type Touch,
  type TouchName,
  toothAt,
  touches,
} from './strokes.js';
