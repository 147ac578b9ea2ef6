import { type Lesson, noWords } from '@viaticum/contract';
import {
  type Cost,
  calmly,
  contradictionInWords,
  criticalChain,
  type OrderAnswer,
  type PlanLength,
  type PlansAnswer,
  reasonInWords,
  waysOut,
} from '@viaticum/core/advice';
import type { Act, CommandArgs, CommandName } from '@viaticum/core/document';
import type { Contradiction } from '@viaticum/core/plan';
import { hourMinute, minutesInWords, waitInWords } from '@viaticum/core/units';
import { Button, Checkbox, Slider } from 'antd';
import { useMemo, useState } from 'react';
import { usePlan, useSession, useView, useWorkedOut } from '../../../lesson/context.js';
import { NumberField } from '../../../ui/number-field.js';
import { words } from '../../../words/words.js';
import type { PlanJobs } from '../../../workers/plan-jobs.js';
import { planWorker } from '../../../workers/plan-worker.js';
import { useJobOf, useWorker } from '../../../workers/use-job.js';
import css from './plans.module.css';

const w = words.plan.plans;
const MOST_NODES = 20_000;

/** Three plans side by side and what lies between them, what the plan holds to and what that costs, and what sets the end. */
export function PlansTopic() {
  const lesson = useWorkedOut();
  const plan = usePlan();
  const [maxNodes, setMaxNodes] = useState(MOST_NODES);
  const worker = useWorker(planWorker);
  const isSearched = lesson.steps.length > 1;
  // Words do not change a plan: what is asked leaves them out, so that typing them asks nothing anew.
  const asked = useMemo(() => (isSearched ? { lesson: withoutWords(lesson), maxNodes } : null), [lesson, maxNodes, isSearched]);
  const { answer, progress, fault, stop } = useJobOf<PlanJobs, 'plans'>(worker, 'plans', asked, { afterMs: 250 });
  const costs = useJobOf<PlanJobs, 'costs'>(worker, 'costs', asked && { lesson: asked.lesson }, { afterMs: 400 });
  return (
    <div className={css.plans}>
      {plan.contradictions.length > 0 && <Against lesson={lesson} contradictions={plan.contradictions} />}
      <section aria-label={w.label}>
        <h3>{w.label}</h3>
        {progress !== null && (
          <p role="status" className="small quiet">
            {w.searching(progress)}{' '}
            <Button type="text" size="small" onClick={stop}>
              {w.stop}
            </Button>
          </p>
        )}
        {fault && (
          <p className="signal" role="alert">
            {fault}
          </p>
        )}
        {answer && isOf(answer, lesson) && <Plans lesson={lesson} answer={answer} />}
      </section>
      <Holds lesson={lesson} maxNodes={maxNodes} onNodes={setMaxNodes} />
      {costs.answer && costs.answer.length > 0 && <Costs lesson={lesson} costs={costs.answer} />}
      <Chain lesson={lesson} />
    </div>
  );
}

const withoutWords = (lesson: Lesson): Lesson => ({
  ...lesson,
  steps: lesson.steps.map((step) => ({ ...step, ...noWords })),
  setAside: [],
});

/** An answer stands only for the steps it was asked about. */
const isOf = ({ best }: PlansAnswer, lesson: Lesson): boolean =>
  best.order.length === lesson.steps.length && best.order.every((id) => lesson.steps.some((step) => step.id === id));

