import { useQuery } from '@tanstack/react-query';
import { belief, currentItem, leaveOutFor, type StepStanding, type Student } from '@viaticum/core/class';
import { clock, listInWords, minutesInWords } from '@viaticum/core/units';
import { Button, Input, Select } from 'antd';
import { clsx } from 'clsx';
import { useState } from 'react';
import { classStudentsQuery, peopleQuery, useAddPerson, useSaveStudent } from '../../api/class-queries.js';
import { CommitInput } from '../../ui/commit-input.js';
import { deskWords } from '../../words/desk.js';
import { useNowEvery } from '../use-live.js';
import deskCss from './desk.module.css';
import type { DeskParts } from './parts.js';
import css from './student-panel.module.css';

const w = deskWords.student;
/** Leaving out is worth offering from so late on. */
const WORTH_LEAVING_MIN = 8;

/** One student, when near: how far they are, what to leave out, a note for oneself, whether they came before. */
export function StudentPanel({
  connection,
  live,
  sheet,
  code,
  student,
  isCo = false,
  onClose,
}: DeskParts & { student: Student; onClose: () => void }) {
  const { state } = live;
  const [sure, setSure] = useState(false);
  const isRunning = state.phase === 'running' || state.phase === 'held';
  const seats = Object.values(state.students).map((one) => one.seat);
  const move = (seat: number) => void connection.say({ type: 'seat', studentId: student.id, seat });
  return (
    <section className={css.deskStudent} aria-label={student.firstName}>
      <header>
        <CommitInput
          label={w.name}
          value={student.firstName}
          whileTyping={false}
          onCommit={(firstName) => {
            if (firstName.trim()) void connection.say({ type: 'rename', studentId: student.id, firstName });
            return firstName.trim() !== '';
          }}
        />
        <Button type="text" className={clsx('plain', deskCss.deskKey, 'small')} onClick={onClose}>
          {w.close}
        </Button>
      </header>
      <Late {...{ connection, live, sheet, student }} />
      <p className={deskCss.deskTouch}>
        <Button
          type="text"
          className={clsx('plain', deskCss.deskKey, 'small')}
          disabled={student.seat === 0}
          onClick={() => move(student.seat - 1)}
        >
          {w.left}
        </Button>
        <Button
          type="text"
          className={clsx('plain', deskCss.deskKey, 'small')}
          disabled={student.seat > Math.max(...seats)}
          onClick={() => move(student.seat + 1)}
        >
          {w.right}
        </Button>
        {!isCo && (
          <Button
            type="text"
            className={clsx('plain', deskCss.deskKey, 'small')}
            onBlur={() => setSure(false)}
            onClick={() => (sure ? void connection.say({ type: 'remove', studentId: student.id }) : setSure(true))}
          >
            {sure ? w.removeSure : w.remove}
          </Button>
        )}
      </p>
      {state.groups && !isCo && (
        <div className={css.deskField}>
          {w.group}
          <Select
            aria-label={w.group}
            value={student.group ?? ''}
            onChange={(group) => void connection.say({ type: 'move', studentId: student.id, group })}
            options={Object.values(state.groups).map(({ id, name }) => ({ value: id, label: name }))}
          />
        </div>
      )}
      {isRunning && <StepRows {...{ connection, live, sheet, student }} />}
      {!isCo && <Kept code={code} student={student} />}
    </section>
  );
}

function Late({ connection, live, sheet, student }: Pick<DeskParts, 'connection' | 'live' | 'sheet'> & { student: Student }) {
  const { late } = belief(live.state, student, useNowEvery(connection, 5));
  if (!late) return null;
  const said = w.late(minutesInWords(late.minutes), Math.round(late.low), Math.round(late.high));
  if (late.minutes < WORTH_LEAVING_MIN) return <p>{said}</p>;
  const { stepIds, savedMin } = leaveOutFor(live.state, student, late.minutes, sheet.leaveOut ?? {});
  const titles = stepIds.map((id) => `“${sheet.steps[id]?.title ?? ''}”`);
  return (
    <p>
      {said} {titles.length > 0 ? w.leaveOut(listInWords(titles), minutesInWords(savedMin)) : w.nothingToLeave}
    </p>
  );
}

