export { type AreaLight, lightsIn, twoLights } from './found.js';
export { lightPicture, usualLight } from './picture.js';
