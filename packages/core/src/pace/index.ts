export { normal, uniform } from './chance.js';
export { type Forecast, forecast } from './forecast.js';
export { type Group, helpOf, paceModel, STEP_SIGMA, sigmaOf, withoutSteps } from './group.js';
export type { PaceModel, PaceStep } from './model.js';
export { gainOf, type Offer, type OfferGain, type OfferKind, offersOf, whatHelps } from './offers.js';
export { HELP_SIGMA } from './play.js';
export { type Ends, type PaceResult, pacing, quantile, simulatePace } from './simulate.js';
export { bookedMin, type TooShort, tooShort } from './slot.js';
export { divideAt, pacesOf, type Stretch, type TwoSpeeds, twoSpeeds } from './two-speeds.js';
