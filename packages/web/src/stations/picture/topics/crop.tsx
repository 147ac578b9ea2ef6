import type { Lesson, Placement, Reference, Support } from '@viaticum/contract';
import { commonSizes } from '@viaticum/core/document';
import { cropMeasures, fillPlacement, pictureSizes, scaledAbout } from '@viaticum/core/picture';
import { lengthValue, MM_PER_INCH } from '@viaticum/core/units';
import { Button, Checkbox, InputNumber, Select, Slider } from 'antd';
import { clsx } from 'clsx';
import { useEffect, useState } from 'react';
import { useLesson, useSession } from '../../../lesson/context.js';
import { useLaying } from '../../../lesson/laid.js';
import { wholeOf } from '../../../lesson/lay-args.js';
import { NumberField } from '../../../ui/number-field.js';
import type { Point } from '../../../ui/point.js';
import { words } from '../../../words/words.js';
import { useEasel } from '../easel-context.js';
import { Face, OnCanvas } from '../on-canvas.js';
import pictureCss from '../picture.module.css';
import css from './crop.module.css';

const w = words.picture;
const LEAST_DPI = 100;
const percent = (share: number) => `${share < 0.1 ? Math.round(share * 1000) / 10 : Math.round(share * 100)} %`;

/** Canvas size and surface, window, and the crop with what it costs here and on other sizes. */
export function CropTopic() {
  const lesson = useLesson();
  const session = useSession();
  const { support } = lesson;
  const reference = wholeOf(lesson);
  const { setMode } = useEasel();
  const [levelling, setLevelling] = useState(false);
  const isCropping = reference !== undefined && !levelling;
  useEffect(() => {
    setMode(isCropping ? 'crop' : 'place');
    return () => setMode('look');
  }, [isCropping, setMode]);
  const place = (change: Partial<Placement>) =>
    reference && session.do('placeReference', { id: reference.id, placement: { ...reference.placement, ...change } });
  return (
    <>
      <CanvasSize lesson={lesson} reference={reference} />
      {reference && (
        <>
          <CropWords reference={reference} support={support} />
          <div className={css.pictureCrop}>
            <Zoom reference={reference} support={support} onPlace={place} />
            <div className="field">
              <span>{w.rotate}</span>
              <InputNumber
                aria-label={w.rotate}
                controls={false}
                min={-180}
                max={180}
                suffix="°"
                value={reference.placement.rotationDeg}
                onChange={(rotationDeg) => rotationDeg !== null && place({ rotationDeg })}
              />
            </div>
            <Button type={levelling ? 'primary' : 'default'} aria-pressed={levelling} onClick={() => setLevelling(!levelling)}>
              {w.level}
            </Button>
            <Checkbox checked={reference.placement.flip} onChange={(event) => place({ flip: event.target.checked })}>
              {w.flip}
            </Checkbox>
            <Checkbox
              className={css.wide}
              checked={reference.extend ?? false}
              onChange={(event) => session.do('setExtended', { id: reference.id, extend: event.target.checked })}
            >
              {w.extend}
            </Checkbox>
            <Button onClick={() => place(fillPlacement(reference, support))}>{w.fit}</Button>
          </div>
          {levelling && (
            <Level
              onLine={(from, to) => {
                let turn = (Math.atan2(to[1] - from[1], to[0] - from[0]) * 180) / Math.PI;
                if (turn > 90) turn -= 180;
                if (turn < -90) turn += 180;
                // A line nearer to upright is made upright.
                if (Math.abs(turn) > 45) turn -= Math.sign(turn) * 90;
                const next = reference.placement.rotationDeg - turn;
                place({ rotationDeg: Math.round(Math.max(-180, Math.min(180, next)) * 10) / 10 });
                setLevelling(false);
              }}
            />
          )}
          <OtherSizes reference={reference} isLandscape={support.widthMm > support.heightMm} />
        </>
      )}
    </>
  );
}

