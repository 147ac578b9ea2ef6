export { type Ahead, type AheadSample, aheadOf } from './ahead.js';
export { lessonCard } from './card.js';
export { forStudents, paceOf, type StepMinutes, stepMinutes } from './duration.js';
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
export { type Filler, fillersFor, fillersInWords } from './fillers.js';
export { solveInOrder } from './in-order.js';
export { airOf, coatOf, dryerTurn, type Laid, mistEvery, type Rungs, rangeOf, rungMinutes, timesOf } from './laid.js';
export {
  type Contradiction,
  type LessonPlan,
  laysPaint,
  lessonProblem,
  type Miss,
  type PlannedCoat,
  planInWords,
  planLesson,
  planOf,
  zonesOf,
} from './lesson-plan.js';
export { coatFacts, type Lever, leversOf, type Offer, offersFor, seamPlaces } from './offers.js';
export {
  asAnswered,
  betterOrder,
  calmly,
  inOrderOf,
  type OrderAnswer,
  orderProblem,
  type PlanLength,
  type PlansAnswer,
  type Trade,
  threePlans,
} from './order.js';
export type { Conflict, Pin, Problem, Relation, Solution } from './problem.js';
export { type Past, replanLesson } from './replan.js';
export { type AirMap, airAt, airMap, bestStart, lengthFrom, roomBetween, type StartAnswer, seasons } from './room.js';
export { type SolveOptions, solve, solving } from './solve.js';
export { rungWords } from './timetable.js';
export { filmUm, meanFilmUm, type Rung, rungAt, rungWord, topCoat, zoneRung } from './wetness.js';
