import {
  type Lesson,
  type Mark,
  type MarkTool,
  markKinds,
  markTools,
  type Step,
  type StrokeKind,
  strokes,
} from '@viaticum/contract';
import { outlineBox } from '@viaticum/core/area';
import { markAreaCm2, markMinutes } from '@viaticum/core/derived';
import { strokeOf } from '@viaticum/core/draft';
import { paceOf } from '@viaticum/core/step';
import { capital, minutesInWords } from '@viaticum/core/units';
import { Button, Checkbox, Select } from 'antd';
import { nanoid } from 'nanoid';
import { useState } from 'react';
import { useSession, useView, useWorkedOut } from '../../../lesson/context.js';
import { useRemoval } from '../../../lesson/use-removal.js';
import { CommitInput } from '../../../ui/commit-input.js';
import { NumberField } from '../../../ui/number-field.js';
import { saveFile } from '../../../ui/save-file.js';
import { StrokeDiagram } from '../../../ui/stroke-diagram.js';
import { markWords as w } from '../../../words/steps.js';
import { words } from '../../../words/words.js';
import { newStep } from '../new-step.js';
import { Several } from '../step-fields.js';
import stepsCss from '../steps.module.css';
import css from './marks.module.css';

/** Marks that are counted, the strokes of the lesson, and a sheet to practise them on. */
export function MarksTopic() {
  const lesson = useWorkedOut();
  const session = useSession();
  const view = useView();
  const [showAll, setShowAll] = useState(false);
  const add = () => {
    const areaId = view.areaId ?? lesson.areas.at(-1)?.id;
    if (!areaId) return;
    session.do('addMark', { mark: newMark(lesson, areaId) });
  };
  const own = new Set(lesson.steps.flatMap((step) => strokeOf(step) ?? []));
  const shown = strokes.filter((stroke) => showAll || own.has(stroke));
  return (
    <div className={css.marksTopic}>
      <section aria-label={w.ofLesson}>
        <p className="quiet small">{lesson.marks.length === 0 ? w.none : w.about}</p>
        {lesson.marks.map((mark) => (
          <MarkCard key={mark.id} lesson={lesson} mark={mark} />
        ))}
        <Button disabled={lesson.areas.length === 0} onClick={add}>
          {w.add}
        </Button>
      </section>
      <section aria-label={w.strokesTitle}>
        <h3>{w.strokesTitle}</h3>
        <ul className={css.strokesList}>
          {shown.map((stroke: StrokeKind) => (
            <li key={stroke}>
              <StrokeDiagram stroke={stroke} size={92} />
              <span>
                <b>{w.strokes[stroke].name}</b>
                <br />
                <span className="quiet small">{w.strokes[stroke].how}</span>
              </span>
            </li>
          ))}
        </ul>
        <Button type={showAll ? 'primary' : 'text'} aria-pressed={showAll} onClick={() => setShowAll(!showAll)}>
          {w.allStrokes}
        </Button>
      </section>
      <PracticeSheet lesson={lesson} />
    </div>
  );
}

const newMark = (lesson: Lesson, areaId: string): Mark => ({
  id: nanoid(8),
  name: `${w.kinds.tufts} ${lesson.marks.length + 1}`,
  areaId,
  kind: 'tufts',
  count: 24,
  lengthMm: 18,
  widthMm: 2,
  taper: 0.8,
});

/** A step that lays these marks and nothing else, in this stage. */
const stepOfMark = (mark: Mark, stageId: string): Step => ({
  ...newStep(stageId),
  title: capital(mark.name),
  markIds: [mark.id],
  needs: 'auto',
  technique: mark.kind === 'spatter' ? 'spatter' : 'loaded',
  stroke: mark.kind === 'spatter' ? 'flick' : mark.kind === 'dots' ? 'tap' : 'pull',
  brushId: mark.widthMm < 2 ? 'rigger-2' : 'round-4',
});

function useMarkEdit(mark: Mark) {
  const session = useSession();
  return (change: Partial<Mark>, clear?: ('directionDeg' | 'round' | 'tool')[]) =>
    session.do('editMark', { id: mark.id, mark: change, ...(clear ? { clear } : {}) });
}

function MarkCard({ lesson, mark }: { lesson: Lesson; mark: Mark }) {
  const session = useSession();
  const ask = useRemoval();
  const edit = useMarkEdit(mark);
  const minutes = markMinutes(mark) * paceOf(lesson);
  return (
    <div className={css.markCard} data-testid="mark-card">
      <div className={stepsCss.variantHead}>
        <CommitInput
          wraps
          className={stepsCss.stageName}
          data-testid="stage-name"
          value={mark.name}
          label={w.name}
          onCommit={(name) => edit({ name })}
        />
        <span className="quiet small numbers">{w.takes(minutesInWords(minutes), words.picture.area(markAreaCm2(mark)))}</span>
        <Button
          type="text"
          size="small"
          onClick={() => ask('marks', mark.id, mark.name, () => session.do('removeMark', { id: mark.id }))}
        >
          {w.remove}
        </Button>
      </div>
      <MarkFields lesson={lesson} mark={mark} />
      <LaidBy lesson={lesson} mark={mark} />
    </div>
  );
}

