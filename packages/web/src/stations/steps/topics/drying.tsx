import type { Lesson } from '@viaticum/contract';
import { coatFacts, type Lever, type Offer, offersFor } from '@viaticum/core/advice';
import { needWords } from '@viaticum/core/contact';
import { laysPaint } from '@viaticum/core/derived';
import type { CommandArgs, CommandName } from '@viaticum/core/document';
import { rungWord } from '@viaticum/core/step';
import { minutesInWords, waitInWords } from '@viaticum/core/units';
import { Button, Select } from 'antd';
import { nanoid } from 'nanoid';
import { lazy, Suspense, useMemo } from 'react';
import { usePlan, useSession, useView, useWorkedOut } from '../../../lesson/context.js';
import { words } from '../../../words/words.js';
import type { PlanJobs } from '../../../workers/plan-jobs.js';
import { planWorker } from '../../../workers/plan-worker.js';
import { useJobOf, useWorker } from '../../../workers/use-job.js';
import stepsCss from '../steps.module.css';
import css from './drying.module.css';

const w = words.plan.drying;
const DryingCurve = lazy(() => import('./drying-curve.js').then((module) => ({ default: module.DryingCurve })));

/** How the coat of one step dries: its curve and ladder with the likely range, what makes it long, and what helps a blend. */
export function DryingTopic() {
  const lesson = useWorkedOut();
  const plan = usePlan();
  const view = useView();
  const painting = lesson.steps.filter(laysPaint);
  const step = painting.find((one) => one.id === view.stepId) ?? painting[0];
  const facts = useMemo(() => (step ? coatFacts(lesson, step.id, plan) : null), [lesson, step, plan]);
  const offers = useMemo(() => (step ? offersFor(lesson, step.id, plan) : []), [lesson, step, plan]);
  if (!step || !facts) return <p className="quiet">{w.none}</p>;
  const { times, range, takesMin, areaId } = facts;
  const area = lesson.areas.find((one) => one.id === areaId)?.name ?? '';
  const isBlend = step.technique === 'blend';
  const short = takesMin > times.openMin && isBlend;
  const fits = short ? w.short : isBlend ? w.enough : w.laid;
  return (
    <div className={css.drying}>
      <div className={css.dryingStep}>
        <div className="field">
          <span>{w.step}</span>
          <Select
            aria-label={w.step}
            value={step.id}
            onChange={(given) => view.selectStep(given)}
            options={painting.map((one) => ({ value: one.id, label: `${lesson.steps.indexOf(one) + 1}. ${one.title}` }))}
          />
        </div>
        <span className="quiet">{w.on(step.wholeCanvas ? w.whole : area)}</span>
      </div>
      <div className={css.dryingRungs}>
        <Rung name={w.workable} minutes={times.openMin} early={range.early.openMin} late={range.late.openMin} />
        <Rung name={w.paintOver} minutes={times.paintOverMin} early={range.early.paintOverMin} late={range.late.paintOverMin} />
        <Rung name={w.touchDry} minutes={times.touchDryMin} early={range.early.touchDryMin} late={range.late.touchDryMin} />
      </div>
      <p className={short ? 'signal' : 'quiet'}>
        {fits(minutesInWords(times.openMin), minutesInWords(takesMin))} {facts.coat.onWet && w.stacked}{' '}
        {times.mist && w.misted(times.mist.passes)} {step.technique === 'impasto' && w.impasto}
      </p>
      {offers.length > 0 && <Offers stepId={step.id} offers={offers} />}
      <Suspense fallback={<div className={stepsCss.dryingCurve} />}>
        <DryingCurve times={times} range={range} />
      </Suspense>
      <Levers lesson={lesson} stepId={step.id} />
      <Ladder facts={facts} />
    </div>
  );
}

function Rung({ name, minutes, early, late }: { name: string; minutes: number; early: number; late: number }) {
  return (
    <p>
      <span className="quiet small">{name}</span>
      <b className="numbers">{Number.isFinite(minutes) ? minutesInWords(minutes) : w.never}</b>
      {Number.isFinite(minutes) && <span className="quiet small">{w.likely(minutesInWords(early), minutesInWords(late))}</span>}
    </p>
  );
}

