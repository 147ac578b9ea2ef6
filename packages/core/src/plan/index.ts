export { type AtHome, doneAtHome } from './ahead.js';
export { lessonCard } from './card.js';
export { type Filler, fillersFor, fillersInWords } from './fillers.js';
export { type FormerWaits, formerWaits } from './former-waits.js';
export { heldMin } from './held.js';
export { type LengthParts, lengthParts } from './length-parts.js';
export {
  type Contradiction,
  type LessonPlan,
  lessonProblem,
  type Miss,
  minutesOf,
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
export { type Past, replanLesson } from './replan.js';
export { areaOfConstraint } from './timetable.js';
