import type { Construction, ConstructionKind, Lesson } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { betweenLandmarks, eyeOf } from '@viaticum/core/transfer';
import { lengthNumber } from '@viaticum/core/units';
import { Button, Checkbox, Select } from 'antd';
import { clsx } from 'clsx';
import { nanoid } from 'nanoid';
import { useState } from 'react';
import { useLesson, useSession } from '../../../lesson/context.js';
import { CommitInput } from '../../../ui/commit-input.js';
import { Fold } from '../../../ui/fold.js';
import { NumberField } from '../../../ui/number-field.js';
import { transferWords } from '../../../words/transfers.js';
import { useDrawing } from '../drawing-context.js';
import { MotifFields } from '../motif-fields.js';
import transfersCss from '../transfers.module.css';
import css from './help.module.css';

const w = transferWords.help;
type Point = [number, number];
type Of<K extends ConstructionKind> = Extract<Construction, { kind: K }>;

/** A first version of every construction, fitting this canvas. */
function fresh(kind: ConstructionKind, lesson: Lesson): Construction {
  const { widthMm, heightMm } = lesson.support;
  const id = nanoid(8);
  const at = (x: number, y: number): Point => [Math.round(widthMm * x), Math.round(heightMm * y)];
  const areaIds = lesson.subjectAreaId ? [lesson.subjectAreaId] : lesson.areas.slice(-1).map((area) => area.id);
  const { horizonMm, xMm } = eyeOf(lesson);
  const horizon: Point = [Math.round(xMm), Math.round(horizonMm)];
  switch (kind) {
    case 'grid':
      return { id, kind, columns: 4, rows: Math.max(1, Math.round((4 * heightMm) / widthMm)), ratio: 2 };
    case 'diagonals':
    case 'thirds':
      return { id, kind };
    case 'envelope':
      return { id, kind, areaIds, shadowIds: [], sides: 6, thinMm: 8 };
    case 'radial':
      return {
        id,
        kind,
        at: at(0.5, 0.5),
        radiusMm: Math.round(Math.min(widthMm, heightMm) * 0.4),
        parts: 6,
        startDeg: -90,
        rings: [0.5],
      };
    case 'motif': {
      const radius = Math.round(Math.min(widthMm, heightMm) * 0.4);
      return {
        ...{ id, kind, at: at(0.5, 0.5), parts: 8, startDeg: -90 },
        rings: [
          { unit: 'drop', fromMm: Math.round(radius * 0.15), toMm: Math.round(radius * 0.5), widthMm: Math.round(radius * 0.2) },
          { unit: 'leaf', fromMm: Math.round(radius * 0.5), toMm: radius, widthMm: Math.round(radius * 0.25), between: true },
        ],
      };
    }
    case 'ellipse':
      return { id, kind, at: at(0.5, 0.75), halfWidthMm: Math.round(widthMm * 0.12) };
    case 'spacing':
      return {
        id,
        kind,
        first: at(0.1, 0.95),
        second: [
          Math.round(widthMm * 0.1 + (horizon[0] - widthMm * 0.1) * 0.3),
          Math.round(heightMm * 0.95 + (horizon[1] - heightMm * 0.95) * 0.3),
        ],
        vanishing: horizon,
        count: 6,
        heightMm: Math.round(heightMm * 0.3),
      };
    case 'vanishing':
      return { id, kind, points: [horizon], lines: 16 };
    case 'shadow':
      return { id, kind, foot: at(0.5, 0.8), head: at(0.5, 0.6) };
    case 'shapes':
      return { id, kind, areaIds: lesson.areas.map((area) => area.id).slice(-6) };
    case 'features': {
      const own = lesson.areas.flatMap((area) => (area.feature ? [area.id] : []));
      return { id, kind, areaIds: own.length > 0 ? own : areaIds };
    }
  }
}

