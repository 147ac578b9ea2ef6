import { heldBy, type Named, stepsUsing } from '@viaticum/core/document';
import { App } from 'antd';
import { removalWords as w } from '../words/words.js';
import { useSession } from './context.js';

const MOST_NAMED = 8;

/** Removes something from the lesson: at once where no step uses it; otherwise asks before, naming the steps. */
export function useRemoval(): (to: Named, id: string, name: string, remove: () => unknown) => void {
  const session = useSession();
  const { modal } = App.useApp();
  return (to, id, name, remove) => {
    const { lesson } = session.get().history;
    const used = stepsUsing(lesson, to, id);
    // What may not go at all is refused with its reason, not asked about.
    if (used.length === 0 || heldBy(lesson, to, id) !== null) {
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
