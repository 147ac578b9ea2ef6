import type { Lesson, Step } from '@viaticum/contract';
import { heldBy, type WayOn } from '@viaticum/core/advice';
import { type Contact, changedColour, contactInWords } from '@viaticum/core/contact';
import { areaName } from '@viaticum/core/derived';
import { minutesInWords, waitInWords } from '@viaticum/core/units';
import { Button, Collapse } from 'antd';
import { useMemo } from 'react';
import { usePlan, useSession, useWorkedOut } from '../../lesson/context.js';
import { touchWords as w } from '../../words/steps.js';
import type { PlanJobs } from '../../workers/plan-jobs.js';
import { planWorker } from '../../workers/plan-worker.js';
import { useJobOf, useWorker } from '../../workers/use-job.js';
import css from './touches.module.css';

/** The wait before a step with what it is for and the ways past it, what is waived, and why there is no wait elsewhere. */
export function Touches({ step }: { step: Step }) {
  const lesson = useWorkedOut();
  const plan = usePlan();
  const own = plan.contacts.filter((one) => one.toStepId === step.id);
  const held = heldBy(plan, step.id);
  const waived = own.filter((one) => one.waived);
  const others = own.filter((one) => !one.waived && !held.includes(one));
  if (own.length === 0) return null;
  return (
    <section className={css.touches} aria-label={w.label} data-testid="touches">
      {held[0] && <Wait lesson={lesson} step={step} contact={held[0]} />}
      {waived.map((one) => (
        <Waived key={`${one.id}${one.ownAreaId}`} lesson={lesson} contact={one} />
      ))}
      {others.length > 0 && (
        <Collapse
          ghost
          size="small"
          items={[{ key: 'why', label: w.why(others.length), children: <Others lesson={lesson} contacts={others} /> }]}
        />
      )}
    </section>
  );
}

function Wait({ lesson, step, contact }: { lesson: Lesson; step: Step; contact: Contact }) {
  const { plan } = usePlan();
  const at = plan.items.findIndex((item) => item.stepId === step.id);
  const pause = plan.items[at - 1];
  const change = changedColour(lesson, contact);
  if (!pause) return null;
  return (
    <div className={css.wait}>
      <h3>
        {pause.title} <span className="numbers">{waitInWords(pause.endMin - pause.startMin)}</span>
      </h3>
      <p>{contactInWords(lesson, contact)}</p>
      {change && (
        <p className={css.change}>
          <span className={css.patch} style={{ background: change.own }} role="img" aria-label={w.before(change.name)} />
          <span className={css.patch} style={{ background: change.changed }} role="img" aria-label={w.after(change.name)} />
          <span className="quiet small">{w.after(change.name)}</span>
        </p>
      )}
      <WaysOn lesson={lesson} stepId={step.id} endMin={plan.endMin} />
    </div>
  );
}

function WaysOn({ lesson, stepId, endMin }: { lesson: Lesson; stepId: string; endMin: number }) {
  const session = useSession();
  const worker = useWorker(planWorker);
  const args = useMemo(() => ({ lesson, stepId }), [lesson, stepId]);
  const { answer } = useJobOf<PlanJobs, 'waysOn'>(worker, 'waysOn', args, { afterMs: 150 });
  if (!answer || answer.length === 0) return null;
  const take = (way: WayOn) => session.do(way.command, way.args as never);
  return (
    <>
      <p className="quiet small">
        {w.instead} <span className="numbers">{minutesInWords(endMin)}</span>. {w.ways}:
      </p>
      <ul className={css.ways}>
        {answer.map((way) => (
          <li key={way.kind} data-way={way.kind}>
            <Button size="small" onClick={() => take(way)}>
              {way.words}
            </Button>{' '}
            <span className="numbers small quiet">{w.until(minutesInWords(way.endMin)).replaceAll(' ', '\u00a0')}</span>
          </li>
        ))}
      </ul>
    </>
  );
}

const harmInWords = (harm: number): string => harm.toFixed(harm < 10 ? 1 : 0);

function Waived({ lesson, contact }: { lesson: Lesson; contact: Contact }) {
  const session = useSession();
  const { fromStepId, toStepId, areaId, harm } = contact;
  return (
    <p className={css.waived} data-testid="waived">
      <span>{w.waived(areaName(lesson, areaId), harm === null ? '' : w.byHarm(harmInWords(harm)))}</span>
      <Button
        type="text"
        size="small"
        onClick={() => session.do('unwaiveContact', { contacts: [{ fromStepId, toStepId, areaId }] })}
      >
        {w.takeBack}
      </Button>
    </p>
  );
}

function Others({ lesson, contacts }: { lesson: Lesson; contacts: readonly Contact[] }) {
  const why = ({ neededMin, harm, limit, need }: Contact): string => {
    if (need === 'any') return w.nothingAsked;
    if (neededMin <= 0 || (harm !== null && harm <= limit && neededMin <= 0)) return w.harmless(harmInWords(harm ?? 0));
    return w.soon(waitInWords(neededMin));
  };
  return (
    <ul className={css.others}>
      {contacts.map((one) => (
        <li key={`${one.id}${one.ownAreaId}`}>
          <span>
            {one.kind === 'over' ? w.overWord : w.edgeWord} {areaName(lesson, one.areaId)}
          </span>
          <span className="quiet">{why(one)}</span>
        </li>
      ))}
    </ul>
  );
}
