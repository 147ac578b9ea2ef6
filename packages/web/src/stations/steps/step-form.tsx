import {
  type Lesson,
  layings,
  loadings,
  loads,
  media,
  needs,
  paintKinds,
  type Step,
  type StrokeKind,
  sides,
  stepKinds,
  strokes,
  techniques,
} from '@viaticum/contract';
import { brushes, brushInWords } from '@viaticum/core/brush';
import { looksOf, mediumOf } from '@viaticum/core/derived';
import type { ClearableStepField } from '@viaticum/core/document';
import { proposeStep } from '@viaticum/core/draft';
import { recipeParts } from '@viaticum/core/mix';
import { lowered } from '@viaticum/core/units';
import { Button, Checkbox, Form, type SelectProps, Tag, Tooltip } from 'antd';
import { clsx } from 'clsx';
import { nanoid } from 'nanoid';
import { useState } from 'react';
import { usePlan, useSession } from '../../lesson/context.js';
import { CommitInput } from '../../ui/commit-input.js';
import { RichInput } from '../../ui/rich-input.js';
import { markWords } from '../../words/steps.js';
import { words } from '../../words/words.js';
import { Choice, Labelled, NumberInput, Several } from './step-fields.js';
import css from './step-form.module.css';
import stepsCss from './steps.module.css';

const w = words.steps;
/** Beside the areas: no area has such an id. */
const WHOLE = '*';
/** Kinds of steps in which a brush touches the canvas. */
const paints = (step: Step): boolean => step.kind === 'paint' || step.kind === 'prepare';

/** Every field of a step; each change takes effect as it is made and can be undone. */
export function StepForm({ lesson, step }: { lesson: Lesson; step: Step }) {
  return (
    <Form
      layout="horizontal"
      className={stepsCss.stepForm}
      data-testid="step-form"
      labelAlign="left"
      labelCol={{ flex: '78px' }}
      requiredMark={false}
      component="div"
    >
      <h3 data-part="what">{w.parts.what}</h3>
      <What lesson={lesson} step={step} />
      {paints(step) && (
        <>
          <h3 data-part="with">{w.parts.with}</h3>
          <WithWhat lesson={lesson} step={step} />
        </>
      )}
      <h3 data-part="long">{w.parts.long}</h3>
      <HowLong lesson={lesson} step={step} />
      <h3 data-part="say">{w.parts.say}</h3>
      <WhatIsSaid step={step} />
    </Form>
  );
}

/** How a field of this step is changed, and how it is left open. */
function useStepEdit(step: Step) {
  const session = useSession();
  const change = (fields: Partial<Omit<Step, 'id'>>, clear: ClearableStepField[] = [], burst?: string) =>
    session.do('editStep', { id: step.id, step: fields, ...(clear.length > 0 && { clear }) }, burst);
  return {
    edit: (fields: Partial<Omit<Step, 'id'>>, burst?: string) => change(fields, [], burst),
    clear: (field: ClearableStepField) => change({}, [field]),
    change,
  };
}

function What({ lesson, step }: { lesson: Lesson; step: Step }) {
  const { edit, clear, change } = useStepEdit(step);
  const propose = usePropose(lesson, step);
  return (
    <>
      <Labelled label={w.areas} why={propose.why && w.proposedNow(propose.why)}>
        <Several
          label={w.areas}
          value={step.wholeCanvas ? [WHOLE] : step.areaIds}
          options={[[WHOLE, w.wholeCanvas], ...lesson.areas.map((area): [string, string] => [area.id, area.name])]}
          onChange={(places) => {
            const areaIds = places.filter((id) => id !== WHOLE);
            // The one of the two that was chosen last counts.
            if (places.includes(WHOLE) && !step.wholeCanvas) edit({ wholeCanvas: true });
            else if (areaIds.length > 0) propose.place(areaIds);
            else change({ areaIds: [] }, ['wholeCanvas']);
          }}
        />
        {paints(step) && step.areaIds.length > 0 && (
          <Tooltip title={w.proposeAbout}>
            <Button onClick={() => propose.take(step.areaIds)}>{w.propose}</Button>
          </Tooltip>
        )}
      </Labelled>
      <Labelled label={w.kind}>
        <Choice
          label={w.kind}
          value={step.kind}
          options={stepKinds.map((kind) => [kind, words.kinds[kind]])}
          onChange={(kind) => kind && edit({ kind })}
        />
        <Choice
          label={w.stage}
          value={step.stageId}
          options={lesson.stages.map((stage) => [stage.id, stage.name])}
          onChange={(stageId) => stageId && edit({ stageId })}
        />
      </Labelled>
      {paints(step) && (
        <Labelled label={w.covers}>
          <NumberInput
            label={w.cover}
            unit="%"
            value={step.coverShare === undefined ? undefined : Math.round(step.coverShare * 100)}
            placeholder="100"
            onValue={(value) => (value === null ? clear('coverShare') : edit({ coverShare: value / 100 }))}
          />
          <Choice
            label={w.side}
            value={step.side}
            canClear
            none={w.allOver}
            options={sides.map((side) => [side, w.sides[side]])}
            onChange={(side) => (side ? edit({ side }) : clear('side'))}
          />
          {lesson.marks.length > 0 && (
            <Several
              label={markWords.marks}
              value={step.markIds}
              none={lowered(markWords.marks)}
              options={lesson.marks.map((mark) => [mark.id, mark.name])}
              onChange={(markIds) => edit({ markIds })}
            />
          )}
        </Labelled>
      )}
    </>
  );
}

