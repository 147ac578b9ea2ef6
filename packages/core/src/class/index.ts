export { type Actor, decide, may, Refusal, TAKE_BACK_MS } from './decide.js';
export {
  type ClassState,
  type Current,
  currentItem,
  elapsedSeconds,
  fold,
  newClass,
  paintMinute,
  type Student,
  secondsLeft,
  stateHash,
  studentProgress,
} from './state.js';
