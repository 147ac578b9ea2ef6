export {
  blend,
  dry,
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
  SPECULAR,
  type Spectra,
  spectraOf,
  xyzOf,
} from './mixing.js';
export { leastSquared } from './search/bound.js';
export {
  amountsOf,
  type Block,
  MOST_PARTS,
  type PartsList,
  palePlan,
  partsList,
  type SmallAmount,
  type TierPlan,
  tierPlan,
} from './search/grid.js';
export { type Hit, type NearestOptions, RecipeTable, recipeTable, type TableOptions } from './search/table.js';
