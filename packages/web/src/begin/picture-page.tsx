import { cropMeasures } from '@viaticum/core/picture';
import { percentInWords } from '@viaticum/core/units';
import type { ReactNode } from 'react';
import { TurnField } from '../ui/turn-field.js';
import { beginWords as w } from '../words/begin.js';
import css from './begin.module.css';
import { CropCanvas } from './crop-canvas.js';
import type { PlacedPicture } from './placed.js';
import { held, type Moved, type Size } from './placement.js';

const MOST_TURN = 12;
const MOST_ZOOM = 3;
/** Less than this of a picture nobody misses. */
const MISSED = 0.015;

/** The picture under its canvas, to be moved, levelled and brought nearer; beside it what is decided (`children`). */
export function PicturePage({
  picture,
  size,
  moved,
  onMove,
  above,
  children,
}: {
  picture: PlacedPicture;
  size: Size;
  moved: Moved;
  onMove: (moved: Moved) => void;
  above: ReactNode;
  children: ReactNode;
}) {
  const { lostShare } = cropMeasures(picture, picture.placement, size);
  const move = (next: Partial<Moved>) => onMove(held(picture, size, { ...moved, ...next }));
  return (
    <div className={css.page}>
      <CropCanvas
        picture={picture}
        widthMm={size.widthMm}
        heightMm={size.heightMm}
        onMove={(dx, dy) => move({ dxMm: moved.dxMm + dx, dyMm: moved.dyMm + dy })}
      />
      <div className={css.side}>
        {above}
        <p className="quiet small">{lostShare < MISSED ? w.losesNothing : w.loses(percentInWords(lostShare))}</p>
        <div className={css.sliders}>
          <TurnField
            label={w.turn}
            said={`${moved.turnDeg}°`}
            min={-MOST_TURN}
            max={MOST_TURN}
            step={0.5}
            value={moved.turnDeg}
            onChange={(turnDeg) => move({ turnDeg })}
          />
          <TurnField
            label={w.zoom}
            said={`${Math.round(moved.zoom * 100)} %`}
            min={1}
            max={MOST_ZOOM}
            step={0.02}
            value={moved.zoom}
            onChange={(zoom) => move({ zoom })}
          />
        </div>
        {children}
      </div>
    </div>
  );
}
