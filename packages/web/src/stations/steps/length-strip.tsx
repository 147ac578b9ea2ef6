import type { Lesson } from '@viaticum/contract';
import { type Gain, usualMin } from '@viaticum/core/draft';
import { type LengthParts, lengthParts } from '@viaticum/core/plan';
import { minutesInWords } from '@viaticum/core/units';
import { Button, Slider, Tooltip } from 'antd';
import { clsx } from 'clsx';
import { useMemo, useState } from 'react';
import { usePlan, useSession, useWorkedOut } from '../../lesson/context.js';
import { lengthWords as w } from '../../words/steps.js';
import type { PlanJobs } from '../../workers/plan-jobs.js';
import { planWorker } from '../../workers/plan-worker.js';
import { useJobOf, useWorker } from '../../workers/use-job.js';
import css from './length-strip.module.css';

/** How long the lesson is against how long it is wanted, what its time goes into, and the way to another length. */
export function LengthStrip() {
  const lesson = useWorkedOut();
  const planned = usePlan();
  const [isOpen, setOpen] = useState(false);
  const { endMin, never } = planned.plan;
  const asked = lesson.wantedMin ?? usualMin[lesson.level];
  if (lesson.steps.length < 2) return null;
  const parts = lengthParts(lesson, planned);
  return (
    <section className={css.strip} aria-label={w.label} data-testid="length-strip">
      <p className={css.line}>
        <b className={clsx('numbers', endMin > asked * KEPT && css.over)}>{never ? w.never : minutesInWords(endMin)}</b>
        <span className="quiet">
          {lesson.wantedMin === undefined ? w.usual(minutesInWords(asked)) : w.asked(minutesInWords(asked))}
        </span>
        <Button size="small" type="text" aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
          {lesson.leftOut.length > 0 ? w.openWith(lesson.leftOut.length) : w.open}
        </Button>
      </p>
      <Bar parts={parts} />
      {!never && lesson.leftOut.length === 0 && endMin < asked * LEAST_USED && (
        <p className="quiet small">{w.allNeeded(minutesInWords(endMin), minutesInWords(asked))}</p>
      )}
      {isOpen && <Lengths lesson={lesson} endMin={endMin} asked={asked} />}
    </section>
  );
}

/** So much longer than asked is still as asked. */
const KEPT = 1.05;
/** A lesson that takes less of its time than this is told to be short. */
const LEAST_USED = 0.75;
/** Narrower parts tell their name when they are pointed at. */
const WIDE_SHARE = 0.16;

function Bar({ parts }: { parts: LengthParts }) {
  const shown = (Object.keys(parts) as (keyof LengthParts)[]).filter((part) => parts[part] >= 0.5);
  const whole = shown.reduce((sum, part) => sum + parts[part], 0);
  return (
    <ul className={css.bar} aria-label={w.partsLabel}>
      {shown.map((part) => (
        <Tooltip key={part} title={`${w.parts[part]} ${minutesInWords(parts[part])}`}>
          <li
            data-part={part}
            {...(parts[part] >= WIDE_SHARE * whole ? { 'data-wide': true } : {})}
            style={{ flexGrow: parts[part] }}
          >
            <span>
              {w.parts[part]} <span className="numbers">{minutesInWords(parts[part])}</span>
            </span>
          </li>
        </Tooltip>
      ))}
    </ul>
  );
}

