import type { LineEdit, OwnLine } from '@viaticum/contract';
import {
  type Curve,
  flattened,
  fromSvg,
  type Line,
  middleOf,
  nodesIn,
  type Point,
  pathData,
  SvgError,
  straightCurve,
  throughPoints,
  toSvg,
} from '@viaticum/core/transfer';
import { Button, Slider } from 'antd';
import { clsx } from 'clsx';
import { nanoid } from 'nanoid';
import { useState } from 'react';
import { useLesson, useSession } from '../../../lesson/context.js';
import { Choice } from '../../../ui/choice.js';
import { FileKey } from '../../../ui/file-key.js';
import { saveFile } from '../../../ui/save-file.js';
import { useLatest } from '../../../ui/use-latest.js';
import { Working } from '../../../ui/working.js';
import { transferWords } from '../../../words/transfers.js';
import { useEasel } from '../../picture/easel-context.js';
import { OnCanvas } from '../../picture/on-canvas.js';
import { useDrawing, useLineName } from '../drawing-context.js';
import transfersCss from '../transfers.module.css';
import css from './lines.module.css';

const w = transferWords.lines;

/** How much is drawn, one line at a time changed, drawn or brought, and all of it saved. */
export function LinesTopic() {
  const lesson = useLesson();
  const session = useSession();
  const { shown, isDrawing, job, progress } = useDrawing();
  const { amount, edits } = lesson.drawing;
  const [live, setLive] = useState<number | null>(null);
  const total = shown.reduce((sum, line) => sum + line.lengthMm, 0);
  return (
    <>
      <p className="quiet small">{w.about}</p>
      <div className="field">
        <span>
          {w.amount} <b className="numbers">{Math.round((live ?? amount) * 100)} %</b>
        </span>
        <Slider
          ariaLabelForHandle={w.amount}
          min={0}
          max={1}
          step={0.01}
          value={live ?? amount}
          onBlur={() => setLive(null)}
          onChange={(given: number) => {
            setLive(given);
            session.do('setAmount', { amount: given });
          }}
        />
        <span className={clsx(css.rangeEnds, 'small')}>
          <span>{w.least}</span>
          <span>{w.most}</span>
        </span>
      </div>
      {isDrawing ? (
        <Working said={w.working} job={{ ...job, progress }} />
      ) : (
        <p className="numbers">{w.count(shown.length, nodesIn(shown), transferWords.metres(total))}</p>
      )}
      <Picked />
      <Pen />
      <Files />
      {edits.length > 0 && (
        <p>
          <Button type="text" size="small" onClick={() => session.do('forgetLineEdits', {})}>
            {w.back(edits.length)}
          </Button>
        </p>
      )}
    </>
  );
}

/** One line: left out, made smoother, mirrored, or tied to a step. */
function Picked() {
  const lesson = useLesson();
  const session = useSession();
  const { shown, picked, pick } = useDrawing();
  const nameOf = useLineName();
  const line = shown.find((one) => one.id === picked);
  return (
    <div className={css.pickedLine}>
      <Choice
        label={`${w.pick}. ${w.pickAbout}`}
        value={picked ?? ''}
        options={[['', w.none], ...shown.map((one) => [one.id, nameOf(one)] as const)]}
        onChange={(id) => pick(id || null)}
      />
      {line && (
        <>
          <p className={transfersCss.keys}>
            <Button
              size="small"
              onClick={() => {
                if (line.kind === 'own') session.do('removeLine', { id: line.id });
                else decide(session, line, { gone: true });
                pick(null);
              }}
            >
              {w.remove}
            </Button>
            {line.kind !== 'own' && (
              <Button size="small" onClick={() => decide(session, line, { smoothMm: Math.min(20, (line.smoothMm ?? 0.7) * 2) })}>
                {w.smoother}
              </Button>
            )}
            {line.smoothMm !== undefined && (
              <Button type="text" size="small" onClick={() => decide(session, line, {}, ['smoothMm'])}>
                {w.asDrawn}
              </Button>
            )}
            <Button size="small" onClick={() => session.do('addLines', { lines: [mirrored(line, lesson.support.widthMm)] })}>
              {w.mirror}
            </Button>
          </p>
          <Choice
            label={w.needed}
            value={line.stepId ?? ''}
            options={[['', w.byItself], ...lesson.steps.map((step, i) => [step.id, `${i + 1}. ${step.title}`] as const)]}
            onChange={(stepId) => {
              if (line.kind === 'own')
                session.do('editLine', stepId ? { id: line.id, line: { stepId } } : { id: line.id, line: {}, clear: ['stepId'] });
              else if (stepId) decide(session, line, { stepId });
              else decide(session, line, {}, ['stepId']);
            }}
          />
        </>
      )}
    </div>
  );
}

type Session = ReturnType<typeof useSession>;
function decide(session: Session, line: Line, change: Partial<LineEdit>, clear?: ('gone' | 'stepId' | 'smoothMm')[]): void {
  const [x, y] = middleOf(line);
  const at: Point = [Math.round(x * 10) / 10, Math.round(y * 10) / 10];
  session.do('decideLine', {
    edit: { kind: line.kind === 'inner' ? 'inner' : 'border', areas: line.areaIds, at, ...change },
    ...(clear && { clear }),
  });
}

