import { hourMinute } from '@viaticum/core/units';
import { lazy, Suspense, useState } from 'react';
import { useLesson, usePlan, useSheet, useView } from '../../lesson/context.js';
import { StageCanvas } from '../../ui/stage-canvas.js';
import { layersAt, wetnessAt } from '../../ui/stage-layers.js';
import { Topics } from '../../ui/topics.js';
import { words } from '../../words/words.js';
import { StepList } from './list/step-list.js';
import { PaintedProvider, usePainted } from './painted.js';
import './steps.css';

// Each topic is brought when it is first looked at.
const DraftTopic = lazy(() => import('./topics/draft.js').then((module) => ({ default: module.DraftTopic })));
const DryingTopic = lazy(() => import('./topics/drying.js').then((module) => ({ default: module.DryingTopic })));
const MarksTopic = lazy(() => import('./topics/marks.js').then((module) => ({ default: module.MarksTopic })));
const RepairTopic = lazy(() => import('./topics/repair.js').then((module) => ({ default: module.RepairTopic })));
const OthersTopic = lazy(() => import('./topics/others.js').then((module) => ({ default: module.OthersTopic })));
const PlansTopic = lazy(() => import('./topics/plans.js').then((module) => ({ default: module.PlansTopic })));
const PreparingTopic = lazy(() => import('./topics/preparing.js').then((module) => ({ default: module.PreparingTopic })));
const StagesTopic = lazy(() => import('./topics/stages.js').then((module) => ({ default: module.StagesTopic })));
const ValuesTopic = lazy(() => import('./topics/values.js').then((module) => ({ default: module.ValuesTopic })));
const WhatIfTopic = lazy(() => import('./topics/what-if.js').then((module) => ({ default: module.WhatIfTopic })));

type Topic = keyof typeof words.plan.topics;

/** The steps of the lesson, its plans, how each coat dries and what if; and the canvas at the minute of the raking light. */
export default function StepsStation() {
  return (
    <PaintedProvider>
      <StepsTopics />
    </PaintedProvider>
  );
}

function StepsTopics() {
  const [topic, setTopic] = useState<Topic>('list');
  return (
    <div className="steps">
      <div className="steps-list">
        <Topics label={words.plan.topicsLabel} names={words.plan.topics} shown={topic} onShow={setTopic} />
        {topic === 'list' && <StepList />}
        <Suspense fallback={null}>
          {topic === 'draft' && <DraftTopic />}
          {topic === 'stages' && <StagesTopic />}
          {topic === 'plans' && <PlansTopic />}
          {topic === 'drying' && <DryingTopic />}
          {topic === 'whatIf' && <WhatIfTopic />}
          {topic === 'marks' && <MarksTopic />}
          {topic === 'values' && <ValuesTopic />}
          {topic === 'preparing' && <PreparingTopic />}
          {topic === 'repair' && <RepairTopic />}
          {topic === 'others' && <OthersTopic />}
        </Suspense>
      </div>
      <CanvasMap />
    </div>
  );
}

/** The canvas at the light's minute, in its true proportion. */
function CanvasMap() {
  const { plan } = usePlan();
  const lesson = useLesson();
  const sheet = useSheet();
  const view = useView();
  const minute = Math.min(view.minute, plan.endMin);
  const item = plan.items.findLast((one) => one.stepId && one.startMin < minute);
  const number = item ? lesson.steps.findIndex((step) => step.id === item.stepId) + 1 : 0;
  const label = number > 0 ? words.steps.after(number, hourMinute(minute)) : words.steps.atStart;
  const { urls } = usePainted();
  const [isHeld, setHeld] = useState(false);
  // Painted up to the last step that has ended; held down, up to the one before it.
  const ended = plan.items.filter((one) => one.stepId && one.endMin <= minute + 1e-6 && urls.has(one.stepId));
  const shownStep = ended.at(isHeld ? -2 : -1)?.stepId;
  const picture = shownStep ? urls.get(shownStep) : undefined;
  const layers = layersAt(sheet, plan, minute);
  const going = item?.stepId && item.endMin > minute + 1e-6 ? item.stepId : null;
  const own = new Set(going ? sheet.steps[going]?.layers.map((layer) => layer.areaId) : []);
  const onTop =
    going && picture ? layers.slice(-(sheet.steps[going]?.layers.length ?? 0)).filter((layer) => own.has(layer.areaId)) : [];
  return (
    <figure
      className="canvas-map"
      onPointerDown={(event) => setHeld((event.target as Element).closest('svg') !== null)}
      onPointerUp={() => setHeld(false)}
      onPointerLeave={() => setHeld(false)}
    >
      <StageCanvas
        sheet={sheet}
        {...(picture ? { picture } : {})}
        allLayers={layers}
        layers={picture ? (isHeld ? [] : onTop) : layers}
        wetness={wetnessAt(sheet, plan.coats, minute, true)}
        outlines={view.outlines}
        label={label}
        className={view.squint ? 'squint' : ''}
        shownPx={290}
      />
      <figcaption className="small quiet">
        <span>{label}</span>
        <span>
          <Toggle what="outlines" letter="O" name={words.picture.outlines} />{' '}
          <Toggle what="squint" letter="V" name={words.picture.squint} />
        </span>
      </figcaption>
    </figure>
  );
}

function Toggle({ what, letter, name }: { what: 'outlines' | 'squint'; letter: string; name: string }) {
  const view = useView();
  return (
    <button
      type="button"
      className="toggle"
      aria-pressed={view[what]}
      onClick={() => view.toggle(what)}
      aria-keyshortcuts={letter}
    >
      <kbd>{letter}</kbd> {name.toLowerCase()}
    </button>
  );
}