function Lengths({ lesson, endMin, asked }: { lesson: Lesson; endMin: number; asked: number }) {
  const session = useSession();
  const worker = useWorker(planWorker);
  const args = useMemo(() => ({ lesson }), [lesson]);
  const { answer } = useJobOf<PlanJobs, 'lengths'>(worker, 'lengths', args, { afterMs: 150 });
  const [dragged, setDragged] = useState<number | null>(null);
  if (!answer) return <p className="quiet small">{w.working}</p>;
  const least = Math.floor(answer.notches.at(-1)?.endMin ?? answer.gains.at(-1)?.endMin ?? answer.wholeMin);
  const most = Math.ceil(answer.wholeMin);
  const wanted = Math.min(most, Math.max(least, dragged ?? asked));
  const { leaveOut, bringBack, taken, edits, order, passages, reached } = changesFor(lesson, answer, wanted);
  const take = (minutes: number) => {
    session.do('fitToLength', { minutes, leaveOut, bringBack, edits, order, passages });
    setDragged(null);
  };
  const titleOf = (id: string) =>
    lesson.steps.find((step) => step.id === id)?.title ?? lesson.leftOut.find((one) => one.step.id === id)?.step.title ?? '';
  const saved = new Map(answer.notches.map((one) => [one.stepId, one.savedMin]));
  return (
    <div className={css.lengths}>
      {answer.notches.length + answer.gains.length === 0 ? (
        <p className="quiet small">{w.nothingToLeave(minutesInWords(endMin))}</p>
      ) : (
        <>
          <Slider
            className={css.slider}
            aria-label={w.slider}
            ariaLabelForHandle={w.slider}
            min={least}
            max={most}
            value={wanted}
            marks={{ [least]: minutesInWords(least), [most]: minutesInWords(most) }}
            tooltip={{
              formatter: (value) => minutesInWords(value ?? 0),
              getPopupContainer: (handle) => handle.parentElement as HTMLElement,
            }}
            onChange={setDragged}
          />
          <p className={css.line} role="status">
            <span>{w.at(minutesInWords(reached))}</span>
            <Button
              size="small"
              type="primary"
              disabled={leaveOut.length + bringBack.length + taken.length === 0}
              onClick={() => take(wanted)}
            >
              {w.make(minutesInWords(wanted))}
            </Button>
          </p>
          <ul className={css.changes}>
            {taken.map((gain) => (
              <li key={gain.kind}>
                <span>{w.gains[gain.kind]}</span>
                <span className="numbers quiet">−{minutesInWords(gain.savedMin)}</span>
              </li>
            ))}
            {leaveOut.map((id) => (
              <li key={id}>
                <span>{w.goes(titleOf(id))}</span>
                <span className="numbers quiet">−{minutesInWords(saved.get(id) ?? 0)}</span>
              </li>
            ))}
            {bringBack.map((id) => (
              <li key={id}>
                <span>{w.comes(titleOf(id))}</span>
                <span className="numbers quiet">+{minutesInWords(saved.get(id) ?? 0)}</span>
              </li>
            ))}
          </ul>
        </>
      )}
      {lesson.leftOut.length > 0 && (
        <>
          <h3>{w.leftOut}</h3>
          <ul className={css.changes} data-testid="left-out">
            {lesson.leftOut.map(({ step }) => (
              <li key={step.id}>
                <span>{step.title}</span>
                <Button size="small" onClick={() => session.do('bringBack', { ids: [step.id] })}>
                  {w.bringBack(saved.has(step.id) ? minutesInWords(saved.get(step.id) ?? 0) : null)}
                </Button>
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}

/** What changes for a length: first what takes nothing from the picture, as far as it is needed, then the ladder down to it is left out. */
function changesFor(lesson: Lesson, { wholeMin, gains, notches }: PlanJobs['lengths']['answer'], wanted: number) {
  const isEnough = (endMin: number) => endMin <= wanted + 0.5;
  let reached = wholeMin;
  const taken: Gain[] = [];
  for (const gain of gains) {
    if (isEnough(reached)) break;
    taken.push(gain);
    reached = gain.endMin;
  }
  const out = new Set<string>();
  for (const notch of notches) {
    if (isEnough(reached)) break;
    out.add(notch.stepId);
    reached = notch.endMin;
  }
  const here = new Set(lesson.steps.map((step) => step.id));
  const bringBack = lesson.leftOut.flatMap(({ step }) => (out.has(step.id) ? [] : [step.id]));
  const isThere = (id: string) => here.has(id) || bringBack.includes(id);
  const order = taken.findLast((gain) => gain.order)?.order?.filter(isThere);
  return {
    leaveOut: [...out].filter((id) => here.has(id)),
    bringBack,
    taken,
    edits: taken.flatMap((gain) => gain.edits ?? []).filter(({ id }) => isThere(id)),
    order: order ?? null,
    passages: taken.flatMap((gain) => gain.passages ?? []),
    reached,
  };
}