function CanvasSize({ lesson, reference }: { lesson: Lesson; reference: Reference | undefined }) {
  const session = useSession();
  const { support } = lesson;
  const isCommon = (one: { widthMm: number; heightMm: number }) =>
    (Math.abs(one.widthMm - support.widthMm) < 0.5 && Math.abs(one.heightMm - support.heightMm) < 0.5) ||
    (Math.abs(one.heightMm - support.widthMm) < 0.5 && Math.abs(one.widthMm - support.heightMm) < 0.5);
  const common = commonSizes.find(isCommon);
  const isLandscape = support.widthMm > support.heightMm;
  const resize = (size: Partial<Support>, units: Lesson['units'] = lesson.units) => {
    if (units !== lesson.units) session.do('setUnits', { units });
    if (!session.do('setSupport', { support: size })) return;
    if (reference)
      session.do('placeReference', { id: reference.id, placement: fillPlacement(reference, { ...support, ...size }) });
  };
  return (
    <div className={pictureCss.pictureCanvas}>
      <div className="field">
        <span>{w.canvas}</span>
        <Select
          aria-label={w.canvas}
          value={common?.name ?? ''}
          onChange={(given) => {
            const size = commonSizes.find((one) => one.name === given);
            if (size)
              resize(
                isLandscape
                  ? { widthMm: size.heightMm, heightMm: size.widthMm }
                  : { widthMm: size.widthMm, heightMm: size.heightMm },
                size.unit,
              );
          }}
          options={[
            ...(!common ? [{ value: '', label: words.shelf.own }] : []),
            ...commonSizes.map((one) => ({ value: one.name, label: one.name })),
          ]}
        />
      </div>
      <div className="field">
        <span>{words.shelf.unit}</span>
        <Select
          aria-label={words.shelf.unit}
          value={lesson.units}
          onChange={(given) => session.do('setUnits', { units: given as Lesson['units'] })}
          options={[
            { value: 'in', label: 'in' },
            { value: 'cm', label: 'cm' },
          ]}
        />
      </div>
      <Length label={w.widthIn(lesson.units)} mm={support.widthMm} units={lesson.units} onMm={(widthMm) => resize({ widthMm })} />
      <Length
        label={w.heightIn(lesson.units)}
        mm={support.heightMm}
        units={lesson.units}
        onMm={(heightMm) => resize({ heightMm })}
      />
      <Length
        label={w.tape(lesson.units)}
        mm={support.marginMm ?? 0}
        units={lesson.units}
        onMm={(marginMm) => session.do('setSupport', { support: { marginMm } })}
      />
      <Length
        label={w.wrap(lesson.units)}
        mm={support.wrapMm ?? 0}
        units={lesson.units}
        onMm={(wrapMm) => session.do('setSupport', { support: { wrapMm } })}
      />
      <div className={clsx('field', css.wide)}>
        <span>{w.surface}</span>
        <Select
          aria-label={w.surface}
          value={support.absorbency}
          onChange={(given) => session.do('setSupport', { support: { absorbency: given as Support['absorbency'] } })}
          options={Object.entries(w.absorbency).map(([value, label]) => ({
            value: value,
            label: `${label} ${w.supportKinds[support.kind]}`,
          }))}
        />
      </div>
    </div>
  );
}

/** What the crop costs; what lies under tape does not count as painted, what wraps round the sides must be there. */
function CropWords({ reference, support }: { reference: Reference; support: Support }) {
  const { continuedShare } = useLaying();
  const { marginMm = 0, wrapMm = 0 } = support;
  const window = marginMm - wrapMm;
  const { lostShare, bareShare, dpi } = cropMeasures(
    reference,
    { ...reference.placement, xMm: reference.placement.xMm - window, yMm: reference.placement.yMm - window },
    { widthMm: support.widthMm - 2 * window, heightMm: support.heightMm - 2 * window },
  );
  return (
    <p>
      {lostShare > 0 ? w.loses(percent(lostShare)) : w.losesNothing}{' '}
      {bareShare > 0.001 &&
        (reference.extend ? (
          <>{w.continued(percent(Math.max(bareShare, continuedShare)))} </>
        ) : (
          <span className="signal">{w.uncovered(percent(bareShare))} </span>
        ))}
      {dpi < LEAST_DPI ? (
        <span className="signal">{w.coarse(Math.round(dpi))}</span>
      ) : (
        <span className="quiet small">{w.dpi(Math.round(dpi))}</span>
      )}
    </p>
  );
}

