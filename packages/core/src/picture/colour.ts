import type { Lab } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { linearToXyz, type Rgb, srgbToLinear, xyzToLab } from '@viaticum/kernels/colour';

const linear = Float64Array.from({ length: 256 }, (_, value) => srgbToLinear(value / 255));

/**
 * Mean colour of a disc of an RGBA picture, averaged in linear light, as L*a*b* (D65). Centre and radius in pixels; a disc that
 * reaches over the edge counts its inside only. Throws where no pixel lies in it.
 */
export function discColour(
  rgba: ArrayLike<number>,
  width: number,
  height: number,
  centre: readonly [number, number],
  radius: number,
): Lab {
  const [cx, cy] = centre;
  const inside = (x: number, y: number) => (x + 0.5 - cx) ** 2 + (y + 0.5 - cy) ** 2 <= Math.max(radius, 0.71) ** 2;
  return meanColour(rgba, width, height, inside, {
    x0: Math.floor(cx - radius - 1),
    y0: Math.floor(cy - radius - 1),
    x1: Math.ceil(cx + radius + 1),
    y1: Math.ceil(cy + radius + 1),
  });
}

/** Mean colour in linear light of the pixels for which `inside` holds, within a box. Throws where there are none. */
export function meanColour(
  rgba: ArrayLike<number>,
  width: number,
  height: number,
  inside: (x: number, y: number) => boolean,
  box = { x0: 0, y0: 0, x1: width, y1: height },
): Lab {
  let count = 0;
  const sum: Rgb = [0, 0, 0];
  for (let y = Math.max(0, box.y0); y < Math.min(height, box.y1); y++) {
    for (let x = Math.max(0, box.x0); x < Math.min(width, box.x1); x++) {
      if (!inside(x, y)) continue;
      const at = (y * width + x) * 4;
      for (let i = 0; i < 3; i++) sum[i as 0 | 1 | 2] += linear[rgba[at + i] as number] as number;
      count++;
    }
  }
  if (count === 0) throw new RangeError(say('There is no picture at this place. Choose a place on the picture.'));
  return xyzToLab(linearToXyz([sum[0] / count, sum[1] / count, sum[2] / count]));
}
