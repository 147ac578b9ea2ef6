import { MoreOutlined } from '@ant-design/icons';
import type { Lesson, Step } from '@viaticum/contract';
import { letters } from '@viaticum/contract';
import { Button, Dropdown, Empty, Input, Segmented } from 'antd';
import { clsx } from 'clsx';
import { nanoid } from 'nanoid';
import { lazy, Suspense, useRef, useState } from 'react';
import { useLesson, useSession, useView } from '../../lesson/context.js';
import { FindingKeys } from '../../lesson/finding.js';
import { openOf, useFindings } from '../../lesson/use-findings.js';
import { useSaidChange } from '../../lesson/use-said-change.js';
import { useTyped } from '../../ui/use-typed.js';
import { listWords } from '../../words/steps.js';
import { words } from '../../words/words.js';
import { PassageRow } from './passage-row.js';
import { PinRow } from './pin-row.js';
import css from './step-pane.module.css';
import { Touches } from './touches.js';

const StepForm = lazy(() => import('./step-form.js').then((module) => ({ default: module.StepForm })));

const w = words.steps;
type Part = keyof typeof w.parts;
const parts = Object.keys(w.parts) as Part[];

/** The marked step beside the list: what to know about it, then every field. */
export function StepPane() {
  const lesson = useLesson();
  const { stepId } = useView();
  const step = lesson.steps.find((one) => one.id === stepId);
  if (!step)
    return (
      <section className={clsx(css.stepPane, css.empty)} aria-label={w.form('')}>
        {lesson.steps.length > 0 && <Empty image={false} description={w.noneChosen} />}
      </section>
    );
  return <OneStep key={step.id} lesson={lesson} step={step} />;
}

function OneStep({ lesson, step }: { lesson: Lesson; step: Step }) {
  const found = openOf(useFindings()).filter((one) => one.place.stepId === step.id);
  const pane = useRef<HTMLDivElement>(null);
  const [part, setPart] = useState<Part>('what');
  const show = (next: Part) => {
    setPart(next);
    pane.current?.querySelector(`[data-part="${next}"]`)?.scrollIntoView({ block: 'start' });
  };
  /** The part that is read follows the scroll. */
  const follow = () => {
    const top = pane.current?.getBoundingClientRect().top ?? 0;
    const read = parts.findLast((one) => {
      const head = pane.current?.querySelector(`[data-part="${one}"]`);
      return head !== null && head !== undefined && head.getBoundingClientRect().top <= top + 40;
    });
    setPart(read ?? 'what');
  };
  return (
    <section className={css.stepPane} aria-label={w.form(step.title)}>
      <header>
        <span className={clsx(css.stepPaneNumber, 'numbers')}>{lesson.steps.indexOf(step) + 1}</span>
        <Title step={step} />
        <More lesson={lesson} step={step} />
        <Segmented<Part>
          block
          size="small"
          aria-label={w.form('')}
          value={part}
          options={parts.map((one) => ({ value: one, label: w.parts[one] }))}
          onChange={show}
        />
      </header>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls can be scrolled by keyboard */}
      <section className={css.stepPaneBody} ref={pane} onScroll={follow} tabIndex={0} aria-label={w.fields}>
        <h2 className="visually-hidden">{step.title}</h2>
        {found.map((finding) => (
          <div key={finding.id} className={clsx('finding', finding.serious && 'serious')} data-testid="finding">
            <p>
              {finding.words} <span className="quiet">{finding.reason}</span>
            </p>
            <FindingKeys finding={finding} />
          </div>
        ))}
        <Touches step={step} />
        <PassageRow step={step} />
        <Suspense fallback={null}>
          <StepForm lesson={lesson} step={step} />
        </Suspense>
        <PinRow step={step} />
      </section>
    </section>
  );
}

function Title({ step }: { step: Step }) {
  const session = useSession();
  const typed = useTyped(step.title, (title, burst, isLeaving) => {
    if (isLeaving || title.trim() !== '') session.do('editStep', { id: step.id, step: { title } }, burst);
  });
  return (
    <Input.TextArea
      className={css.stepPaneTitle}
      variant="borderless"
      rows={1}
      aria-label={w.title}
      maxLength={letters.name}
      value={typed.text}
      onChange={(event) => typed.type(event.target.value.replace(/\n/g, ' '))}
      onBlur={() => typed.leave()}
      onKeyDown={(event) => {
        if (event.key === 'Escape') typed.forget();
        if (event.key !== 'Enter' && event.key !== 'Escape') return;
        event.preventDefault();
        event.currentTarget.blur();
      }}
    />
  );
}

/** What is done with the whole step. */
function More({ lesson, step }: { lesson: Lesson; step: Step }) {
  const session = useSession();
  const view = useView();
  const say = useSaidChange();
  const at = lesson.steps.indexOf(step);
  const acts = {
    up: () => session.do('moveStep', { id: step.id, to: at - 1 }),
    down: () => session.do('moveStep', { id: step.id, to: at + 1 }),
    split: () => session.do('splitStep', { id: step.id, newId: nanoid(8) }),
    duplicate: () => {
      const copy = { ...step, id: nanoid(8) };
      if (session.do('addStep', { step: copy, at: at + 1 })) view.selectStep(copy.id);
    },
    remove: () => {
      if (session.do('removeStep', { id: step.id })) say(w.removed(step.title));
      view.selectStep(lesson.steps[at + 1]?.id ?? lesson.steps[at - 1]?.id ?? null);
    },
  };
  return (
    <Dropdown
      trigger={['click']}
      menu={{
        items: [
          { key: 'up', label: w.up, disabled: at <= 0 },
          { key: 'down', label: w.down, disabled: at >= lesson.steps.length - 1 },
          { key: 'split', label: listWords.split },
          { key: 'duplicate', label: w.duplicate },
          { type: 'divider' },
          { key: 'remove', label: w.remove, danger: true },
        ],
        onClick: ({ key }) => void acts[key as keyof typeof acts](),
      }}
    >
      <Button type="text" size="small" icon={<MoreOutlined />} aria-label={w.more} />
    </Dropdown>
  );
}
