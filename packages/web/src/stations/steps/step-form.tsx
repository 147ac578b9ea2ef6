import {
  type Lesson,
  media,
  needs,
  paintKinds,
  type Step,
  type StrokeKind,
  stepKinds,
  strokes,
  techniques,
} from '@viaticum/contract';
import { brushes, brushInWords } from '@viaticum/core/brush';
import type { ClearableStepField } from '@viaticum/core/document';
import { nanoid } from 'nanoid';
import { useState } from 'react';
import { usePlan, useSession, useView } from '../../lesson/context.js';
import { CommitInput } from '../../ui/commit-input.js';
import { RichInput } from '../../ui/rich-text.js';
import { markWords } from '../../words/steps.js';
import { words } from '../../words/words.js';
import { Choice, Labelled, NumberInput, Several } from './step-fields.js';

const w = words.steps;
/** Beside the areas: no area has such an id. */
const WHOLE = '*';

/** Every field of a step; each change takes effect as it is made and can be undone. */
export function StepForm({ lesson, step }: { lesson: Lesson; step: Step }) {
  const [isOpen, setOpen] = useState(step.title === w.stepName);
  return (
    <>
      <StepKeys lesson={lesson} step={step} isOpen={isOpen} onOpen={() => setOpen(!isOpen)} />
      {isOpen && (
        <div className="step-form">
          <WhatItIs lesson={lesson} step={step} />
          <HowItIsPainted step={step} />
          <WhereAndWithWhat lesson={lesson} step={step} />
          <HowLong step={step} />
          <Switches step={step} />
          <WhatIsSaid step={step} />
        </div>
      )}
    </>
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

function StepKeys({ lesson, step, isOpen, onOpen }: { lesson: Lesson; step: Step; isOpen: boolean; onOpen: () => void }) {
  const session = useSession();
  const view = useView();
  const at = lesson.steps.indexOf(step);
  const remove = () => {
    session.do('removeStep', { id: step.id });
    view.selectStep(lesson.steps[at + 1]?.id ?? lesson.steps[at - 1]?.id ?? null);
  };
  const duplicate = () => {
    const copy = { ...step, id: nanoid(8) };
    if (session.do('addStep', { step: copy, at: at + 1 })) view.selectStep(copy.id);
  };
  return (
    <p className="step-keys">
      <button type="button" className="key" aria-expanded={isOpen} onClick={onOpen}>
        {isOpen ? w.done : w.change}
      </button>
      <button
        type="button"
        className="key bare"
        disabled={at <= 0}
        onClick={() => session.do('moveStep', { id: step.id, to: at - 1 })}
      >
        {w.up}
      </button>
      <button
        type="button"
        className="key bare"
        disabled={at >= lesson.steps.length - 1}
        onClick={() => session.do('moveStep', { id: step.id, to: at + 1 })}
      >
        {w.down}
      </button>
      <button type="button" className="key bare" onClick={duplicate}>
        {w.duplicate}
      </button>
      <button type="button" className="key bare" onClick={remove}>
        {w.remove}
      </button>
    </p>
  );
}

function WhatItIs({ lesson, step }: { lesson: Lesson; step: Step }) {
  const { edit } = useStepEdit(step);
  return (
    <>
      <Labelled label={w.title} wide>
        <CommitInput value={step.title} label={w.title} onCommit={(title, burst) => edit({ title }, burst)} />
      </Labelled>
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
    </>
  );
}

function HowItIsPainted({ step }: { step: Step }) {
  const { edit, clear } = useStepEdit(step);
  return (
    <>
      <Choice
        label={w.technique}
        value={step.technique}
        canClear
        options={techniques.map((one) => [one, words.techniques[one]])}
        onChange={(technique) => (technique ? edit({ technique }) : clear('technique'))}
      />
      <Choice
        label={w.brush}
        value={step.brushId}
        canClear
        options={brushes.map((brush) => [brush.id, brushInWords(brush)])}
        onChange={(brushId) => (brushId ? edit({ brushId }) : clear('brushId'))}
      />
      <Choice<StrokeKind>
        label={markWords.stroke}
        value={step.stroke}
        canClear
        options={strokes.map((stroke) => [stroke, markWords.strokes[stroke].name])}
        onChange={(stroke) => (stroke ? edit({ stroke }) : clear('stroke'))}
      />
      <Choice
        label={w.needs}
        value={step.needs}
        options={needs.map((need) => [need, words.needs[need]])}
        onChange={(need) => need && edit({ needs: need })}
      />
      <Choice
        label={w.medium}
        value={step.medium}
        canClear
        options={media.map((medium) => [medium, words.media[medium]])}
        onChange={(medium) => (medium ? edit({ medium }) : clear('medium'))}
      />
      <Choice
        label={w.paint}
        value={step.paint ?? 'ordinary'}
        options={paintKinds.map((kind) => [kind, w.paints[kind]])}
        onChange={(paint) => (paint && paint !== 'ordinary' ? edit({ paint }) : clear('paint'))}
      />
      <Choice
        label={w.underFilm}
        value={step.underFilm}
        canClear
        options={[
          ['water', w.underFilms.water],
          ['gel', w.underFilms.gel],
        ]}
        onChange={(underFilm) => (underFilm ? edit({ underFilm }) : clear('underFilm'))}
      />
      {step.medium === 'mist' && (
        <NumberInput
          label={w.mistEvery}
          value={step.mistEveryMin}
          onValue={(value) => (value === null ? clear('mistEveryMin') : edit({ mistEveryMin: value }))}
        />
      )}
    </>
  );
}

function WhereAndWithWhat({ lesson, step }: { lesson: Lesson; step: Step }) {
  const { edit, change } = useStepEdit(step);
  return (
    <>
      <Several
        label={w.areas}
        value={step.wholeCanvas ? [WHOLE] : step.areaIds}
        options={[[WHOLE, w.wholeCanvas], ...lesson.areas.map((area): [string, string] => [area.id, area.name])]}
        onChange={(places) => {
          const areaIds = places.filter((id) => id !== WHOLE);
          // The one of the two that was chosen last counts.
          if (places.includes(WHOLE) && !step.wholeCanvas) edit({ wholeCanvas: true });
          else if (areaIds.length > 0) edit({ areaIds });
          else change({ areaIds: [] }, ['wholeCanvas']);
        }}
      />
      <Several
        label={w.mixes}
        value={step.mixIds}
        options={lesson.mixes.map((mix) => [mix.id, mix.name])}
        onChange={(mixIds) => edit({ mixIds })}
      />
      {lesson.marks.length > 0 && (
        <Several
          label={markWords.marks}
          value={step.markIds}
          options={lesson.marks.map((mark) => [mark.id, mark.name])}
          onChange={(markIds) => edit({ markIds })}
        />
      )}
    </>
  );
}

function HowLong({ step }: { step: Step }) {
  const { edit, clear } = useStepEdit(step);
  const proposed = usePlan().minutes.get(step.id)?.proposedDoMin;
  const number = (field: 'showMin' | 'doMin', label: string, placeholder = '') => (
    <NumberInput
      key={field}
      label={label}
      value={step[field]}
      placeholder={placeholder}
      onValue={(value) => (value === null ? clear(field) : edit({ [field]: value }))}
    />
  );
  const share = (field: 'waterShareOfMix' | 'coverShare', label: string) => (
    <NumberInput
      label={label}
      value={step[field] === undefined ? undefined : Math.round(step[field] * 100)}
      onValue={(value) => (value === null ? clear(field) : edit({ [field]: value / 100 }))}
    />
  );
  return (
    <>
      <NumberInput
        label={markWords.repeat}
        value={step.repeat?.most}
        onValue={(value) =>
          value === null
            ? clear('repeat')
            : edit({ repeat: { most: Math.max(2, Math.min(500, Math.round(value))), until: step.repeat?.until ?? '' } })
        }
      />
      {step.repeat && (
        <Labelled label={markWords.until}>
          <CommitInput
            value={step.repeat.until}
            label={markWords.until}
            onCommit={(until, burst) => edit({ repeat: { most: step.repeat?.most ?? 2, until } }, burst)}
          />
        </Labelled>
      )}
      {number('showMin', w.showMin)}
      {number(
        'doMin',
        step.doMin !== undefined && proposed ? `${w.doMin} (${w.typed(proposed)})` : w.doMin,
        proposed ? w.proposed(proposed) : '',
      )}
      {share('waterShareOfMix', w.water)}
      {share('coverShare', w.cover)}
    </>
  );
}

function Switches({ step }: { step: Step }) {
  const { edit, clear } = useStepEdit(step);
  return (
    <>
      <label className="wide">
        <input
          type="checkbox"
          checked={step.partByPart ?? false}
          onChange={(event) => (event.target.checked ? edit({ partByPart: true }) : clear('partByPart'))}
        />{' '}
        {w.partByPart}
      </label>
      {(step.needs === 'wet' || step.needs === 'damp') && (
        <label className="wide">
          <input
            type="checkbox"
            checked={step.sharedEdgeLast ?? false}
            onChange={(event) => (event.target.checked ? edit({ sharedEdgeLast: true }) : clear('sharedEdgeLast'))}
          />{' '}
          {w.sharedEdge}
        </label>
      )}
      <label className="wide">
        <input
          type="checkbox"
          checked={step.dryer ?? false}
          onChange={(event) => (event.target.checked ? edit({ dryer: true }) : clear('dryer'))}
        />{' '}
        {w.dryer}
      </label>
    </>
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
