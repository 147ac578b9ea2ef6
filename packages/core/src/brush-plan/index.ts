export { cheapestAssignment } from './assignment.js';
export { type BrushPlan, type BrushUse, brushPlan, type PlannedBrush } from './brush-plan.js';
