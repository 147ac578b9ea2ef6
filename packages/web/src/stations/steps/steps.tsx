import type { Lesson, PlanItem, Stage, Step } from '@viaticum/contract';
import { brushInWords, brushOf } from '@viaticum/core/brush';
import { looksOf } from '@viaticum/core/lesson';
import { reasonInWords, whyNotEarlier } from '@viaticum/core/plan';
import { hourMinute, minutesInWords, waitInWords } from '@viaticum/core/units';
import { nanoid } from 'nanoid';
import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { useLesson, usePlan, useSession, useSheet, useView, useWorkedOut } from '../../lesson/context.js';
import { useNewHere } from '../../lesson/keys.js';
import { CommitInput } from '../../ui/commit-input.js';
import { StageCanvas } from '../../ui/stage-canvas.js';
import { layersAt, wetnessAt } from '../../ui/stage-layers.js';
import { RecipeBar } from '../../ui/swatch.js';
import { Topics } from '../../ui/topics.js';
import { words } from '../../words.js';
import { PaintedProvider, usePainted } from './painted.js';
import { DraftTopic } from './topics/draft.js';
import { DryingTopic } from './topics/drying.js';
import { PlansTopic } from './topics/plans.js';
import { StagesTopic } from './topics/stages.js';
import { WhatIfTopic } from './topics/what-if.js';
import './steps.css';

const StepForm = lazy(() => import('./step-form.js').then((module) => ({ default: module.StepForm })));

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
        {topic === 'draft' && <DraftTopic />}
        {topic === 'stages' && <StagesTopic />}
        {topic === 'plans' && <PlansTopic />}
        {topic === 'drying' && <DryingTopic />}
        {topic === 'whatIf' && <WhatIfTopic />}
      </div>
      <CanvasMap />
    </div>
  );
}

/** The steps in their stages with the pauses between them. */
function StepList() {
  const lesson = useLesson();
  const { plan } = usePlan();
  const session = useSession();
  const view = useView();
  const add = () => {
    const selected = lesson.steps.findIndex((step) => step.id === view.stepId);
    const stageId = lesson.steps[selected]?.stageId ?? lesson.stages.at(-1)?.id;
    if (!stageId) return;
    const step = newStep(stageId);
    if (session.do('addStep', { step, ...(selected >= 0 ? { at: selected + 1 } : {}) })) view.selectStep(step.id);
  };
  useNewHere(add);
  const pauseBefore = new Map(
    plan.items.flatMap((item, i) =>
      item.stepId && plan.items[i - 1]?.kind === 'pause' ? [[item.stepId, plan.items[i - 1] as PlanItem] as const] : [],
    ),
  );
  return (
    <>
      {lesson.steps.length === 0 && <p className="quiet steps-empty">{words.steps.empty}</p>}
      {lesson.stages.map((stage) => (
        <StageGroup key={stage.id} lesson={lesson} stage={stage} pauseBefore={pauseBefore} />
      ))}
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
      </p>
    </>
  );
}

const newStep = (stageId: string): Step => ({
  id: nanoid(8),
  stageId,
  kind: 'paint',
  title: words.steps.stepName,
  zoneIds: [],
  markIds: [],
  mixIds: [],
  needs: 'any',
  technique: 'block-in',
  brushId: 'flat-1-in',
  say: '',
  watch: '',
  checkpoint: '',
  finish: '',
});

function StageGroup({ lesson, stage, pauseBefore }: { lesson: Lesson; stage: Stage; pauseBefore: Map<string, PlanItem> }) {
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
          onCommit={(name) => session.do('renameStage', { id: stage.id, name })}
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
          <StepRow key={step.id} lesson={lesson} step={step} pause={pauseBefore.get(step.id)} />
        ))}
      </ol>
    </section>
  );
}

