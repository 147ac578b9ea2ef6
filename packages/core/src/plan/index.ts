export { type StepMinutes, stepMinutes } from './duration.js';
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
export { type Problem, type Relation, type Solution, type SolveOptions, solve, solveInOrder, solving } from './solve.js';
export { filmUm, meanFilmUm, type Rung, rungAt, rungWord, topCoat, zoneRung } from './wetness.js';
