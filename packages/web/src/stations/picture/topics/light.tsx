import { type Area, type BodyForm, type FormKind, formKinds, type Lesson } from '@viaticum/contract';
import { outlineBox } from '@viaticum/core/area';
import { visibleOf } from '@viaticum/core/derived';
import { usualLight } from '@viaticum/core/light';
import { Button, Select } from 'antd';
import { useMemo, useState } from 'react';
import { useLesson, useSession } from '../../../lesson/context.js';
import { useBlobUrl, useJob, useLaying } from '../../../lesson/laid.js';
import { arrowStep, insideCanvas } from '../../../ui/point.js';
import { TurnField } from '../../../ui/turn-field.js';
import { lightWords as w } from '../../../words/light.js';
import { useEasel } from '../easel-context.js';
import { OnCanvas } from '../on-canvas.js';
import css from './light.module.css';
import { Progressing } from './taking.js';
import { type Asked, WhatChanges } from './what-changes.js';

const UNSAID = 'unsaid' as const;

/** Where the light comes from, what bodies it falls on, and the shapes it makes on them. */
export function LightTopic() {
  const lesson = useLesson();
  const hasPhoto = lesson.references.length > 0;
  return (
    <>
      {!hasPhoto && <LitCanvas />}
      <Beam />
      {hasPhoto ? <InPicture /> : <p className="quiet small">{w.about}</p>}
      <ul className={css.forms} aria-label={w.forms}>
        {[...lesson.areas].reverse().map((area) => (
          <FormOf key={area.id} area={area} />
        ))}
      </ul>
      {!hasPhoto && <ByLight />}
    </>
  );
}

/** What the picture says of its light: an offer to take, and a word where two things are lit from different sides. */
function InPicture() {
  const lesson = useLesson();
  const session = useSession();
  const asked = useMemo(() => ({ lesson: { ...lesson, steps: [], setAside: [] } }), [lesson]);
  const { answer, fault } = useJob('lightsIn', asked, 300);
  if (fault) return <p className="signal">{fault}</p>;
  if (!answer) return null;
  const name = (id: string) => lesson.areas.find((area) => area.id === id)?.name ?? '';
  const [surest] = answer.found;
  if (!surest) return <p className="quiet small">{w.silent}</p>;
  const { azimuthDeg, elevationDeg } = surest;
  const isTaken = lesson.light !== undefined && Math.abs(lesson.light.azimuthDeg - azimuthDeg) < 8;
  return (
    <>
      <p className="small" data-testid="found-light">
        {w.found(w.from(azimuthDeg), name(surest.areaId), surest.explained)}{' '}
        {!isTaken && (
          <Button size="small" onClick={() => session.do('setLight', { light: { azimuthDeg, elevationDeg } })}>
            {w.takeFound}
          </Button>
        )}
      </p>
      {answer.two && <p className="signal small">{w.two(name(answer.two[0].areaId), name(answer.two[1].areaId))}</p>}
    </>
  );
}

/** What body an area is; with the axis of what is turned about one, and the nearest corner of a box on the canvas. */
function FormOf({ area }: { area: Area }) {
  const session = useSession();
  const lesson = useLesson();
  const { form } = area;
  const set = (next: BodyForm | null) => session.do('setForm', { id: area.id, form: next });
  const choose = (kind: FormKind | typeof UNSAID) => {
    if (kind === UNSAID) return set(null);
    if (kind === 'cylinder' || kind === 'cone') return set({ kind, axisDeg: form?.axisDeg ?? 90 });
    const box = kind === 'box' && outlineBox(visibleOf(lesson).find((part) => part.id === area.id)?.outline ?? []);
    return set(box ? { kind, edge: [Math.round(box.x + box.width / 2), Math.round(box.y + box.height / 3)] } : { kind });
  };
  return (
    <li>
      <span>{area.name}</span>
      <Select
        size="small"
        aria-label={w.formOf(area.name)}
        value={form?.kind ?? UNSAID}
        options={[
          { value: UNSAID as FormKind | typeof UNSAID, label: w.unsaid },
          ...formKinds.map((kind) => ({ value: kind, label: w.kinds[kind] })),
        ]}
        onChange={choose}
      />
      {(form?.kind === 'cylinder' || form?.kind === 'cone') && (
        <TurnField
          label={w.axis}
          said={`${form.axisDeg ?? 90}°`}
          min={-90}
          max={90}
          step={5}
          value={form.axisDeg ?? 90}
          onChange={(axisDeg) => set({ ...form, axisDeg })}
        />
      )}
      {form?.kind === 'box' && form.edge && (
        <Corner name={area.name} at={form.edge as [number, number]} onMove={(edge) => set({ ...form, edge })} />
      )}
    </li>
  );
}