/**
 * Places a step, and fills in what is usual there where nothing was chosen yet; `take` does so anew. Each is one change.
 */
function usePropose(lesson: Lesson, step: Step) {
  const session = useSession();
  const [why, setWhy] = useState<string | null>(null);
  const put = (areaIds: string[], withWords: boolean): boolean => {
    const found = areaIds[0] ? proposeStep(lesson, areaIds[0], step.id) : null;
    if (!found) return false;
    const { title, say, watch, checkpoint, finish, ...painted } = found.fields;
    const said = withWords ? { title, say, watch, checkpoint, finish } : {};
    if (session.do('editStep', { id: step.id, step: { areaIds, ...painted, ...said } })) setWhy(found.why.join(' '));
    return true;
  };
  const isFresh = step.title === w.stepName && step.mixIds.length === 0 && paints(step);
  return {
    why,
    place(areaIds: string[]): void {
      setWhy(null);
      if (!isFresh || !put(areaIds, true)) session.do('editStep', { id: step.id, step: { areaIds } });
    },
    take: (areaIds: string[]): void => void put(areaIds, step.say === ''),
  };
}

/** A mix among those chosen, with its colour. */
function useMixTag(lesson: Lesson): NonNullable<SelectProps['tagRender']> {
  const looks = looksOf(lesson);
  return ({ value, label, closable, onClose }) => (
    <Tag className={css.mixTag} closable={closable} onClose={onClose}>
      <i style={{ background: looks.get(String(value))?.rgb }} />
      {label}
    </Tag>
  );
}

