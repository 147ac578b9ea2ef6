export type { Covered, ThingMark } from './marks.js';
export { prepareScene, type Scene, type Superpixels } from './prepare.js';
export { type Proposal, type ProposedThing, proposeThings } from './proposal.js';
export { refinedLabels } from './refine.js';
export { doubts, liveLabels, type Walked, walk } from './walk.js';