/** The nearest corner of a box, dragged or moved by keys. */
function Corner({ name, at, onMove }: { name: string; at: [number, number]; onMove: (at: [number, number]) => void }) {
  const { support } = useLesson();
  const { unit } = useEasel();
  const [dragged, setDragged] = useState<[number, number] | null>(null);
  const [x, y] = dragged ?? at;
  const placeOf = (event: React.PointerEvent<SVGCircleElement>): [number, number] => {
    const seen = event.currentTarget.ownerSVGElement?.getScreenCTM()?.inverse();
    const place = new DOMPoint(event.clientX, event.clientY).matrixTransform(seen);
    return insideCanvas([Math.round(place.x), Math.round(place.y)], support);
  };
  return (
    <OnCanvas>
      {/* biome-ignore lint/a11y/useSemanticElements: a place on the canvas that is moved */}
      <circle
        className={css.edge}
        cx={x}
        cy={y}
        r={unit * 8}
        strokeWidth={unit * 2}
        role="button"
        tabIndex={0}
        aria-label={w.corner(name)}
        onPointerDown={(event) => {
          event.preventDefault();
          event.currentTarget.setPointerCapture(event.pointerId);
          setDragged(at);
        }}
        onPointerMove={(event) => dragged && setDragged(placeOf(event))}
        onPointerUp={() => {
          if (dragged) onMove(dragged);
          setDragged(null);
        }}
        onPointerCancel={() => setDragged(null)}
        onKeyDown={(event) => {
          const by = arrowStep(event, 1, 10);
          if (!by) return;
          event.preventDefault();
          event.stopPropagation();
          onMove(insideCanvas([x + by[0], y + by[1]], support));
        }}
      />
    </OnCanvas>
  );
}

/** Without a photograph: the shapes of light as they would be painted. */
function LitCanvas() {
  const lesson = useLesson();
  const shown = useMemo(() => (hasBodies(lesson) ? { lesson: { ...lesson, steps: [], setAside: [] } } : null), [lesson]);
  const { answer } = useJob('lit', shown, 120);
  const url = useBlobUrl(shown ? (answer?.image ?? null) : null);
  const { widthMm, heightMm } = lesson.support;
  if (!url) return null;
  return (
    <OnCanvas>
      <image href={url} width={widthMm} height={heightMm} preserveAspectRatio="none" pointerEvents="none" />
    </OnCanvas>
  );
}
const hasBodies = ({ areas }: Lesson): boolean => areas.some((area) => area.form);

/** The lesson drafted after the shapes of light, once it was seen what that changes. */
function ByLight() {
  const lesson = useLesson();
  const { worker } = useLaying();
  const [share, setShare] = useState<number | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [asked, setAsked] = useState<Asked | null>(null);
  const paint = async () => {
    setShare(0);
    setFault(null);
    try {
      const next = { areas: lesson.areas, heirs: {} };
      const redone = await worker.ask('redo', { lesson, ...next }, setShare).answer;
      setAsked({ ...next, redone });
    } catch (error) {
      setFault((error as Error).message);
    }
    setShare(null);
  };
  return (
    <>
      <Progressing share={share} said={w.drafting} />
      {fault && <p className="signal">{fault}</p>}
      <Button type="primary" disabled={!hasBodies(lesson) || share !== null} onClick={() => void paint()}>
        {w.paint}
      </Button>
      {asked && <WhatChanges asked={asked} onClose={() => setAsked(null)} onTaken={() => setAsked(null)} />}
    </>
  );
}

/** Direction and height of the light, drawn as a beam from the edge of the canvas. */
function Beam() {
  const lesson = useLesson();
  const session = useSession();
  const { unit } = useEasel();
  const { light, support } = lesson;
  const set = (change: Partial<NonNullable<typeof light>>) =>
    session.do('setLight', { light: { ...usualLight, ...light, ...change } });
  const turn = ((light?.azimuthDeg ?? 0) * Math.PI) / 180;
  const [cx, cy] = [support.widthMm / 2, support.heightMm / 2];
  const reach = Math.min(support.widthMm, support.heightMm) * 0.44;
  // Azimuth 0 is from above, 90 from the right; a high light casts a short beam.
  const [dx, dy] = [Math.sin(turn), -Math.cos(turn)];
  const short = Math.cos(((light?.elevationDeg ?? 0) * Math.PI) / 180);
  return (
    <div className={css.light}>
      <TurnField
        label={w.light}
        said={light ? w.from(light.azimuthDeg) : w.noLight}
        min={0}
        max={360}
        step={15}
        value={light?.azimuthDeg ?? 315}
        onChange={(given) => set({ azimuthDeg: given })}
      />
      {light && (
        <TurnField
          label={w.height}
          said={`${light.elevationDeg}°`}
          min={0}
          max={90}
          step={5}
          value={light.elevationDeg}
          onChange={(given) => set({ elevationDeg: given })}
        />
      )}
      {light && (
        <OnCanvas>
          <g pointerEvents="none">
            <path
              d={`M${cx + dx * reach} ${cy + dy * reach}L${cx + dx * reach * (1 - 0.55 * short)} ${cy + dy * reach * (1 - 0.55 * short)}`}
              stroke="var(--white)"
              strokeWidth={unit * 7}
            />
            <path
              d={`M${cx + dx * reach} ${cy + dy * reach}L${cx + dx * reach * (1 - 0.55 * short)} ${cy + dy * reach * (1 - 0.55 * short)}`}
              stroke="var(--grey-12)"
              strokeWidth={unit * 2}
            />
            <circle
              cx={cx + dx * reach}
              cy={cy + dy * reach}
              r={unit * 9}
              fill="var(--white)"
              stroke="var(--grey-12)"
              strokeWidth={unit * 2}
            />
          </g>
        </OnCanvas>
      )}
    </div>
  );
}
