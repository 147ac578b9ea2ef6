export { type ClearableStepField, type CommandArgs, CommandError, type CommandName, commands } from './commands.js';
export { commonSizes, defaultRoom, defaultSchool, emptyLesson } from './defaults.js';
export {
  extentsOf,
  looksOf,
  type MixLook,
  overlapsBetween,
  recipeParts,
  restsOn,
  sameAreas,
  shortTubeName,
  tubeRgb,
  visibleOf,
  workOutAreas,
} from './derived.js';
export { lessonFaults } from './faults.js';
export { carryOut, type History, redo, startHistory, undo } from './history.js';
export { memo } from './memo.js';
export { followSheet, paintLayers } from './sheet.js';
export { upgradeLesson } from './upgrade.js';
