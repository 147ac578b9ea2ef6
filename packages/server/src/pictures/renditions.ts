import sharp from 'sharp';
import { MOST_PIXELS } from './limits.js';

/** Longest side of each rendition in pixels. `work` is what the stations measure and show. */
export const renditions = { work: 1600, thumb: 360 } as const;

export type Rendered = { widthPx: number; heightPx: number; format: 'jpeg' | 'png'; full: Buffer; work: Buffer; thumb: Buffer };

/**
 * Decodes an upload (its bytes, or the path of its file) and makes what is stored: orientation applied, converted to sRGB, every bit of metadata
 * (also the place) dropped. Throws where the picture is broken.
 */
export async function render(bytes: Uint8Array | string): Promise<Rendered> {
  const options = { failOn: 'truncated', limitInputPixels: MOST_PIXELS } as const;
  const { hasAlpha } = await sharp(bytes, options).metadata();
  const upright = await sharp(bytes, options)
    .autoOrient()
    .toColourspace('srgb')
    .png({ compressionLevel: 1 })
    .toBuffer({ resolveWithObject: true });
  const source = () => sharp(upright.data, options);
  const format = hasAlpha ? 'png' : 'jpeg';
  const full = format === 'png' ? source().png() : source().jpeg({ quality: 94, chromaSubsampling: '4:4:4' });
  const smaller = (side: number) =>
    source().flatten({ background: '#ffffff' }).resize(side, side, { fit: 'inside', withoutEnlargement: true });
  return {
    widthPx: upright.info.width,
    heightPx: upright.info.height,
    format,
    full: await full.toBuffer(),
    work: await smaller(renditions.work).webp({ quality: 90 }).toBuffer(),
    thumb: await smaller(renditions.thumb).webp({ quality: 82 }).toBuffer(),
  };
}
