export {
  asAnswered,
  betterOrder,
  calmly,
  type Filler,
  fillersFor,
  fillersInWords,
  inOrderOf,
  type OrderAnswer,
  orderProblem,
  type PlanLength,
  type PlansAnswer,
  type Trade,
  threePlans,
} from '../plan/index.js';
export { type Ahead, type AheadSample, aheadOf } from './ahead.js';
export {
  type ChainLink,
  type Cost,
  contradictionInWords,
  costsOf,
  criticalChain,
  type Reason,
  reasonInWords,
  type WayOut,
  waysOut,
  whyNotEarlier,
} from './explain.js';
export { bestOffer, coatFacts, type Lever, leversOf, type Offer, offersFor, seamPlaces } from './offers.js';
export { type AirMap, airAt, airMap, bestStart, lengthFrom, roomBetween, type StartAnswer, seasons } from './room.js';
export { heldBy, type WayOn, waysOn } from './ways-on.js';
