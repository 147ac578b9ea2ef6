import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import type { Lesson, PlanItem, Step } from '@viaticum/contract';
import { reasonInWords, whyNotEarlier } from '@viaticum/core/advice';
import { brushInWords, brushOf } from '@viaticum/core/brush';
import { looksOf } from '@viaticum/core/derived';
import { hourMinute, minutesInWords, waitInWords } from '@viaticum/core/units';
import { lazy, type MouseEvent, Suspense, useEffect, useRef } from 'react';
import { usePlan, useSession, useView, useWorkedOut } from '../../../lesson/context.js';
import { RichText } from '../../../ui/rich-text.js';
import { StrokeDiagram } from '../../../ui/stroke-diagram.js';
import { RecipeBar } from '../../../ui/swatch.js';
import { markWords, listWords as w } from '../../../words/steps.js';
import { words } from '../../../words/words.js';

const StepForm = lazy(() => import('../step-form.js').then((module) => ({ default: module.StepForm })));

/** One step, with the pause before it; opened it shows its details. */
export function StepRow({
  lesson,
  step,
  pause,
  isPicked,
  onPick,
}: {
  lesson: Lesson;
  step: Step;
  pause: PlanItem | undefined;
  isPicked: boolean;
  onPick: (event: MouseEvent, id: string) => boolean;
}) {
  const view = useView();
  const { minutes, plan } = usePlan();
  const isSelected = view.stepId === step.id;
  const row = useRef<HTMLLIElement | null>(null);
  const { setNodeRef, listeners, attributes, transform, transition, isDragging } = useSortable({ id: step.id });
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
  const select = (event: MouseEvent) => {
    if (onPick(event, step.id)) return;
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
      <li
        ref={(node) => {
          row.current = node;
          setNodeRef(node);
        }}
        data-step={step.id}
        className={`step-row${isSelected ? ' selected' : ''}${isPicked ? ' picked' : ''}${isDragging ? ' dragging' : ''}`}
        style={{ transform: CSS.Translate.toString(transform), transition }}
      >
        <span
          className="step-grip"
          title={w.drag(step.title)}
          {...listeners}
          {...attributes}
          tabIndex={-1}
          role="presentation"
          aria-hidden="true"
        />
        <button
          type="button"
          className="step-line"
          aria-expanded={isSelected}
          aria-description={isPicked ? w.picked(1) : undefined}
          onClick={select}
        >
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
      {step.stroke && (
        <p className="step-stroke small">
          <StrokeDiagram stroke={step.stroke} size={34} /> {markWords.strokes[step.stroke].name}:{' '}
          {markWords.strokes[step.stroke].how}
        </p>
      )}
      {step.say && (
        <div className="step-say">
          <RichText text={step.say} />
        </div>
      )}
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
  const p = words.plan.plans;
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
            {p.pin(hourMinute(start))}
          </button>
        </>
      ) : (
        <>
          <span>
            {p.pinnedTo} <b className="numbers">{hourMinute(pinned)}</b>
          </span>{' '}
          <button type="button" className="key bare small" aria-label={p.earlier} onClick={() => pinTo(pinned - 1)}>
            −1
          </button>
          <button type="button" className="key bare small" aria-label={p.later} onClick={() => pinTo(pinned + 1)}>
            +1
          </button>
          <button
            type="button"
            className="key bare small"
            onClick={() => session.do('unpin', { id: step.id })}
            aria-keyshortcuts="P"
          >
            {p.letGo}
          </button>
        </>
      )}
    </p>
  );
}
