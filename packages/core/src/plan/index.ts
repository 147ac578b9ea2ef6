export { lessonCard } from './card.js';
export { solveInOrder } from './in-order.js';
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
export type { Conflict, Pin, Problem, Relation, Solution } from './problem.js';
export { type Past, replanLesson } from './replan.js';
export { type SolveOptions, solve, solving } from './solve.js';
export { rungWords } from './timetable.js';
