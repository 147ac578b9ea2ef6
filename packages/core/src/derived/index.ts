export {
  borderLine,
  bordersBetween,
  edgeBetween,
  extentsOf,
  overlapsBetween,
  restsOn,
  sameAreas,
  visibleOf,
  workOutAreas,
} from './areas.js';
export { bringInWords } from './bring.js';
export { type Findable, type FoundKind, type FoundThing, findableIn, findInLesson, findOnShelf } from './find.js';
export { coatsToHide, furtherCoatGain, loadFactor } from './hiding.js';
export { airForStep, learntDrying, learntFactor, learntPace, reckonedDrying, slowPaintOf } from './learnt.js';
export {
  coveringOf,
  filmOf,
  GESSO,
  glazeFilm,
  groundUnder,
  looksOf,
  type MixCovering,
  mediumOf,
  mixesWithin,
  nearTwins,
  paintsOf,
  waterLimit,
} from './looks.js';
export {
  areasUnder,
  areasWorkedOn,
  areaUnder,
  coverOf,
  drawsLines,
  isOnlyMarks,
  laysPaint,
  markAreaCm2,
  markMinutes,
  marksOf,
  mixesOn,
  toolOf,
} from './marks.js';
export { memo } from './memo.js';
export { buriedAt, type Moment, momentsOf, type NeededLine, neededAt, type PlacedLine, placedLines } from './moments.js';
export { areaName, chroma, colourBeneath, colourOf, firstPaints, huesApart, seenAreas } from './painted.js';
export { passageInWords } from './passage-words.js';
export { followSheet, otherRecipesSheet, paintLayers } from './sheet.js';
export { lackingTubes, type OtherRecipe, substitutes } from './substitute.js';
export { handPace, type SurfaceStrokes, surfaceMinutes, surfaceStrokes } from './surface-strokes.js';
export { usedMixes } from './used.js';
export { schoolFor, schoolOn } from './ways.js';
export { isSubject, weightOf } from './weight.js';
