export { type BoxFacts, boxFacts, type ReadAt } from './boxes.js';
export { type Allocation, allocate, type Choosable, chooseTakes, type Lengths } from './cut/allocate.js';
export { placesIn } from './cut/beside.js';
export { type Box, type CardLayout, type CardText, cardLayout, cardPanels, type Size } from './cut/card-layout.js';
export { type Card, type CardKind, cardFile, cardsOf } from './cut/cards.js';
export { type Chapter, chaptersOf, descriptionOf } from './cut/chapters.js';
export { cutsOf, type FilmPart, reachOfPiece, type Shot, type Timeline, timelineOf } from './cut/cuts.js';
export { captionsSrt, captionsVtt, cardsCsv, chaptersVtt, edlOf, strokesVtt } from './cut/files.js';
export { type CutFinding, cutFindings, jumpsOf, meantLength, pressInWords } from './cut/findings.js';
export { partsOf, partTimeline } from './cut/parts.js';
export { captionsOf, type FilmCue } from './cut/said.js';
export { type FilmedMinutes, filmedMinutes } from './filming/back.js';
export { driedBefore, filmPlan } from './filming/film-plan.js';
export { isSearchedExactly, type ShootingList, shootingList, shootProblem } from './filming/list.js';
export { shootSheet } from './filming/sheet.js';
export { filmedInOrder, type Shootable, type ShootOrder, type ShootProblem, shootingOrder } from './filming/shoot.js';
export { notedSeconds, type ShootEvent, shootState, type TakeState } from './filming/shooting.js';
export { shootCsv, takesCsv } from './filming/tables.js';
export {
  batteryMin,
  cardGb,
  filmDefaults,
  lostEdits,
  placeNames,
  type Take,
  type TakeKind,
  takesOf,
} from './filming/takes.js';
export {
  type Beside,
  type BitAs,
  hearingOf,
  isInTable,
  plannedBeside,
  stepsOfHeard,
  type TakenHeard,
  unknownColours,
} from './heard.js';
export { type Piece, type PieceKind, pieceKinds, pieceOf, pieceRules } from './kinds.js';
