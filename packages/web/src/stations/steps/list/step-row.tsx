import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import type { Lesson, PlanItem, Step } from '@viaticum/contract';
import { brushInWords, brushOf } from '@viaticum/core/brush';
import type { ShownFinding } from '@viaticum/core/check';
import { looksOf } from '@viaticum/core/derived';
import { minutesInWords, waitInWords } from '@viaticum/core/units';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { type MouseEvent, useEffect, useRef } from 'react';
import { usePlan, useView } from '../../../lesson/context.js';
import { listWords as w } from '../../../words/steps.js';
import { words } from '../../../words/words.js';
import css from './step-row.module.css';

/** One step, with the pause before it; opened it shows its details. */
export function StepRow({
  lesson,
  step,
  pause,
  isPicked,
  onPick,
  finding,
}: {
  lesson: Lesson;
  step: Step;
  pause: PlanItem | undefined;
  isPicked: boolean;
  onPick: (event: MouseEvent, id: string) => boolean;
  finding: ShownFinding | undefined;
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
    step.needs !== 'any' && step.needs !== 'auto' && words.needs[step.needs],
    step.partByPart && words.steps.partByPart,
    step.medium && words.media[step.medium],
    step.ahead && words.steps.ahead,
  ].filter(Boolean);
  const select = (event: MouseEvent) => {
    if (onPick(event, step.id)) return;
    view.selectStep(step.id);
    const item = plan.items.find((one) => one.stepId === step.id);
    if (item) view.setMinute(item.endMin);
  };
  return (
    <>
      {pause && (
        <li className={css.pauseRow}>
          <span>
            <b>{pause.title}</b>{' '}
            <span className="quiet">
              {pause.fillers && pause.fillers.length > 0 && `· ${words.steps.meanwhile}: `}
              {pause.fillers?.map((one) => `${one.words} ${minutesInWords(one.minutes)}`).join(', ')}
              {(pause.bareMin ?? 0) >= 1 &&
                `${pause.fillers?.length ? '; ' : '· '}${words.steps.bare(waitInWords(pause.bareMin ?? 0))}`}
            </span>
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
        className={clsx(css.stepRow, isSelected && css.selected, isPicked && css.picked, isDragging && css.dragging)}
        data-testid="step-row"
        style={{ transform: CSS.Translate.toString(transform), transition }}
      >
        <span
          className={css.stepGrip}
          data-testid="step-grip"
          title={w.drag(step.title)}
          {...listeners}
          {...attributes}
          tabIndex={-1}
          role="presentation"
          aria-hidden="true"
        />
        <Button
          type="text"
          className={clsx('plain', css.stepLine)}
          data-testid="step-line"
          aria-current={isSelected}
          aria-description={isPicked ? w.picked(1) : undefined}
          onClick={select}
        >
          <span className={clsx(css.stepNumber, 'numbers')}>{lesson.steps.indexOf(step) + 1}</span>
          <span className={css.stepSwatch} aria-hidden="true">
            {step.mixIds.map((id) => (
              <i key={id} style={{ background: looks.get(id)?.rgb }} />
            ))}
          </span>
          <span className={css.stepTitle} data-testid="step-title">
            {step.title}
          </span>
          <span className="numbers">{own && minutesInWords(own.showMin + own.doMin)}</span>
          <span className={clsx(css.stepFacts, 'quiet small')}>
            <span>{facts.join(' · ')}</span>
            {finding && <i className={clsx(finding.serious && 'signal')}>{finding.words}</i>}
          </span>
        </Button>
      </li>
    </>
  );
}
