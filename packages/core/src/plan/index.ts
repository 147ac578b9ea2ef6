export { type StepMinutes, stepMinutes } from './duration.js';
export { solveInOrder } from './in-order.js';
export {
  type LessonPlan,
  laysPaint,
  type Miss,
  type PlannedCoat,
  planInWords,
  planLesson,
  planOf,
  rungMinutes,
  zonesOf,
} from './lesson-plan.js';
export { betterOrder, inOrderOf, type OrderAnswer, orderProblem, type PlanLength } from './order.js';
export type { Conflict, Pin, Problem, Relation, Solution } from './problem.js';
export { type SolveOptions, solve, solving } from './solve.js';
export { filmUm, meanFilmUm, type Rung, rungAt, rungWord, topCoat, zoneRung } from './wetness.js';