const MOST_POINTS = 3001;
const rounded = (curve: Curve): [number, number][] =>
  curve.map(([x, y]) => [Math.round(x * 100) / 100, Math.round(y * 100) / 100]);
/** A copy on the other side of the canvas's upright middle. */
const mirrored = (line: Line, widthMm: number): OwnLine => ({
  id: nanoid(8),
  curve: rounded(line.curve.map(([x, y]): Point => [widthMm - x, y])).slice(0, MOST_POINTS),
});

/** Lines of one's own, point by point: smooth through them, or in straight pieces. */
function Pen() {
  const session = useSession();
  const { ask, asking } = useDrawing();
  const { unit } = useEasel();
  const [points, setPoints] = useState<Point[]>([]);
  const [isStraight, setStraight] = useState(false);
  const curve = isStraight ? straightCurve(points) : throughPoints(points);
  const end = () => {
    if (points.length > 1 && !session.do('addLines', { lines: [{ id: nanoid(8), curve: rounded(curve) }] })) return;
    setPoints([]);
    ask(null);
  };
  const latest = useLatest(end);
  const begin = (straight: boolean) => {
    setStraight(straight);
    setPoints([]);
    ask({
      label: w.penHelp,
      onPoint: (at) => setPoints((was) => [...was, at]),
      onEnter: () => latest.current(),
      onEscape: () => ask(null),
    });
  };
  const isDrawing = asking?.label === w.penHelp;
  return (
    <div>
      <p className={transfersCss.keys}>
        <Button
          type={isDrawing && !isStraight ? 'primary' : 'default'}
          size="small"
          aria-pressed={isDrawing && !isStraight}
          onClick={() => begin(false)}
        >
          {w.pen}
        </Button>
        <Button
          type={isDrawing && isStraight ? 'primary' : 'default'}
          size="small"
          aria-pressed={isDrawing && isStraight}
          onClick={() => begin(true)}
        >
          {w.polyline}
        </Button>
        {isDrawing && (
          <>
            <Button type="primary" size="small" disabled={points.length < 2} onClick={end}>
              {w.done}
            </Button>
            <Button type="text" size="small" onClick={() => ask(null)}>
              {w.cancel}
            </Button>
          </>
        )}
      </p>
      {isDrawing && (
        <OnCanvas>
          <g className={css.penLine} pointerEvents="none">
            <path d={pathData(curve)} strokeWidth={unit * 2.4} />
            {points.map(([x, y]) => (
              <circle key={`${x},${y}`} cx={x} cy={y} r={unit * 4} strokeWidth={unit * 1.5} />
            ))}
          </g>
        </OnCanvas>
      )}
    </div>
  );
}

/** SVG in and out. */
function Files() {
  const lesson = useLesson();
  const session = useSession();
  const { placed } = useDrawing();
  const [said, setSaid] = useState<{ text: string; isFault: boolean } | null>(null);
  const bring = async (file: File) => {
    try {
      const { curves, widthMm, leftOut } = fromSvg(await file.text(), lesson.support);
      const lines = curves.flatMap(inPieces).map((curve): OwnLine => ({ id: nanoid(8), curve: rounded(curve) }));
      if (session.do('addLines', { lines }))
        setSaid({ text: w.brought(lines.length, widthMm === null, leftOut), isFault: false });
      else setSaid(null);
    } catch (error) {
      if (!(error instanceof SvgError)) throw error;
      setSaid({ text: error.message, isFault: true });
    }
  };
  const save = () => {
    const moments = new Map<string, { name: string; curves: Curve[] }>();
    for (const { line, moment } of placed) {
      const layer = moments.get(moment.title) ?? { name: moment.title, curves: [] };
      layer.curves.push(line.curve);
      moments.set(moment.title, layer);
    }
    saveFile(
      `${lesson.title}.svg`,
      new Blob([toSvg(lesson.support, lesson.title, [...moments.values()])], { type: 'image/svg+xml' }),
    );
  };
  return (
    <>
      <div className={transfersCss.keys}>
        <FileKey label={w.bring} accept=".svg,image/svg+xml" onFile={(file) => void bring(file)} />
        <Button size="small" onClick={save}>
          {w.save}
        </Button>
      </div>
      {said && (
        <p className={clsx('small', said.isFault && 'signal')} role={said.isFault ? 'alert' : 'status'}>
          {said.text}
        </p>
      )}
    </>
  );
}

/** A curve of more points than a line may have, in several. */
function inPieces(curve: Curve): Curve[] {
  if (curve.length <= MOST_POINTS) return [curve];
  const out: Curve[] = [];
  for (let from = 0; from + 3 < curve.length; from += MOST_POINTS - 1) out.push(curve.slice(from, from + MOST_POINTS));
  return out.filter((piece) => flattened(piece).length > 1);
}
