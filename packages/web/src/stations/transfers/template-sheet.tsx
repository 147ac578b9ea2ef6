import { type Point, pathData } from '@viaticum/core/transfer';
import { clsx } from 'clsx';
import { useEffect, useRef } from 'react';
import { pictureUrl } from '../../api/queries.js';
import { useLesson } from '../../lesson/context.js';
import { useLaying } from '../../lesson/laid.js';
import { wholeOf } from '../../lesson/lay-args.js';
import { transferWords as w } from '../../words/transfers.js';
import { useEasel } from '../picture/easel-context.js';
import { Face } from '../picture/on-canvas.js';
import { useDrawing } from './drawing-context.js';
import css from './template-sheet.module.css';

const MARGIN = 0.07;

/** The template on its canvas: lines by weight, constructions, landmarks; a line is picked by a click, or a place is asked for. */
export function TemplateSheet({ withMarks }: { withMarks: boolean }) {
  const lesson = useLesson();
  const { widthMm, heightMm } = lesson.support;
  const { unit, setUnit, setToMm, setLayer } = useEasel();
  const { placed, constructed, picked, pick, moment, withPicture, asking } = useDrawing();
  const svg = useRef<SVGSVGElement>(null);
  const margin = Math.max(widthMm, heightMm) * MARGIN;
  useEffect(() => {
    const element = svg.current;
    if (!element) return;
    const measure = () => {
      const scale = element.getScreenCTM()?.a ?? 1;
      setUnit(1 / scale);
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, [setUnit]);
  useEffect(() => {
    setToMm((event) => {
      const matrix = svg.current?.getScreenCTM();
      if (!matrix) return [0, 0];
      const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
      return [Math.round(x * 10) / 10, Math.round(y * 10) / 10];
    });
  }, [setToMm]);
  const visible = placed.filter((one) => moment === 'all' || one.moment.stepId === moment);
  return (
    <svg
      ref={svg}
      className={css.templateSheet}
      viewBox={`${-margin} ${-margin} ${widthMm + 2 * margin} ${heightMm + 2 * margin}`}
      role="img"
      aria-label={w.sheet}
    >
      <rect width={widthMm} height={heightMm} className={css.templateFace} strokeWidth={unit} />
      {withPicture && <Beneath />}
      {constructed.map(({ construction, result }) => (
        <g key={construction.id} className={css.templateHelp}>
          {result.lines.map((curve) => (
            <path key={pathData(curve)} d={pathData(curve)} strokeWidth={unit * 1.1} />
          ))}
          {result.second.map((curve) => (
            <path
              key={pathData(curve)}
              d={pathData(curve)}
              strokeWidth={unit * 1.6}
              strokeDasharray={`${unit * 5} ${unit * 4}`}
            />
          ))}
          {result.labels.map(({ at, text }) => (
            <Label key={`${at.join()}${text}`} at={at} text={text} unit={unit} />
          ))}
        </g>
      ))}
      <g className={css.templateLines}>
        {visible.map(({ line, buriedAt }) => (
          <path
            key={line.id}
            d={pathData(line.curve)}
            className={clsx(line.id === picked && css.picked, line.kind === 'own' && css.own)}
            strokeWidth={unit * (line.id === picked ? 3.2 : 1.7)}
            strokeDasharray={buriedAt !== null && moment !== 'all' ? `${unit * 6} ${unit * 4}` : undefined}
          />
        ))}
      </g>
      <g className={css.templateGrips}>
        {visible.map(({ line }) => (
          <path
            key={line.id}
            d={pathData(line.curve)}
            strokeWidth={unit * 11}
            onPointerDown={() => pick(line.id === picked ? null : line.id)}
          />
        ))}
      </g>
      {(withMarks ? lesson.drawing.landmarks : []).map((mark) => (
        <g key={mark.id} className={css.templateLandmark} transform={`translate(${mark.at[0]} ${mark.at[1]})`}>
          <path d={`M${-unit * 6} 0H${unit * 6}M0 ${-unit * 6}V${unit * 6}`} strokeWidth={unit * 1.6} />
          <text x={unit * 8} y={-unit * 4} fontSize={unit * 12}>
            {mark.name}
          </text>
        </g>
      ))}
      <g ref={setLayer} />
      {asking && (
        <Face
          key={asking.label}
          label={asking.label}
          onTap={asking.onPoint}
          onKey={(event) => {
            if (event.key === 'Enter' && asking.onEnter) asking.onEnter();
            else if (event.key === 'Escape') asking.onEscape();
            else return false;
            return true;
          }}
        />
      )}
    </svg>
  );
}

function Label({ at: [x, y], text, unit }: { at: Point; text: string; unit: number }) {
  return (
    <text
      x={x + (x <= 0 ? -unit * 6 : 0)}
      y={y <= 0 ? -unit * 5 : y + unit * 4}
      fontSize={unit * 12}
      textAnchor={x <= 0 ? 'end' : 'middle'}
    >
      {text}
    </text>
  );
}

/** The picture as it will be painted, faint. */
function Beneath() {
  const lesson = useLesson();
  const { image } = useLaying();
  const { widthMm, heightMm } = lesson.support;
  const whole = wholeOf(lesson);
  if (image)
    return <image href={image} width={widthMm} height={heightMm} preserveAspectRatio="none" className={css.templatePicture} />;
  if (!whole) return null;
  const { mmPerPx, xMm, yMm, rotationDeg, flip } = whole.placement;
  return (
    <g clipPath="url(#template-clip)">
      <clipPath id="template-clip">
        <rect width={widthMm} height={heightMm} />
      </clipPath>
      <image
        href={pictureUrl(whole.pictureSha256, 'work')}
        width={whole.widthPx}
        height={whole.heightPx}
        preserveAspectRatio="none"
        className={css.templatePicture}
        transform={`translate(${xMm} ${yMm}) rotate(${rotationDeg}) scale(${flip ? -mmPerPx : mmPerPx} ${mmPerPx})`}
      />
    </g>
  );
}
