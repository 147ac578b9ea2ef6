export {
  type Finish,
  filmOver,
  infinite,
  type MixedColour,
  type MixOptions,
  type MixPart,
  mixColour,
  partsOf,
  pigments,
  reflectanceOfLab,
  xyzOf,
} from './mix.js';
export { amountInWords, recipeInWords } from './words.js';
