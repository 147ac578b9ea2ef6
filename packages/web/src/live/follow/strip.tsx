import type { Answer, FollowSheet } from '@viaticum/contract';
import { asker, type ClassState, classWords, currentItem, leftAt, questionFor, type Student } from '@viaticum/core/class';
import { uncapital } from '@viaticum/core/units';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { useEffect, useRef, useState } from 'react';
import { followWords as w } from '../../words/follow.js';
import { coatName } from '../coat-name.js';
import type { LiveConnection, LiveSnapshot } from '../connection.js';
import { useOfTime } from '../use-live.js';
import followCss from './follow.module.css';
import css from './strip.module.css';

const LOOKED_MS = 5000;

/** A question over the keys, gone when it is answered or overtaken: no dialog, no sound. */
export function Strip({
  connection,
  live,
  sheet,
  student,
  shownStepId,
}: {
  connection: LiveConnection;
  live: LiveSnapshot;
  sheet: FollowSheet;
  student: Student;
  /** The step that is looked at. */
  shownStepId: string | undefined;
}) {
  const [own] = useState(asker);
  const touched = useRef(0);
  useEffect(() => {
    const note = () => {
      touched.current = connection.now();
    };
    window.addEventListener('pointerdown', note);
    return () => window.removeEventListener('pointerdown', note);
  }, [connection]);
  useLookBack(connection, live.state, student, shownStepId);
  const [answered, setAnswered] = useState(0);
  const key = useOfTime(connection, (now) => {
    const found = own.look(questionFor(live.state, student, now, shownStepId), now, touched.current);
    return found && `${answered} ${found.is} ${found.stepId}`;
  });
  const [, is, stepId] = key?.split(' ') ?? [];
  if (!is || !stepId) return null;
  const answer = (said: Answer | 'done') => {
    own.answered();
    setAnswered(answered + 1);
    const of = { studentId: student.id, stepId };
    void connection.say(said === 'done' ? { type: 'done', ...of } : { type: 'answer', ...of, is: said });
  };
  const title = uncapital(sheet.steps[stepId]?.title ?? '');
  const left = is === 'went-on' ? leftAt(live.state, student, connection.now()) : null;
  const nextTitle = currentItem(live.state)?.title;
  const keys: [Answer | 'done', string][] =
    is === 'look'
      ? [
          ['now', w.strip.now],
          ['when-we-went-on', w.strip.wentOn],
          ['still', w.strip.still],
        ]
      : [
          [is === 'tail' ? 'done' : 'now', is === 'tail' ? w.done : w.strip.isDone],
          ['still', w.strip.still],
        ];
  return (
    <section className={css.strip} aria-label={w.strip.title} data-testid="strip">
      {left && nextTitle ? (
        <p>
          {classWords.finishFirst(nextTitle, sheet.steps[stepId]?.title ?? '')}{' '}
          {left.wet && classWords.ownDryIn(coatName(sheet, live.state.plan, left.wet.coat), left.wet.leftMin)}
        </p>
      ) : (
        <p>{is === 'went-on' ? w.strip.askLeft(title) : w.strip.ask(title)}</p>
      )}
      <div>
        {keys.map(([said, words]) => (
          <Button key={said} type="text" className={clsx('plain', followCss.bigKey, css.key)} onClick={() => answer(said)}>
            {words}
          </Button>
        ))}
      </div>
    </section>
  );
}

/** A look back at a step that is open, for some seconds, is a sign that it is not finished. */
function useLookBack(connection: LiveConnection, state: ClassState, student: Student, shownStepId: string | undefined): void {
  const here = state.plan?.items[state.current?.index ?? -1]?.stepId;
  const isBack = shownStepId !== undefined && shownStepId !== here && student.doneAt[shownStepId] === undefined;
  const studentId = student.id;
  useEffect(() => {
    if (!isBack || shownStepId === undefined) return;
    const timer = setTimeout(() => void connection.say({ type: 'look', studentId, stepId: shownStepId }), LOOKED_MS);
    return () => clearTimeout(timer);
  }, [connection, isBack, studentId, shownStepId]);
}
