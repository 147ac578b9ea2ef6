import type { Area } from '@viaticum/contract';
import { type EdgeMeasure, type FlowStroke, LEAST_COHERENCE, meanDirection } from '@viaticum/core/picture';
import { Button, Select, Slider } from 'antd';
import { useMemo, useState } from 'react';
import { useLesson, useSession, useView } from '../../../lesson/context.js';
import { seenOutlines, useJob } from '../../../lesson/laid.js';
import { Working } from '../../../ui/working.js';
import { words } from '../../../words/words.js';
import { useEasel } from '../easel-context.js';
import { OnCanvas } from '../on-canvas.js';
import css from './edges.module.css';

const w = words.picture.edges;
const kinds = ['hard', 'soft', 'lost'] as const;

/** How hard each border is, and the way strokes run in each area: measured, and set by hand where the eye knows better. */
export function EdgesTopic() {
  const lesson = useLesson();
  const view = useView();
  const [showFlow, setShowFlow] = useState(true);
  const areas = useMemo(() => seenOutlines(lesson), [lesson]);
  const edges = useJob('edges', lesson.areas.length > 1 ? { areas } : null, 250);
  const flow = useJob('flow', lesson.areas.length > 0 ? { areas } : null, 300);
  const selected = lesson.areas.findIndex((area) => area.id === view.areaId);
  const rows = (edges.answer ?? [])
    .filter((edge) => selected < 0 || edge.one === selected || edge.other === selected)
    .sort((a, b) => b.lengthMm - a.lengthMm);
  const strokes = (flow.answer ?? []).map((stroke) => {
    const byHand = lesson.areas[stroke.area]?.directionDeg;
    return byHand === undefined ? stroke : { ...stroke, deg: byHand, coherence: 1 };
  });
  const own = selected >= 0 ? meanDirection((flow.answer ?? []).filter((stroke) => stroke.area === selected)) : null;
  const area = lesson.areas[selected];
  return (
    <>
      <p className="quiet small">{area ? w.ofArea(area.name) : w.about}</p>
      {area && (
        <Button type="text" size="small" onClick={() => view.selectArea(null)}>
          {w.all}
        </Button>
      )}
      {(edges.fault ?? flow.fault) && <p className="signal">{edges.fault ?? flow.fault}</p>}
      {lesson.areas.length > 1 && !edges.answer && !edges.fault && <Working said={words.picture.measuring} job={edges} />}
      <EdgeList edges={rows} />
      <Flow area={area} own={own} showFlow={showFlow} onShow={setShowFlow} />
      {showFlow && <FlowOnCanvas strokes={strokes.filter((stroke) => selected < 0 || stroke.area === selected)} />}
    </>
  );
}

/** The borders, longest first, each with what was measured; the eye may know better. */
function EdgeList({ edges }: { edges: readonly EdgeMeasure[] }) {
  const lesson = useLesson();
  const session = useSession();
  const chosen = (i: number, j: number) =>
    lesson.areas[i]?.edges?.find((edge) => edge.with === lesson.areas[j]?.id)?.kind ??
    lesson.areas[j]?.edges?.find((edge) => edge.with === lesson.areas[i]?.id)?.kind;
  return (
    <ul className={css.edgeList}>
      {edges.map((edge) => {
        const [one, other] = [lesson.areas[edge.one], lesson.areas[edge.other]];
        if (!one || !other) return null;
        const byHand = chosen(edge.one, edge.other);
        return (
          <li key={`${one.id}-${other.id}`}>
            <span>
              {one.name} · {other.name}
              <span className="quiet small numbers">
                {' '}
                {edge.contrast < 0.5 ? w.none : edge.widthMm < 1.3 ? w.sharp : w.width(edge.widthMm.toFixed(1))},{' '}
                {w.kinds[edge.kind]}
              </span>
            </span>
            <Select
              aria-label={w.kindOf(one.name, other.name)}
              value={byHand ?? ''}
              onChange={(given) =>
                session.do('setEdge', {
                  id: one.id,
                  with: other.id,
                  kind: (given || null) as (typeof kinds)[number] | null,
                })
              }
              options={[{ value: '', label: w.measured }, ...kinds.map((kind) => ({ value: kind, label: w.kinds[kind] }))]}
            />
          </li>
        );
      })}
    </ul>
  );
}

/** The way strokes run in the marked area. */
function Flow({
  area,
  own,
  showFlow,
  onShow,
}: {
  area: Area | undefined;
  own: ReturnType<typeof meanDirection>;
  showFlow: boolean;
  onShow: (show: boolean) => void;
}) {
  const session = useSession();
  return (
    <section className={css.flow}>
      <h2>{w.strokes}</h2>
      <Button type={showFlow ? 'primary' : 'default'} aria-pressed={showFlow} onClick={() => onShow(!showFlow)}>
        {w.showFlow}
      </Button>
      {!area && <p className="quiet small">{w.chooseArea}</p>}
      {area && (
        <>
          <p>
            {area.directionDeg !== undefined
              ? w.byHand(Math.round(-area.directionDeg))
              : own
                ? w.runs(Math.round(-own.deg), Math.round(own.coherence * 100))
                : w.unknown}
          </p>
          <div className="field">
            <span>{w.direction}</span>
            <Slider
              ariaLabelForHandle={w.direction}
              min={-90}
              max={90}
              step={5}
              value={-Math.round(area.directionDeg ?? own?.deg ?? 0)}
              onChange={(given: number) => session.do('setDirection', { id: area.id, deg: -given })}
            />
          </div>
          {area.directionDeg !== undefined && (
            <Button onClick={() => session.do('setDirection', { id: area.id, deg: null })}>{w.asMeasured}</Button>
          )}
        </>
      )}
    </section>
  );
}

/** The flow of the picture as short strokes, longer where it is plainer. */
function FlowOnCanvas({ strokes }: { strokes: readonly FlowStroke[] }) {
  const { unit } = useEasel();
  return (
    <OnCanvas>
      <g pointerEvents="none" strokeLinecap="round" clipPath="url(#easel-face)">
        {strokes
          .filter((stroke) => stroke.coherence >= LEAST_COHERENCE)
          .map(({ xMm, yMm, deg, coherence }) => {
            const turn = (deg * Math.PI) / 180;
            const half = unit * (4 + 7 * coherence);
            const [dx, dy] = [Math.cos(turn) * half, Math.sin(turn) * half];
            const d = `M${xMm - dx} ${yMm - dy}L${xMm + dx} ${yMm + dy}`;
            return (
              <g key={`${xMm},${yMm}`}>
                <path d={d} stroke="var(--white)" strokeOpacity={0.75} strokeWidth={unit * 3.2} />
                <path d={d} stroke="var(--grey-12)" strokeWidth={unit * 1.4} />
              </g>
            );
          })}
      </g>
    </OnCanvas>
  );
}
