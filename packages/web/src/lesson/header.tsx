import { minutesInWords, sizeInWords, waitInWords } from '@viaticum/core/units';
import { Button } from 'antd';
import { clsx } from 'clsx';
import { clockTime } from '../ui/clock.js';
import { CommitInput } from '../ui/commit-input.js';
import { LinkKey } from '../ui/link-key.js';
import { words } from '../words/words.js';
import { Around } from './around.js';
import { useLesson, usePlan, useSession, useSnapshot } from './context.js';
import css from './header.module.css';
import { RoomPanel } from './room-panel.js';
import type { SaveState } from './store.js';

function saveWords(save: SaveState): string {
  if (save.kind === 'saved') return words.lesson.saved(clockTime(save.at));
  if (save.kind === 'saving') return words.lesson.saving;
  if (save.kind === 'offline') return words.lesson.offline;
  if (save.kind === 'refused') return `${words.lesson.refused}: ${save.message}`;
  if (save.kind === 'conflict') return words.lesson.conflictTitle;
  return words.lesson.waiting;
}

/** Title, school, room, time, undo, saved state. */
export function Header() {
  const lesson = useLesson();
  const { plan } = usePlan();
  const session = useSession();
  const { history, save } = useSnapshot();
  const { support, units, school, room } = lesson;
  const needsYou = save.kind === 'refused' || save.kind === 'conflict';
  return (
    <header className={css.benchHeader}>
      <LinkKey type="text" to="/" aria-label={words.lesson.shelf}>
        {words.lesson.shelf}
      </LinkKey>
      <h1 className="visually-hidden">{lesson.title}</h1>
      <CommitInput
        className={css.benchTitle}
        isBare
        value={lesson.title}
        label={words.lesson.untitled}
        onCommit={(title, burst) => session.do('setTitle', { title }, burst)}
      />
      <p className={clsx(css.benchFacts, 'quiet small')}>
        {sizeInWords(support.widthMm, support.heightMm, units)} · {words.schoolOrder[school.order]},{' '}
        {words.schoolValues[school.values]}
      </p>
      <RoomPanel room={room} />
      <p className={css.benchTime} data-testid="bench-time">
        {plan.never ? (
          <>
            <b className="signal">{words.lesson.never}</b> <span className="small quiet">{words.lesson.neverDries}</span>
          </>
        ) : (
          <>
            <b className="numbers">{minutesInWords(plan.endMin)}</b>{' '}
            <span
              className="small quiet"
              title={lesson.planning.cautious ? words.lesson.atLongestAbout : words.lesson.likelyAbout}
            >
              {plan.waitMin > 0
                ? words.lesson.waitingTime(waitInWords(plan.waitMin), lesson.planning.cautious === true)
                : words.lesson.noWaiting}
            </span>
          </>
        )}
      </p>
      <Around />
      <div className={css.benchUndo}>
        <Button onClick={session.undo} disabled={history.past.length === 0} aria-keyshortcuts="Control+Z">
          {words.lesson.undo}
        </Button>
        <Button onClick={session.redo} disabled={history.future.length === 0} aria-keyshortcuts="Control+Shift+Z">
          {words.lesson.redo}
        </Button>
        <span className={clsx('small', needsYou ? 'signal' : 'quiet')} role="status" data-save={save.kind}>
          {saveWords(save)}
        </span>
      </div>
    </header>
  );
}
