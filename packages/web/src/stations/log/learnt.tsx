import { useQuery } from '@tanstack/react-query';
import type { Lesson } from '@viaticum/contract';
import type { Suggestion } from '@viaticum/core/log';
import { App, Button } from 'antd';
import { suggestionsQuery } from '../../api/log-queries.js';
import { useLesson, useSession, useSnapshot } from '../../lesson/context.js';
import { logWords } from '../../words/log.js';
import css from './log.module.css';
import { WorkedOut } from './worked-out.js';

const w = logWords.learnt;
const asideKey = (key: string): string => `log/${key}`.slice(0, 120);

const NEVER = 'never';

/** What was refused comes back only when twice as much speaks for it; what is never to be asked, never. */
const isRefused = ({ setAside }: Lesson, { key, weight }: Suggestion): boolean => {
  const said = setAside.find(({ finding }) => finding === asideKey(key));
  return said !== undefined && (said.why === NEVER || weight < 2 * Number(said.why || 1));
};

/** What the classes of this lesson suggest, each as an edit with what it is known from. */
export function Learnt() {
  const lesson = useLesson();
  const session = useSession();
  const { save } = useSnapshot();
  const { message } = App.useApp();
  // What is saved is what the server works with.
  const { data, error } = useQuery({ ...suggestionsQuery(session.id), enabled: save.kind === 'saved', staleTime: 0 });
  const shown = (data ?? []).filter((one) => !isRefused(lesson, one));
  const take = ({ edit }: Suggestion) => {
    if (session.do(edit.command, edit.args as never)) void message.success(w.taken);
  };
  return (
    <WorkedOut words={w} error={error} isThere={data !== undefined}>
      {data && shown.length === 0 && <p>{w.none}</p>}
      <ul className={css.learnt} data-testid="suggestions">
        {shown.map((one) => (
          <li key={one.key}>
            <p className={css.said}>{one.words}</p>
            <p className="small quiet">
              {one.evidence} {w.longer(one.minutes)}
            </p>
            <p className={css.keys}>
              <Button type="primary" onClick={() => take(one)}>
                {w.take}
              </Button>
              <Button onClick={() => session.do('setAside', { finding: asideKey(one.key), why: String(one.weight) })}>
                {w.leave}
              </Button>
              <Button type="text" onClick={() => session.do('setAside', { finding: asideKey(one.key), why: NEVER })}>
                {w.never}
              </Button>
            </p>
          </li>
        ))}
      </ul>
    </WorkedOut>
  );
}
