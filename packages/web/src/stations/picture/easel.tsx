import { usePinch } from '@use-gesture/react';
import type { Lesson, Placement, Reference } from '@viaticum/contract';
import { outlinePath } from '@viaticum/core/area';
import { visibleOf } from '@viaticum/core/derived';
import { fillPlacement, pictureOutline, pictureSizes, scaledAbout, squintBlurMm } from '@viaticum/core/picture';
import { clsx } from 'clsx';
import { type KeyboardEvent, memo, type PointerEvent, type RefObject, useEffect, useRef, useState } from 'react';
import { pictureUrl } from '../../api/queries.js';
import { useSession, useView, useWorkedOut } from '../../lesson/context.js';
import { useLaying } from '../../lesson/laid.js';
import { placedTransform } from '../../lesson/placed.js';
import { CloserKeys } from '../../ui/closer-keys.js';
import { arrowStep, type Point } from '../../ui/point.js';
import { useCloser } from '../../ui/use-closer.js';
import { words } from '../../words/words.js';
import { DrawArea } from './draw-area.js';
import css from './easel.module.css';
import { useEasel } from './easel-context.js';
import { EditArea } from './edit-area.js';

const w = words.picture;
const SQUINT_METRES = 2;

/** The canvas in its proportion with the picture lying under it; what the crop loses stays dimly visible around it. */
export function Easel({ lesson, reference }: { lesson: Lesson; reference: Reference | undefined }) {
  const { widthMm, heightMm, marginMm = 0, wrapMm = 0 } = lesson.support;
  const view = useView();
  const easel = useEasel();
  const worked = useWorkedOut();
  const { image } = useLaying();
  const { mode, unit, setUnit, setToMm, setLayer, base, turned, toMm, hideOutlines } = easel;
  const svg = useRef<SVGSVGElement>(null);
  const [dragged, setDragged] = useState<Placement | null>(null);
  const margin = Math.max(widthMm, heightMm) * (mode === 'crop' ? 0.16 : 0.045) + wrapMm;
  const placement = dragged ?? reference?.placement;
  const closer = useCloser(svg, { isOn: mode !== 'crop' });
  const [acrossMm, downMm] = [widthMm + 2 * margin, heightMm + 2 * margin];
  const { scale, left, top } = closer.seen;
  useMeasure(svg, acrossMm / scale, setUnit);
  useEffect(() => {
    setToMm((event) => {
      const matrix = svg.current?.getScreenCTM();
      if (!matrix) return [0, 0];
      const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
      const mirrored = turned.mirror !== turned.upside ? widthMm - x : x;
      return [Math.round(mirrored * 10) / 10, Math.round((turned.upside ? heightMm - y : y) * 10) / 10];
    });
  }, [setToMm, turned, widthMm, heightMm]);
  const placing = usePlacing(svg, lesson, reference, dragged, setDragged);
  const selected = lesson.areas.find((area) => area.id === view.areaId);
  const isPlain = !base && ((mode === 'crop' && !reference?.extend) || !image || dragged !== null);
  // Upside down is half a turn; with the mirror each way alone.
  const transform = [
    turned.upside ? `rotate(180 ${widthMm / 2} ${heightMm / 2})` : '',
    turned.mirror ? `translate(${widthMm} 0) scale(-1 1)` : '',
  ].join(' ');
  return (
    <div className={css.easelFrame}>
      <svg
        ref={svg}
        className={clsx(css.easelView, css[mode])}
        data-testid="easel-view"
        viewBox={`${left * acrossMm - margin} ${top * downMm - margin} ${acrossMm / scale} ${downMm / scale}`}
        role="application"
        aria-label={mode === 'crop' ? w.move : words.stations.picture}
        tabIndex={mode === 'crop' ? 0 : -1}
        {...placing}
      >
        <EaselDefs unit={unit} widthMm={widthMm} heightMm={heightMm} />
        {wrapMm > 0 && (
          <rect
            x={-wrapMm}
            y={-wrapMm}
            width={widthMm + 2 * wrapMm}
            height={heightMm + 2 * wrapMm}
            className={css.easelWrap}
            strokeWidth={unit}
          />
        )}
        <rect width={widthMm} height={heightMm} fill="var(--canvas)" />
        <g transform={transform.trim() || undefined}>
          {reference && placement && mode === 'crop' && <Placed reference={reference} placement={placement} opacity={0.28} />}
          <g clipPath="url(#easel-face)">
            <g filter={view.squint && !base ? 'url(#easel-squint)' : undefined}>
              {isPlain && reference && placement && <Placed reference={reference} placement={placement} />}
              {!isPlain && (
                <image href={base ?? image ?? undefined} width={widthMm} height={heightMm} preserveAspectRatio="none" />
              )}
            </g>
          </g>
          {reference?.extend && placement && mode === 'crop' && (
            <path
              className={css.easelContinued}
              clipPath="url(#easel-face)"
              fillRule="evenodd"
              d={`M0 0H${widthMm}V${heightMm}H0Z${outlinePath(pictureOutline(reference, placement))}`}
            />
          )}
          <rect width={widthMm} height={heightMm} fill="none" stroke="var(--grey-25)" strokeWidth={unit} />
          {marginMm > 0 && (
            <path
              className={css.easelTape}
              data-testid="easel-tape"
              fillRule="evenodd"
              d={`M0 0H${widthMm}V${heightMm}H0ZM${marginMm} ${marginMm}V${heightMm - marginMm}H${widthMm - marginMm}V${marginMm}Z`}
            />
          )}
          {view.outlines && mode !== 'crop' && !hideOutlines && (
            <Outlines lesson={worked} unit={unit} areaId={view.areaId} onSelect={mode === 'edit' ? view.selectArea : null} />
          )}
          {mode === 'edit' && selected && (
            <EditArea key={selected.id} area={selected} unit={unit} toMm={toMm} units={lesson.units} />
          )}
          {mode === 'draw' && <DrawArea lesson={lesson} unit={unit} toMm={toMm} onEnd={() => easel.setMode('edit')} />}
          <g ref={setLayer} />
        </g>
      </svg>
      <div className={css.easelFoot}>
        <p className="small quiet">
          {easel.hint ||
            (mode === 'crop'
              ? w.move
              : mode === 'draw'
                ? `${w.drawing} ${w.drawingKeys}`
                : mode === 'edit' && selected
                  ? w.editing
                  : ' ')}
        </p>
        {mode !== 'crop' && (
          <span className={css.easelKeys}>
            <CloserKeys {...closer} />
          </span>
        )}
      </div>
    </div>
  );
}

