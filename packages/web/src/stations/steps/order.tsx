import type { Lesson } from '@viaticum/contract';
import { inOrderOf, type OrderAnswer, type PlanLength } from '@viaticum/core/plan';
import { minutesInWords } from '@viaticum/core/units';
import { useEffect, useState } from 'react';
import { useSession, useWorkedOut } from '../../lesson/context.js';
import { words } from '../../words.js';
import type { PlanJobs } from '../../workers/plan-jobs.js';
import { type PlanWorker, planWorker } from '../../workers/plan-worker.js';
import { useJobOf } from '../../workers/use-job.js';

const w = words.steps.order;

/** Whether another order of the steps waits less: asked for, shown beside the present one, and taken as one change. */
export function OrderPanel() {
  const lesson = useWorkedOut();
  const [asked, setAsked] = useState<Lesson | null>(null);
  const [worker, setWorker] = useState<PlanWorker | null>(null);
  useEffect(() => {
    if (!asked) return;
    const fresh = planWorker();
    setWorker(fresh);
    return () => fresh.end();
  }, [asked]);
  const isAsked = asked !== null && asked.steps === lesson.steps && asked.room === lesson.room;
  const { answer, progress, fault } = useJobOf<PlanJobs, 'order'>(worker, 'order', asked && { lesson: asked });
  if (lesson.steps.length < 2) return null;
  return (
    <section className="order-panel" aria-label={w.label}>
      {!isAsked && (
        <button type="button" className="key" onClick={() => setAsked(lesson)}>
          {w.ask}
        </button>
      )}
      {isAsked && progress !== null && (
        <p role="status" className="small quiet">
          {w.searching(progress)}
        </p>
      )}
      {fault && (
        <p className="signal" role="alert">
          {fault}
        </p>
      )}
      {isAsked && answer && progress === null && <Answer lesson={lesson} answer={answer} onLeave={() => setAsked(null)} />}
    </section>
  );
}

function Answer({ lesson, answer, onLeave }: { lesson: Lesson; answer: OrderAnswer; onLeave: () => void }) {
  const session = useSession();
  const { own, best, changes, proven, lowerBoundMin } = answer;
  const saved = own.endMin - best.endMin;
  const proof = proven ? w.proven : w.notProven(minutesInWords(lowerBoundMin));
  if (changes === 0)
    return (
      <p className="order-none">
        {w.none} <span className="quiet small">{proof}</span>{' '}
        <button type="button" className="key bare small" onClick={onLeave}>
          {w.close}
        </button>
      </p>
    );
  const after = inOrderOf(lesson, answer.order);
  const moved = after.steps.flatMap((step, place) => {
    const was = lesson.steps.findIndex((one) => one.id === step.id);
    return was - place >= 2 ? [w.earlier(step.title, was + 1, place + 1)] : [];
  });
  return (
    <>
      <div className="order-plans">
        <Bar name={w.own} length={own} whole={own.endMin} />
        <Bar name={w.best} length={best} whole={own.endMin} />
      </div>
      <p>
        <b>{w.saved(minutesInWords(saved))}</b> {w.changes(changes)} <span className="quiet small">{proof}</span>
      </p>
      {moved.length > 0 && <p className="small quiet">{moved.join(' ')}</p>}
      <p className="order-keys">
        <button type="button" className="key main" onClick={() => session.do('orderSteps', { ids: answer.order }) && onLeave()}>
          {w.take}
        </button>
        <button type="button" className="key" onClick={onLeave}>
          {w.leave}
        </button>
      </p>
    </>
  );
}

/** A plan as a strip of linen: work inked, waiting bare. */
function Bar({ name, length, whole }: { name: string; length: PlanLength; whole: number }) {
  const share = (minutes: number) => `${(100 * minutes) / Math.max(whole, 1)}%`;
  return (
    <div className="order-plan">
      <span>{name}</span>
      <div className="order-strip" aria-hidden="true">
        <i className="work" style={{ width: share(length.endMin - length.waitMin) }} />
        <i className="wait" style={{ width: share(length.waitMin) }} />
      </div>
      <span className="numbers">{w.length(minutesInWords(length.endMin), minutesInWords(length.waitMin))}</span>
    </div>
  );
}