/** Constructions on this canvas, each with its numbers and how it is made by hand; and landmarks. */
export function HelpTopic() {
  const lesson = useLesson();
  const session = useSession();
  const { constructed } = useDrawing();
  const [kind, setKind] = useState<ConstructionKind>('grid');
  return (
    <>
      <p className="quiet small">{w.about}</p>
      <p className={transfersCss.addRow}>
        <Select
          aria-label={w.add}
          value={kind}
          onChange={(given) => setKind(given as ConstructionKind)}
          options={(Object.keys(w.kinds) as ConstructionKind[]).map((one) => ({ value: one, label: w.kinds[one] }))}
        />
        <Button onClick={() => session.do('addConstruction', { construction: fresh(kind, lesson) })}>{w.add}</Button>
      </p>
      {constructed.length === 0 && <p className="quiet small">{w.none}</p>}
      {constructed.map(({ construction, result }) => (
        <section key={construction.id} className={transfersCss.construction}>
          <h3>
            {w.kinds[construction.kind]}
            <Button type="text" size="small" onClick={() => session.do('removeConstruction', { id: construction.id })}>
              {w.remove}
            </Button>
          </h3>
          <Fields one={construction} />
          {result.fault && (
            <p className="signal small" role="alert">
              {result.fault}
            </p>
          )}
          {result.how.length > 0 && (
            <Fold head={<span className="small">{w.how}</span>}>
              <ol className={clsx(css.byHand, 'small')}>
                {result.how.map((line) => (
                  <li key={line}>{line}</li>
                ))}
              </ol>
            </Fold>
          )}
        </section>
      ))}
      {constructed.some(({ construction: { kind: one } }) => one === 'ellipse' || one === 'shadow') && <TheEye />}
      <Landmarks />
    </>
  );
}

