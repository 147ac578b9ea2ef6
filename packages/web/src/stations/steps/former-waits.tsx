import type { Lesson } from '@viaticum/contract';
import { formerWaits } from '@viaticum/core/plan';
import { minutesInWords } from '@viaticum/core/units';
import { Alert, Button } from 'antd';
import { useMemo, useState } from 'react';
import { useSession, useWorkedOut } from '../../lesson/context.js';
import { formerWaitWords as w } from '../../words/steps.js';
import css from './touches.module.css';

/** Said once of a lesson planned by the former rules: how its waiting changed, and the way to keep the old pauses. */
export function FormerWaitsNote() {
  const lesson = useWorkedOut();
  return lesson.formerWaits ? <Note lesson={lesson} /> : null;
}

function Note({ lesson }: { lesson: Lesson }) {
  const session = useSession();
  const [isOpen, setOpen] = useState(false);
  const waits = useMemo(() => formerWaits(lesson), [lesson]);
  const met = (keep: { stepId: string; startMin: number }[]) => session.do('meetWaits', { keep });
  if (!waits) return <Alert type="info" showIcon={false} title={w.same} closable={{ onClose: () => void met([]) }} />;
  const longer = waits.steps.filter((step) => step.formerMin > step.nowMin);
  return (
    <Alert
      type="info"
      showIcon={false}
      data-testid="former-waits"
      title={w.title(minutesInWords(waits.formerMin), minutesInWords(waits.nowMin))}
      description={
        <>
          {isOpen && (
            <ul className={css.others}>
              {waits.steps.map((step) => (
                <li key={step.stepId}>
                  <span>{step.title}</span>
                  <span className="numbers quiet">{w.change(minutesInWords(step.formerMin), minutesInWords(step.nowMin))}</span>
                </li>
              ))}
            </ul>
          )}
          <p className={css.keys}>
            <Button type="primary" onClick={() => met([])}>
              {w.right}
            </Button>
            <Button onClick={() => setOpen(!isOpen)} aria-expanded={isOpen}>
              {w.see}
            </Button>
            <Button onClick={() => met(longer.map(({ stepId, startMin }) => ({ stepId, startMin })))}>{w.keep}</Button>
          </p>
        </>
      }
    />
  );
}
