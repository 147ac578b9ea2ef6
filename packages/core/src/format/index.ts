export { type Climate, readClimate } from './climate.js';
