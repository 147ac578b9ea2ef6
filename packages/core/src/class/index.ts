export { coatKey, minutesLeft, rungNow } from './air.js';
export { type AirChange, airChange } from './air-change.js';
export { readAir, type TypedAir } from './air-input.js';
export { type AirRows, airRows, alike } from './air-rows.js';
export { asker, type Question, questionFor } from './asker.js';
export { type Belief, belief, type FinishedSpan, isPainted, type StepStanding } from './belief.js';
export { type Actor, decide, isNewAir, may, notedAir, Refusal, TAKE_BACK_MS, type WorkedOut } from './decide.js';
export { chanceOfDry, classMinute, coatsNow, coatUnder, dryingLeft, touchable, waitedFor } from './drying.js';
export { filmPlaceAt, keepingUp } from './film.js';
export { type GoingOn, goingOn, leftAt } from './going-on.js';
export { partsOf, toGroup, viewFor, viewOf } from './groups.js';
export {
  ALL_PART,
  type Happened,
  type HappenedHand,
  type HappenedItem,
  type HappenedPart,
  happened,
  planAsHappened,
  stateAt,
} from './happened.js';
export { leaveOutFor, ownPace } from './late.js';
export { lastSign, leftBehind, type Need, needs, needsOfAll } from './needs.js';
export { asKept, isKept, type Kept, nextKept, type Pressed, putKept, WINDOW } from './outbox.js';
export { phoneClock, type Reading } from './phone-clock.js';
export { groupPace, inClimate, replanClass } from './replan.js';
export type { ClassState, Climate, Current, Group, Student, Visit } from './shape.js';
export { ERASED_NAME, type Eye, foldStretch, NO_NAME, seenBy } from './slice.js';
export { classTime, fold, isFoldable, newClass, stateHash } from './state.js';
export {
  type Ahead,
  ahead,
  countedStep,
  currentItem,
  elapsedSeconds,
  expectedEnd,
  planMinute,
  secondsLeft,
  wholeSeconds,
} from './timing.js';
export { type Said, whenSaid } from './when-said.js';
export { classWords } from './words.js';
