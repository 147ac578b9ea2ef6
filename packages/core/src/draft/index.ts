export { type DraftChange, draftChanges } from './difference.js';
export { asDrafted, type Draft, type DraftedStep, type DraftHints, draftLesson } from './draft.js';
export { areaFacts } from './facts.js';
export { fitTo, type LeftOut } from './fit.js';
export { draftInTime, usualMin, waitingLess } from './in-time.js';
export { proposeStep, type StepProposal } from './proposal.js';
export { type ReadySchool, readySchools, schoolOf } from './ready-schools.js';
export { strokeOf, usualStroke } from './rules/strokes.js';
export { type Amount as SimplerBy, type Simpler, simplify } from './simplify.js';
