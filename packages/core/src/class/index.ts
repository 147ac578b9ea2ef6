export { type Actor, decide, may, Refusal, TAKE_BACK_MS } from './decide.js';
export { coatUnder, pauseChange, planAsDried } from './drying.js';
export { type ClassState, type Current, fold, newClass, type Student, stateHash, studentProgress } from './state.js';
export { currentItem, elapsedSeconds, paintMinute, secondsLeft } from './timing.js';
