export { type Allocation, allocate, type Choosable, chooseTakes, type Lengths } from './allocate.js';
export { type FilmedMinutes, filmedMinutes } from './back.js';
export { placesIn } from './beside.js';
export { type BoxFacts, boxFacts, type ReadAt } from './boxes.js';
export { type Box, type CardLayout, type CardText, cardLayout, cardPanels, type Size } from './card-layout.js';
export { type Card, type CardKind, cardFile, cardsOf } from './cards.js';
export { type Chapter, chaptersOf, descriptionOf } from './chapters.js';
export {
  type CutFinding,
  cutFindings,
  cutsOf,
  DRY_CARD_S,
  JUMP_S,
  jumpsOf,
  meantLength,
  pressInWords,
  reachOfPiece,
  type Shot,
  type Timeline,
  timelineOf,
} from './cuts.js';
export { captionsSrt, captionsVtt, cardsCsv, chaptersVtt, edlOf, shootCsv, strokesVtt, takesCsv } from './files.js';
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
export { isSearchedExactly, type ShootingList, shootingList, shootProblem } from './list.js';
export { type FilmPart, partsOf, partTimeline } from './parts.js';
export { captionsOf, type FilmCue } from './said.js';
export { shootSheet } from './sheet.js';
export { filmedInOrder, type Shootable, type ShootOrder, type ShootProblem, shootingOrder } from './shoot.js';
export { notedSeconds, type ShootEvent, shootState, type TakeState } from './shooting.js';
export {
  batteryMin,
  cardGb,
  driedBefore,
  filmDefaults,
  filmPlan,
  lostEdits,
  placeNames,
  type Take,
  type TakeKind,
  takesOf,
} from './takes.js';
