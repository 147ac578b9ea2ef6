import { usePlan, useView, useWorkedOut } from '../../../lesson/context.js';
import { draftWords, stageWords as w } from '../../../words-school.js';
import { usePaintedNow } from '../painted.js';

/** A strip of the canvas after every step that leaves something on it. */
export function StagesTopic() {
  const lesson = useWorkedOut();
  const { plan } = usePlan();
  const view = useView();
  const { urls, off, progress, fault } = usePaintedNow();
  if (lesson.zones.length === 0) return <p className="quiet">{draftWords.needZones}</p>;
  const shown = lesson.steps.filter((step) => step.kind !== 'break' && step.kind !== 'look');
  return (
    <div className="stage-strip">
      <p className="quiet small">
        {w.about} {off && w.off(off.mean)}
      </p>
      {fault && (
        <p className="signal" role="alert">
          {fault}
        </p>
      )}
      {progress !== null && (
        <p role="status" className="quiet small">
          {w.painting(progress)}
        </p>
      )}
      <ol>
        {shown.map((step) => {
          const url = urls.get(step.id);
          const number = lesson.steps.indexOf(step) + 1;
          const end = plan.items.find((item) => item.stepId === step.id)?.endMin ?? 0;
          return (
            <li key={step.id}>
              <button
                type="button"
                aria-pressed={view.stepId === step.id}
                onClick={() => {
                  view.selectStep(step.id);
                  view.setMinute(end);
                }}
              >
                {url ? <img src={url} alt="" /> : <span className="stage-empty" />}
                <span className="small">
                  {number}. {step.title}
                </span>
              </button>
            </li>
          );
        })}
      </ol>
    </div>
  );
}
