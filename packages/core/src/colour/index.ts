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
export { deltaE00, differenceInWords, hueDegrees, hueName, valueStep } from './difference.js';
export { weights } from './weights.js';
