import { minutesInWords, sizeInWords, waitInWords } from '@viaticum/core/units';
import { Link } from 'react-router';
import { clockTime } from '../ui/clock.js';
import { CommitInput } from '../ui/commit-input.js';
import { words } from '../words/words.js';
import { Conflict } from './conflict.js';
import { useLesson, usePlan, useSession, useSnapshot } from './context.js';
import { RoomPanel } from './room-panel.js';
import type { SaveState } from './store.js';
import { Unread } from './unread.js';

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
  const { history, save, fault } = useSnapshot();
  const { support, units, school, room } = lesson;
  const needsYou = save.kind === 'refused' || save.kind === 'conflict';
  return (
    <header className="bench-header">
      <Link to="/" className="key bare" aria-label={words.lesson.shelf}>
        {words.lesson.shelf}
      </Link>
      <CommitInput
        className="bench-title"
        value={lesson.title}
        label={words.lesson.untitled}
        onCommit={(title, burst) => session.do('setTitle', { title }, burst)}
      />
      <p className="bench-facts quiet small">
        {sizeInWords(support.widthMm, support.heightMm, units)} · {words.schoolOrder[school.order]},{' '}
        {words.schoolValues[school.values]}
      </p>
      <RoomPanel room={room} />
      <p className="bench-time">
        <b className="numbers">{minutesInWords(plan.endMin)}</b>{' '}
        <span className="small quiet">
          {plan.waitMin > 0 ? words.lesson.waitingTime(waitInWords(plan.waitMin)) : words.lesson.noWaiting}
        </span>
      </p>
      <div className="bench-undo">
        <button
          type="button"
          className="key"
          onClick={session.undo}
          disabled={history.past.length === 0}
          aria-keyshortcuts="Control+Z"
        >
          {words.lesson.undo}
        </button>
        <button
          type="button"
          className="key"
          onClick={session.redo}
          disabled={history.future.length === 0}
          aria-keyshortcuts="Control+Shift+Z"
        >
          {words.lesson.redo}
        </button>
        <span className={`small ${needsYou ? 'signal' : 'quiet'}`} role="status" data-save={save.kind}>
          {saveWords(save)}
        </span>
      </div>
      {fault && (
        <p className="bench-fault signal" role="alert">
          {fault}
          <button type="button" className="key bare" onClick={session.clearFault}>
            {words.lesson.close}
          </button>
        </p>
      )}
      <Unread />
      {save.kind === 'conflict' && <Conflict theirs={save.theirs} />}
    </header>
  );
}
