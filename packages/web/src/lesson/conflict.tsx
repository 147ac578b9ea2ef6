import type { Lesson, LessonAnswer } from '@viaticum/contract';
import { type Difference, differences, type Side } from '@viaticum/core/versions';
import { Button, Segmented } from 'antd';
import { useMemo, useState } from 'react';
import { clockTime } from '../ui/clock.js';
import { Dialog } from '../ui/dialog.js';
import { historyWords as w } from '../words/history.js';
import { words } from '../words/words.js';
import { useLesson, useSession } from './context.js';
import css from './history.module.css';
import { Said } from './said.js';

/** Where a part that both changed lies, as a difference names it. */
const isOf = (path: string) => {
  const [field, id] = path.split('/');
  return (one: Difference) => one.field === field && (one.id === null || one.id === id);
};

/** Both versions of a lesson saved from two places, side by side: the person takes one or brings them together; both stay. */
export function Conflict({ theirs, base }: { theirs: LessonAnswer; base: Lesson | null }) {
  const session = useSession();
  const lesson = useLesson();
  const [takes, setTakes] = useState<Record<string, Side>>({});
  const take = (path: string): Side => takes[path] ?? 'mine';
  // Of what both were made from, if this browser still has it; else of each other.
  const mine = useMemo(() => differences(base ?? theirs.document, lesson), [base, theirs, lesson]);
  const others = useMemo(() => differences(base ?? lesson, theirs.document), [base, theirs, lesson]);
  const merged = session.merged(take);
  const saidOf = (list: Difference[], path: string) => list.find(isOf(path))?.said ?? w.partOf;
  return (
    <Dialog title={words.lesson.conflictTitle} isAnswerNeeded width={680}>
      <p>{words.lesson.conflict}</p>
      <div className={css.sides}>
        <div>
          <b>{w.mine}</b>
          <Said said={mine.map((one) => one.said)} />
          <Button type="primary" onClick={() => session.resolve('mine')}>
            {words.lesson.useMine}
          </Button>
        </div>
        <div>
          <b>{w.theirs(clockTime(theirs.savedAt))}</b>
          <p className="quiet small">
            “{theirs.document.title}”, {words.shelf.steps(theirs.document.steps.length)}
          </p>
          <Said said={others.map((one) => one.said)} />
          <Button onClick={() => session.resolve('theirs')}>{words.lesson.useTheirs}</Button>
        </div>
      </div>
      {merged && (
        <>
          <p className="quiet">{merged.fault ? w.cannot(merged.fault) : w.bothAbout}</p>
          <ul className={css.clashes}>
            {merged.clashes.map(({ path }) => (
              <li key={path}>
                <Segmented<Side>
                  vertical
                  value={take(path)}
                  options={[
                    { value: 'mine', label: `${w.mine}: ${saidOf(mine, path)}` },
                    { value: 'theirs', label: `${words.lesson.other}: ${saidOf(others, path)}` },
                  ]}
                  onChange={(side) => setTakes((was) => ({ ...was, [path]: side }))}
                />
              </li>
            ))}
          </ul>
          <Button disabled={merged.fault !== null} onClick={() => session.resolve({ both: take })}>
            {w.both}
          </Button>
        </>
      )}
    </Dialog>
  );
}
