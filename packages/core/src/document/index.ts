export { type ClearableStepField, type CommandArgs, CommandError, type CommandName, coatTitle, commands } from './commands.js';
export { commonSizes, defaultRoom, defaultSchool, emptyDrawing, emptyLesson } from './defaults.js';
export { lessonFaults } from './faults.js';
export { type Act, carryOut, carryOutAll, type History, redo, startHistory, undo } from './history.js';
export { droppedAreas, pinsAmong } from './kept.js';
export { heldBy, type Named, stepsUsing } from './references.js';
export { followTwins, isTwin, lineOf, pulled, reflected } from './twins.js';
export { upgradeLesson } from './upgrade.js';
