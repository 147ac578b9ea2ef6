export {
  cssRgb,
  invert3,
  labToSrgb,
  labToXyz,
  linearToSrgb,
  linearToXyz,
  multiply3,
  type Rgb,
  srgbToLab,
  srgbToLinear,
  white,
  type Xyz,
  xyzToLab,
  xyzToSrgb,
} from './cie.js';
export { deltaE00, deltaE00Of, differenceInWords, hueDegrees, hueName, valueStep } from './difference.js';
export { QUICK_ERROR, type QuickDeltaE, quickDeltaE } from './quick.js';
export { weights } from './weights.js';
