export { lessonCard } from './card.js';
export { type Filler, fillersFor, fillersInWords } from './fillers.js';
export { solveInOrder } from './in-order.js';
export {
  type Contradiction,
  type LessonPlan,
  lessonProblem,
  type Miss,
  type PlannedCoat,
  planInWords,
  planLesson,
  planOf,
} from './lesson-plan.js';
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
export type { Conflict, DryingConstraint, Pin, Problem, Solution } from './problem.js';
export { type Past, replanLesson } from './replan.js';
export { type SolveOptions, solve, solving } from './solve.js';
export { down, TICKS, up } from './solver/compile.js';
export { areaOfConstraint, rungWords } from './timetable.js';