function WithWhat({ lesson, step }: { lesson: Lesson; step: Step }) {
  const { edit, clear } = useStepEdit(step);
  const tag = useMixTag(lesson);
  return (
    <>
      <Labelled label={w.mixes}>
        <Several
          label={w.mixes}
          value={step.mixIds}
          options={lesson.mixes.map((mix) => [mix.id, mix.name])}
          tag={tag}
          onChange={(mixIds) => edit({ mixIds })}
        />
      </Labelled>
      {step.mixIds.length > 1 && step.passageId === undefined && (
        <Labelled label={w.loading}>
          <Choice
            label={w.loading}
            value={step.loading}
            canClear
            none={w.oneByOne}
            options={loadings.map((one) => [one, w.loadings[one]])}
            onChange={(one) => (one ? edit({ loading: one }) : clear('loading'))}
          />
        </Labelled>
      )}
      <Labelled label={w.brush}>
        <Choice
          label={w.brush}
          value={step.brushId}
          canClear
          none={w.noBrush}
          options={brushes.map((brush) => [brush.id, brushInWords(brush)])}
          onChange={(brushId) => (brushId ? edit({ brushId }) : clear('brushId'))}
        />
        <Choice<StrokeKind>
          label={markWords.stroke}
          value={step.stroke}
          canClear
          none={w.noStroke}
          options={strokes.map((stroke) => [stroke, markWords.strokes[stroke].name])}
          onChange={(stroke) => (stroke ? edit({ stroke }) : clear('stroke'))}
        />
      </Labelled>
      <Labelled label={w.technique}>
        <Choice
          label={w.technique}
          value={step.technique}
          canClear
          options={techniques.map((one) => [one, words.techniques[one]])}
          onChange={(technique) => (technique ? edit({ technique }) : clear('technique'))}
        />
        {step.technique === 'glaze' ? (
          <GlazeMedium lesson={lesson} step={step} />
        ) : (
          <Choice
            label={w.medium}
            value={step.medium}
            canClear
            none={w.noMedium}
            options={media.map((medium) => [medium, words.media[medium]])}
            onChange={(medium) => (medium ? edit({ medium }) : clear('medium'))}
          />
        )}
      </Labelled>
      {step.medium === 'mist' && (
        <Labelled label={w.mistShort}>
          <NumberInput
            label={w.mistEvery}
            unit={w.minute}
            value={step.mistEveryMin}
            onValue={(value) => (value === null ? clear('mistEveryMin') : edit({ mistEveryMin: value }))}
          />
        </Labelled>
      )}
      <Labelled label={w.paint}>
        <Choice
          label={w.paint}
          value={step.paint ?? 'ordinary'}
          options={paintKinds.map((kind) => [kind, w.paints[kind]])}
          onChange={(paint) => (paint && paint !== 'ordinary' ? edit({ paint }) : clear('paint'))}
        />
        <span className={css.formWord}>{w.waterShort}</span>
        <NumberInput
          label={w.water}
          unit="%"
          value={step.waterShareOfMix === undefined ? undefined : Math.round(step.waterShareOfMix * 100)}
          onValue={(value) => (value === null ? clear('waterShareOfMix') : edit({ waterShareOfMix: value / 100 }))}
        />
      </Labelled>
      {(step.technique === 'blend' || step.underFilm) && (
        <Labelled label={w.underShort}>
          <Choice
            label={w.underFilm}
            value={step.underFilm}
            canClear
            none={w.noUnderFilm}
            options={[
              ['water', w.underFilms.water],
              ['gel', w.underFilms.gel],
            ]}
            onChange={(underFilm) => (underFilm ? edit({ underFilm }) : clear('underFilm'))}
          />
        </Labelled>
      )}
    </>
  );
}

/** Parts of clear medium to one of the mixes of a glaze: kept with the mix, so that it is asked once. */
function GlazeMedium({ lesson, step }: { lesson: Lesson; step: Step }) {
  const session = useSession();
  const mixes = step.mixIds.flatMap((id) => lesson.mixes.find((mix) => mix.id === id) ?? []);
  const [first] = mixes;
  if (!first) return <span className={css.formWord}>{w.glazeNoMix}</span>;
  const parts = recipeParts(first, lesson);
  return (
    <NumberInput
      label={w.glazeMedium}
      unit={w.glazeToOne}
      value={first.mediumParts}
      placeholder={parts ? String(mediumOf(first, parts, lesson.finish)) : ''}
      onValue={(mediumParts) => mixes.every(({ id }) => session.do('setThinning', { id, mediumParts }))}
    />
  );
}

