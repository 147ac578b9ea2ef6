import type { Placement } from '@viaticum/contract';
import type { ReactNode, RefObject } from 'react';
import { placedTransform } from '../lesson/placed.js';
import css from './placed.module.css';

/** A picture by its address, with its size in px and where it lies under the canvas. */
export type PlacedPicture = { url: string; widthPx: number; heightPx: number; placement: Placement };

/** The face of a canvas with the picture under it; what the crop cuts off is shown pale round it where there is room (`aroundMm`). */
export function PlacedOnCanvas({
  picture,
  widthMm,
  heightMm,
  aroundMm = 0,
  svg,
  children,
}: {
  picture: PlacedPicture;
  widthMm: number;
  heightMm: number;
  aroundMm?: number;
  svg?: RefObject<SVGSVGElement | null>;
  children?: ReactNode;
}) {
  const image = (opacity: number) => (
    <image
      href={picture.url}
      width={picture.widthPx}
      height={picture.heightPx}
      opacity={opacity}
      preserveAspectRatio="none"
      transform={placedTransform(picture, picture.placement)}
    />
  );
  return (
    <svg
      ref={svg}
      className={css.placed}
      viewBox={`${-aroundMm} ${-aroundMm} ${widthMm + 2 * aroundMm} ${heightMm + 2 * aroundMm}`}
    >
      <title>{''}</title>
      <defs>
        <clipPath id="begin-face">
          <rect width={widthMm} height={heightMm} />
        </clipPath>
      </defs>
      {aroundMm > 0 && image(0.25)}
      <rect width={widthMm} height={heightMm} fill="var(--white)" />
      <g clipPath="url(#begin-face)">{image(1)}</g>
      <rect className={css.rim} width={widthMm} height={heightMm} />
      {children}
    </svg>
  );
}
