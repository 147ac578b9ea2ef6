export { type Actor, decide, isNewAir, may, notedAir, Refusal, TAKE_BACK_MS, type WorkedOut } from './decide.js';
export { classMinute, coatsNow, coatUnder, dryAge, dryingLeft, waitedFor } from './drying.js';
export { type Happened, type HappenedHand, type HappenedItem, happened, planAsHappened, stateAt } from './happened.js';
export { type Behind, behind, leaveOutFor, ownPace } from './late.js';
export { airFactorOf, groupPace, inClimate, replanClass } from './replan.js';
export type { ClassState, Climate, Current, Student, Visit } from './shape.js';
export { classTime, fold, isFoldable, newClass, stateHash } from './state.js';
export { currentItem, elapsedSeconds, expectedEnd, planMinute, secondsLeft } from './timing.js';
