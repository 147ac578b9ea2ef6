export { colourAfter, type RelationChange, type Relations, relationsOf, type ZoneDue } from './relations.js';
export { announcement, type RoughStage, roughestStage } from './rough.js';
