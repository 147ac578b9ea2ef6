import { closestCenter, DndContext, type DragEndEvent, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import { SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable';
import type { Lesson, PlanItem, Stage } from '@viaticum/contract';
import { minutesInWords } from '@viaticum/core/units';
import { nanoid } from 'nanoid';
import { type KeyboardEvent, lazy, type MouseEvent, Suspense, useRef, useState } from 'react';
import { useLesson, usePlan, useSession, useView } from '../../../lesson/context.js';
import { useNewHere } from '../../../lesson/keys.js';
import { CommitInput } from '../../../ui/commit-input.js';
import { listWords as w } from '../../../words/steps.js';
import { words } from '../../../words/words.js';
import { newStep } from '../new-step.js';
import { PickedBar } from './picked-bar.js';
import { StepRow } from './step-row.js';

const BringSteps = lazy(() => import('./bring-steps.js').then((module) => ({ default: module.BringSteps })));

/** The steps in their stages with the pauses between them: moved, split, joined and marked with keys or the pointer. */
export function StepList() {
  const lesson = useLesson();
  const { plan } = usePlan();
  const session = useSession();
  const view = useView();
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const [isBringing, setBringing] = useState(false);
  const list = useRef<HTMLElement>(null);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const here = new Set(lesson.steps.map((step) => step.id));
  const marked = lesson.steps.filter((step) => picked.has(step.id)).map((step) => step.id);
  const add = () => {
    const selected = lesson.steps.findIndex((step) => step.id === view.stepId);
    const stageId = lesson.steps[selected]?.stageId ?? lesson.stages.at(-1)?.id;
    if (!stageId) return;
    const step = newStep(stageId);
    if (session.do('addStep', { step, ...(selected >= 0 ? { at: selected + 1 } : {}) })) view.selectStep(step.id);
  };
  useNewHere(add);
  const toggle = (id: string) =>
    setPicked((was) => {
      const next = new Set([...was].filter((one) => here.has(one)));
      if (!next.delete(id)) next.add(id);
      return next;
    });
  const focusOn = (id: string | undefined) =>
    id && list.current?.querySelector<HTMLElement>(`[data-step="${id}"] .step-line`)?.focus();
  const onKeyDown = (event: KeyboardEvent) => {
    const row = (event.target as HTMLElement).closest<HTMLElement>('.step-line')?.closest<HTMLElement>('[data-step]');
    const id = row?.dataset.step;
    if (!id || event.ctrlKey || event.metaKey) return;
    const at = lesson.steps.findIndex((step) => step.id === id);
    const own = marked.includes(id) ? marked : [id];
    const by = event.key === 'ArrowUp' ? -1 : event.key === 'ArrowDown' ? 1 : 0;
    if (by !== 0) {
      event.preventDefault();
      if (event.altKey) {
        session.do('moveSteps', { ids: own, by });
        requestAnimationFrame(() => focusOn(id));
        return;
      }
      const next = lesson.steps[at + by]?.id;
      if (event.shiftKey && next) setPicked((was) => new Set([...was, id, next]));
      focusOn(next);
      return;
    }
    const done = keyed(event.key, { session, own, id, lesson, focusOn, setPicked });
    if (done) event.preventDefault();
  };
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    session.do('moveStep', { id: String(active.id), to: lesson.steps.findIndex((step) => step.id === over.id) });
  };
  const onPick = (event: MouseEvent, id: string): boolean => {
    if (!(event.shiftKey || event.ctrlKey || event.metaKey)) return false;
    if (!event.shiftKey || !view.stepId) toggle(id);
    else {
      const [from, to] = [view.stepId, id]
        .map((one) => lesson.steps.findIndex((step) => step.id === one))
        .sort((a, b) => a - b) as [number, number];
      setPicked(new Set(lesson.steps.slice(from, to + 1).map((step) => step.id)));
    }
    return true;
  };
  const pauseBefore = new Map(
    plan.items.flatMap((item, i) =>
      item.stepId && plan.items[i - 1]?.kind === 'pause' ? [[item.stepId, plan.items[i - 1] as PlanItem] as const] : [],
    ),
  );
  return (
    <section ref={list} aria-label={w.label} onKeyDown={onKeyDown}>
      {lesson.steps.length === 0 && <p className="quiet steps-empty">{words.steps.empty}</p>}
      {marked.length > 1 && <PickedBar ids={marked} onNone={() => setPicked(new Set())} />}
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
        <SortableContext items={lesson.steps.map((step) => step.id)} strategy={verticalListSortingStrategy}>
          {lesson.stages.map((stage) => (
            <StageGroup key={stage.id} lesson={lesson} stage={stage} pauseBefore={pauseBefore} picked={picked} onPick={onPick} />
          ))}
        </SortableContext>
      </DndContext>
      <p className="steps-more">
        <button type="button" className="key" onClick={add} aria-keyshortcuts="N">
          {words.steps.add}
        </button>
        <button
          type="button"
          className="key bare"
          onClick={() =>
            session.do('addStage', { stage: { id: nanoid(8), name: words.steps.stageName(lesson.stages.length + 1) } })
          }
        >
          {words.steps.addStage}
        </button>
        <button type="button" className="key bare" onClick={() => setBringing(true)}>
          {w.bring}
        </button>
      </p>
      {lesson.steps.length > 1 && <p className="quiet small steps-help">{w.help}</p>}
      {isBringing && (
        <Suspense fallback={null}>
          <BringSteps onClose={() => setBringing(false)} />
        </Suspense>
      )}
    </section>
  );
}

type Keyed = {
  session: ReturnType<typeof useSession>;
  own: string[];
  id: string;
  lesson: Lesson;
  focusOn: (id: string | undefined) => void;
  setPicked: (picked: ReadonlySet<string>) => void;
};
/** Single keys on a row; says whether the key meant something. */
function keyed(key: string, { session, own, id, lesson, focusOn, setPicked }: Keyed): boolean {
  if (key === 's') session.do('splitStep', { id, newId: nanoid(8) });
  else if (key === 'd') session.do('copySteps', { ids: own, newIds: own.map(() => nanoid(8)) });
  else if (key === 'j') {
    const at = lesson.steps.findIndex((step) => step.id === id);
    const next = lesson.steps[at + 1]?.id;
    const ids = own.length > 1 ? own : next ? [id, next] : [];
    if (session.do('joinSteps', { ids })) setPicked(new Set());
  } else if (key === 'Delete' || key === 'Backspace') {
    const at = lesson.steps.findIndex((step) => step.id === own[0]);
    const after = lesson.steps.filter((step) => !own.includes(step.id));
    session.do('leaveOut', { ids: own });
    setPicked(new Set());
    requestAnimationFrame(() => focusOn(after[Math.min(at, after.length - 1)]?.id));
  } else return false;
  return true;
}

function StageGroup({
  lesson,
  stage,
  pauseBefore,
  picked,
  onPick,
}: {
  lesson: Lesson;
  stage: Stage;
  pauseBefore: Map<string, PlanItem>;
  picked: ReadonlySet<string>;
  onPick: (event: MouseEvent, id: string) => boolean;
}) {
  const { minutes } = usePlan();
  const session = useSession();
  const steps = lesson.steps.filter((step) => step.stageId === stage.id);
  const length = steps.reduce((sum, step) => sum + (minutes.get(step.id)?.showMin ?? 0) + (minutes.get(step.id)?.doMin ?? 0), 0);
  return (
    <section>
      <div className="stage-head">
        <CommitInput
          className="stage-name"
          value={stage.name}
          label={words.steps.renameStage(stage.name)}
          onCommit={(name, burst) => session.do('renameStage', { id: stage.id, name }, burst)}
        />
        <span className="quiet small">{words.steps.stageMinutes(steps.length, minutesInWords(length))}</span>
        {steps.length === 0 && lesson.stages.length > 1 && (
          <button type="button" className="key bare small" onClick={() => session.do('removeStage', { id: stage.id })}>
            {words.steps.remove}
          </button>
        )}
      </div>
      <ol>
        {steps.map((step) => (
          <StepRow
            key={step.id}
            lesson={lesson}
            step={step}
            pause={pauseBefore.get(step.id)}
            isPicked={picked.has(step.id)}
            onPick={onPick}
          />
        ))}
      </ol>
    </section>
  );
}
