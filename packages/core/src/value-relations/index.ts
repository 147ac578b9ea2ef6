export { type RoughStage, roughestStage } from './rough.js';
export { type AreaDue, colourAfter, type RelationChange, type Relations, relationsOf } from './value-relations.js';
