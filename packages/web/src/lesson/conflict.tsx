import type { LessonAnswer } from '@viaticum/contract';
import { Button } from 'antd';
import { clockTime } from '../ui/clock.js';
import { Dialog } from '../ui/dialog.js';
import { words } from '../words/words.js';
import { useSession } from './context.js';

/** Both versions of a lesson saved from two places: the person chooses; the server keeps the other. */
export function Conflict({ theirs }: { theirs: LessonAnswer }) {
  const session = useSession();
  return (
    <Dialog title={words.lesson.conflictTitle} isAnswerNeeded>
      <p>{words.lesson.conflict}</p>
      <p className="quiet small" style={{ margin: '8px 0 16px' }}>
        “{theirs.document.title}”, {words.shelf.steps(theirs.document.steps.length)},{' '}
        {words.lesson.saved(clockTime(theirs.savedAt))}
      </p>
      <div className="row">
        <Button type="primary" onClick={() => session.resolve('mine')}>
          {words.lesson.useMine}
        </Button>
        <Button onClick={() => session.resolve('theirs')}>{words.lesson.useTheirs}</Button>
      </div>
    </Dialog>
  );
}
