export { type Arc, traceArcs } from './arcs.js';
export { type Borders, bordersOf, contacts, outlineOf, sheetsOf } from './sheets.js';
export { douglasPeucker, simplifyArcs } from './simplify.js';