function Plans({ lesson, answer }: { lesson: Lesson; answer: PlansAnswer }) {
  const session = useSession();
  const { best, calm, trades } = answer;
  const [at, setAt] = useState(trades.length - 1);
  const chosen = trades[Math.min(at, trades.length - 1)];
  const whole = Math.max(best.own.endMin, calm.best.endMin);
  const isCalm = lesson.planning.cautious === true && (lesson.planning.slackShare ?? 0) > 0;
  const proof = best.proven ? w.proven : w.notProven(minutesInWords(best.lowerBoundMin));
  // A plan is taken, and taken back, as one change.
  const taking = (one: Pick<OrderAnswer, 'order' | 'cutsBefore'>): Act[] => [
    ['orderSteps', { ids: one.order }],
    ...(lesson.planning.sessions ? [['setPlanning', { cutsBefore: one.cutsBefore }] as const] : []),
  ];
  const take = (one: Pick<OrderAnswer, 'order' | 'cutsBefore'>) => session.doAll(taking(one));
  const takeCalm = () => {
    const { pins: _, sessions: __, cutsBefore: ___, ...carefully } = calmly(lesson).planning;
    session.doAll([...taking(calm), ['setPlanning', carefully]]);
  };
  return (
    <>
      <div className={css.orderPlans}>
        <Strip name={w.own} length={best.own} whole={whole} />
        <Strip name={w.best} length={best.best} whole={whole}>
          {best.changes > 0 && (
            <Button type="primary" onClick={() => take(best)}>
              {w.take}
            </Button>
          )}
        </Strip>
        <Strip name={w.calm} length={calm.best} whole={whole}>
          {isCalm ? (
            <Button onClick={() => session.do('setPlanning', { cautious: false, slackShare: 0 })}>{w.leaveCalm}</Button>
          ) : (
            <Button onClick={takeCalm}>{w.takeCalm}</Button>
          )}
        </Strip>
      </div>
      <p>
        <b>{best.changes > 0 ? w.saved(minutesInWords(best.own.endMin - best.best.endMin)) : w.none}</b>{' '}
        {best.changes > 0 && w.changes(best.changes)} <span className="quiet small">{proof}</span>{' '}
        <span className="quiet small">{w.sessions(best.cutsBefore.map((id) => titleOf(lesson, id)))}</span>
      </p>
      <p className="quiet small">
        {w.calm}: {w.calmAbout}
      </p>
      {trades.length > 2 && chosen && (
        <div className={css.trade}>
          <div className="field">
            <span>{w.trade}</span>
            <Slider
              ariaLabelForHandle={w.tradeAbout}
              ariaValueTextFormatterForHandle={() => `${minutesInWords(chosen.endMin)}, ${w.changes(chosen.changes)}`}
              min={0}
              max={trades.length - 1}
              step={1}
              value={Math.min(at, trades.length - 1)}
              onChange={(given: number) => setAt(given)}
            />
          </div>
          <span data-testid="trade">
            <b className="numbers">{minutesInWords(chosen.endMin)}</b> {w.changes(chosen.changes)}
          </span>
          {chosen.changes > 0 && <Button onClick={() => take(chosen)}>{w.take}</Button>}
        </div>
      )}
    </>
  );
}

const titleOf = (lesson: Lesson, id: string): string => lesson.steps.find((step) => step.id === id)?.title ?? '';

/** A plan as a strip of linen: work inked, waiting bare. */
function Strip({
  name,
  length,
  whole,
  children,
}: {
  name: string;
  length: PlanLength;
  whole: number;
  children?: React.ReactNode;
}) {
  const share = (minutes: number) => `${(100 * minutes) / Math.max(whole, 1)}%`;
  return (
    <div className={css.orderPlan} data-plan={name}>
      <span>{name}</span>
      <div className={css.orderStrip} aria-hidden="true">
        <i className={css.work} style={{ width: share(length.endMin - length.waitMin) }} />
        <i className={css.wait} style={{ width: share(length.waitMin) }} />
      </div>
      <span className="numbers">{w.length(minutesInWords(length.endMin), waitInWords(length.waitMin))}</span>
      <span>{children}</span>
    </div>
  );
}

function Holds({ lesson, maxNodes, onNodes }: { lesson: Lesson; maxNodes: number; onNodes: (nodes: number) => void }) {
  const session = useSession();
  const { breaks, sessions, cautious = false, slackShare = 0 } = lesson.planning;
  const set = (planning: CommandArgs<'setPlanning'>) => session.do('setPlanning', planning);
  const setBreaks = (change: Partial<NonNullable<typeof breaks>>) =>
    set({ breaks: { lengthMin: 10, everyMin: 75, ...breaks, ...change } });
  const setSessions = (change: Partial<NonNullable<typeof sessions>>) =>
    set({ sessions: { most: 2, limitMin: 150, ...sessions, ...change } });
  return (
    <section className={css.holds} aria-label={w.holds}>
      <h3>{w.holds}</h3>
      <p>
        <Checkbox
          checked={breaks !== undefined}
          onChange={(event) => (event.target.checked ? setBreaks({}) : set({ breaks: null }))}
        >
          {w.breaks}
        </Checkbox>{' '}
        <NumberField
          label={`${w.breaks} ${w.min}`}
          value={breaks?.lengthMin ?? 10}
          onValue={(lengthMin) => setBreaks({ lengthMin })}
        />{' '}
        {w.every}{' '}
        <NumberField
          label={`${w.every} ${w.min}`}
          value={breaks?.everyMin ?? 75}
          onValue={(everyMin) => setBreaks({ everyMin })}
        />{' '}
        {w.min}
      </p>
      <p>
        <Checkbox
          checked={sessions !== undefined}
          onChange={(event) => (event.target.checked ? setSessions({}) : set({ sessions: null }))}
        >
          {w.sessionsOf}
        </Checkbox>{' '}
        <NumberField label={w.sessionsOf} value={sessions?.most ?? 2} onValue={(most) => setSessions({ most })} />{' '}
        {w.sessionsLimit}{' '}
        <NumberField
          label={w.sessionsLimit}
          value={sessions?.limitMin ?? 150}
          onValue={(limitMin) => setSessions({ limitMin })}
        />{' '}
        {w.min}
      </p>
      <p>
        <Checkbox checked={cautious} onChange={(event) => set({ cautious: event.target.checked })}>
          {' '}
          {w.cautious}
        </Checkbox>
      </p>
      <p>
        {w.slack}{' '}
        <NumberField
          label={w.slack}
          value={Math.round(slackShare * 100)}
          onValue={(percent) => set({ slackShare: percent / 100 })}
        />{' '}
        <span className="quiet small">
          {w.nodes}{' '}
          <NumberField
            label={w.nodes}
            value={maxNodes}
            onValue={(value) => {
              onNodes(Math.max(1, Math.round(value)));
              return true;
            }}
          />
        </span>
      </p>
    </section>
  );
}

