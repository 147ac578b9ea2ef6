export {
  airOf,
  type Beneath,
  coatOf,
  dryerTurn,
  type LaidCoat,
  lay,
  mistEvery,
  oldestStroke,
  type Rungs,
  rangeOf,
  rungMinutes,
  timesOf,
} from './coats.js';
export { forStudents, paceOf, type StepMinutes, stepMinutes, stretched } from './duration.js';
export { heapMinutes, NEW_MIX_MIN } from './heap-minutes.js';
export { areaRung, filmUm, meanFilmUm, type Rung, rungAt, rungWord, topCoat } from './wetness.js';
