export { type Coat, type CoatMoment, type CoatRoom, type CoatTimes, coatTimes, wetFilm } from './coat.js';
export { absorbed, films, type PaintKind } from './constants.js';
export { type EvaporationInput, evaporation, saturationDensity, saturationPressure } from './evaporation.js';