function Offers({ stepId, offers }: { stepId: string; offers: Offer[] }) {
  const session = useSession();
  const take = (offer: Offer) => {
    if (offer.command === 'divideStep')
      session.do('divideStep', { ...offer.args, ids: Array.from({ length: offer.args.parts - 1 }, () => nanoid(8)) });
    else if (offer.command) session.do(offer.command, offer.args);
  };
  return (
    <section aria-label={w.offers}>
      <h3>{w.offers}</h3>
      <ul className={css.offers}>
        {offers.map((offer) => (
          <li key={`${stepId}${offer.kind}`} data-offer={offer.kind} className={offer.works ? undefined : 'quiet'}>
            <span>
              {offer.words}
              {offer.but && <span className="quiet"> ({offer.but})</span>}
              <span className="numbers small quiet">
                {w.offer(minutesInWords(offer.openMin), waitInWords(offer.takesMin))}
                {offer.endMin !== null && `, ${w.ends(minutesInWords(offer.endMin))}`}
              </span>
            </span>
            <b>{offer.works ? w.works : w.notEnough}</b>
            {offer.command ? <Button onClick={() => take(offer)}>{w.pull}</Button> : <span />}
          </li>
        ))}
      </ul>
    </section>
  );
}

const signed = (minutes: number) => `${minutes > 0 ? '+' : '−'}${Math.round(Math.abs(minutes))} min`;

function Levers({ lesson, stepId }: { lesson: Lesson; stepId: string }) {
  const session = useSession();
  const worker = useWorker(planWorker);
  const args = useMemo(() => ({ lesson, stepId }), [lesson, stepId]);
  const { answer } = useJobOf<PlanJobs, 'levers'>(worker, 'levers', args, { afterMs: 200 });
  if (!answer || answer.levers.length === 0) return null;
  const pull = (lever: Lever) =>
    lever.command && session.do(lever.command as CommandName, lever.args as CommandArgs<CommandName>);
  return (
    <section aria-label={w.long}>
      <h3>{w.long}</h3>
      <p className="quiet small">{w.longAbout(needWords[answer.rung as keyof typeof needWords])}</p>
      <ul className={css.offers}>
        {answer.levers.slice(0, 7).map((lever) => (
          <li key={lever.words}>
            <span>{lever.words}</span>
            <span className="numbers">{w.lever(signed(lever.coatMin), signed(lever.lessonMin))}</span>
            <Button onClick={() => pull(lever)}>{w.pull}</Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Ladder({ facts }: { facts: NonNullable<ReturnType<typeof coatFacts>> }) {
  const { times } = facts;
  const rows = [
    ['workable', 0],
    ['damp', times.openMin],
    ['paint-over', times.paintOverMin],
    ['touch-dry', times.touchDryMin],
    ['firm', times.firmH * 60],
    ['cured', times.cureH * 60],
  ] as const;
  return (
    <section aria-label={w.ladder}>
      <h3>{w.ladder}</h3>
      <table className={css.ladder}>
        <thead>
          <tr>
            {w.columns.map((column) => (
              <th key={column}>{column}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(([rung, from]) => (
            <tr key={rung}>
              <td className="numbers">{Number.isFinite(from) ? minutesInWords(from) : w.never}</td>
              <td>{rungWord[rung]}</td>
              <td>{w.rungs[rung][0]}</td>
              <td className="quiet">{w.rungs[rung][1]}</td>
            </tr>
          ))}
          {times.revivedMin !== null && (
            <tr>
              <td className="numbers">
                {w.until(Number.isFinite(times.revivedMin) ? minutesInWords(times.revivedMin) : w.never)}
              </td>
              <td>{w.revived[0]}</td>
              <td>{w.revived[1]}</td>
              <td className="quiet">{w.revived[2]}</td>
            </tr>
          )}
        </tbody>
      </table>
      <p className="quiet small">{w.label}</p>
    </section>
  );
}
