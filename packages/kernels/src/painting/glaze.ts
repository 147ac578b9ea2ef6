import type { Lab } from '@viaticum/contract';
import { labToSrgb, linearToSrgb, srgbToLab, srgbToLinear } from '../colour/index.js';

/** A clear film over what lies there: of the light (linear, by red, green, blue) it sends back some itself and lets a share through. */
export type Glaze = { over: readonly [number, number, number]; through: readonly [number, number, number] };

const seen = ({ over, through }: Glaze, below: number, c: 0 | 1 | 2): number =>
  linearToSrgb(Math.min(1, Math.max(0, over[c] + through[c] * srgbToLinear(below))));

/** What every byte of red, green and blue becomes under a whole film: 256 values each. */
export function glazeTable(glaze: Glaze): Uint8Array {
  const table = new Uint8Array(768);
  for (const c of [0, 1, 2] as const)
    for (let byte = 0; byte < 256; byte++) table[c * 256 + byte] = Math.round(255 * seen(glaze, byte / 255, c));
  return table;
}

/** A colour under a whole film. */
export function glazed(lab: readonly [number, number, number], glaze: Glaze): Lab {
  const [r, g, b] = labToSrgb(lab);
  return srgbToLab([seen(glaze, r, 0), seen(glaze, g, 1), seen(glaze, b, 2)]);
}
