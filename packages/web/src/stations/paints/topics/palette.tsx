import type { Tube } from '@viaticum/contract';
import { shortTubeName, tableTubeId, tubeRgb } from '@viaticum/core/mix';
import { cssRgb } from '@viaticum/kernels/colour';
import { pigmentTable } from '@viaticum/kernels/pigment';
import { Button, Select } from 'antd';
import { clsx } from 'clsx';
import { useMemo, useState } from 'react';
import { CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { useLesson, useSession } from '../../../lesson/context.js';
import { Choice } from '../../../ui/choice.js';
import { words } from '../../../words/words.js';
import type { PaletteFrom } from '../../../workers/paint-jobs.js';
import { paintSide, useBench, usePaintJob } from '../paint-context.js';
import paintsCss from '../paints.module.css';
import css from './palette.module.css';

const w = words.paints;
type Start = keyof typeof w.starts;
/** What a school's palette begins with; the search adds what is still needed. */
const starts: Record<Start, string[]> = {
  free: [],
  primaries: ['PW6', 'PY74', 'PR122', 'PB15:3'],
  earths: ['PW6', 'PY42', 'PBr7-BU', 'PB29'],
  rich: ['PW6', 'PB29', 'PB15:3', 'PG7', 'PY74', 'PY42', 'PR254', 'PR122', 'PBr7-BS', 'PBr7-BU'],
};

/** The fewest tubes that reach every target: what each is for, what fewer would give up, and what a student pays. */
export function PaletteTopic() {
  const lesson = useLesson();
  const session = useSession();
  const { worker } = useBench();
  const [from, setFrom] = useState<PaletteFrom>('lesson');
  const [tolerance, setTolerance] = useState(3);
  const [start, setStart] = useState<Start>('free');
  const [isTaking, setTaking] = useState(false);
  const targets = lesson.mixes.filter((mix) => mix.targetLab);
  const asked = useMemo(() => {
    if (targets.length === 0 || lesson.tubes.length === 0) return null;
    const idOf = (pigment: string) => lesson.tubes.find((tube) => tube.pigment === pigment)?.id ?? tableTubeId(pigment);
    const demanded = (palette: Tube['palette']) => lesson.tubes.filter((tube) => tube.palette === palette).map((tube) => tube.id);
    return {
      lesson: paintSide(lesson),
      tolerance,
      from,
      must: [...new Set([...demanded('must'), ...starts[start].map(idOf)])],
      mustNot: demanded('must-not'),
    };
  }, [lesson, targets.length, tolerance, from, start]);
  const { answer, isPresent, progress, fault } = usePaintJob('palette', asked, 300);
  const tubes = useMemo(() => (answer?.tubes ?? []).map((id) => tubeOf(lesson.tubes, id)), [answer, lesson.tubes]);
  // Asked of the worker itself, so that it comes to its end when another topic is turned to meanwhile.
  const take = () => {
    setTaking(true);
    worker?.ask('recipes', { lesson: paintSide(lesson), tubes }).answer.then(
      (found) => {
        setTaking(false);
        session.do('takePalette', { tubes, recipes: found.map(({ id, recipe }) => ({ id, recipe })) });
      },
      () => setTaking(false),
    );
  };
  if (!asked) return <p className={clsx(paintsCss.paintsPage, 'quiet')}>{w.noTargets}</p>;
  const nameOf = (mixId: string | undefined) => lesson.mixes.find((mix) => mix.id === mixId)?.name ?? '';
  const priced = tubes.filter((tube) => tube.priceMinor !== undefined);
  const cost = priced.reduce((sum, tube) => sum + (tube.priceMinor as number), 0);
  return (
    <div className={clsx(paintsCss.paintsPage, css.palettePage)}>
      <div>
        <p className="quiet">{w.paletteAbout}</p>
        <div className={paintsCss.familyQuestions}>
          <Choice
            label={w.among}
            value={from}
            options={[
              ['lesson', w.amongLesson],
              ['table', w.amongTable],
            ]}
            onChange={(next) => setFrom(next as PaletteFrom)}
          />
          <Choice
            label={w.tolerance}
            value={tolerance}
            options={Object.entries(w.tolerances)}
            onChange={(next) => setTolerance(Number(next))}
          />
          <Choice
            label={w.startFrom}
            value={start}
            options={(Object.keys(starts) as Start[]).map((one) => [one, w.starts[one]] as const)}
            onChange={(next) => {
              setStart(next as Start);
              if (next !== 'free') setFrom('table');
            }}
          />
        </div>
        {fault && (
          <p className="signal" role="alert">
            {fault}
          </p>
        )}
        {progress !== null && (
          <p role="status" className="small quiet">
            {w.searching(progress)}
          </p>
        )}
        {answer && (
          <>
            <h2>{w.answer(answer.tubes.length)}</h2>
            <p className="small quiet">
              {answer.proven && w.proven} {w.others(answer.others.length)} {w.worstMean(answer.worst, answer.mean)}
            </p>
            <ul className={css.paletteTubes} data-testid="palette-tubes">
              {answer.usefulness.map(({ tube: id, target, without }) => {
                const tube = tubeOf(lesson.tubes, id);
                return (
                  <li key={id}>
                    <i style={{ background: cssRgb(tubeRgb(tube, lesson.finish)) }} />
                    <b>{shortTubeName(tube)}</b>
                    <span className="small">{w.isFor(nameOf(answer.targets[target]), without)}</span>
                  </li>
                );
              })}
            </ul>
            {answer.unreachable.length > 0 && (
              <p className="small">{w.unreachable(answer.unreachable.map((at) => nameOf(answer.targets[at])))}</p>
            )}
            <p className="small quiet">
              {priced.length === tubes.length && tubes.length > 0
                ? w.cost((cost / 100).toFixed(2))
                : w.costUnknown(tubes.length - priced.length)}
            </p>
            <Button disabled={isTaking || !isPresent || answer.tubes.length === 0} onClick={take}>
              {w.takePalette}
            </Button>
          </>
        )}
        <MustList />
      </div>
      {answer && answer.tradeOff.length > 1 && <Curve rows={answer.tradeOff} tolerance={tolerance} />}
    </div>
  );
}

function tubeOf(tubes: readonly Tube[], id: string): Tube {
  const known = tubes.find((tube) => tube.id === id);
  if (known) return known;
  const pigment = [...pigmentTable.keys()].find((one) => tableTubeId(one) === id) ?? 'PW6';
  return { id, pigment, grade: 'artist' };
}

function Curve({ rows, tolerance }: { rows: { tubes: string[]; worst: number; mean: number }[]; tolerance: number }) {
  const data = rows.map(({ tubes, worst, mean }) => ({
    n: tubes.length,
    worst: Math.round(worst * 10) / 10,
    mean: Math.round(mean * 10) / 10,
  }));
  return (
    <figure className={css.paletteCurve}>
      <figcaption>{w.curve}</figcaption>
      <ResponsiveContainer width="100%" height={280}>
        <LineChart data={data} margin={{ top: 8, right: 16, bottom: 18, left: 0 }}>
          <CartesianGrid stroke="var(--grey-82)" vertical={false} />
          <XAxis dataKey="n" stroke="var(--grey-37)" label={{ value: w.curveAxis, position: 'insideBottom', offset: -10 }} />
          <YAxis
            stroke="var(--grey-37)"
            width={44}
            allowDecimals={false}
            domain={[0, (most: number) => Math.max(Math.ceil(most), Math.ceil(tolerance))]}
            label={{ value: w.curveY, angle: -90, position: 'insideLeft', offset: 14 }}
          />
          <Tooltip
            content={({ payload }) => {
              const row = payload?.[0]?.payload as (typeof data)[number] | undefined;
              return row ? <p className={clsx(css.chartTip, 'small')}>{w.curveRow(row.n, row.worst, row.mean)}</p> : null;
            }}
          />
          <ReferenceLine y={tolerance} stroke="var(--grey-12)" strokeDasharray="2 4" />
          <Line dataKey="worst" name={w.curveWorst} stroke="var(--grey-12)" strokeWidth={2} isAnimationActive={false} />
          <Line
            dataKey="mean"
            name={w.curveMean}
            stroke="var(--grey-12)"
            strokeDasharray="6 4"
            dot={false}
            isAnimationActive={false}
          />
        </LineChart>
      </ResponsiveContainer>
      <p className="small quiet">
        <span className={css.lineKey} /> {w.curveWorst} <span className={clsx(css.lineKey, css.dashed)} /> {w.curveMean}
      </p>
      <ul className="visually-hidden">
        {data.map((row) => (
          <li key={row.n}>{w.curveRow(row.n, row.worst, row.mean)}</li>
        ))}
      </ul>
    </figure>
  );
}

/** What must and what must not be on the palette, tube by tube. */
function MustList() {
  const lesson = useLesson();
  const session = useSession();
  return (
    <ul className={css.mustList}>
      {lesson.tubes.map((tube) => (
        <li key={tube.id} className="small">
          <i style={{ background: cssRgb(tubeRgb(tube, lesson.finish)) }} />
          {shortTubeName(tube)}
          <Select
            aria-label={w.mustOf(shortTubeName(tube))}
            value={tube.palette ?? 'may'}
            onChange={(given) => {
              const palette = given;
              if (palette === 'may') session.do('setTube', { id: tube.id, tube: {}, clear: ['palette'] });
              else session.do('setTube', { id: tube.id, tube: { palette: palette as 'must' | 'must-not' } });
            }}
            options={[
              { value: 'may', label: w.may },
              { value: 'must', label: w.must },
              { value: 'must-not', label: w.mustNot },
            ]}
          />
        </li>
      ))}
    </ul>
  );
}
