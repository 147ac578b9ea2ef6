import type { Lesson, Variant } from '@viaticum/contract';
import { brushes, brushInWords } from '@viaticum/core/brush';
import { commonSizes } from '@viaticum/core/document';
import { type Simpler, type SimplerBy, simplify } from '@viaticum/core/draft';
import { shortTubeName } from '@viaticum/core/mix';
import { planLesson } from '@viaticum/core/plan';
import { minutesInWords } from '@viaticum/core/units';
import { lackingForChildren, type Variation, withVariant } from '@viaticum/core/variant';
import { Button, Checkbox, Select } from 'antd';
import { nanoid } from 'nanoid';
import { useMemo, useState } from 'react';
import { useCreateLesson } from '../../../api/queries.js';
import { usePlan, useSession, useWorkedOut } from '../../../lesson/context.js';
import { LayingProvider, useJob } from '../../../lesson/laid.js';
import { CommitInput } from '../../../ui/commit-input.js';
import { draftWords } from '../../../words/school.js';
import { othersWords as w } from '../../../words/teach.js';
import type { PaintJobs } from '../../../workers/paint-jobs.js';
import { paintWorker } from '../../../workers/paint-worker.js';
import { useJobOf, useWorker } from '../../../workers/use-job.js';
import { Several } from '../step-fields.js';
import stepsCss from '../steps.module.css';
import css from './others.module.css';

/** Variants as differences from the lesson, and the lesson made simpler. */
export function OthersTopic() {
  const lesson = useWorkedOut();
  const session = useSession();
  const add = () =>
    session.do('setVariant', { variant: { id: nanoid(8), name: w.nameNew(lesson.variants.length + 1), changes: [] } });
  return (
    <div className={css.othersTopic}>
      <p className="quiet small">{w.about}</p>
      {lesson.variants.length === 0 && <p className="quiet">{w.none}</p>}
      {lesson.variants.map((variant) => (
        <VariantCard key={variant.id} lesson={lesson} variant={variant} />
      ))}
      <p>
        <Button onClick={add}>{w.add}</Button>
      </p>
      <SimplerLesson lesson={lesson} />
    </div>
  );
}

const AS = '';
function VariantCard({ lesson, variant }: { lesson: Lesson; variant: Variant }) {
  const session = useSession();
  const { plan } = usePlan();
  const create = useCreateLesson();
  const worker = useWorker(paintWorker);
  const chosen = variant.withoutTubeIds ?? [];
  const lacking = variant.children ? [...new Set([...chosen, ...lackingForChildren(lesson)])] : chosen;
  const { answer, progress } = useJobOf<PaintJobs, 'without'>(worker, 'without', lacking.length > 0 ? { lesson, lacking } : null);
  const varied = useMemo(() => withVariant(lesson, variant, answer ?? []), [lesson, variant, answer]);
  const endMin = useMemo(() => planLesson(varied.lesson).plan.endMin, [varied]);
  const { set } = useVariantEdit(variant);
  return (
    <section className={css.variantCard} data-testid="variant-card" aria-label={variant.name}>
      <div className={stepsCss.variantHead}>
        <CommitInput
          wraps
          className={stepsCss.stageName}
          data-testid="stage-name"
          value={variant.name}
          label={w.name}
          onCommit={(name) => set({ name })}
        />
        <span className="numbers quiet">{w.length(minutesInWords(plan.endMin), minutesInWords(endMin))}</span>
        <Button type="text" size="small" onClick={() => session.do('removeVariant', { id: variant.id })}>
          {w.remove}
        </Button>
      </div>
      <VariantFields lesson={lesson} variant={variant} />
      <Differences varied={varied} isWorking={progress !== null} />
      <p>
        <Button
          disabled={create.isPending}
          onClick={() => create.mutate({ ...varied.lesson, title: `${lesson.title}, ${variant.name}`.slice(0, 120) })}
        >
          {w.copy}
        </Button>{' '}
        {create.isSuccess && <span role="status">{w.copied}</span>}
      </p>
    </section>
  );
}

/** How a field of this variant is changed, and how it is left as the lesson has it. */
function useVariantEdit(variant: Variant) {
  const session = useSession();
  const set = (change: Partial<Variant>) => session.do('setVariant', { variant: { ...variant, ...change } });
  const without = <K extends keyof Variant>(key: K) => {
    const { [key]: _, ...rest } = variant;
    return session.do('setVariant', { variant: rest as Variant });
  };
  return { set, without };
}