function MarkFields({ lesson, mark }: { lesson: Lesson; mark: Mark }) {
  const edit = useMarkEdit(mark);
  const { round } = mark;
  const number = (label: string, value: number, set: (value: number) => boolean) => (
    <span className="field">
      <span>{label}</span>
      <NumberField label={`${label}, ${mark.name}`} value={value} onValue={set} />
    </span>
  );
  const box = outlineBox(lesson.areas.find((area) => area.id === mark.areaId)?.outline ?? []);
  return (
    <div className={stepsCss.markFields}>
      <div className="field">
        <span>{w.kind}</span>
        <Select
          aria-label={w.kind}
          value={mark.kind}
          onChange={(given) => edit({ kind: given as Mark['kind'] })}
          options={markKinds.map((kind) => ({ value: kind, label: w.kinds[kind] }))}
        />
      </div>
      <div className="field">
        <span>{w.tool}</span>
        <Select
          aria-label={`${w.tool}, ${mark.name}`}
          value={mark.tool ?? ''}
          onChange={(given) => (given ? edit({ tool: given as MarkTool }) : edit({}, ['tool']))}
          options={[{ value: '', label: w.toolUsual }, ...markTools.map((tool) => ({ value: tool, label: w.tools[tool] }))]}
        />
      </div>
      <div className="field">
        <span>{w.area}</span>
        <Select
          aria-label={w.area}
          value={mark.areaId}
          onChange={(given) => edit({ areaId: given })}
          options={lesson.areas.map((area) => ({ value: area.id, label: area.name }))}
        />
      </div>
      {number(w.count, mark.count, (count) => edit({ count }))}
      {number(w.length, mark.lengthMm, (lengthMm) => edit({ lengthMm }))}
      {number(w.width, mark.widthMm, (widthMm) => edit({ widthMm }))}
      {number(w.taper, Math.round(mark.taper * 100), (percent) => edit({ taper: percent / 100 }))}
      <Checkbox
        checked={round !== undefined}
        onChange={(event) =>
          event.target.checked && box
            ? edit({
                round: {
                  at: [Math.round(box.x + box.width / 2), Math.round(box.y + box.height / 2)],
                  radiusMm: Math.max(1, Math.round(Math.min(box.width, box.height) / 3)),
                },
              })
            : edit({}, ['round'])
        }
      >
        {w.round}
      </Checkbox>
      {round && (
        <>
          {number(w.roundX, round.at[0], (x) => edit({ round: { ...round, at: [x, round.at[1]] } }))}
          {number(w.roundY, round.at[1], (y) => edit({ round: { ...round, at: [round.at[0], y] } }))}
          {number(w.roundRadius, round.radiusMm, (radiusMm) => edit({ round: { ...round, radiusMm } }))}
          {number(w.roundTurn, round.turnDeg ?? 0, (turnDeg) => edit({ round: { ...round, turnDeg } }))}
        </>
      )}
      {(mark.kind === 'spatter' || mark.kind === 'scatter') && (
        <Several
          label={w.protect}
          of={mark.name}
          value={mark.protectIds ?? []}
          options={lesson.areas.filter((area) => area.id !== mark.areaId).map((area) => [area.id, area.name])}
          onChange={(protectIds) => edit({ protectIds })}
        />
      )}
    </div>
  );
}

/** The step that lays these marks, or how they come into one. */
function LaidBy({ lesson, mark }: { lesson: Lesson; mark: Mark }) {
  const session = useSession();
  const view = useView();
  const by = lesson.steps.find((step) => step.markIds.includes(mark.id));
  const marked = lesson.steps.find((step) => step.id === view.stepId);
  const lay = () => {
    const step = stepOfMark(mark, (marked ?? lesson.steps.at(-1))?.stageId ?? lesson.stages.at(-1)?.id ?? '');
    if (session.do('addStep', { step })) view.selectStep(step.id);
  };
  return (
    <p className="small">
      {by ? <span className="quiet">{w.laidBy(by.title)}</span> : <span>{w.laidByNone} </span>}{' '}
      {!by && marked && (
        <Button
          size="small"
          onClick={() => session.do('editStep', { id: marked.id, step: { markIds: [...marked.markIds, mark.id] } })}
        >
          {w.lay}
        </Button>
      )}{' '}
      {!by && (
        <Button size="small" onClick={lay}>
          {w.layNew}
        </Button>
      )}
    </p>
  );
}

function PracticeSheet({ lesson }: { lesson: Lesson }) {
  const [state, setState] = useState<'idle' | 'making' | string>('idle');
  const make = async () => {
    setState('making');
    try {
      const { practiceSheet } = await import('../../../pdf/practice-sheet.js');
      const bytes = await practiceSheet(lesson);
      saveFile(`${lesson.title}, practice sheet.pdf`, new Blob([bytes as BlobPart], { type: 'application/pdf' }));
      setState('idle');
    } catch (error) {
      setState((error as Error).message);
    }
  };
  return (
    <section aria-label={w.sheet}>
      <h3>{w.sheet}</h3>
      <p className="quiet small">{w.sheetAbout}</p>
      <Button disabled={state === 'making' || lesson.steps.length === 0} onClick={make}>
        {state === 'making' ? w.sheetMaking : w.sheetMake}
      </Button>
      {state !== 'idle' && state !== 'making' && (
        <p className="signal" role="alert">
          {state}
        </p>
      )}
    </section>
  );
}
