import type { Lab } from '@viaticum/contract';
import { labToSrgb } from '@viaticum/kernels/colour';
import { mixColour, type Spectra } from '@viaticum/kernels/mixing';
import { type Rgba, rgba } from '@viaticum/kernels/raster';
import { band, card, greyStrip, type Patch, stripes, usualGreys } from './index.js';

export const PAPER: Lab = [94, 0, -1];
export const INK: Lab = [22, 0, 0];
export type Drawn = { paint: Spectra; dryUm: [number, number]; whiteParts: number };

/** The card as it looks with a paint drawn down on it, in flat light, so many pixels to a mm. */
export function drawnCard({ paint, dryUm, whiteParts }: Drawn, pxPerMm = 3): Rgba {
  const out = rgba(card.widthMm * pxPerMm, card.heightMm * pxPerMm);
  const fill = ({ x, y, width, height }: Patch, lab: Lab) => {
    const [r, g, b] = labToSrgb(lab).map((value) => Math.round(value * 255)) as [number, number, number];
    for (let row = Math.round(y * pxPerMm); row < Math.round((y + height) * pxPerMm); row++)
      for (let column = Math.round(x * pxPerMm); column < Math.round((x + width) * pxPerMm); column++)
        out.data.set([r, g, b, 255], (row * out.width + column) * 4);
  };
  fill({ x: 0, y: 0, width: card.widthMm, height: card.heightMm }, PAPER);
  fill(band, INK);
  const width = greyStrip.width / usualGreys.length;
  for (const [i, l] of usualGreys.entries()) fill({ ...greyStrip, x: greyStrip.x + i * width, width }, [l, 0, 0]);
  const film = (um: number, ground: Lab): Lab => mixColour([{ pigment: paint, parts: 1 }], { film: { dryUm: um }, ground }).lab;
  const halves = [
    { y: band.y, height: band.height, ground: INK },
    { y: band.y + band.height, height: 62, ground: PAPER },
  ];
  for (const { y, height, ground } of halves) {
    fill({ ...stripes.thin, y, height }, film(dryUm[0], ground));
    fill({ ...stripes.thick, y, height }, film(dryUm[1], ground));
  }
  const tint = mixColour([
    { pigment: paint, parts: 1 },
    { pigment: 'PW6', parts: whiteParts },
  ]).lab;
  fill({ ...stripes.tint, y: band.y + band.height, height: 62 }, tint);
  return out;
}

/** Light of another colour and a camera's own tone curve, on what a photograph holds. */
export function inOtherLight(photo: Rgba, tint: readonly [number, number, number], gamma: number): Rgba {
  const data = photo.data.map((byte, i) => (i % 4 === 3 ? byte : 255 * ((byte / 255) * (tint[i % 4] as number)) ** gamma));
  return { ...photo, data: Uint8ClampedArray.from(data) };
}
