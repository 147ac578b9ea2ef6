import type { Lesson, School } from '@viaticum/contract';
import { type Language, languageOf } from '@viaticum/contract';
import { asDrafted, type DraftChange, draftChanges, draftLesson, usualMin } from '@viaticum/core/draft';
import { planLesson } from '@viaticum/core/plan';
import { reworded } from '@viaticum/core/text';
import { minutesInWords } from '@viaticum/core/units';
import { Button, Select } from 'antd';
import { nanoid } from 'nanoid';
import { useMemo, useState } from 'react';
import { useSession, useWorkedOut } from '../../../lesson/context.js';
import { fetchLanguage } from '../../../ui/language.js';
import { NumberField } from '../../../ui/number-field.js';
import { schoolWords, draftWords as w } from '../../../words/school.js';
import { words } from '../../../words/words.js';
import type { DraftedLesson, PlanJobs } from '../../../workers/plan-jobs.js';
import { planWorker } from '../../../workers/plan-worker.js';
import { useJobOf, useWorker } from '../../../workers/use-job.js';
import stepsCss from '../steps.module.css';
import css from './draft.module.css';
import { OwnMethod } from './own-method.js';
import { OwnWays } from './own-ways.js';

const main = [
  'order',
  'values',
  'layers',
  'ground',
  'drawing',
  'drawWhen',
  'detail',
] as const satisfies readonly (keyof School)[];
const more = (Object.keys(schoolWords) as (keyof School)[]).filter((choice) => !(main as readonly string[]).includes(choice));
const orders = Object.keys(schoolWords.order.options) as School['order'][];

/** The school and the level, what they make of the lesson, and how that differs from its steps. */
export function DraftTopic() {
  const lesson = useWorkedOut();
  const session = useSession();
  const [showMore, setShowMore] = useState(false);
  const { school, areas, mixes, marks, support, things, room, level, overlapMm, tubes, subjectAreaId, method, wantedMin } =
    lesson;
  const { sessions } = lesson.planning;
  const worker = useWorker(planWorker);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a draft stands on these parts of the lesson alone
  const args = useMemo(
    () => (areas.length === 0 ? null : { lesson: { ...lesson, steps: [], leftOut: [], variants: [], samples: [] } }),
    [school, areas, mixes, marks, support, things, room, level, overlapMm, tubes, subjectAreaId, method, wantedMin, sessions],
  );
  const { answer } = useJobOf<PlanJobs, 'draft'>(worker, 'draft', args, { afterMs: 200 });
  if (areas.length === 0) return <p className="quiet">{w.needAreas}</p>;
  const choose = (choice: keyof School) => (
    <div key={choice} className="field">
      <span>{schoolWords[choice].ask}</span>
      <Select
        aria-label={schoolWords[choice].ask}
        value={school[choice]}
        onChange={(given) => session.do('setSchool', { school: { [choice]: given } })}
        options={Object.entries(schoolWords[choice].options).map(([option, name]) => ({ value: option, label: name }))}
      />
    </div>
  );
  return (
    <div className={css.draft} data-testid="draft">
      <p className="quiet small">{w.about}</p>
      <div className={stepsCss.draftSchool}>
        <div className="field">
          <span>{w.level}</span>
          <Select
            aria-label={w.level}
            value={level}
            onChange={(given) => session.do('setLevel', { level: given as Lesson['level'] })}
            options={Object.entries(w.levels).map(([one, name]) => ({ value: one, label: name }))}
          />
        </div>
        <div className="field">
          <span>{w.wanted}</span>
          <NumberField
            label={w.wanted}
            unit={w.minutes}
            value={wantedMin}
            placeholder={String(usualMin[level])}
            onValue={(minutes) => session.do('setWanted', { minutes })}
            onClear={() => session.do('setWanted', { minutes: null })}
          />
        </div>
        <div className="field">
          <span>{w.tongue}</span>
          <Select
            aria-label={w.tongue}
            value={languageOf(lesson.language)}
            onChange={(tongue: Language) =>
              void fetchLanguage(tongue).then(() => session.do('takeVersion', { version: reworded(lesson, tongue) }))
            }
            options={[
              { value: 'en', label: 'English' },
              { value: 'de', label: 'Deutsch' },
            ]}
          />
        </div>
        {main.map(choose)}
        {showMore && more.map(choose)}
        <Button type="text" aria-expanded={showMore} onClick={() => setShowMore(!showMore)}>
          {showMore ? w.fewer : w.more}
        </Button>
      </div>
      <OwnMethod />
      {showMore && <OwnWays lesson={lesson} />}
      {answer ? <Drafted lesson={lesson} draft={answer} /> : <p className="quiet">{w.working}</p>}
      <Beside lesson={lesson} />
    </div>
  );
}