/** In what it differs: canvas, students, hand, what is not there. */
function VariantFields({ lesson, variant }: { lesson: Lesson; variant: Variant }) {
  const { set, without } = useVariantEdit(variant);
  const size = commonSizes.find((one) => one.widthMm === variant.support?.widthMm && one.heightMm === variant.support?.heightMm);
  const list = (key: 'withoutTubeIds' | 'withoutBrushIds' | 'leaveOutStepIds') => ({
    of: variant.name,
    value: variant[key] ?? [],
    onChange: (next: string[]) => (next.length > 0 ? set({ [key]: next }) : without(key)),
  });
  return (
    <div className={stepsCss.stepForm} data-testid="step-form">
      <div className="field">
        <span>{w.size}</span>
        <Select
          aria-label={w.size}
          value={size?.name ?? AS}
          onChange={(given) => {
            const chosen = commonSizes.find((one) => one.name === given);
            if (!chosen) without('support');
            else set({ support: { widthMm: chosen.widthMm, heightMm: chosen.heightMm } });
          }}
          options={[{ value: AS, label: w.asLesson }, ...commonSizes.map((one) => ({ value: one.name, label: one.name }))]}
        />
      </div>
      <div className="field">
        <span>{w.level}</span>
        <Select
          aria-label={w.level}
          value={variant.level ?? AS}
          onChange={(given) => (given === AS ? without('level') : set({ level: given as Lesson['level'] }))}
          options={[
            { value: AS, label: w.asLesson },
            ...Object.entries(draftWords.levels).map(([one, name]) => ({ value: one, label: name })),
          ]}
        />
      </div>
      <div className="field">
        <span>{w.hand}</span>
        <Select
          aria-label={w.hand}
          value={variant.handed ?? AS}
          onChange={(given) => (given === AS ? without('handed') : set({ handed: given as 'left' | 'right' }))}
          options={[
            { value: AS, label: w.asLesson },
            { value: 'left', label: w.hands.left },
            { value: 'right', label: w.hands.right },
          ]}
        />
      </div>
      <Checkbox
        className={css.variantChildren}
        checked={variant.children ?? false}
        onChange={(event) => (event.target.checked ? set({ children: true }) : without('children'))}
      >
        {w.children}
      </Checkbox>
      <Several
        label={w.withoutTubes}
        options={lesson.tubes.map((tube) => [tube.id, shortTubeName(tube)])}
        {...list('withoutTubeIds')}
      />
      <Several
        label={w.withoutBrushes}
        options={brushes
          .filter((brush) => lesson.steps.some((step) => step.brushId === brush.id))
          .map((brush) => [brush.id, brushInWords(brush)])}
        {...list('withoutBrushIds')}
      />
      <Several label={w.leaveOut} options={lesson.steps.map((step) => [step.id, step.title])} {...list('leaveOutStepIds')} />
    </div>
  );
}

/** What differs from the lesson, and what the instructor has to settle. */
function Differences({ varied, isWorking }: { varied: Variation; isWorking: boolean }) {
  return (
    <>
      {isWorking && (
        <p role="status" className="quiet small">
          {w.working}
        </p>
      )}
      <h3>{w.differs}</h3>
      {varied.differences.length === 0 && <p className="quiet">{w.nothing}</p>}
      <ul>
        {varied.differences.map((one) => (
          <li key={one}>{one}</li>
        ))}
      </ul>
      {varied.open.length > 0 && !isWorking && (
        <>
          <h3>{w.open}</h3>
          <ul>
            {varied.open.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}

const amounts: SimplerBy[] = [1, 2, 3];
function SimplerLesson({ lesson }: { lesson: Lesson }) {
  const [amount, setAmount] = useState<SimplerBy | null>(null);
  const session = useSession();
  const simpler = useMemo(() => (amount ? simplify(lesson, amount) : null), [lesson, amount]);
  if (lesson.steps.length === 0 || lesson.areas.length < 2) return null;
  return (
    <section aria-label={w.simpler}>
      <h3>{w.simpler}</h3>
      <p className="quiet small">{w.simplerAbout}</p>
      <fieldset className={css.simplerAmounts} aria-label={w.simpler}>
        {amounts.map((one) => (
          <Button
            type={amount === one ? 'primary' : 'default'}
            key={one}
            aria-pressed={amount === one}
            onClick={() => setAmount(amount === one ? null : one)}
          >
            {w.amounts[one]}
          </Button>
        ))}
      </fieldset>
      {simpler && (
        <>
          <p>
            {w.fewer(
              simpler.fewer.areas,
              simpler.fewer.mixes,
              simpler.fewer.steps,
              minutesInWords(Math.max(0, simpler.fewer.minutes)),
            )}
          </p>
          {lesson.references.length > 0 && (
            <LayingProvider>
              <Price lesson={lesson} simpler={simpler} />
            </LayingProvider>
          )}
          <Button
            type="primary"
            onClick={() => {
              session.do('simplify', simpler.args);
              setAmount(null);
            }}
          >
            {w.take}
          </Button>
        </>
      )}
    </section>
  );
}

const WIDTH_PX = 420;
/** How much farther the simpler picture lies from the reference, both painted and squinted at. */
function Price({ lesson, simpler }: { lesson: Lesson; simpler: Simpler }) {
  const before = useJob('stages', { lesson, widthPx: WIDTH_PX, wanted: [], withPicture: true }, 100);
  const after = useJob('stages', { lesson: simpler.lesson, widthPx: WIDTH_PX, wanted: [], withPicture: true }, 100);
  const [own, other] = [before.answer?.offs.at(-1), after.answer?.offs.at(-1)];
  return (
    <p role="status" className="numbers">
      {own && other && before.progress === null && after.progress === null ? w.price(own.mean, other.mean) : w.measuring}
    </p>
  );
}