function StepRow({ lesson, step, pause }: { lesson: Lesson; step: Step; pause: PlanItem | undefined }) {
  const view = useView();
  const { minutes, plan } = usePlan();
  const isSelected = view.stepId === step.id;
  const row = useRef<HTMLLIElement>(null);
  const looks = looksOf(lesson);
  const own = minutes.get(step.id);
  const brush = brushOf(step.brushId);
  useEffect(() => {
    if (isSelected) row.current?.scrollIntoView({ block: 'nearest' });
  }, [isSelected]);
  const facts = [
    brush && brushInWords(brush),
    step.technique && words.techniques[step.technique],
    step.kind !== 'paint' && words.kinds[step.kind],
    step.needs !== 'any' && words.needs[step.needs],
    step.partByPart && words.steps.partByPart,
    step.medium && words.media[step.medium],
    isSelected && step.doMin !== undefined && own?.proposedDoMin && words.steps.typed(own.proposedDoMin),
  ].filter(Boolean);
  const select = () => {
    view.selectStep(isSelected ? null : step.id);
    const item = plan.items.find((one) => one.stepId === step.id);
    if (item && !isSelected) view.setMinute(item.endMin);
  };
  return (
    <>
      {pause && (
        <li className="pause-row">
          <span>
            <b>{pause.title}</b>{' '}
            <span className="quiet">
              {pause.fillers && pause.fillers.length > 0 && `· ${words.steps.meanwhile}: `}
              {pause.fillers?.map((one) => `${one.words} ${minutesInWords(one.minutes)}`).join(', ')}
              {(pause.bareMin ?? 0) >= 1 &&
                `${pause.fillers?.length ? '; ' : '· '}${words.steps.bare(waitInWords(pause.bareMin ?? 0))}`}
            </span>
            {isSelected && pause.reason && <span className="quiet small pause-reason">{pause.reason}</span>}
          </span>
          <span className="numbers" data-testid="pause">
            {waitInWords(pause.endMin - pause.startMin)}
          </span>
        </li>
      )}
      <li ref={row} className={`step-row${isSelected ? ' selected' : ''}`}>
        <button type="button" className="step-line" aria-expanded={isSelected} onClick={select}>
          <span className="step-number numbers">{lesson.steps.indexOf(step) + 1}</span>
          <span className="step-swatch" aria-hidden="true">
            {step.mixIds.map((id) => (
              <i key={id} style={{ background: looks.get(id)?.rgb }} />
            ))}
          </span>
          <span className="step-title">{step.title}</span>
          <span className="step-minutes numbers">
            {own &&
              (isSelected
                ? `${own.showMin > 0 ? `${words.steps.show(own.showMin)}, ` : ''}${words.steps.do(own.doMin)}`
                : minutesInWords(own.showMin + own.doMin))}
          </span>
          <span className="step-facts quiet small">{facts.join(' · ')}</span>
        </button>
        {isSelected && <StepDetails lesson={lesson} step={step} />}
      </li>
    </>
  );
}

function StepDetails({ lesson, step }: { lesson: Lesson; step: Step }) {
  const looks = looksOf(lesson);
  return (
    <div className="step-details">
      {step.mixIds.map((id) => {
        const look = looks.get(id);
        return look ? <RecipeBar key={id} parts={look.parts} words={`${look.mix.name}: ${look.words}`} /> : null;
      })}
      <PinRow step={step} />
      {step.say && <p className="step-say">“{step.say}”</p>}
      <Suspense fallback={null}>
        <StepForm lesson={lesson} step={step} />
      </Suspense>
    </div>
  );
}

/** When the step begins and why not earlier; pinned to a time by hand, a minute at a time. */
function PinRow({ step }: { step: Step }) {
  const lesson = useWorkedOut();
  const plan = usePlan();
  const session = useSession();
  const w = words.plan.plans;
  const start = plan.plan.items.find((item) => item.stepId === step.id)?.startMin ?? 0;
  const pin = lesson.planning.pins.find((one) => 'stepId' in one && one.stepId === step.id);
  const pinned = pin && 'stepId' in pin ? pin.startMin : null;
  const pinTo = (startMin: number) => session.do('pinStep', { id: step.id, startMin: Math.max(0, startMin) });
  return (
    <p className="pin-row small">
      {pinned === null ? (
        <>
          <span className="quiet">
            {hourMinute(start)}: {reasonInWords(lesson, step.id, whyNotEarlier(plan, step.id))}.
          </span>{' '}
          <button type="button" className="key bare small" onClick={() => pinTo(start)} aria-keyshortcuts="P">
            {w.pin(hourMinute(start))}
          </button>
        </>
      ) : (
        <>
          <span>
            {w.pinnedTo} <b className="numbers">{hourMinute(pinned)}</b>
          </span>{' '}
          <button type="button" className="key bare small" aria-label={w.earlier} onClick={() => pinTo(pinned - 1)}>
            −1
          </button>
          <button type="button" className="key bare small" aria-label={w.later} onClick={() => pinTo(pinned + 1)}>
            +1
          </button>
          <button
            type="button"
            className="key bare small"
            onClick={() => session.do('unpin', { id: step.id })}
            aria-keyshortcuts="P"
          >
            {w.letGo}
          </button>
        </>
      )}
    </p>
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
  const own = new Set(going ? sheet.steps[going]?.layers.map((layer) => layer.zoneId) : []);
  const onTop =
    going && picture ? layers.slice(-(sheet.steps[going]?.layers.length ?? 0)).filter((layer) => own.has(layer.zoneId)) : [];
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
        wetness={wetnessAt(sheet, plan, minute, true)}
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

export function Toggle({ what, letter, name }: { what: 'outlines' | 'squint'; letter: string; name: string }) {
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