function Costs({ lesson, costs }: { lesson: Lesson; costs: Cost[] }) {
  const session = useSession();
  const areaOf = (id: string) => lesson.areas.find((area) => area.id === id)?.name ?? '';
  const pinOf = (id: string) => lesson.planning.pins.find((pin) => 'stepId' in pin && pin.stepId === id);
  const about = (cost: Cost): string => {
    if (cost.kind === 'pin') {
      const pin = pinOf(cost.stepId);
      return `${w.costPin(titleOf(lesson, cost.stepId))}${pin && 'stepId' in pin ? ` (${hourMinute(pin.startMin)})` : ''}`;
    }
    if (cost.kind === 'order') return w.costOrder(titleOf(lesson, cost.firstId), titleOf(lesson, cost.thenId));
    if (cost.kind === 'wait') return w.costWait(titleOf(lesson, cost.stepId), areaOf(cost.areaId));
    return w.costRules[cost.kind];
  };
  return (
    <section aria-label={w.costs}>
      <h3>{w.costs}</h3>
      <ul className={css.costs}>
        {costs.map((cost) => (
          <li key={JSON.stringify(cost)} data-cost={cost.kind}>
            <span>{about(cost)}</span>
            <b className="numbers">{cost.minutes > 0 ? w.cost(minutesInWords(cost.minutes)) : w.costNothing}</b>
            {cost.kind === 'pin' && (
              <Button type="text" size="small" onClick={() => session.do('unpin', { id: cost.stepId })}>
                {w.letGo}
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Chain({ lesson }: { lesson: Lesson }) {
  const plan = usePlan();
  const view = useView();
  const links = useMemo(() => criticalChain(plan), [plan]);
  if (links.length === 0) return null;
  return (
    <section aria-label={w.chain}>
      <h3>{w.chain}</h3>
      <p className="quiet small">
        {w.chainAbout} {w.dragAbout}
      </p>
      <ol className={css.chain} data-testid="chain">
        {links.map((link) => (
          <li key={link.stepId}>
            <span className="numbers quiet">{hourMinute(link.startMin)}</span>
            <Button
              type="text"
              onClick={() => {
                view.selectStep(link.stepId);
                view.setMinute(link.endMin);
              }}
            >
              {titleOf(lesson, link.stepId)}
            </Button>
            <span className="quiet small">{reasonInWords(lesson, link.reason)}</span>
          </li>
        ))}
      </ol>
    </section>
  );
}

function Against({ lesson, contradictions }: { lesson: Lesson; contradictions: Contradiction[] }) {
  const session = useSession();
  const plan = usePlan();
  return (
    <section className={css.against} aria-label={w.against}>
      <h3 className="signal">{w.against}</h3>
      {contradictions.map((one) => {
        const text = contradictionInWords(lesson, plan, one);
        return (
          <div key={text}>
            <p>{text}</p>
            <p className={css.orderKeys}>
              {waysOut(lesson, plan, one).map((way) => (
                <Button
                  key={way.words}
                  onClick={() => session.do(way.command as CommandName, way.args as CommandArgs<CommandName>)}
                >
                  {way.words}
                </Button>
              ))}
            </p>
          </div>
        );
      })}
    </section>
  );
}