function Fields({ one }: { one: Construction }) {
  const session = useSession();
  const set = (change: object) => session.do('setConstruction', { construction: { ...one, ...change } as Construction });
  const number = (label: string, value: number, change: (value: number) => object) => (
    <span className="small number-said" key={label}>
      {label} <NumberField label={label} value={Math.round(value * 100) / 100} onValue={(next) => set(change(next))} />
    </span>
  );
  const point = (label: string, value: Point, change: (at: Point) => object) => (
    <PointField key={label} label={label} value={value} onPoint={(at) => set(change(at))} />
  );
  switch (one.kind) {
    case 'grid':
      return (
        <p className={transfersCss.numbersRow}>
          {number(w.columns, one.columns, (columns) => ({ columns: Math.round(columns) }))}
          {number(w.rows, one.rows, (rows) => ({ rows: Math.round(rows) }))}
          {number(w.ratio, one.ratio, (ratio) => ({ ratio }))}
          <Checkbox checked={one.halves ?? false} onChange={(event) => set({ halves: event.target.checked })}>
            {w.halves}
          </Checkbox>
          <Checkbox checked={one.crossed ?? false} onChange={(event) => set({ crossed: event.target.checked })}>
            {w.crossed}
          </Checkbox>
        </p>
      );
    case 'diagonals':
    case 'thirds':
      return null;
    case 'envelope':
      return (
        <>
          <Areas label={w.areas} ids={one.areaIds} onIds={(areaIds) => areaIds.length > 0 && set({ areaIds })} />
          <Areas label={w.shadows} ids={one.shadowIds} onIds={(shadowIds) => set({ shadowIds })} />
          <p className={transfersCss.numbersRow}>
            {number(w.sides, one.sides, (sides) => ({ sides: Math.max(3, Math.min(24, Math.round(sides))) }))}
            {number(w.thin, one.thinMm, (thinMm) => ({ thinMm: Math.max(0, thinMm) }))}
          </p>
        </>
      );
    case 'radial':
      return (
        <>
          {point(w.middle, one.at, (at) => ({ at }))}
          <p className={transfersCss.numbersRow}>
            {number(w.radius, one.radiusMm, (radiusMm) => ({ radiusMm }))}
            {number(w.parts, one.parts, (parts) => ({ parts: Math.round(parts) }))}
            {number(w.start, one.startDeg, (startDeg) => ({ startDeg }))}
          </p>
          <Rings one={one} onRings={(rings) => set({ rings })} />
        </>
      );
    case 'motif':
      return (
        <>
          {point(w.middle, one.at, (at) => ({ at }))}
          <p className={transfersCss.numbersRow}>
            {number(w.parts, one.parts, (parts) => ({ parts: Math.round(parts) }))}
            {number(w.start, one.startDeg, (startDeg) => ({ startDeg }))}
          </p>
          <MotifFields one={one} onChange={set} />
        </>
      );
    case 'ellipse':
      return (
        <>
          {point(w.middle, one.at, (at) => ({ at }))}
          <p className={transfersCss.numbersRow}>{number(w.halfWidth, one.halfWidthMm, (halfWidthMm) => ({ halfWidthMm }))}</p>
        </>
      );
    case 'spacing':
      return (
        <>
          {point(w.first, one.first, (first) => ({ first }))}
          {point(w.second, one.second, (second) => ({ second }))}
          {point(w.vanishing, one.vanishing, (vanishing) => ({ vanishing }))}
          <p className={transfersCss.numbersRow}>
            {number(w.count, one.count, (count) => ({ count: Math.round(count) }))}
            {number(w.height, one.heightMm, (heightMm) => ({ heightMm: Math.max(1, heightMm) }))}
          </p>
          {point(w.path, one.path?.at(-1) ?? one.vanishing, (at) => ({ path: [...(one.path ?? [one.first]), at] }))}
        </>
      );
    case 'vanishing':
      return (
        <>
          {one.points.map((at, i) =>
            point(`${w.vanishing} ${i + 1}`, at, (next) => ({ points: one.points.map((p, k) => (k === i ? next : p)) })),
          )}
          <p className={transfersCss.numbersRow}>
            {number(w.guides, one.lines, (lines) => ({ lines: Math.max(3, Math.min(60, Math.round(lines))) }))}
            <Checkbox
              className={clsx(transfersCss.check, 'small')}
              checked={one.points.length === 2}
              onChange={(event) =>
                set({ points: event.target.checked ? [one.points[0], mirrorOf(one)] : one.points.slice(0, 1) })
              }
            >
              {w.two}
            </Checkbox>
          </p>
        </>
      );
    case 'shadow':
      return (
        <>
          {point(w.foot, one.foot, (foot) => ({ foot }))}
          {point(w.head, one.head, (head) => ({ head }))}
          {point(w.under, one.under ?? one.foot, (under) => ({ under }))}
        </>
      );
    case 'shapes':
    case 'features':
      return <Areas label={w.areas} ids={one.areaIds} onIds={(areaIds) => areaIds.length > 0 && set({ areaIds })} />;
  }
}

/** A second vanishing point as far to the other side. */
const mirrorOf = ({ points: [first] }: Of<'vanishing'>): Point =>
  first ? [Math.round(first[0] > 300 ? first[0] - 600 : first[0] + 600), first[1]] : [0, 0];

function Rings({ one, onRings }: { one: Of<'radial'>; onRings: (rings: number[]) => void }) {
  const text = one.rings.map((share) => Math.round(share * 100)).join(' ');
  return (
    <span className="small number-said">
      {w.rings}{' '}
      <CommitInput
        value={text}
        label={w.rings}
        onCommit={(said) => {
          const rings = said
            .split(/[\s,;]+/)
            .flatMap((word) => (Number(word) > 0 && Number(word) <= 300 ? [Number(word) / 100] : []));
          onRings(rings.slice(0, 20));
          return true;
        }}
      />
    </span>
  );
}

