export { type Calibrated, calibrateTube, type Sample } from './calibrate.js';
export { type RecipeCost, recipeCost } from './cost.js';
export { type Covering, covering, glazeMedium, glazeOver, HIDES_AT, hidingUm, spreadingRate } from './covering.js';
export { type FamilyMember, gradient, shadowAndLight, twoGreys, valueLadder } from './families.js';
export { paletteLayout, warmth } from './layout.js';
export { type LookPart, type MixLook, mixLook, recipeParts, type Stock, stockOf } from './mix-look.js';
export { type Palette, type PaletteOptions, type PaletteSize, paletteSearch, smallestPalette } from './palette.js';
export {
  addingOrder,
  findRecipes,
  MOST_TUBES,
  mixedPaint,
  mixParts,
  type Paint,
  type RecipeOfPigments,
  sensitivity,
  tableOf,
  tintingPower,
} from './recipes.js';
export { outOfReach, type Reason, reasons, type StockPaint, type Suggestion, suggest, whatWouldReach } from './suggest.js';
export { howSure } from './sure.js';
export { isWhite, metalName, paintOf, pigmentName, shortTubeName, tableTubeId, tubeRgb, weakened } from './tube.js';
export { amountInWords, recipeInWords } from './words.js';
