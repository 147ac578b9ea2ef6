import type { Lab } from '@viaticum/contract';
import { announcement, inItsLanguage } from '@viaticum/core/text';
import { type RelationChange, relationsOf, roughestStage } from '@viaticum/core/value-relations';
import { cssRgb, labToSrgb } from '@viaticum/kernels/colour';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { useSession, useView, useWorkedOut } from '../../../lesson/context.js';
import { valuesWords as w } from '../../../words/teach.js';
import { usePaintedNow } from '../painted.js';
import stepsCss from '../steps.module.css';
import css from './values.module.css';

/** The value each area should have and the step by which it stands; who breaks relations, and who repairs them; the roughest stage. */
export function ValuesTopic() {
  const lesson = useWorkedOut();
  const view = useView();
  if (lesson.areas.length === 0 || lesson.steps.length === 0) return <p className="quiet">{w.none}</p>;
  const { areas, changes } = relationsOf(lesson);
  const nameOf = (id: string) => lesson.areas.find((area) => area.id === id)?.name ?? '';
  const stepOf = (id: string | null) => lesson.steps.findIndex((step) => step.id === id);
  const said = (change: RelationChange) => {
    const [one, other] = [nameOf(change.areaId), nameOf(change.neighbourId)];
    return change.kind === 'breaks' ? w.breaks(one, other, change.isL > 0) : w.repairs(one, other, change.isL > 0);
  };
  return (
    <div className={css.valuesTopic}>
      <p className="quiet small">{w.about}</p>
      <table className={css.valuesTable} data-testid="values-table">
        <thead>
          <tr>
            <th scope="col">{w.area}</th>
            <th scope="col">{w.target}</th>
            <th scope="col">{w.last}</th>
            <th scope="col">{w.due}</th>
          </tr>
        </thead>
        <tbody>
          {areas.map((area) => (
            <tr key={area.areaId}>
              <th scope="row">{nameOf(area.areaId)}</th>
              <td>{area.target ? <Value lab={area.target} /> : <span className="quiet">{w.noTarget}</span>}</td>
              <td>
                {area.last ? <Value lab={area.last} /> : <span className="signal">{w.bare}</span>}{' '}
                {area.offL !== null && <span className="quiet small">{w.off(area.offL)}</span>}
              </td>
              <td>
                {area.dueStepId && (
                  <Button type="text" size="small" onClick={() => view.selectStep(area.dueStepId)}>
                    {stepOf(area.dueStepId) + 1}. {lesson.steps[stepOf(area.dueStepId)]?.title}
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <section aria-label={w.changes}>
        <h3>{w.changes}</h3>
        {changes.length === 0 && <p className="quiet">{w.noChanges}</p>}
        <ol className={stepsCss.draftChanges}>
          {changes.map((change) => (
            <li key={`${change.stepId}${change.areaId}${change.neighbourId}`}>
              <Button type="text" className={clsx('plain', css.relation)} onClick={() => view.selectStep(change.stepId)}>
                <b>
                  {stepOf(change.stepId) + 1}. {lesson.steps[stepOf(change.stepId)]?.title}
                </b>
                : {said(change)}.
              </Button>
            </li>
          ))}
        </ol>
      </section>
      <Rough />
    </div>
  );
}

/** A value as a grey beside its colour. */
function Value({ lab }: { lab: Lab }) {
  return (
    <span className={css.valuePair}>
      <i style={{ background: cssRgb(labToSrgb([lab[0], 0, 0])) }} />
      <i style={{ background: cssRgb(labToSrgb(lab)) }} />
      <span className="numbers">{Math.round(lab[0])}</span>
    </span>
  );
}

function Rough() {
  const lesson = useWorkedOut();
  const session = useSession();
  const { offs } = usePaintedNow();
  const measured = offs.length > 0 ? new Map(offs.map((one) => [one.stepId, one.mean])) : undefined;
  const rough = roughestStage(lesson, measured);
  const step = lesson.steps.find((one) => one.id === rough?.stepId);
  const isSaid = lesson.steps.some((one) => one.say.includes('looks its worst'));
  return (
    <section aria-label={w.rough}>
      <h3>{w.rough}</h3>
      {!rough || !step ? (
        <p className="quiet">{w.noRough}</p>
      ) : (
        <>
          <p>{w.roughIs(rough.name, measured !== undefined)}</p>
          <blockquote className="quiet">{inItsLanguage(lesson, () => announcement(rough.name))}</blockquote>
          {isSaid ? (
            <p className="quiet small">{w.announced}</p>
          ) : (
            <Button
              onClick={() =>
                session.do('editStep', {
                  id: step.id,
                  step: { say: `${inItsLanguage(lesson, () => announcement(rough.name))} ${step.say}`.trim() },
                })
              }
            >
              {w.announce}
            </Button>
          )}
        </>
      )}
    </section>
  );
}
