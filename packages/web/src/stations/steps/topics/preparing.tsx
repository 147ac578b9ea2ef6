import type { Lesson } from '@viaticum/contract';
import { aheadOf } from '@viaticum/core/advice';
import { brushInWords } from '@viaticum/core/brush';
import { brushPlan } from '@viaticum/core/brush-plan';
import { doneAtHome, type LessonPlan } from '@viaticum/core/plan';
import { listInWords, minutesInWords, waitInWords } from '@viaticum/core/units';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { nanoid } from 'nanoid';
import { useMemo } from 'react';
import { usePlan, useSession, useView, useWorkedOut } from '../../../lesson/context.js';
import { preparingWords as w } from '../../../words/teach.js';
import stepsCss from '../steps.module.css';
import css from './preparing.module.css';

/** What is done before the class, each with the latest time to begin it. */
function AtHomeList({ lesson, plan }: { lesson: Lesson; plan: LessonPlan }) {
  const view = useView();
  const home = doneAtHome(lesson, plan);
  if (home.length === 0) return null;
  return (
    <section aria-label={w.atHome} data-testid="at-home">
      <h3>{w.atHome}</h3>
      <ol>
        {home.map(({ step, beginMin, takesMin, driesMin }) => (
          <li key={step.id}>
            <Button type="text" size="small" onClick={() => view.selectStep(step.id)}>
              {step.title}
            </Button>{' '}
            {Number.isFinite(beginMin) ? w.beginBy(minutesInWords(beginMin), minutesInWords(takesMin)) : w.neverDries}
            {driesMin > 0 && Number.isFinite(driesMin) && <span className="quiet">, {w.driesFor(waitInWords(driesMin))}</span>}
          </li>
        ))}
      </ol>
    </section>
  );
}

/** Which brush does what, when it is washed and when the water is changed; and which canvases to paint before the class. */
export function PreparingTopic() {
  const lesson = useWorkedOut();
  const plan = usePlan();
  const { brushes, washes, washesAsWritten, freshWater } = useMemo(() => brushPlan(lesson, plan), [lesson, plan]);
  const view = useView();
  const titleOf = (id: string) => lesson.steps.find((step) => step.id === id)?.title ?? '';
  const numberOf = (id: string) => lesson.steps.findIndex((step) => step.id === id) + 1;
  const same = (id: string) => brushes.filter((one) => one.brush.id === id);
  return (
    <div className={css.preparing}>
      <AtHomeList lesson={lesson} plan={plan} />
      <section aria-label={w.brushes}>
        <h3>{w.brushes}</h3>
        <p className="quiet">{brushes.length === 0 ? w.none : w.about(washes, washesAsWritten)}</p>
        <ul className={css.brushPlan}>
          {brushes.map((one, i) => (
            <li key={`${one.brush.id}${one.uses[0]?.stepId}`}>
              <p>
                <b>{brushInWords(one.brush)}</b>{' '}
                {same(one.brush.id).length > 1 && (
                  <span>{w.second(same(one.brush.id).indexOf(brushes[i] as (typeof brushes)[number]) + 1)} </span>
                )}
                {one.kept && <span className="quiet">{w.kept[one.kept]} </span>}
                {one.substitutes.length > 0 && (
                  <span className="quiet small">{w.instead(listInWords(one.substitutes.map(brushInWords)))}</span>
                )}
              </p>
              <ol className={css.brushUses}>
                {one.uses.map((use) => (
                  <li key={use.stepId}>
                    {w.before[use.before] && (
                      <span className={clsx(css.brushBefore, css[use.before])}>{w.before[use.before]}</span>
                    )}
                    <Button type="text" size="small" onClick={() => view.selectStep(use.stepId)} title={titleOf(use.stepId)}>
                      {numberOf(use.stepId)}
                      <span className={css.srOnly}>. {titleOf(use.stepId)}</span>
                    </Button>
                  </li>
                ))}
              </ol>
              {one.hardens.map((rest) => (
                <p key={rest.afterStepId} className="quiet small">
                  {w.hardens(titleOf(rest.afterStepId), minutesInWords(rest.waitMin))}
                </p>
              ))}
            </li>
          ))}
        </ul>
      </section>
      <section aria-label={w.water}>
        <h3>{w.water}</h3>
        {freshWater.length === 0 && <p className="quiet">{w.noWater}</p>}
        <ul>
          {freshWater.map((one) => (
            <li key={one.stepId}>{w.waterBefore(titleOf(one.stepId), one.mixes)}</li>
          ))}
        </ul>
      </section>
      <Ahead />
    </div>
  );
}

function Ahead() {
  const lesson = useWorkedOut();
  const session = useSession();
  const ahead = useMemo(() => aheadOf(lesson), [lesson]);
  const titleOf = (id: string) => lesson.steps.find((step) => step.id === id)?.title ?? '';
  const listed = (afterStepId: string) => lesson.samples.find((sample) => sample.afterStepId === afterStepId);
  return (
    <section aria-label={w.ahead}>
      <h3>{w.ahead}</h3>
      <p className="quiet">
        {ahead.samples.length === 0
          ? w.aheadNone
          : w.aheadAbout(minutesInWords(ahead.savedMin), minutesInWords(ahead.demonstrationMin))}
      </p>
      <ul className={stepsCss.draftChanges}>
        {ahead.samples.map((sample) => {
          const own = listed(sample.afterStepId);
          return (
            <li key={sample.afterStepId}>
              <span>
                {w.aheadOne(titleOf(sample.afterStepId), titleOf(sample.beforeStepId))}{' '}
                <span className="quiet small">
                  {w.aheadWhen(minutesInWords(sample.startBeforeMin), waitInWords(sample.waitMin))}
                </span>
              </span>
              <Button
                type={own !== undefined ? 'primary' : 'default'}
                aria-pressed={own !== undefined}
                onClick={() =>
                  own
                    ? session.do('removeSample', { id: own.id })
                    : session.do('addSample', {
                        sample: { id: nanoid(8), name: titleOf(sample.afterStepId), afterStepId: sample.afterStepId },
                      })
                }
              >
                {own ? w.letGo : w.take}
              </Button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
