import type { Step } from '@viaticum/contract';
import { reasonInWords, whyNotEarlier } from '@viaticum/core/advice';
import { hourMinute } from '@viaticum/core/units';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { usePlan, useSession, useWorkedOut } from '../../lesson/context.js';
import { words } from '../../words/words.js';
import css from './pin-row.module.css';

/** When the step begins and why not earlier; pinned to a time by hand, a minute at a time. */
export function PinRow({ step }: { step: Step }) {
  const lesson = useWorkedOut();
  const plan = usePlan();
  const session = useSession();
  const p = words.plan.plans;
  const start = plan.plan.items.find((item) => item.stepId === step.id)?.startMin ?? 0;
  const pin = lesson.planning.pins.find((one) => 'stepId' in one && one.stepId === step.id);
  const pinned = pin && 'stepId' in pin ? pin.startMin : null;
  const pinTo = (startMin: number) => session.do('pinStep', { id: step.id, startMin: Math.max(0, startMin) });
  return (
    <p className={clsx(css.pinRow, 'small')}>
      {pinned === null ? (
        <>
          <span className="quiet">
            {hourMinute(start)}: {reasonInWords(lesson, whyNotEarlier(plan, step.id))}.
          </span>{' '}
          <Button type="text" size="small" onClick={() => pinTo(start)} aria-keyshortcuts="P">
            {p.pin(hourMinute(start))}
          </Button>
        </>
      ) : (
        <>
          <span>
            {p.pinnedTo} <b className="numbers">{hourMinute(pinned)}</b>
          </span>{' '}
          <Button type="text" size="small" aria-label={p.earlier} onClick={() => pinTo(pinned - 1)}>
            −1
          </Button>
          <Button type="text" size="small" aria-label={p.later} onClick={() => pinTo(pinned + 1)}>
            +1
          </Button>
          <Button type="text" size="small" onClick={() => session.do('unpin', { id: step.id })} aria-keyshortcuts="P">
            {p.letGo}
          </Button>
        </>
      )}
    </p>
  );
}
