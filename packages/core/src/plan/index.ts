export { type StepMinutes, stepMinutes } from './duration.js';
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
export { betterOrder, inOrderOf, type OrderAnswer, orderProblem, type PlanLength } from './order.js';
export type { Conflict, Pin, Problem, Relation, Solution } from './problem.js';
export { type SolveOptions, solve, solving } from './solve.js';
export { filmUm, meanFilmUm, type Rung, rungAt, rungWord, topCoat, zoneRung } from './wetness.js';
