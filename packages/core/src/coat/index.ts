export { calibrate, type TouchTest } from './calibrate.js';
export { carriedOn, carriedShares } from './carry.js';
export {
  type Coat,
  type CoatMoment,
  type CoatRoom,
  type CoatTimes,
  coatTimes,
  dryFilmUm,
  humectantPascal,
  type WetFilm,
  wetFilm,
} from './coat.js';
export { absorbed, composition, density, filmForms, films, markFilmUm, type PaintKind } from './constants.js';
export { assertRoom, type EvaporationInput, evaporation, saturationDensity, saturationPressure } from './evaporation.js';
export { type CoatRange, coatRange, dryerAir, dryerMinutes } from './range.js';
