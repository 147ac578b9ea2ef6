export { airOf, coatOf, dryerTurn, type Laid, mistEvery, type Rungs, rangeOf, rungMinutes, timesOf } from './coats.js';
export { forStudents, paceOf, type StepMinutes, stepMinutes } from './duration.js';
export { filmUm, meanFilmUm, type Rung, rungAt, rungWord, topCoat, zoneRung } from './wetness.js';