/** What every common size would cut off this picture when it just fills it. */
function OtherSizes({ reference, isLandscape }: { reference: Reference; isLandscape: boolean }) {
  const lesson = useLesson();
  return (
    <section className={css.otherSizes}>
      <h2>{w.otherSizes}</h2>
      <ul>
        {commonSizes.map((one) => {
          const size = isLandscape ? { widthMm: one.heightMm, heightMm: one.widthMm } : one;
          const { lostShare } = cropMeasures(reference, fillPlacement(reference, size), size);
          const here =
            Math.abs(size.widthMm - lesson.support.widthMm) < 0.5 && Math.abs(size.heightMm - lesson.support.heightMm) < 0.5;
          const tall = 30;
          const wide = (tall * size.widthMm) / size.heightMm;
          const [pw, ph] = [reference.widthPx, reference.heightPx];
          const scale = Math.max(size.widthMm / pw, size.heightMm / ph) * (tall / size.heightMm);
          return (
            <li key={one.name} className={clsx(here && css.here)}>
              <svg width={58} height={42} viewBox="-29 -21 58 42" aria-hidden="true">
                <rect
                  x={(-pw * scale) / 2}
                  y={(-ph * scale) / 2}
                  width={pw * scale}
                  height={ph * scale}
                  className={css.sizeLost}
                />
                <rect x={-wide / 2} y={-tall / 2} width={wide} height={tall} className={css.sizeKept} />
              </svg>
              <span>{one.name}</span>
              <span className="numbers quiet">{lostShare < 0.001 ? w.cutsNothing : percent(lostShare)}</span>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** A line drawn along what shall be level (or upright). */
function Level({ onLine }: { onLine: (from: Point, to: Point) => void }) {
  const { unit } = useEasel();
  const [line, setLine] = useState<Point[]>([]);
  return (
    <>
      <p className="quiet">{w.levelHint}</p>
      <OnCanvas>
        {line.length > 0 && (
          <path
            d={`M${line[0]?.join(' ')}L${line.at(-1)?.join(' ')}`}
            stroke="var(--grey-12)"
            strokeWidth={unit * 2.5}
            pointerEvents="none"
          />
        )}
        <Face
          label={w.levelHint}
          onTap={(at) => (line[0] ? onLine(line[0], at) : setLine([at]))}
          onStroke={(points, done) => {
            const [from, to] = [points[0] as Point, points.at(-1) as Point];
            if (done) onLine(from, to);
            else setLine([from, to]);
          }}
        />
      </OnCanvas>
    </>
  );
}

/** The picture's size as a factor of just filling the canvas, about the canvas's middle. */
function Zoom({
  reference,
  support,
  onPlace,
}: {
  reference: Reference;
  support: Support;
  onPlace: (placement: Partial<Placement>) => void;
}) {
  const full = fillPlacement(reference, support).mmPerPx;
  const { placement } = reference;
  return (
    <div className={clsx('field', css.wide)}>
      <span>{w.zoom}</span>
      <Slider
        ariaLabelForHandle={w.zoom}
        min={pictureSizes.least}
        max={pictureSizes.most}
        step={0.01}
        value={placement.mmPerPx / full}
        onChange={(given: number) =>
          onPlace(scaledAbout(reference, placement, full * given, [support.widthMm / 2, support.heightMm / 2]))
        }
      />
    </div>
  );
}

function Length({ label, mm, units, onMm }: { label: string; mm: number; units: 'in' | 'cm'; onMm: (mm: number) => void }) {
  return (
    <div className="field">
      <span>{label}</span>
      <NumberField
        label={label}
        unit={units}
        value={lengthValue(mm, units)}
        onValue={(next) => {
          onMm(next * (units === 'in' ? MM_PER_INCH : 10));
          return true;
        }}
      />
    </div>
  );
}