/** While the crop is chosen the picture is moved by the pointer and by the arrows. */
function usePlacing(
  svg: RefObject<SVGSVGElement | null>,
  { support }: Lesson,
  reference: Reference | undefined,
  dragged: Placement | null,
  setDragged: (placement: Placement | null) => void,
) {
  const session = useSession();
  const { mode, toMm } = useEasel();
  const drag = useRef<{ from: Point; start: Placement } | null>(null);
  const onDown = (event: PointerEvent<SVGSVGElement>) => {
    if (mode !== 'crop' || !reference) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    drag.current = { from: toMm(event), start: reference.placement };
  };
  const onMove = (event: PointerEvent<SVGSVGElement>) => {
    if (!drag.current) return;
    const [x, y] = toMm(event);
    const { from, start } = drag.current;
    setDragged({ ...start, xMm: start.xMm + x - from[0], yMm: start.yMm + y - from[1] });
  };
  const onUp = () => {
    if (dragged && reference) session.do('placeReference', { id: reference.id, placement: dragged });
    drag.current = null;
    setDragged(null);
  };
  // Two fingers, or Ctrl with the wheel, make it larger about where they are.
  usePinch(
    ({ origin: [clientX, clientY], movement: [ratio], last, memo, event }) => {
      if (!reference) return;
      event.preventDefault();
      const from = memo ?? { start: reference.placement, about: toMm({ clientX, clientY }) };
      const full = fillPlacement(reference, support).mmPerPx;
      const wanted = Math.min(pictureSizes.most, Math.max(pictureSizes.least, (from.start.mmPerPx * ratio) / full));
      const placement = scaledAbout(reference, from.start, wanted * full, from.about);
      if (last) session.do('placeReference', { id: reference.id, placement });
      setDragged(last ? null : placement);
      return from;
    },
    { target: svg as RefObject<SVGSVGElement>, enabled: mode === 'crop', eventOptions: { passive: false, capture: true } },
  );
  const onKey = (event: KeyboardEvent) => {
    const by = arrowStep(event, 1, 10);
    if (mode !== 'crop' || !reference || !by) return;
    event.preventDefault();
    const { placement: now } = reference;
    session.do('placeReference', {
      id: reference.id,
      placement: { ...now, xMm: now.xMm + by[0], yMm: now.yMm + by[1] },
    });
  };
  const onCancel = () => {
    drag.current = null;
    setDragged(null);
  };
  return { onPointerDown: onDown, onPointerMove: onMove, onPointerUp: onUp, onPointerCancel: onCancel, onKeyDown: onKey };
}