/** A place on the canvas: pointed at, or typed in mm from the upper left corner. */
function PointField({ label, value, onPoint }: { label: string; value: Point; onPoint: (at: Point) => void }) {
  const { ask } = useDrawing();
  const put = (at: Point) => {
    onPoint(at);
    return true;
  };
  return (
    <p className={clsx(css.pointField, 'small')}>
      <span>{label}</span>
      <NumberField
        label={w.place(label, say('mm from the left'))}
        value={Math.round(value[0] * 10) / 10}
        onValue={(x) => put([x, value[1]])}
      />
      <NumberField
        label={w.place(label, say('mm from the top'))}
        value={Math.round(value[1] * 10) / 10}
        onValue={(y) => put([value[0], y])}
      />
      <Button
        type="text"
        size="small"
        aria-label={`${w.pick}: ${label}`}
        onClick={() =>
          ask({
            label: `${label}. ${w.picking}`,
            onPoint: (at) => {
              onPoint(at);
              ask(null);
            },
            onEscape: () => ask(null),
          })
        }
      >
        {w.pick}
      </Button>
    </p>
  );
}

function Areas({ label, ids, onIds }: { label: string; ids: readonly string[]; onIds: (ids: string[]) => void }) {
  const { areas } = useLesson();
  return (
    <fieldset className={clsx(transfersCss.areaTicks, 'small')}>
      <legend>{label}</legend>
      {areas.map((area) => (
        <Checkbox
          key={area.id}
          className={transfersCss.check}
          checked={ids.includes(area.id)}
          onChange={(event) => onIds(event.target.checked ? [...ids, area.id] : ids.filter((id) => id !== area.id))}
        >
          {area.name}
        </Checkbox>
      ))}
    </fieldset>
  );
}

function TheEye() {
  const lesson = useLesson();
  const session = useSession();
  const eye = eyeOf(lesson);
  const set = (change: Partial<typeof eye>) => session.do('setEye', { eye: { ...eye, ...change } });
  return (
    <section className={transfersCss.construction}>
      <h3>{w.eye}</h3>
      <p className={transfersCss.numbersRow}>
        <span className="small number-said">
          {w.horizon}{' '}
          <NumberField label={w.horizon} value={Math.round(eye.horizonMm)} onValue={(horizonMm) => set({ horizonMm })} />
        </span>
        <span className="small number-said">
          {w.distance}{' '}
          <NumberField label={w.distance} value={Math.round(eye.distanceMm)} onValue={(distanceMm) => set({ distanceMm })} />
        </span>
      </p>
    </section>
  );
}

function Landmarks() {
  const lesson = useLesson();
  const session = useSession();
  const { ask } = useDrawing();
  const { landmarks, toleranceMm } = lesson.drawing;
  const nameOf = (id: string) => landmarks.find((mark) => mark.id === id)?.name ?? '';
  const add = () =>
    ask({
      label: `${w.landmarkAdd}. ${w.picking}`,
      onPoint: (at) => {
        session.do('addLandmark', { landmark: { id: nanoid(8), name: w.landmarkName(landmarks.length + 1), at } });
        ask(null);
      },
      onEscape: () => ask(null),
    });
  return (
    <section className={transfersCss.construction}>
      <h3>
        {w.landmarks}
        <Button type="text" size="small" onClick={add}>
          {w.landmarkAdd}
        </Button>
      </h3>
      <span className="small number-said">
        {w.tolerance} <NumberField label={w.tolerance} value={toleranceMm} onValue={(mm) => session.do('setTolerance', { mm })} />
      </span>
      <ul className={css.landmarks}>
        {landmarks.map((mark) => (
          <li key={mark.id}>
            <CommitInput
              value={mark.name}
              label={w.landmarks}
              onCommit={(name, burst) => session.do('editLandmark', { id: mark.id, landmark: { name } }, burst)}
            />
            <Button type="text" size="small" onClick={() => session.do('removeLandmark', { id: mark.id })}>
              {w.remove}
            </Button>
          </li>
        ))}
      </ul>
      <ul className="small numbers">
        {betweenLandmarks(lesson)
          .slice(0, 12)
          .map(({ from, to, mm, deg }) => (
            <li key={`${from}${to}`}>
              {w.between(nameOf(from), nameOf(to), `${lengthNumber(mm, lesson.units)} ${lesson.units}`, deg)}
            </li>
          ))}
      </ul>
    </section>
  );
}
