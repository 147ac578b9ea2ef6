export { distanceInside } from './distance.js';
export { type Form, type Normals, normalsOf } from './form.js';
export { castShadow, type FoundLight, lightFrom, towardsLight, type Vector, type Zone, zones, zonesOf } from './zones.js';
