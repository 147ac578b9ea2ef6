export { type Asked, askedOf, type ContactKind, harmLimit, pickUp, wishOf } from './asked.js';
export { type ChangedColour, changedColour } from './changed.js';
export { type Act, type Contact, contactBetween } from './contact.js';
export { areApart, contactsOf, hides, type Laid, LEAST_EDGE_MM } from './contacts.js';
export { ageOfShare, harmlessShare, harmOf, movingShare, paintOfColour, paintOfMix, pickedUp } from './harm.js';
export { marksMeet, TREMOR_MM } from './marks.js';
export { type EdgePair, edgePairs } from './pairs.js';
export { changeInWords, contactInWords, needWords } from './words.js';
