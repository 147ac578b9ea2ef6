import { type Named, stepsUsing } from '@viaticum/core/document';
import { App } from 'antd';
import { removalWords as w } from '../words.js';
import { useSession } from './context.js';

const MOST_NAMED = 8;

/** Removes something from the lesson: at once where no step uses it; otherwise asks before, naming the steps. */
export function useRemoval(): (to: Named, id: string, name: string, remove: () => unknown) => void {
  const session = useSession();
  const { modal } = App.useApp();
  return (to, id, name, remove) => {
    const used = stepsUsing(session.get().history.lesson, to, id);
    if (used.length === 0) {
      remove();
      return;
    }
    modal.confirm({
      title: w.title(name),
      content: (
        <>
          <p>{w.usedIn(used.length)}</p>
          <ul>
            {used.slice(0, MOST_NAMED).map((step) => (
              <li key={step.id}>{step.title}</li>
            ))}
            {used.length > MOST_NAMED && <li>{w.andMore(used.length - MOST_NAMED)}</li>}
          </ul>
          <p>{w.undo}</p>
        </>
      ),
      okText: w.yes,
      cancelText: w.no,
      onOk: () => void remove(),
    });
  };
}
