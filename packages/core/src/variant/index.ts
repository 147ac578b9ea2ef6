export { differencesOf, type Variation, withVariant } from './variant.js';