function HowLong({ lesson, step }: { lesson: Lesson; step: Step }) {
  const { edit, clear } = useStepEdit(step);
  const proposed = usePlan().minutes.get(step.id)?.proposedDoMin;
  const isTyped = step.doMin !== undefined && proposed !== undefined && proposed !== step.doMin;
  const number = (field: 'showMin' | 'doMin', label: string, placeholder = '') => (
    <NumberInput
      label={label}
      unit={w.minute}
      value={step[field]}
      placeholder={placeholder}
      onValue={(value) => (value === null ? clear(field) : edit({ [field]: value }))}
    />
  );
  return (
    <>
      <Labelled label={w.times}>
        <span className={css.formWord}>{w.showFor}</span>
        {number('showMin', w.showMin)}
        <span className={css.formWord}>{w.doFor}</span>
        {number('doMin', w.doMin, proposed === undefined ? '' : String(proposed))}
        {isTyped ? (
          <Button type="text" size="small" onClick={() => clear('doMin')}>
            {w.asProposed(Math.round(proposed ?? 0))}
          </Button>
        ) : (
          proposed !== undefined &&
          step.doMin === undefined && <span className={clsx(css.formWord, 'quiet')}>{w.isProposed}</span>
        )}
      </Labelled>
      <Labelled label={w.laidOn}>
        <Choice
          label={w.needs}
          value={step.needs}
          options={needs.map((need) => [need, words.needs[need]])}
          onChange={(need) => need && edit({ needs: need })}
        />
        {paints(step) && (
          <>
            <Choice
              label={w.load}
              value={step.load ?? 'normal'}
              options={loads.map((load) => [load, w.loads[load]])}
              onChange={(load) => (load && load !== 'normal' ? edit({ load }) : clear('load'))}
            />
            <Choice
              label={w.laying}
              value={step.laying}
              canClear
              none={w.layingUsual}
              options={layings.map((laying) => [laying, w.layings[laying]])}
              onChange={(laying) => (laying ? edit({ laying }) : clear('laying'))}
            />
          </>
        )}
      </Labelled>
      {paints(step) && (
        <Labelled label={markWords.repeatShort}>
          <NumberInput
            label={markWords.repeat}
            placeholder={w.once}
            {...(step.repeat ? { unit: w.timesOver } : {})}
            value={step.repeat?.most}
            onValue={(value) =>
              value === null
                ? clear('repeat')
                : edit({ repeat: { most: Math.max(2, Math.min(500, Math.round(value))), until: step.repeat?.until ?? '' } })
            }
          />
          {step.repeat && (
            <>
              <span className={css.formWord}>{markWords.asARule}</span>
              <NumberInput
                label={markWords.expected}
                value={step.repeat.expected}
                placeholder="1"
                onValue={(value) => {
                  const { expected: _, ...rest } = step.repeat as NonNullable<Step['repeat']>;
                  return edit({ repeat: value === null ? rest : { ...rest, expected: Math.max(1, Math.round(value)) } });
                }}
              />
              <span className={css.formWord}>{markWords.untilShort}</span>
              <CommitInput
                value={step.repeat.until}
                label={markWords.until}
                onCommit={(until, burst) => edit({ repeat: { most: step.repeat?.most ?? 2, until } }, burst)}
              />
            </>
          )}
        </Labelled>
      )}
      {paints(step) && <Coats lesson={lesson} step={step} />}
      {step.kind !== 'look' && step.kind !== 'break' && <Switches step={step} />}
    </>
  );
}

/** In how many coats a step is laid; each further one is a step of its own, so that other work may come between. */
function Coats({ lesson, step }: { lesson: Lesson; step: Step }) {
  const session = useSession();
  if (step.passageId !== undefined) return null;
  const first = lesson.steps.find((one) => one.id === step.coatOf);
  if (first) return <p className="quiet small">{w.furtherCoat(first.title)}</p>;
  const coats = 1 + lesson.steps.filter((one) => one.coatOf === step.id).length;
  return (
    <Labelled label={w.coats}>
      <NumberInput
        label={w.coats}
        value={coats}
        onValue={(value) =>
          session.do('setCoats', { id: step.id, coats: Math.round(value ?? 1), ids: Array.from({ length: 7 }, () => nanoid(8)) })
        }
      />
    </Labelled>
  );
}

function Switches({ step }: { step: Step }) {
  const { edit, clear } = useStepEdit(step);
  const onOff = (field: 'partByPart' | 'dryer' | 'ahead', label: string) => (
    <Checkbox
      checked={step[field] ?? false}
      onChange={(event) => (event.target.checked ? edit({ [field]: true }) : clear(field))}
    >
      {label}
    </Checkbox>
  );
  return (
    <Labelled label={w.also}>
      {paints(step) && onOff('partByPart', w.partByPart)}
      {paints(step) && onOff('dryer', w.dryer)}
      {onOff('ahead', w.ahead)}
    </Labelled>
  );
}

function WhatIsSaid({ step }: { step: Step }) {
  const { edit } = useStepEdit(step);
  const text = (field: 'say' | 'watch' | 'checkpoint' | 'finish', label: string, rows: number) => (
    <RichInput label={label} value={step[field]} rows={rows} onCommit={(next, burst) => edit({ [field]: next }, burst)} />
  );
  return (
    <>
      {text('say', w.say, 4)}
      {text('watch', w.watch, 2)}
      {text('checkpoint', w.checkpoint, 1)}
      {text('finish', w.finish, 1)}
    </>
  );
}
