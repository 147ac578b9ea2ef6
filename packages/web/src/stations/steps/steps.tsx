import { clsx } from 'clsx';
import { lazy, Suspense } from 'react';
import { type TopicGroup, Topics, useTopic } from '../../ui/topics.js';
import { words } from '../../words/words.js';
import { CanvasColumn } from './canvas-column.js';
import { ListKeys } from './list/list-keys.js';
import { StepList } from './list/step-list.js';
import { PaintedProvider } from './painted.js';
import { StepPane } from './step-pane.js';
import css from './steps.module.css';

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
const { groups: g } = words.plan;
const groups: readonly TopicGroup<Topic>[] = [
  { name: g.steps, topics: ['list', 'marks'] },
  { name: g.draft, topics: ['draft'] },
  { name: g.time, topics: ['plans', 'whatIf', 'drying'] },
  { name: g.look, topics: ['stages', 'values', 'repair'] },
  { name: g.ready, topics: ['preparing', 'others'] },
];

const shownBy: Record<Exclude<Topic, 'list'>, React.ComponentType> = {
  draft: DraftTopic,
  stages: StagesTopic,
  plans: PlansTopic,
  drying: DryingTopic,
  whatIf: WhatIfTopic,
  marks: MarksTopic,
  values: ValuesTopic,
  preparing: PreparingTopic,
  repair: RepairTopic,
  others: OthersTopic,
};

/** The steps of the lesson, its plans, how each coat dries and what if; and the canvas at the minute of the raking light. */
export default function StepsStation() {
  return (
    <PaintedProvider>
      <StepsTopics />
    </PaintedProvider>
  );
}

function StepsTopics() {
  const [topic, setTopic] = useTopic(groups, 'list');
  const Shown = topic === 'list' ? null : shownBy[topic];
  return (
    <div className={clsx(css.steps, topic === 'list' && css.withForm)}>
      <Topics label={words.plan.topicsLabel} names={words.plan.topics} groups={groups} shown={topic} onShow={setTopic}>
        {topic === 'list' && <ListKeys />}
      </Topics>
      {Shown === null ? (
        <>
          <StepList />
          <StepPane />
        </>
      ) : (
        // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls can be scrolled by keyboard
        <section className={css.stepsTopic} aria-label={words.plan.topics[topic]} tabIndex={0}>
          <Suspense fallback={null}>
            <Shown />
          </Suspense>
        </section>
      )}
      <CanvasColumn />
    </div>
  );
}
