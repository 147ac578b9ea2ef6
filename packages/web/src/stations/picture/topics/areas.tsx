import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { SortableContext, sortableKeyboardCoordinates, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import type { Area } from '@viaticum/contract';
import { extentOutline, outlinePath } from '@viaticum/core/area';
import { extentsOf, visibleOf } from '@viaticum/core/derived';
import { lengthNumber } from '@viaticum/core/units';
import { Button, Select } from 'antd';
import { clsx } from 'clsx';
import { useEffect, useState } from 'react';
import { useLesson, useSession, useView, useWorkedOut } from '../../../lesson/context.js';
import { FoundHere } from '../../../lesson/found-here.js';
import { useNewHere } from '../../../lesson/keys.js';
import { useRemoval } from '../../../lesson/use-removal.js';
import { CommitInput } from '../../../ui/commit-input.js';
import { sortingWords } from '../../../ui/sorting.js';
import { TurnField } from '../../../ui/turn-field.js';
import { words } from '../../../words/words.js';
import { useEasel } from '../easel-context.js';
import { OnCanvas } from '../on-canvas.js';
import pictureCss from '../picture.module.css';
import { AreaTarget } from './area-target.js';
import { Grow, Split } from './area-tools.js';
import css from './areas.module.css';
import { AreaNature, Comb } from './nature.js';
import { Propose } from './propose.js';

const w = words.picture;
type Doing = 'propose' | 'split' | 'grow' | 'comb' | null;

/** The areas: proposed from the picture and guided by taps, drawn, divided, joined, ordered back to front; and what is painted of each. */
export function AreasTopic() {
  const lesson = useLesson();
  const view = useView();
  const easel = useEasel();
  const [doing, setDoing] = useState<Doing>(null);
  const [showExtents, setShowExtents] = useState(false);
  const { mode, setMode } = easel;
  const isDrawing = mode === 'draw';
  useEffect(() => {
    setMode(doing ? 'place' : 'edit');
    return () => setMode('look');
  }, [doing, setMode]);
  const draw = () => {
    setDoing(null);
    setMode(isDrawing ? 'edit' : 'draw');
  };
  useNewHere(draw);
  const end = () => setDoing(null);
  if (doing === 'propose') return <Propose onEnd={end} />;
  const selected = lesson.areas.find((area) => area.id === view.areaId);
  if (doing === 'split' && selected) return <Split area={selected} onEnd={end} />;
  if (doing === 'comb' && selected) return <Comb area={selected} onEnd={end} />;
  if (doing === 'grow') return <Grow area={selected ?? null} onEnd={end} />;
  return (
    <>
      <p className={pictureCss.pictureToggles}>
        <Button type={lesson.areas.length === 0 ? 'primary' : 'default'} onClick={() => setDoing('propose')}>
          {w.propose.start}
        </Button>
        <Button
          data-testid="area-draw"
          type={isDrawing ? 'primary' : 'default'}
          aria-pressed={isDrawing}
          onClick={draw}
          aria-keyshortcuts="N"
        >
          {w.draw}
        </Button>
        <Button onClick={() => setDoing('grow')}>{w.grow.start}</Button>
      </p>
      {lesson.areas.length === 0 && <p className="quiet">{w.noAreas}</p>}
      <AreaList onSplit={() => setDoing('split')} onComb={() => setDoing('comb')} />
      {lesson.areas.length > 1 && <Overlap show={showExtents} onShow={setShowExtents} />}
      {showExtents && <Extents />}
    </>
  );
}

/** The areas from back to front; dragged, or moved with the keyboard. */
function AreaList({ onSplit, onComb }: { onSplit: () => void; onComb: () => void }) {
  const lesson = useLesson();
  const worked = useWorkedOut();
  const session = useSession();
  const seen = new Map(visibleOf(worked).map((part) => [part.id, part.areaCm2]));
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const onEnd = ({ active, over }: DragEndEvent) => {
    if (over && active.id !== over.id)
      session.do('moveArea', { id: String(active.id), to: lesson.areas.findIndex((area) => area.id === over.id) });
  };
  return (
    <section className={css.areas} data-testid="areas">
      <h2>{w.areas}</h2>
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={onEnd}
        accessibility={sortingWords(
          lesson.areas.map(({ id }) => id),
          (id) => lesson.areas.find((area) => area.id === id)?.name ?? '',
        )}
      >
        <SortableContext items={lesson.areas.map((area) => area.id)} strategy={verticalListSortingStrategy}>
          <ol>
            {lesson.areas.map((area, i) => (
              <AreaRow key={area.id} area={area} at={i} areaCm2={seen.get(area.id) ?? 0} onSplit={onSplit} onComb={onComb} />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
    </section>
  );
}

function AreaRow({
  area,
  at,
  areaCm2,
  onSplit,
  onComb,
}: {
  area: Area;
  at: number;
  areaCm2: number;
  onSplit: () => void;
  onComb: () => void;
}) {
  const lesson = useLesson();
  const session = useSession();
  const ask = useRemoval();
  const view = useView();
  const worked = useWorkedOut();
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: area.id });
  const isSelected = view.areaId === area.id;
  const extent = isSelected ? extentsOf(worked).find((one) => one.id === area.id) : undefined;
  const others = lesson.areas.filter((one) => one.id !== area.id);
  return (
    <li
      ref={setNodeRef}
      data-area={area.id}
      className={clsx(isSelected && css.selected, isDragging && css.dragging)}
      style={{ transform: CSS.Translate.toString(transform), transition }}
    >
      <span className={pictureCss.areaLineRow}>
        <Button
          type="text"
          className={clsx('plain', css.areaGrip)}
          aria-label={w.dragArea(area.name)}
          {...attributes}
          {...listeners}
        >
          <svg width="10" height="16" viewBox="0 0 10 16" aria-hidden="true">
            <path d="M1 3.5h8M1 8h8M1 12.5h8" stroke="currentColor" strokeWidth="1.3" />
          </svg>
        </Button>
        <CommitInput
          wraps
          className={pictureCss.areaName}
          value={area.name}
          label={w.rename(area.name)}
          onFocus={() => view.selectArea(area.id)}
          onCommit={(name, burst) => session.do('renameArea', { id: area.id, name }, burst)}
        />
        <span className="numbers quiet">{areaCm2 > 0 ? w.area(areaCm2) : w.hidden}</span>
      </span>
      <FoundHere areaId={area.id} />
      {isSelected && (
        <div className={pictureCss.areaMore}>
          {extent && extent.areaCm2 > 0 && (
            <p className="small">
              {w.toPaint(w.area(extent.areaCm2))}
              {extent.cutInMm > 5 && <> {w.cutIn(`${lengthNumber(extent.cutInMm, lesson.units)} ${lesson.units}`)}</>}
            </p>
          )}
          <p className={pictureCss.areaKeys}>
            <Button
              type="text"
              size="small"
              disabled={at === 0}
              onClick={() => session.do('moveArea', { id: area.id, to: at - 1 })}
            >
              {w.back}
            </Button>
            <Button
              type="text"
              size="small"
              disabled={at === lesson.areas.length - 1}
              onClick={() => session.do('moveArea', { id: area.id, to: at + 1 })}
            >
              {w.forward}
            </Button>
            <Button type="text" size="small" onClick={onSplit}>
              {w.split.start}
            </Button>
            <Button
              type="text"
              size="small"
              onClick={() => ask('areas', area.id, area.name, () => session.do('removeArea', { id: area.id }))}
            >
              {w.remove}
            </Button>
          </p>
          <AreaNature area={area} onComb={onComb} />
          <AreaTarget area={area} />
          {others.length > 0 && (
            <div className={clsx(pictureCss.areaJoin, 'small')}>
              <span className="quiet">{w.join}</span>
              <Select
                value=""
                aria-label={w.joinWith(area.name)}
                onChange={(given) => {
                  const into = given;
                  if (session.do('mergeAreas', { id: area.id, into })) view.selectArea(into);
                }}
                options={[{ value: '', label: '…' }, ...others.map((one) => ({ value: one.id, label: one.name }))]}
              />
            </div>
          )}
        </div>
      )}
    </li>
  );
}

function Overlap({ show, onShow }: { show: boolean; onShow: (show: boolean) => void }) {
  const lesson = useLesson();
  const session = useSession();
  const [dragged, setDragged] = useState<number | null>(null);
  const mm = dragged ?? lesson.overlapMm;
  const commit = (next: number) => {
    if (next !== lesson.overlapMm) session.do('setOverlap', { mm: next });
    setDragged(null);
  };
  return (
    <section className={css.overlap}>
      <TurnField label={w.overlap} said={`${mm} mm`} min={0} max={20} step={1} value={mm} onChange={setDragged} onDone={commit} />
      <Button type={show ? 'primary' : 'default'} aria-pressed={show} onClick={() => onShow(!show)}>
        {w.showExtents}
      </Button>
      <p className="quiet small">{w.overlapWhy}</p>
    </section>
  );
}

/** The painted extents as dashed edges, where they run past what is seen. */
function Extents() {
  const lesson = useWorkedOut();
  const view = useView();
  const { unit } = useEasel();
  const seen = new Map(visibleOf(lesson).map((part) => [part.id, part.areaCm2]));
  return (
    <OnCanvas>
      <g pointerEvents="none" fill="none" clipPath="url(#easel-face)">
        {extentsOf(lesson)
          .filter((one) => one.areaCm2 > (seen.get(one.id) ?? 0) + 0.05 && (!view.areaId || one.id === view.areaId))
          .map((one) => (
            <g key={one.id}>
              <path d={outlinePath(extentOutline(one))} stroke="var(--white)" strokeWidth={unit * 2.6} />
              <path
                d={outlinePath(extentOutline(one))}
                stroke="var(--grey-12)"
                strokeWidth={unit * 1.3}
                strokeDasharray={`${unit * 6} ${unit * 4}`}
              />
            </g>
          ))}
      </g>
    </OnCanvas>
  );
}
