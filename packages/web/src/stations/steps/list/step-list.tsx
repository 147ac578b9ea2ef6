import { closestCenter, DndContext, type DragEndEvent, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import { SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable';
import type { Lesson, PlanItem, Stage } from '@viaticum/contract';
import type { ShownFinding } from '@viaticum/core/check';
import { minutesInWords } from '@viaticum/core/units';
import { Button, Empty } from 'antd';
import { clsx } from 'clsx';
import { nanoid } from 'nanoid';
import { type KeyboardEvent, type MouseEvent, useRef, useState } from 'react';
import { useLocation } from 'react-router';
import { useLesson, usePlan, useSession, useView } from '../../../lesson/context.js';
import { openOf, useFindings } from '../../../lesson/use-findings.js';
import { CommitInput } from '../../../ui/commit-input.js';
import { LinkKey } from '../../../ui/link-key.js';
import { sortingWords } from '../../../ui/sorting.js';
import { listWords as w } from '../../../words/steps.js';
import { words } from '../../../words/words.js';
import { FormerWaitsNote } from '../former-waits.js';
import { LengthStrip } from '../length-strip.js';
import stepsCss from '../steps.module.css';
import { PickedBar } from './picked-bar.js';
import css from './step-list.module.css';
import { StepRow } from './step-row.js';
import { useNewStep } from './use-new-step.js';

/** The steps in their stages with the pauses between them: moved, split, joined and marked with keys or the pointer. */
export function StepList() {
  const lesson = useLesson();
  const { plan } = usePlan();
  const session = useSession();
  const view = useView();
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const list = useRef<HTMLElement>(null);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const here = new Set(lesson.steps.map((step) => step.id));
  const marked = lesson.steps.filter((step) => picked.has(step.id)).map((step) => step.id);
  const toggle = (id: string) =>
    setPicked((was) => {
      const next = new Set([...was].filter((one) => here.has(one)));
      if (!next.delete(id)) next.add(id);
      return next;
    });
  const focusOn = (id: string | undefined) =>
    id && list.current?.querySelector<HTMLElement>(`[data-step="${id}"] button`)?.focus();
  const onKeyDown = (event: KeyboardEvent) => {
    const row = (event.target as HTMLElement).closest<HTMLElement>('button')?.closest<HTMLElement>('[data-step]');
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
  const found = openOf(useFindings());
  const pauseBefore = new Map(
    plan.items.flatMap((item, i) =>
      item.stepId && plan.items[i - 1]?.kind === 'pause' ? [[item.stepId, plan.items[i - 1] as PlanItem] as const] : [],
    ),
  );
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls can be scrolled by keyboard
    <section ref={list} className={css.stepsList} aria-label={w.label} onKeyDown={onKeyDown} tabIndex={0}>
      <FormerWaitsNote />
      <LengthStrip />
      {lesson.steps.length === 0 && <NoSteps />}
      {marked.length > 1 && <PickedBar ids={marked} onNone={() => setPicked(new Set())} />}
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={onDragEnd}
        accessibility={sortingWords(
          lesson.steps.map(({ id }) => id),
          (id) => lesson.steps.find((step) => step.id === id)?.title ?? '',
        )}
      >
        <SortableContext items={lesson.steps.map((step) => step.id)} strategy={verticalListSortingStrategy}>
          {lesson.stages.map((stage) => (
            <StageGroup key={stage.id} {...{ lesson, stage, pauseBefore, picked, onPick, found }} />
          ))}
        </SortableContext>
      </DndContext>
      {lesson.steps.length > 1 && <p className={clsx('quiet small', css.stepsHelp)}>{w.help}</p>}
    </section>
  );
}

/** Before the first step: what comes here, and the two ways to begin. */
function NoSteps() {
  const add = useNewStep();
  const { pathname } = useLocation();
  return (
    <Empty className={css.stepsEmpty} image={false} description={words.steps.empty}>
      <Button type="primary" onClick={add}>
        {words.steps.addFirst}
      </Button>{' '}
      <LinkKey to={`${pathname.split('/').slice(0, 4).join('/')}/draft`}>{words.steps.draftFirst}</LinkKey>
    </Empty>
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
    session.do('removeSteps', { ids: own });
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
  found,
}: {
  lesson: Lesson;
  stage: Stage;
  pauseBefore: Map<string, PlanItem>;
  picked: ReadonlySet<string>;
  onPick: (event: MouseEvent, id: string) => boolean;
  found: readonly ShownFinding[];
}) {
  const { minutes } = usePlan();
  const session = useSession();
  const steps = lesson.steps.filter((step) => step.stageId === stage.id);
  const length = steps.reduce((sum, step) => sum + (minutes.get(step.id)?.showMin ?? 0) + (minutes.get(step.id)?.doMin ?? 0), 0);
  return (
    <section>
      <div className={css.stageHead}>
        <CommitInput
          wraps
          className={stepsCss.stageName}
          data-testid="stage-name"
          isBare
          value={stage.name}
          label={words.steps.renameStage(stage.name)}
          onCommit={(name, burst) => session.do('renameStage', { id: stage.id, name }, burst)}
        />
        <span className="quiet small">{words.steps.stageMinutes(steps.length, minutesInWords(length))}</span>
        {steps.length === 0 && lesson.stages.length > 1 && (
          <Button type="text" size="small" onClick={() => session.do('removeStage', { id: stage.id })}>
            {words.steps.remove}
          </Button>
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
            finding={found.find((one) => one.place.stepId === step.id)}
          />
        ))}
      </ol>
    </section>
  );
}
