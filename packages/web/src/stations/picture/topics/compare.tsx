import type { Lab } from '@viaticum/contract';
import { insideOutline } from '@viaticum/core/area';
import { visibleOf } from '@viaticum/core/derived';
import { colourInWords, compareInWords } from '@viaticum/core/picture';
import { cssRgb, deltaE00, labToSrgb, valueStep } from '@viaticum/kernels/colour';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { useState } from 'react';
import { useLesson } from '../../../lesson/context.js';
import { useJob } from '../../../lesson/laid.js';
import type { Point } from '../../../ui/point.js';
import { TurnField } from '../../../ui/turn-field.js';
import { words } from '../../../words/words.js';
import { useEasel, useHiddenOutlines, useHint } from '../easel-context.js';
import { Face, OnCanvas } from '../on-canvas.js';
import pictureCss from '../picture.module.css';
import css from './compare.module.css';

const w = words.picture.compare;
const MOST = 6;
const rgb = (lab: Lab) => cssRgb(labToSrgb(lab));

/** Two or more spots on the picture: how their colours stand to each other, in words and numbers, without what surrounds them. */
export function CompareTopic() {
  const lesson = useLesson();
  const { unit } = useEasel();
  const [places, setPlaces] = useState<Point[]>([]);
  const [radiusMm, setRadiusMm] = useState(4);
  const [bare, setBare] = useState(false);
  const { answer } = useJob('spots', places.length > 0 ? { places, radiusMm } : null);
  useHint(w.hint);
  useHiddenOutlines();
  const parts = visibleOf(lesson);
  const names = places.map(([x, y], i) => {
    const part = parts.find((one) => insideOutline(one.outline, x, y));
    return part ? (lesson.areas.find((area) => area.id === part.id)?.name ?? w.spot(i + 1)) : w.spot(i + 1);
  });
  const labs = answer && answer.length === places.length ? answer : places.map(() => null);
  const [first] = labs;
  return (
    <>
      <p className="quiet">{places.length === 0 ? w.about : null}</p>
      {places.length > 0 && (
        <div className={clsx(css.spots, bare && css.bare)}>
          {labs.map((lab, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: spots are told apart by their order alone
            <div key={i} className={css.spot} data-testid="spot">
              <span className={css.spotColour} style={{ background: lab ? rgb(lab) : 'transparent' }} />
              {!bare && (
                <span>
                  <b>
                    {i + 1} {names[i]}
                  </b>
                  {lab && (
                    <span className="quiet small">
                      {' '}
                      {colourInWords(lab)}, {words.paints.value(valueStep(lab[0]))}
                    </span>
                  )}
                  {lab && first && i > 0 && (
                    <span className={css.spotWords}>
                      {w.than(compareInWords(lab, first), names[0] as string)}{' '}
                      <span className="quiet small">{words.paints.deltaE(deltaE00(lab, first))}</span>
                    </span>
                  )}
                </span>
              )}
            </div>
          ))}
        </div>
      )}
      <TurnField label={w.disc} said={`${radiusMm * 2} mm`} min={1} max={20} value={radiusMm} onChange={setRadiusMm} />
      <p className={pictureCss.pictureToggles}>
        <Button
          type={bare ? 'primary' : 'default'}
          aria-pressed={bare}
          disabled={places.length === 0}
          onClick={() => setBare(!bare)}
        >
          {w.bare}
        </Button>
        <Button disabled={places.length === 0} onClick={() => setPlaces([])}>
          {w.clear}
        </Button>
      </p>
      <p className="quiet small">{w.why}</p>
      <OnCanvas>
        {bare && (
          <rect
            width={lesson.support.widthMm}
            height={lesson.support.heightMm}
            className={css.easelBare}
            data-testid="easel-bare"
          />
        )}
        {places.map(([x, y], i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: spots are told apart by their order alone
          <g key={i} pointerEvents="none">
            {bare && labs[i] && <circle cx={x} cy={y} r={Math.max(radiusMm * 3, unit * 26)} fill={rgb(labs[i] as Lab)} />}
            <circle cx={x} cy={y} r={radiusMm} fill="none" stroke="var(--white)" strokeWidth={unit * 3} />
            <circle cx={x} cy={y} r={radiusMm} fill="none" stroke="var(--grey-12)" strokeWidth={unit * 1.4} />
            <text
              x={x + radiusMm + unit * 5}
              y={y + unit * 5}
              fontSize={unit * 15}
              className={css.easelLabel}
              strokeWidth={unit * 4}
            >
              {i + 1}
            </text>
          </g>
        ))}
        <Face label={w.hint} onTap={(at) => setPlaces([...places.slice(-MOST + 1), at])} />
      </OnCanvas>
    </>
  );
}
