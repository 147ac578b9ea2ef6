export { bringInWords } from './bring.js';
export { type ClearableStepField, type CommandArgs, CommandError, type CommandName, commands } from './commands.js';
export { commonSizes, defaultRoom, defaultSchool, emptyDrawing, emptyLesson } from './defaults.js';
export {
  bordersBetween,
  extentsOf,
  overlapsBetween,
  restsOn,
  sameAreas,
  visibleOf,
  workOutAreas,
} from './derived.js';
export { lessonFaults } from './faults.js';
export { type FoundKind, type FoundThing, findInLesson } from './find.js';
export { type Act, carryOut, carryOutAll, type History, redo, startHistory, undo } from './history.js';
export {
  coveringOf,
  filmOf,
  finishOf,
  groundUnder,
  type LookPart,
  looksOf,
  type MixCovering,
  type MixLook,
  mixesWithin,
  nearTwins,
  paintOf,
  paintsOf,
  recipeParts,
  shortTubeName,
  stockOf,
  tableTubeId,
  tubeRgb,
  waterLimit,
} from './looks.js';
export { coverOf, isOnlyMarks, markAreaCm2, markMinutes, marksOf, zonesWorkedOn } from './marks.js';
export { memo } from './memo.js';
export { plainWords, type RichLine, richLines, withBold, withList } from './rich.js';
export { followSheet, otherRecipesSheet, paintLayers } from './sheet.js';
export { lackingTubes, type OtherRecipe, substitutes } from './substitute.js';
export { followTwins, isTwin, lineOf, pulled, reflected } from './twins.js';
export { upgradeLesson } from './upgrade.js';
