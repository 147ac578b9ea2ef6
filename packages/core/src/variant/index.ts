export { differencesOf, lackingForChildren, type Variation, withVariant } from './variant.js';