/** What the drawing of the easel is made with: the squint, the hatch of what has no picture, the face of the canvas. */
function EaselDefs({ unit, widthMm, heightMm }: { unit: number; widthMm: number; heightMm: number }) {
  return (
    <defs>
      <filter id="easel-squint" x="-5%" y="-5%" width="110%" height="110%">
        <feGaussianBlur stdDeviation={squintBlurMm(SQUINT_METRES)} />
      </filter>
      <pattern id="easel-hatch" width={unit * 9} height={unit * 9} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <path d={`M0 0V${unit * 9}`} stroke="var(--grey-12)" strokeWidth={unit * 1.6} />
      </pattern>
      <clipPath id="easel-face">
        <rect width={widthMm} height={heightMm} />
      </clipPath>
    </defs>
  );
}

function Placed({ reference, placement, opacity = 1 }: { reference: Reference; placement: Placement; opacity?: number }) {
  return (
    <image
      href={pictureUrl(reference.pictureSha256, 'work')}
      width={reference.widthPx}
      height={reference.heightPx}
      opacity={opacity}
      preserveAspectRatio="none"
      transform={placedTransform(reference, placement)}
    />
  );
}

/** What is seen of every area; the selected one heavier. */
const Outlines = memo(function Outlines({
  lesson,
  unit,
  areaId,
  onSelect,
}: {
  lesson: Lesson;
  unit: number;
  areaId: string | null;
  onSelect: ((areaId: string) => void) | null;
}) {
  return (
    <g clipPath="url(#easel-face)">
      {visibleOf(lesson).map((part) => {
        if (part.outline.length === 0) return null;
        const path = outlinePath(part.outline);
        const isSelected = part.id === areaId;
        return (
          // biome-ignore lint/a11y/noStaticElementInteractions: the list of areas beside is the way by keyboard
          <g
            key={part.id}
            className={css.areaLine}
            pointerEvents={onSelect ? undefined : 'none'}
            onClick={() => onSelect?.(part.id)}
          >
            <path d={path} fill="none" stroke="var(--white)" strokeOpacity={0.85} strokeWidth={unit * (isSelected ? 4 : 2.6)} />
            <path
              d={path}
              fill={onSelect ? 'transparent' : 'none'}
              fillRule="evenodd"
              stroke="var(--grey-12)"
              strokeWidth={unit * (isSelected ? 2.2 : 1)}
            />
          </g>
        );
      })}
    </g>
  );
});

/** Keeps the millimetres of the canvas that one screen pixel covers, so that lines and handles keep their size. */
function useMeasure(svg: React.RefObject<SVGSVGElement | null>, widthMm: number, setUnit: (unit: number) => void): void {
  useEffect(() => {
    const element = svg.current;
    if (!element) return;
    const measure = () => {
      const scale = element.getScreenCTM()?.a ?? 1;
      if (scale > 0 && widthMm > 0) setUnit(1 / scale);
    };
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(element);
    return () => watch.disconnect();
  }, [svg, widthMm, setUnit]);
}