/** Every step that the class came to: what was said of it or is assumed, and what the desk knows better. */
function StepRows({ connection, live, sheet, student }: Pick<DeskParts, 'connection' | 'live' | 'sheet'> & { student: Student }) {
  const { state } = live;
  const { standing } = belief(state, student, useNowEvery(connection, 5));
  const began = state.visits[0]?.startedAt ?? 0;
  const here = currentItem(state)?.stepId;
  const say = (stepId: string, what: 'done' | 'notYet' | 'left-out') =>
    void connection.say(
      what === 'left-out'
        ? { type: 'answer', studentId: student.id, stepId, is: 'left-out' }
        : { type: what, studentId: student.id, stepId },
    );
  const rows = [...standing].reverse();
  if (rows.length === 0) return null;
  return (
    <ul className={css.rows} aria-label={w.steps}>
      {rows.map(([stepId, own]) => (
        <li key={stepId} data-testid="student-step" data-how={own.how}>
          <span className={css.rowTitle}>{sheet.steps[stepId]?.title ?? ''}</span>
          <span className={clsx('numbers', css.rowSaid, own.how === 'said' && css.said)}>
            {saidOf(own, began, stepId === here)}
          </span>
          <span className={css.rowKeys}>
            {own.how !== 'said' && (
              <Button type="text" className={clsx('plain', deskCss.deskKey, 'small')} onClick={() => say(stepId, 'done')}>
                {w.doneFor}
              </Button>
            )}
            {own.how !== 'open' && (
              <Button type="text" className={clsx('plain', deskCss.deskKey, 'small')} onClick={() => say(stepId, 'notYet')}>
                {w.notDoneFor}
              </Button>
            )}
            {(own.how === 'open' || own.how === 'assumed') && (
              <Button type="text" className={clsx('plain', deskCss.deskKey, 'small')} onClick={() => say(stepId, 'left-out')}>
                {w.leftOutFor}
              </Button>
            )}
          </span>
        </li>
      ))}
    </ul>
  );
}

/** "done 25:30", "assumed 25:30 (23:30 to 28:30)": minutes of the class. */
function saidOf({ how, at }: StepStanding, began: number, isHere: boolean): string {
  const minute = (ms: number) => clock(Math.max(0, (ms - began) / 1000));
  if (how === 'left-out') return w.isLeftOut;
  if (!at || how === 'open') return isHere ? w.atIt : w.open;
  if (how === 'said') return w.saidAt(minute(at.likely));
  return w.assumedAt(minute(at.likely), minute(at.early), minute(at.late));
}

/** A note and a link to who came before: kept beside the class, never sent to a phone. */
function Kept({ code, student }: { code: string; student: Student }) {
  const { data: kept } = useQuery(classStudentsQuery(code));
  const { data: people } = useQuery(peopleQuery);
  const save = useSaveStudent(code);
  const add = useAddPerson();
  const [note, setNote] = useState<string | null>(null);
  const own = kept?.[student.id];
  if (!kept || !people) return null;
  const choose = async (value: string) => {
    const personId = value === 'new' ? (await add.mutateAsync(student.firstName)).id : value || null;
    save.mutate({ studentId: student.id, change: { personId } });
  };
  // Who has the same first name stands first.
  const likely = [...people].sort(
    (a, b) => Number(b.firstName === student.firstName) - Number(a.firstName === student.firstName),
  );
  const fault = save.error ?? add.error;
  return (
    <>
      <div className={css.deskField}>
        {w.person}
        <Select
          aria-label={w.person}
          value={own?.personId ?? ''}
          onChange={(given) => void choose(given)}
          options={[
            { value: '', label: w.nobody },
            ...likely.map((one) => ({ value: one.id, label: `${one.firstName}${w.pace(one.pace)}` })),
            { value: 'new', label: w.fresh },
          ]}
        />
      </div>
      <label className={css.deskField}>
        {w.note}
        <Input.TextArea
          maxLength={1000}
          rows={2}
          placeholder={w.noteHint}
          value={note ?? own?.note ?? ''}
          onChange={(event) => setNote(event.target.value)}
          onBlur={() => {
            if (note !== null && note !== (own?.note ?? '')) save.mutate({ studentId: student.id, change: { note } });
          }}
        />
      </label>
      {fault && <p role="alert">{fault.message}</p>}
    </>
  );
}
