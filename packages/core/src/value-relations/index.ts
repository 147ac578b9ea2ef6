export { announcement, type RoughStage, roughestStage } from './rough.js';
export { colourAfter, type RelationChange, type Relations, relationsOf, type ZoneDue } from './value-relations.js';
