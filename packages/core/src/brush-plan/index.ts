export { cheapestAssignment } from './assignment.js';
export { type BrushPlan, type BrushUse, brushPlan, type PlannedBrush, substitutesFor } from './brush-plan.js';