function Drafted({ lesson, draft }: { lesson: Lesson; draft: DraftedLesson }) {
  const session = useSession();
  const changes = useMemo(() => draftChanges(lesson, draft), [lesson, draft]);
  const drafted = useMemo(() => asDrafted(lesson, draft), [lesson, draft]);
  const summary = useMemo(() => summaryOf(drafted), [drafted]);
  const isFresh = lesson.steps.length === 0;
  const { leftOut, cutsBefore } = draft;
  const take = () =>
    session.do('takeDraft', {
      stages: drafted.stages,
      steps: drafted.steps,
      passages: drafted.passages,
      leftOut,
      cutsBefore,
    });
  return (
    <>
      <section aria-label={w.draft}>
        <h3>{w.draft}</h3>
        <p className={css.draftSummary}>
          <b className="numbers">{summary}</b>
          <Button type={isFresh ? 'primary' : 'default'} onClick={take}>
            {isFresh ? w.take : w.takeAll}
          </Button>
        </p>
        {leftOut.length > 0 && <p className="quiet small">{w.withoutNow(leftOut.map(({ step }) => step.title))}</p>}
        {draft.stages.map((stage) => (
          <div key={stage.id}>
            <h4>{stage.name}</h4>
            <ol className={css.draftSteps}>
              {draft.steps
                .filter(({ step }) => step.stageId === stage.id)
                .map(({ step, why }) => (
                  <li key={step.id}>
                    <span>{step.title}</span>
                    <span className="quiet small">{why.join(' ')}</span>
                  </li>
                ))}
            </ol>
          </div>
        ))}
      </section>
      {!isFresh && (
        <section aria-label={w.changes(changes.length)}>
          <h3>{w.changes(changes.length)}</h3>
          <ul className={stepsCss.draftChanges}>
            {changes.map((change) => (
              <li key={`${change.kind}${change.step.id}`}>
                <span>{changeInWords(change)}</span>
                <Button onClick={() => takeChange(session.do, lesson, change)}>{w.takeOne}</Button>
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

const changeInWords = (change: DraftChange): string => {
  if (change.kind === 'add') return w.add(change.step.title);
  if (change.kind === 'remove') return w.remove(change.step.title);
  return w.change(change.step.title, change.fields.map((field) => w.fields[field] ?? field).join(', '));
};

/** One difference taken into the lesson; a new step joins the stage of its place. */
function takeChange(run: ReturnType<typeof useSession>['do'], lesson: Lesson, change: DraftChange): void {
  if (change.kind === 'remove') run('removeStep', { id: change.step.id });
  else if (change.kind === 'add') {
    const at = Math.min(change.at, lesson.steps.length);
    const stageId = (lesson.steps[at] ?? lesson.steps[at - 1])?.stageId ?? lesson.stages[0]?.id;
    if (stageId) run('addStep', { step: { ...change.step, stageId }, at });
  } else {
    const set = Object.fromEntries(Object.entries(change.to).filter(([, value]) => value !== undefined));
    const clear = Object.entries(change.to).flatMap(([field, value]) => (value === undefined ? [field] : []));
    run('editStep', { id: change.step.id, step: set, clear: clear as never });
  }
}

const summaryOf = (lesson: Lesson): string => {
  const mixes = new Set(lesson.steps.flatMap((step) => step.mixIds)).size;
  return w.summary(lesson.steps.length, mixes, minutesInWords(planLesson(lesson).plan.endMin));
};

/** The same lesson in the other orders, by their numbers. */
function Beside({ lesson }: { lesson: Lesson }) {
  const session = useSession();
  const others = useMemo(
    () =>
      orders
        .filter((order) => order !== lesson.school.order)
        .map((order) => {
          const other = { ...lesson, school: { ...lesson.school, order } };
          return {
            order,
            summary: summaryOf(
              asDrafted(
                other,
                draftLesson(other, () => nanoid(8)),
              ),
            ),
          };
        }),
    [lesson],
  );
  return (
    <section aria-label={w.beside}>
      <h3>{w.beside}</h3>
      <ul className={stepsCss.draftChanges}>
        {others.map(({ order, summary }) => (
          <li key={order}>
            <span>
              {words.schoolOrder[order]} <span className="quiet numbers">{summary}</span>
            </span>
            <Button onClick={() => session.do('setSchool', { school: { order } })}>{schoolWords.order.ask}</Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
