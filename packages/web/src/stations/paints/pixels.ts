import type { Lab, Reference, Zone } from '@viaticum/contract';
import { canvasToPixel, discColour, meanColour } from '@viaticum/core/picture';
import { insideOutline, outlineBox } from '@viaticum/core/zone';
import { useEffect, useState } from 'react';
import { pictureUrl } from '../../api/queries.js';

type Pixels = { rgba: Uint8ClampedArray; width: number; height: number };
const SAMPLES = 6000;

/** The work rendition of a reference as pixels, once it is read. */
export function usePixels(reference: Reference | undefined): Pixels | null {
  const [pixels, setPixels] = useState<Pixels | null>(null);
  const sha256 = reference?.pictureSha256;
  useEffect(() => {
    setPixels(null);
    if (!sha256) return;
    let gone = false;
    const image = new Image();
    image.src = pictureUrl(sha256, 'work');
    image.decode().then(
      () => {
        if (gone) return;
        const canvas = new OffscreenCanvas(image.naturalWidth, image.naturalHeight);
        const context = canvas.getContext('2d', { willReadFrequently: true });
        if (!context) return;
        context.drawImage(image, 0, 0);
        const { data, width, height } = context.getImageData(0, 0, canvas.width, canvas.height);
        setPixels({ rgba: data, width, height });
      },
      () => undefined,
    );
    return () => {
      gone = true;
    };
  }, [sha256]);
  return pixels;
}

/** Where a place on the canvas (mm) lies in the pixels of the work rendition, which may be smaller than the picture. */
function pixelAt(pixels: Pixels, reference: Reference, at: readonly [number, number]): [number, number] {
  const [x, y] = canvasToPixel(reference, reference.placement, at);
  return [(x * pixels.width) / reference.widthPx, (y * pixels.height) / reference.heightPx];
}

const rounded = (lab: Lab): Lab => lab.map((value) => Math.round(value * 10) / 10) as Lab;

/** Mean colour of a disc of `radiusMm` at a place on the canvas; null off the picture. */
export function colourAt(pixels: Pixels, reference: Reference, at: readonly [number, number], radiusMm: number): Lab | null {
  try {
    const radius = (radiusMm / reference.placement.mmPerPx) * (pixels.width / reference.widthPx);
    return rounded(discColour(pixels.rgba, pixels.width, pixels.height, pixelAt(pixels, reference, at), radius));
  } catch {
    return null;
  }
}

/** Mean colour of what is seen of a zone, from some thousands of samples; null where none lies on the picture. */
export function colourOfZone(pixels: Pixels, reference: Reference, visible: Zone['outline']): Lab | null {
  const box = outlineBox(visible);
  if (!box) return null;
  const step = Math.sqrt((box.width * box.height) / SAMPLES);
  const found: number[] = [];
  for (let y = box.y + step / 2; y < box.y + box.height; y += step) {
    for (let x = box.x + step / 2; x < box.x + box.width; x += step) {
      if (!insideOutline(visible, x, y)) continue;
      const [px, py] = pixelAt(pixels, reference, [x, y]).map(Math.floor) as [number, number];
      if (px < 0 || py < 0 || px >= pixels.width || py >= pixels.height) continue;
      const at = (py * pixels.width + px) * 4;
      found.push(pixels.rgba[at] as number, pixels.rgba[at + 1] as number, pixels.rgba[at + 2] as number, 255);
    }
  }
  return found.length > 0 ? rounded(meanColour(found, found.length / 4, 1, () => true)) : null;
}
